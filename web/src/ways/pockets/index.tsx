import { BoardFields } from '../flat/BoardFields';
import { BoardFiles } from '../flat/BoardFiles';
import { BoardReckon } from '../flat/BoardReckon';
import { FlatDrawing } from '../flat/FlatDrawing';
import { FLAT_RUN } from '../flat/FlatRun';
import { KerfCheck } from '../../stations/hold/KerfCheck';
import { KEPT_BOARD } from '../flat/kept';
import type { SettingsProps, WayPages } from '../pages';
import { ClearanceFields } from './ClearanceFields';

const Settings = ({ hold, update }: SettingsProps) => (
  <>
    <ClearanceFields hold={hold} update={update} />
    <BoardFields hold={hold} update={update} />
  </>
);

export const pockets: WayPages = {
  Drawing: FlatDrawing,
  hold: { Settings, Reckon: BoardReckon, Files: BoardFiles, Check: KerfCheck, kept: KEPT_BOARD, aids: true },
  run: FLAT_RUN,
};
