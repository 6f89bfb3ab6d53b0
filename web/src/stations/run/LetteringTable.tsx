import { type Setup, setupSections } from '@bistre/contract';
import { fixed } from '@bistre/core';
import type { Shown } from '../../data/shown';
import { useAlphabets } from '../../data/queries';
import { Measure, Select } from '../../parts/fields';
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
  const { batch } = handle;
  const lettering = batch.setup[face];
  const update = (part: Partial<Setup['lettering']>): void =>
    face === 'back'
      ? handle.update('back', { ...batch.setup.back, ...part })
      : handle.update('lettering', { ...batch.setup.lettering, ...part });
  const { data: alphabets = [] } = useAlphabets();
  const change = (index: number, part: Partial<(typeof lettering.lines)[number]>): void =>
    update({ lines: lettering.lines.map((l, i) => (i === index ? { ...l, ...part } : l)) });
  const heights = artOn(shown, face)?.capHeights ?? [];
  return (
    <div>
      {lettering.lines.map((l, i) => (
        <div key={i} className="grid grid-cols-[2.6rem_1fr_1.5fr_5.6rem_4.4rem_1.4rem] items-end gap-1.5 py-0.5">
          <span className="pb-2 text-[13px] text-soft">line {i + 1}</span>
          <Select
            hideLabel={i > 0}
            label="column"
            value={l.column}
            options={[...new Set([...batch.columns, l.column])].map((c) => [c, c] as const)}
            onChange={(column) => change(i, { column })}
          />
          <Select
            hideLabel={i > 0}
            label="alphabet"
            value={l.alphabet}
            options={alphabets.map((a) => [a.id, a.name] as const)}
            onChange={(alphabet) => change(i, { alphabet })}
          />
          <Measure
            of={setupSections.lettering}
            at={`lines.${i}.capHeight`}
            hideLabel={i > 0}
            value={l.capHeight}
            onCommit={(capHeight) => change(i, { capHeight })}
          />
          <span className="pb-2 text-[13px]">{heights[i] !== undefined ? `set ${fixed(heights[i])}` : ''}</span>
          <button
            className="pb-2 text-blue"
            aria-label={`Take out line ${i + 1}`}
            onClick={() => update({ lines: lettering.lines.filter((_, k) => k !== i) })}
          >
            ✕
          </button>
        </div>
      ))}
      {lettering.lines.length < 6 && batch.columns.length > 0 && (
        <button
          className="link"
          onClick={() =>
            update({
              lines: [
                ...lettering.lines,
                {
                  column: batch.columns[lettering.lines.length % batch.columns.length]!,
                  alphabet: 'b612-bold',
                  capHeight: 4,
                },
              ],
            })
          }
        >
          add a line
        </button>
      )}
    </div>
  );
};
