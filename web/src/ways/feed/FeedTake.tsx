import { heldAs, type Step } from '@bistre/core';
import { useSimulated } from '../../parts/use-simulated';
import type { BatchProps } from '../pages';
import { FeedReadings, GuideFields, SquareFields } from './FeedFields';

/** What a feeder's step takes: a long feed with what the tape shows, two places of the guide, or two offsets from it. */
export const FeedTake = ({ handle, step }: BatchProps & { readonly step: Step }) => {
  const [simulated, setSimulated] = useSimulated();
  const kind = step.takes?.kind;
  if (kind !== 'feed' && kind !== 'square' && kind !== 'guide') return null;
  const { found } = heldAs(handle.batch, 'feed');
  return (
    <>
      {kind === 'feed' ? (
        <FeedReadings handle={handle} simulated={simulated} large />
      ) : kind === 'guide' ? (
        <GuideFields key={found.guide ? 'set' : 'open'} handle={handle} simulated={simulated} large />
      ) : (
        <SquareFields key={found.squaring ? 'set' : 'open'} handle={handle} simulated={simulated} large />
      )}
      <button className="link mt-2" onClick={() => setSimulated(!simulated)}>
        {simulated ? 'type the reading' : 'use the simulated feeder'}
      </button>
    </>
  );
};
