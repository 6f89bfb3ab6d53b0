import { heldIn } from '../held';
import type { BatchProps } from '../pages';
import type { Turn } from '@bistre/core';
import { Choice, MeasureField, Select, TextField } from '../../parts/fields';

const TURNS: readonly (readonly [Turn, string])[] = [
  ['page', 'like a page'],
  ['over', 'front over back'],
];

/** The settings of a sheet that is engraved on both faces and cut into pieces. */
export const PanelFields = ({ handle }: BatchProps) => {
  const { choice: panel, put: set } = heldIn(handle, 'panel');
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
          value={String(panel.marks)}
          options={[
            ['2', '2, no check'],
            ['3', '3, one to check'],
            ['4', '4, a misread one is named'],
            ['5', '5'],
            ['6', '6'],
          ]}
          onChange={(marks) => set({ marks: Number(marks) })}
        />
      )}
      <Select
        label="Pieces lie"
        value={panel.turned}
        options={[
          ['auto', 'as fits best'],
          ['along', 'along the sheet'],
          ['across', 'across the sheet'],
        ]}
        onChange={(turned) => set({ turned: turned as typeof panel.turned })}
      />
      <TextField label="Name of the sheet" value={panel.name} most={24} onCommit={(name) => set({ name })} />
    </>
  );
};
