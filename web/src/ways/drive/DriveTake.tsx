import type { Step } from '@bistre/core';
import { useSimulated } from '../../parts/use-simulated';
import type { BatchProps } from '../pages';
import { LetterStep, NumberStep, RingStep, RunOutStep, SlowStep } from './checks';
import { DriveChoice } from '../round/DriveChoice';
import { CupPanel } from './CupPanel';

/** What a drive's step takes: the number, the lowered axis, a ring, the F; with the simulated drive beside it. */
export const DriveTake = ({ handle, shown, step }: BatchProps & { readonly step: Step }) => {
  const [simulated, setSimulated] = useSimulated();
  const { round } = shown.reckoning.own;
  const on = round?.on;
  const kind = step.takes?.kind;
  if (kind === 'drive')
    return (
      <div className="mt-5 max-w-md">
        <DriveChoice handle={handle} on={handle.batch.drive?.id ?? ''} />
      </div>
    );
  if (!on || !step.id.startsWith('drive.') || !kind) return null;
  return (
    <>
      {kind === 'number' && <NumberStep handle={handle} on={on} large />}
      {kind === 'slow' && <SlowStep handle={handle} on={on} large />}
      {kind === 'ring' && <RingStep handle={handle} on={on} large />}
      {kind === 'letter' && <LetterStep handle={handle} large />}
      {kind === 'run-out' && <RunOutStep handle={handle} />}
      {simulated && (
        <div className="mt-3 max-w-2xl">
          <CupPanel handle={handle} round={round} />
        </div>
      )}
      <button className="link mt-2" onClick={() => setSimulated(!simulated)}>
        {simulated ? 'leave the simulated drive' : 'use the simulated drive'}
      </button>
    </>
  );
};
