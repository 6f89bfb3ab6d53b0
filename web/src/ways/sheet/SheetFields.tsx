import { useState } from 'react';
import { Choice, Field, usePart } from '../../parts/fields';
import { ChoiceFields } from '../fields';
import { MarksSelect } from '../flat/BoardFields';
import { heldIn } from '../held';
import type { BatchProps } from '../pages';
import { TracedFields } from './TracedFields';

const MARKS = { '2': '2, no check', '4': '4, stretch is proved' };

/** The paper, and how it lies where it has a size of its own. */
const PaperFields = () => {
  const [paper] = usePart<string>('paper');
  const [landscape, put] = usePart<boolean>('landscape');
  return (
    <>
      <Field at="paper" />
      {paper === 'own' ? (
        <div className="grid grid-cols-2 gap-2">
          <Field at="own.width" label="Width" />
          <Field at="own.height" label="Height" />
        </div>
      ) : (
        <Choice
          label="It lies"
          value={landscape ? 'across' : 'upright'}
          options={[
            ['across', 'across'],
            ['upright', 'upright'],
          ]}
          onChange={(lies) => put(lies === 'across')}
        />
      )}
    </>
  );
};

const GroundField = () => {
  const [ground, put] = usePart<string>('ground');
  return (
    <label className="block text-[13px] text-soft">
      Ground printed behind the pieces
      <input
        type="color"
        className="block h-11 w-full border border-hairline bg-sheet"
        value={ground}
        onChange={(e) => put(e.target.value)}
      />
    </label>
  );
};

/** The settings of a sheet that is laid out here. */
const LaidFields = () => (
  <>
    <PaperFields />
    <Field at="bleed" />
    <Field at="inset" hint="how far inside the printed outline" />
    <Field at="gap" />
    <GroundField />
    <Field at="turned" />
    <MarksSelect most={12} words={MARKS} />
    <Field at="name" label="Name printed on it" />
  </>
);

/** The settings of a printed sheet: laid out here, or found in somebody else's file. */
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
            ['picture', 'came from somebody else, as a file'],
          ]}
          onChange={(next) => {
            setLooking(next === 'picture');
            if (next === 'here' && sheet.traced) put({ traced: null });
          }}
        />
      </div>
      <ChoiceFields handle={handle} way="sheet" without="traced">
        {from === 'picture' ? <TracedFields handle={handle} /> : <LaidFields />}
      </ChoiceFields>
    </>
  );
};
