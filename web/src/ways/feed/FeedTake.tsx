import { heldAs, type Step } from '@bistre/core';
import { useSimulated } from '../../parts/use-simulated';
import type { BatchProps } from '../pages';
import { FeedReadings, SquareFields } from './FeedFields';

/** What a feeder's step takes: a long feed with what the tape shows, or two offsets from the guide. */
export const FeedTake = ({ handle, step }: BatchProps & { readonly step: Step }) => {
  const [simulated, setSimulated] = useSimulated();
  const kind = step.takes?.kind;
  if (kind !== 'feed' && kind !== 'square') return null;
  return (
    <>
      {kind === 'feed' ? (
        <FeedReadings handle={handle} simulated={simulated} large />
      ) : (
        <SquareFields
          key={heldAs(handle.batch, 'feed').found.squaring ? 'set' : 'open'}
          handle={handle}
          simulated={simulated}
          large
        />
      )}
      <button className="link mt-2" onClick={() => setSimulated(!simulated)}>
        {simulated ? 'type the reading' : 'use the simulated feeder'}
      </button>
    </>
  );
};
