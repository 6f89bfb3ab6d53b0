import { Choice, MeasureField, Tick } from '../../parts/fields';
import type { BatchHandle } from '../../data/use-batch';
import { heldIn } from '../held';

/** How art that goes all the way round meets itself, and whether rows follow the taper. */
export const SeamFields = ({ handle }: { handle: BatchHandle }) => {
  const { choice: settings, put: update } = heldIn(handle, 'drive');
  return (
    <div className="mt-4 grid grid-cols-3 items-end gap-4 max-[800px]:grid-cols-1">
      <Choice
        label="Seam of art that goes all round"
        value={settings.seam.kind}
        options={[
          ['gapped', 'keep a gap'],
          ['seamless', 'seamless'],
        ]}
        onChange={(kind) => update({ seam: { ...settings.seam, kind } })}
      />
      {settings.seam.kind === 'gapped' && (
        <MeasureField
          label="gap"
          value={settings.seam.gap}
          min={0}
          max={500}
          onCommit={(gap) => update({ seam: { ...settings.seam, gap } })}
        />
      )}
      <Tick
        label="row scaling: each row by its own diameter"
        checked={settings.rowScaling}
        onChange={(rowScaling) => update({ rowScaling })}
      />
    </div>
  );
};
