import { Field, usePart } from '../../parts/fields';
import { ChoiceFields } from '../fields';
import { MarksSelect } from '../flat/BoardFields';
import type { BatchProps } from '../pages';

const CarryFields = () => {
  const [carry] = usePart<string>('carry');
  return (
    <>
      <div className="col-span-2">
        <Field at="carry" open />
      </div>
      <Field at="gap" />
      {carry === 'marks' && <MarksSelect />}
    </>
  );
};

/** The settings of a sheet that is engraved on both faces and cut into pieces. */
export const PanelFields = ({ handle }: BatchProps) => (
  <ChoiceFields handle={handle} way="panel">
    <Field at="width" />
    <Field at="height" />
    <Field at="turn" open />
    <Field at="reads" open />
    <CarryFields />
    <Field at="turned" />
    <Field at="name" label="Name of the sheet" />
  </ChoiceFields>
);
