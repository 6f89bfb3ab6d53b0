import type { BatchDocument } from '@bistre/contract';
import { heldAs } from '@bistre/core';
import { MeasureField } from '../../parts/fields';
import { BoardFields } from '../flat/BoardFields';
import { FlatDrawing } from '../flat/FlatDrawing';
import { FLAT_RUN } from '../flat/FlatRun';
import { POCKET_HOLD } from '../flat/pocket-pages';
import { WarpField } from '../../stations/hold/WarpField';
import { heldIn } from '../held';
import type { BatchProps, WayPages } from '../pages';

const Settings = ({ handle }: BatchProps) => {
  const { choice, put } = heldIn(handle, 'fence');
  return (
    <>
      <MeasureField
        label="Room to push"
        value={choice.pushRoom}
        min={0.5}
        max={50}
        onCommit={(pushRoom) => put({ pushRoom })}
        hint="Every piece goes to the front left corner."
      />
      <BoardFields hold={choice} update={put} warp={<WarpField handle={handle} of="board" />} />
    </>
  );
};

/** How a kept board was cut. */
const words = (batch: BatchDocument): string => {
  const { pushRoom, boardThickness } = heldAs(batch, 'fence').choice;
  return `${pushRoom} mm room to push, ${boardThickness} mm board.`;
};

export const fence: WayPages = {
  Drawing: FlatDrawing,
  hold: { ...POCKET_HOLD, Settings, kept: { noun: 'board', words } },
  run: FLAT_RUN,
};
