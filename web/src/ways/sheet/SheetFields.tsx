import { heldIn } from '../held';
import type { BatchProps } from '../pages';
import type { SheetSettings } from '@bistre/core';
import { useState } from 'react';
import { TracedFields } from './TracedFields';
import { Choice, MeasureField, Select, TextField } from '../../parts/fields';

/** The settings of a sheet that is laid out here. */
const LaidFields = ({ handle }: Pick<BatchProps, 'handle'>) => {
  const { choice: sheet, put: set } = heldIn(handle, 'sheet');
  return (
    <>
      <Select
        label="Sheet"
        value={sheet.paper}
        options={[
          ['A4', 'A4'],
          ['A3', 'A3'],
          ['Letter', 'Letter'],
          ['own', 'own size'],
        ]}
        onChange={(paper) => set({ paper: paper as SheetSettings['paper'] })}
      />
      {sheet.paper === 'own' ? (
        <div className="grid grid-cols-2 gap-2">
          <MeasureField
            label="Width"
            value={sheet.own.width}
            min={60}
            max={5000}
            onCommit={(width) => set({ own: { ...sheet.own, width } })}
          />
          <MeasureField
            label="Height"
            value={sheet.own.height}
            min={40}
            max={5000}
            onCommit={(height) => set({ own: { ...sheet.own, height } })}
          />
        </div>
      ) : (
        <Choice
          label="It lies"
          value={sheet.landscape ? 'across' : 'upright'}
          options={[
            ['across', 'across'],
            ['upright', 'upright'],
          ]}
          onChange={(lies) => set({ landscape: lies === 'across' })}
        />
      )}
      <MeasureField
        label="Bleed: print beyond the outline"
        value={sheet.bleed}
        min={0}
        max={20}
        onCommit={(bleed) => set({ bleed })}
      />
      <MeasureField
        label="Inset: cut inside the outline"
        value={sheet.inset}
        min={0}
        max={20}
        onCommit={(inset) => set({ inset })}
      />
      <MeasureField
        label="Gap between the bleeds"
        value={sheet.gap}
        min={0}
        max={50}
        onCommit={(gap) => set({ gap })}
      />
      <label className="block text-[13px] text-soft">
        Ground printed behind the pieces
        <input
          type="color"
          className="block h-9 w-full border border-hairline bg-sheet"
          value={sheet.ground}
          onChange={(e) => set({ ground: e.target.value })}
        />
      </label>
      <Select
        label="Pieces lie"
        value={sheet.turned}
        options={[
          ['auto', 'as fits best'],
          ['along', 'along the sheet'],
          ['across', 'across the sheet'],
        ]}
        onChange={(turned) => set({ turned: turned as typeof sheet.turned })}
      />
      <Select
        label="Marks"
        value={String(sheet.marks)}
        options={[
          ['2', '2: stretch is not told from a misreading'],
          ['3', '3'],
          ['4', '4: stretch both ways is proved'],
          ...Array.from({ length: 8 }, (_, i) => [String(i + 5), String(i + 5)] as const),
        ]}
        onChange={(marks) => set({ marks: Number(marks) })}
      />
      <TextField label="Name printed on it" value={sheet.name} most={24} onCommit={(name) => set({ name })} />
    </>
  );
};

/** The settings of a printed sheet: laid out here, or found in somebody else's picture. */
export const SheetFields = ({ handle }: BatchProps) => {
  const [looking, setLooking] = useState(false);
  const { choice: sheet, put } = heldIn(handle, 'sheet');
  const from = sheet.traced || looking ? 'picture' : 'here';
  return (
    <>
      <div className="col-span-2">
        <Choice
          label="The print"
          value={from}
          options={[
            ['here', 'is laid out here'],
            ['picture', 'came from somebody else, as a picture'],
          ]}
          onChange={(next) => {
            setLooking(next === 'picture');
            if (next === 'here' && sheet.traced) put({ traced: null });
          }}
        />
      </div>
      {from === 'picture' ? <TracedFields handle={handle} /> : <LaidFields handle={handle} />}
    </>
  );
};
