import { Field, FieldList, Fields, Within } from '../../parts/fields';
import type { RecipeSpec } from '@bistre/contract';

/** What of a burn most recipes leave as it is: which way its lines run, how the lens stands, air and source. */
const MORE = 'angle turn focus air oneWay';

/** A burn that fills an area, all its numbers; `second` where the machine carries another source. */
export const BurnFields = ({ second }: { second: boolean }) => (
  <>
    <Fields at="power speed interval passes" />
    <Fields at={MORE} />
    {second && <Field at="source" />}
  </>
);

type Burn = RecipeSpec['engrave'];

/** Burns that follow the engraving over the same areas, in their order. */
export const BurnsAfter = ({ second, start }: { second: boolean; start: Burn }) => (
  <section aria-label="Burns that follow" className="mb-5">
    <h2 className="part-title mb-2">then, over the same areas</h2>
    <p className="mb-2 text-soft">
      A clean-up, a polish, another source: each burns over all that is engraved before anything is cut.
    </p>
    <FieldList<Burn>
      at="spec.after"
      one="burn"
      add="add a burn that follows"
      most={6}
      className="mb-4 grid grid-cols-[minmax(0,1fr)_2.75rem] items-start gap-3 border-l-2 border-line pl-3"
      fresh={(all) => ({ ...(all.at(-1) ?? start), passes: 1 })}
      row={(i) => (
        <div>
          <p className="mb-1 font-bold">Burn {i + 2}</p>
          <div className="grid grid-cols-3 gap-3">
            <BurnFields second={second} />
          </div>
        </div>
      )}
    />
  </section>
);

/** What a cut can be told beside its power and speed. */
export const CutFields = ({ second }: { second: boolean }) => (
  <Within at="spec.cut">
    <Fields at="power speed passes focus air" />
    {second && <Field at="source" />}
  </Within>
);
