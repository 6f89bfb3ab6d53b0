import { useRef, useState } from 'react';
import { api, type BlankSpec, type Sample } from '@bistre/contract';
import type { BatchHandle } from '../../data/use-batch';
import { Measure } from '../../parts/fields';
import { Keypad, pressEnter } from '../../parts/Keypad';

type Dimension = Sample['dimension'];

/** Rows that are seen at once; the newest stand first. */
const SEEN = 5;

/** What is measured of a blank, in the order a caliper goes round it. */
export const dimensionsOf = ({ kind }: BlankSpec['shape']): readonly Dimension[] =>
  kind === 'round'
    ? ['diameter', 'tape']
    : kind === 'disc'
      ? ['length', 'thickness']
      : ['length', 'width', 'thickness'];

/**
 * Readings of real pieces, one row a piece. Enter keeps a reading and goes on: to the piece's next dimension, then to the next
 * piece; what is kept is no field any more.
 */
export const Calipers = ({
  handle,
  dimensions,
  large = false,
}: {
  handle: BatchHandle;
  dimensions: readonly Dimension[];
  /** Whether it stands alone, to be read from two metres. */
  large?: boolean;
}) => {
  const { blank } = handle.batch;
  const fields = useRef<Partial<Record<Dimension, HTMLInputElement | null>>>({});
  const [mending, setMending] = useState(false);
  const [out, setOut] = useState<Sample | null>(null);
  const [keys, setKeys] = useState(false);
  const at = { id: blank.id };
  const of = Object.fromEntries(dimensions.map((d) => [d, blank.samples.filter((s) => s.dimension === d)])) as Record<Dimension, Sample[]>; // prettier-ignore
  const count = Math.max(0, ...dimensions.map((d) => of[d].length));
  const goOn = (from: number): void => fields.current[dimensions[(from + 1) % dimensions.length]!]?.focus();
  const drop = (sample: Sample): void => {
    setOut(sample);
    void handle.act(api.dropSample, { params: { ...at, sample: sample.id } });
  };
  const keep = (): void => {
    for (const d of dimensions) {
      const field = fields.current[d];
      if (field?.value.trim()) pressEnter(field);
    }
    fields.current[dimensions[0]!]?.focus();
  };
  const rows = Array.from({ length: count }, (_, i) => count - 1 - i);
  return (
    <div className="calipers">
      <table className={`w-full border-collapse ${large ? 'text-[21px]' : ''}`}>
        <thead>
          <tr className="text-left text-[13px] text-soft">
            <th className="w-16 font-normal">piece</th>
            {dimensions.map((d) => (
              <th key={d} className="font-normal">
                {d === 'tape' ? 'tape round it' : d}, mm
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          <tr className="align-top">
            <td className="pt-2.5 font-bold">{count + 1}</td>
            {dimensions.map((d, i) => (
              <td key={d} className="pr-2">
                <Measure
                  of={api.addSample.body}
                  at="value"
                  list
                  hideLabel
                  label={`${d}, reading ${of[d].length + 1}`}
                  draft={`sample.${blank.id}.${d}`}
                  inputRef={(field) => {
                    fields.current[d] = field;
                  }}
                  keypad={keys}
                  onCommit={(value) => void handle.act(api.addSample, { params: at, body: { dimension: d, value } })}
                  onEnter={() => goOn(i)}
                />
              </td>
            ))}
          </tr>
          {rows.slice(0, mending ? count : SEEN).map((row) => (
            <tr key={row} className="border-t border-hairline">
              <td className="py-0.5 text-soft">{row + 1}</td>
              {dimensions.map((d) => {
                const sample = of[d][row];
                return (
                  <td key={d} title={sample ? `read by ${sample.by}` : undefined}>
                    {sample?.value.toFixed(2) ?? '–'}
                    {mending && sample && (
                      <button
                        type="button"
                        className="link ml-3"
                        aria-label={`take out ${d} ${sample.value.toFixed(2)} of piece ${row + 1}`}
                        onClick={() => drop(sample)}
                      >
                        take out
                      </button>
                    )}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      {count > SEEN && !mending && <p className="text-soft">and {count - SEEN} more.</p>}
      {out && !blank.samples.some((s) => s.id === out.id) && (
        <p role="status" className="mt-1">
          {out.dimension} {out.value.toFixed(2)} mm is taken out.{' '}
          <button type="button" className="link" onClick={handle.undo}>
            Put it back
          </button>
        </p>
      )}
      <p className="mt-1.5 flex flex-wrap items-center gap-4">
        <button type="button" className={`act ${large ? '!min-h-14 !px-8 !text-lg' : ''}`} onClick={keep}>
          Keep
        </button>
        <button type="button" className="link" aria-expanded={keys} onClick={() => setKeys(!keys)}>
          {keys ? 'without the keypad' : 'keypad'}
        </button>
        {count > 0 && (
          <button type="button" className="link" aria-expanded={mending} onClick={() => setMending(!mending)}>
            {mending ? 'leave the readings' : 'take a reading out'}
          </button>
        )}
      </p>
      {keys && <Keypad within=".calipers" />}
    </div>
  );
};
