import type { BatchHandle } from '../../data/use-batch';
import { Field } from '../../parts/fields';
import { ChoiceFields } from '../fields';
import { heldIn } from '../held';

/** How art that goes all the way round meets itself, and whether rows follow the taper. */
export const SeamFields = ({ handle }: { handle: BatchHandle }) => (
  <div className="mt-4 grid grid-cols-3 items-end gap-4 max-[800px]:grid-cols-1">
    <ChoiceFields handle={handle} way="drive">
      <Field at="seam.kind" open />
      {heldIn(handle, 'drive').choice.seam.kind === 'gapped' && <Field at="seam.gap" />}
      <Field at="rowScaling" />
    </ChoiceFields>
  </div>
);
