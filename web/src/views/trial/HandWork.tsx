import type { ShopStepDocument } from '@bistre/contract';
import { counted, sameWord, STATIONS } from '@bistre/core';
import { useSteps } from '../../data/queries';

/** A step's place in the day: by its station, what comes first before what comes last. */
const placeOf = ({ spec }: ShopStepDocument): number => 2 * STATIONS.indexOf(spec.station) + (spec.when === 'last' ? 1 : 0); // prettier-ignore

/** What the shop does by hand to a material before it is burned, or after: as in every batch of it. */
export const HandWork = ({ material, side }: { material: string; side: 'before' | 'after' }) => {
  const { data: steps = [] } = useSteps();
  const burned = 2 * STATIONS.indexOf('run');
  const its = steps
    .filter(({ spec: { of } }) => of.kind === 'material' && sameWord(of.material, material))
    .filter((s) => placeOf(s) > burned === (side === 'after'))
    .sort((a, b) => placeOf(a) - placeOf(b));
  if (its.length === 0) return null;
  const waits = its.reduce((sum, s) => sum + (s.spec.minutes ?? 0), 0);
  return (
    <section aria-label={side === 'before' ? 'By hand before' : 'By hand after'} className="mb-3">
      <h3 className="part-title mb-1">{side === 'before' ? 'first, by hand' : 'then, by hand'}</h3>
      <ol className="list-decimal space-y-1 pl-5">
        {its.map(({ id, name, spec }) => (
          <li key={id}>
            <b>{name}.</b> {spec.detail}
            {spec.minutes !== null && <span className="text-soft"> Wait {spec.minutes} min.</span>}
            {spec.caution && <span className="text-ochre"> {spec.caution}</span>}
          </li>
        ))}
      </ol>
      {waits > 0 && <p className="mt-1 text-[13px] text-soft">{counted(its.length, 'step')}, {waits} min of waiting.</p>}
    </section>
  );
}; // prettier-ignore
