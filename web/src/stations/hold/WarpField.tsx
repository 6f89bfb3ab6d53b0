import { MeasureField } from '../../parts/fields';
import type { BatchHandle } from '../../data/use-batch';
import { besideOf } from '../../ways/held';

/** How far the board or the work is bowed. */
export const WarpField = ({ handle, of }: { handle: BatchHandle; of: 'board' | 'work' }) => {
  const { beside, put } = besideOf(handle);
  return (
    <MeasureField
      label={`Warp of the ${of}`}
      value={beside.boardWarp}
      min={0}
      max={50}
      onCommit={(boardWarp) => put({ boardWarp })}
    />
  );
};
