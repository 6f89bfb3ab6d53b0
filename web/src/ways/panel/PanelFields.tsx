import type { HoldSettings, PanelSettings, Turn } from '@bistre/core';
import { Choice, MeasureField, Select, TextField } from '../../parts/fields';

const TURNS: readonly (readonly [Turn, string])[] = [
  ['page', 'like a page'],
  ['over', 'front over back'],
];

/** The settings of a sheet that is engraved on both faces and cut into pieces. */
export const PanelFields = ({
  hold,
  update,
}: {
  hold: HoldSettings;
  update: (part: Partial<HoldSettings>) => void;
}) => {
  const { panel } = hold;
  const set = (part: Partial<PanelSettings>): void => update({ panel: { ...panel, ...part } });
  return (
    <>
      <MeasureField label="Sheet width" value={panel.width} min={60} max={5000} onCommit={(width) => set({ width })} />
      <MeasureField
        label="Sheet height"
        value={panel.height}
        min={40}
        max={5000}
        onCommit={(height) => set({ height })}
      />
      <Choice
        label="The sheet is turned on the bed"
        value={panel.turn}
        options={TURNS}
        onChange={(turn) => set({ turn })}
      />
      <Choice
        label="A piece is turned in the hand"
        value={panel.reads}
        options={TURNS}
        onChange={(reads) => set({ reads })}
      />
      <div className="col-span-2">
        <Choice
          label="Side two finds its place by"
          value={panel.carry}
          options={[
            ['marks', 'marks cut through the sheet'],
            ['holes', 'each piece’s own hole'],
          ]}
          onChange={(carry) => set({ carry })}
        />
      </div>
      <MeasureField
        label="Gap between the pieces"
        value={panel.gap}
        min={0.5}
        max={50}
        onCommit={(gap) => set({ gap })}
      />
      {panel.carry === 'marks' && (
        <Select
          label="Marks"
          value={String(hold.marks)}
          options={[
            ['2', '2, no check'],
            ['3', '3, one to check'],
            ['4', '4, a misread one is named'],
            ['5', '5'],
            ['6', '6'],
          ]}
          onChange={(marks) => update({ marks: Number(marks) })}
        />
      )}
      <Select
        label="Pieces lie"
        value={hold.turned}
        options={[
          ['auto', 'as fits best'],
          ['along', 'along the sheet'],
          ['across', 'across the sheet'],
        ]}
        onChange={(turned) => update({ turned: turned as HoldSettings['turned'] })}
      />
      <TextField label="Name of the sheet" value={hold.name} most={24} onCommit={(name) => update({ name })} />
    </>
  );
};
