import { useState } from 'react';
import { api, type FileName } from '@bistre/contract';
import { inHand, type StationId, type Step } from '@bistre/core';
import type { BatchHandle } from '../data/use-batch';
import { FileLinks } from './FileLinks';
import { Caution } from './Part';

/** What is said of a step under its title. */
const wordsOf = (step: Step): string => {
  const hand = inHand(step);
  return [
    step.detail,
    step.minutes ? `Wait ${step.minutes} min.` : '',
    step.shops ? 'This shop’s own.' : '',
    hand.length > 0 ? `At hand: ${hand.join(', ')}.` : '',
  ]
    .filter(Boolean)
    .join(' ');
};

/** The steps of a station to tick off; readings are taken elsewhere and show here as done. */
export const Steps = ({
  handle,
  steps,
  station,
  part,
  withFiles = false,
}: {
  handle: BatchHandle;
  steps: readonly Step[];
  station: StationId;
  part: 'do' | 'check';
  /** Offers a step's files under it. */
  withFiles?: boolean;
}) => {
  const mine = steps.filter((s) => s.station === station && s.part === part && s.ticked !== false);
  // A tick shows at once; if it is not taken it goes back, and the reason is said.
  const [pending, setPending] = useState<Readonly<Record<string, boolean>>>({});
  const saved = new Set(handle.batch.ticks.map((t) => t.step));
  const isDone = (id: string): boolean =>
    pending[id] ?? (saved.has(id) || mine.some((s) => s.id === id && s.done === true));
  const tick = async (id: string, done: boolean): Promise<void> => {
    setPending((old) => ({ ...old, [id]: done }));
    await handle.act(api.tick, { params: { step: id }, body: { done } });
    setPending(({ [id]: _settled, ...rest }) => rest);
  };
  const cautions = [...new Set(mine.flatMap((s) => (s.caution ? [s.caution] : [])))];
  return (
    <>
      <ul>
        {mine.map((step) => (
          <li key={step.id} className="py-0.5">
            <label className="flex min-h-11 cursor-pointer items-start gap-2.5 py-2">
              <input
                type="checkbox"
                className="size-6 shrink-0 accent-(--blue)"
                checked={isDone(step.id)}
                onChange={(e) => void tick(step.id, e.target.checked)}
              />
              <span className={isDone(step.id) ? 'text-soft' : ''}>
                {step.title}
                {wordsOf(step) !== '' && <span className="block text-[13px] text-soft">{wordsOf(step)}</span>}
              </span>
            </label>
            {withFiles && step.files && step.files.length > 0 && (
              <div className="ml-8">
                <FileLinks
                  batchId={handle.batch.id}
                  files={step.files as readonly (readonly [FileName, string])[]}
                  label="File"
                />
              </div>
            )}
          </li>
        ))}
      </ul>
      {cautions.map((c) => (
        <Caution key={c}>{c}</Caution>
      ))}
    </>
  );
};
