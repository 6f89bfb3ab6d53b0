import { setupSections } from '@bistre/contract';
import { fixed } from '@bistre/core';
import type { Shown } from '../../data/shown';
import { useAlphabets } from '../../data/queries';
import { Field, FieldList, LiveFields } from '../../parts/fields';
import type { StationProps } from '../../ways/pages';

/** The art of a face, whichever side lies up. */
const artOn = (shown: Shown, face: 'lettering' | 'back'): Shown['reckoning']['art'] =>
  (face === 'back') === (shown.reckoning.face.side === 'back')
    ? shown.reckoning.art
    : (shown.other?.reckoning.art ?? null);

/** Which column fills which line, in which alphabet, how tall. */
export const LetteringTable = ({
  handle,
  shown,
  face = 'lettering',
}: Pick<StationProps, 'handle' | 'shown'> & {
  /** Pieces engraved on both faces letter their backs apart. */
  face?: 'lettering' | 'back';
}) => {
  const { columns, setup } = handle.batch;
  const { lines } = setup[face];
  const { data: alphabets = [] } = useAlphabets();
  const heights = artOn(shown, face)?.capHeights ?? [];
  const list = (
    <FieldList<(typeof lines)[number]>
      at="lines"
      one="line"
      most={columns.length > 0 ? 6 : lines.length}
      fresh={({ length }) => ({ column: columns[length % columns.length]!, alphabet: 'b612-bold', capHeight: 4 })}
      className="grid grid-cols-[0.8rem_minmax(5rem,1fr)_minmax(5.5rem,1.3fr)_5.6rem_2.75rem] items-end gap-1.5 py-0.5"
      row={(i, line) => (
        <>
          <span className="pb-2 text-[13px] text-soft">{i + 1}</span>
          <Field
            at="column"
            hideLabel={i > 0}
            of={[...new Set([...columns, line.column])].map((c) => [c, c] as const)}
          />
          <Field at="alphabet" hideLabel={i > 0} of={alphabets.map((a) => [a.id, a.name] as const)} />
          <Field at="capHeight" hideLabel={i > 0} />
          {heights[i] !== undefined && Math.abs(heights[i] - line.capHeight) > 0.004 && (
            <span className="order-last col-span-4 col-start-2 text-[13px] text-ochre">
              set {fixed(heights[i])} mm tall, to fit
            </span>
          )}
        </>
      )}
    />
  );
  return face === 'back' ? (
    <LiveFields schema={setupSections.back} value={setup.back} onChange={(back) => handle.update('back', back)}>
      {list}
    </LiveFields>
  ) : (
    <LiveFields
      schema={setupSections.lettering}
      value={setup.lettering}
      onChange={(lettering) => handle.update('lettering', lettering)}
    >
      {list}
    </LiveFields>
  );
};
