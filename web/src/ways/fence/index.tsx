import type { BatchDocument } from '@bistre/contract';
import { heldAs } from '@bistre/core';
import { Field } from '../../parts/fields';
import { BoardFields } from '../flat/BoardFields';
import { FlatDrawing } from '../flat/FlatDrawing';
import { FLAT_RUN } from '../flat/FlatRun';
import { POCKET_HOLD } from '../flat/pocket-pages';
import { WarpField } from '../../stations/hold/WarpField';
import { ChoiceFields } from '../fields';
import type { BatchProps, WayPages } from '../pages';

const Settings = ({ handle }: BatchProps) => (
  <ChoiceFields handle={handle} way="fence">
    <Field at="pushRoom" />
    <BoardFields warp={<WarpField handle={handle} of="board" />} />
  </ChoiceFields>
);

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
