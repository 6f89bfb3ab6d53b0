import { MeasureField } from '../../parts/fields';
import { BoardFields } from '../flat/BoardFields';
import { BoardFiles } from '../flat/BoardFiles';
import { BoardReckon } from '../flat/BoardReckon';
import { FlatDrawing } from '../flat/FlatDrawing';
import { FLAT_RUN } from '../flat/FlatRun';
import { KerfCheck } from '../../stations/hold/KerfCheck';
import { KEPT_BOARD } from '../flat/kept';
import type { SettingsProps, WayPages } from '../pages';

const Settings = ({ hold, update }: SettingsProps) => (
  <>
    <MeasureField
      label="Room to push"
      value={hold.pushRoom}
      min={0.5}
      max={50}
      onCommit={(pushRoom) => update({ pushRoom })}
      hint="Every piece goes to the front left corner."
    />
    <BoardFields hold={hold} update={update} />
  </>
);

export const fence: WayPages = {
  Drawing: FlatDrawing,
  hold: { Settings, Reckon: BoardReckon, Files: BoardFiles, Check: KerfCheck, kept: KEPT_BOARD, aids: true },
  run: FLAT_RUN,
};
