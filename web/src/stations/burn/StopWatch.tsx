import { useState } from 'react';
import { timedLoad, type BatchDocument } from '@bistre/contract';
import { believable, counted, duration, fixed, REMEMBERED } from '@bistre/core';
import { Measure } from '../../parts/fields';
import { Finding } from '../../parts/Part';
import { Working } from '../../parts/Reading';
import { saveProfile } from '../hold/save-profile';
import type { Timed } from './BurnReadings';

/** What this machine's own times say of the plan, and one more of them. */
export const StopWatch = ({ batch, estimate }: { batch: BatchDocument; estimate: Timed }) => {
  const { machine } = batch;
  const [wrong, setWrong] = useState<string | null>(null);
  const { stopwatch, planned } = estimate;
  const keep = (took: number): void => {
    if (!believable(planned, took)) {
      setWrong(`${duration(took)} cannot be this load, which is planned at ${duration(planned)}. Time it from its first move to its last, loading not counted.`); // prettier-ignore
      return;
    }
    setWrong(null);
    const timed = [...(machine.profile.stopwatch ?? []), { planned, took, at: new Date().toISOString() }].slice(-REMEMBERED); // prettier-ignore
    void saveProfile(machine, { stopwatch: timed }, `Kept: ${machine.name} took ${duration(took)} for what is planned at ${duration(planned)}.`); // prettier-ignore
  };
  return (
    <div className="mt-2 grid grid-cols-[minmax(0,1fr)_10rem] items-end gap-3">
      <p>
        {stopwatch ? (
          <>
            <b>By the stop-watch:</b> {machine.name} takes{' '}
            <Working lines={stopwatch.working} title="stop-watch" figure={fixed(stopwatch.factor, 2)} /> × the plan of{' '}
            {duration(planned)}, from {counted(stopwatch.loads, 'load')}
            {stopwatch.apart > 0.1 && `, up to ${(stopwatch.apart * 100).toFixed(0)} % apart`}. Every time here is told so.
          </>
        ) : (
          <span className="text-soft">
            Planned alone: nobody timed a load on {machine.name} yet. From the first move to the last, this one took:
          </span>
        )}
      </p>
      <Measure of={timedLoad} at="took" label="it took" onCommit={keep} />
      {wrong && (
        <div className="col-span-2">
          <Finding tone="attention">{wrong}</Finding>
        </div>
      )}
    </div>
  );
}; // prettier-ignore
