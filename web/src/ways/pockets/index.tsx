import type { BatchDocument } from '@bistre/contract';
import { heldAs } from '@bistre/core';
import { BoardFields } from '../flat/BoardFields';
import { FlatDrawing } from '../flat/FlatDrawing';
import { FLAT_RUN } from '../flat/FlatRun';
import { POCKET_HOLD } from '../flat/pocket-pages';
import { WarpField } from '../../stations/hold/WarpField';
import { ChoiceFields } from '../fields';
import type { BatchProps, WayPages } from '../pages';
import { ClearanceFields } from './ClearanceFields';

const Settings = ({ handle }: BatchProps) => (
  <ChoiceFields handle={handle} way="pockets">
    <ClearanceFields />
    <BoardFields warp={<WarpField handle={handle} of="board" />} />
  </ChoiceFields>
);

/** How a kept board was cut. */
const words = (batch: BatchDocument): string => {
  const { clearance, boardThickness } = heldAs(batch, 'pockets').choice;
  return `${clearance.school === 'own' ? `${clearance.total} mm clearance` : clearance.school}, ${boardThickness} mm board.`;
};

export const pockets: WayPages = {
  Drawing: FlatDrawing,
  hold: { ...POCKET_HOLD, Settings, kept: { noun: 'board', words } },
  run: FLAT_RUN,
};
