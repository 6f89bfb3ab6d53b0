import { api } from '@bistre/contract';
import { useDrives } from '../../data/queries';
import type { BatchHandle } from '../../data/use-batch';
import { Select } from '../../parts/fields';

/** What turns a blank: a drive of the Shelf, or none. */
export const DriveChoice = ({
  handle,
  on,
}: {
  handle: BatchHandle;
  /** The drive’s id, `still` for a cradle, or nothing while none is chosen. */
  on: string;
}) => {
  const { data: drives = [] } = useDrives();
  return (
    <Select
      label="Drive"
      value={on}
      options={[
        ...(on === '' ? ([['', 'choose one …']] as const) : []),
        ['still', 'none: it lies still, in a cradle'],
        ...drives.map((d) => [d.id, d.name] as const),
      ]}
      onChange={(id) => void handle.act(api.chooseDrive, { body: { driveId: id === 'still' ? null : id } })}
    />
  );
};
