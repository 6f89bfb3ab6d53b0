import type { BatchHandle } from '../../data/use-batch';
import { Field } from '../../parts/fields';
import { BesideFields } from '../../ways/fields';

/** How far the board or the work is bowed. */
export const WarpField = ({ handle, of }: { handle: BatchHandle; of: 'board' | 'work' }) => (
  <BesideFields handle={handle}>
    <Field at="boardWarp" label={`Warp of the ${of}`} />
  </BesideFields>
);
