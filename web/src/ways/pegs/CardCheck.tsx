import { findingsOf } from '@bistre/contract';
import { heldIn } from '../held';
import type { BatchHandle } from '../../data/use-batch';
import { sure, Take } from '../../stations/hold/Findings';

/** The widest gap between a blank and the trial in card. */
export const CardCheck = ({ handle, onTaken }: { handle: BatchHandle; onTaken?: () => void }) => {
  const { found, note } = heldIn(handle, 'pegs');
  return (
    <Take
      handle={handle}
      what="card"
      label="widest gap, then Enter"
      of={findingsOf('pegs')}
      at="card"
      words={<>A blank laid on the card: widest gap {sure(found.card)}.</>}
      onTake={(card) => {
        note({ card });
        onTaken?.();
      }}
    />
  );
};
