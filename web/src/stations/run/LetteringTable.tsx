import { fixed } from '@bistre/core';
import { useAlphabets } from '../../data/queries';
import { MeasureField, Select } from '../../parts/fields';
import type { StationProps } from '../../views/Workspace';

/** Which column fills which line, in which alphabet, how tall. */
export const LetteringTable = ({ handle, shown }: Pick<StationProps, 'handle' | 'shown'>) => {
  const { batch } = handle;
  const { lettering } = batch.setup;
  const { data: alphabets = [] } = useAlphabets();
  const change = (index: number, part: Partial<(typeof lettering.lines)[number]>): void =>
    handle.update('lettering', {
      ...lettering,
      lines: lettering.lines.map((l, i) => (i === index ? { ...l, ...part } : l)),
    });
  const heights = shown.reckoning.art?.capHeights ?? [];
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
          <MeasureField
            hideLabel={i > 0}
            label="cap height"
            value={l.capHeight}
            min={0.5}
            max={200}
            onCommit={(capHeight) => change(i, { capHeight })}
          />
          <span className="pb-2 text-[13px]">{heights[i] !== undefined ? `set ${fixed(heights[i])}` : ''}</span>
          <button
            className="pb-2 text-blue"
            aria-label={`Take out line ${i + 1}`}
            onClick={() =>
              handle.update('lettering', { ...lettering, lines: lettering.lines.filter((_, k) => k !== i) })
            }
          >
            ✕
          </button>
        </div>
      ))}
      {lettering.lines.length < 6 && batch.columns.length > 0 && (
        <button
          className="link"
          onClick={() =>
            handle.update('lettering', {
              ...lettering,
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
