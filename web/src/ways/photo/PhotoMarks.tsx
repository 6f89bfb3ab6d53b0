import { heldIn } from '../held';
import { toast } from 'sonner';
import { api, choiceOf } from '@bistre/contract';
import { heldAs, MARK_SHEETS, parseMarkTable, type MarkSheet } from '@bistre/core';
import { messageOf } from '../../data/api';
import { shots } from './photo';
import type { BatchHandle } from '../../data/use-batch';
import { KEPT, write } from '../../data/write';
import { Measure, Select } from '../../parts/fields';
import { TableBox } from '../../parts/TableBox';

/** Where the marks come from: burned, printed, or on the bed already. */
export const MarkFields = ({ handle }: { handle: BatchHandle }) => {
  const batchId = handle.batch.id;
  const { choice: photo, renew } = heldIn(handle, 'photo');
  // Other marks: what was measured by the old ones is void.
  const put = (part: Partial<typeof photo>): void => {
    const { [batchId]: _old, ...others } = shots.get();
    shots.set(others);
    renew(part, { blanks: [], offcuts: [], others: [], density: null, takenAt: null });
  };
  return (
    <>
      <Select
        label="Marks"
        value={photo.marksOn}
        options={[
          ['bed', 'burned on paper'],
          ['sheet', 'printed sheet'],
          ['own', 'the bed’s own'],
        ]}
        onChange={(marksOn) => put({ marksOn: marksOn as typeof photo.marksOn })}
      />
      {photo.marksOn === 'bed' && (
        <Measure of={choiceOf('photo')} at="inset" value={photo.inset} onCommit={(inset) => put({ inset })} />
      )}
      {photo.marksOn === 'sheet' && (
        <Select
          label="Sheet"
          value={photo.sheet}
          options={Object.entries(MARK_SHEETS).map(
            ([id, { width, height }]) => [id, `${id}, ${width} × ${height} mm`] as const,
          )}
          onChange={(sheet) => put({ sheet: sheet as MarkSheet })}
        />
      )}
      {photo.marksOn === 'own' && (
        <div className="col-span-2">
          <p className="text-[13px]">
            {photo.own.length === 0
              ? 'Say where they are: corners of the bed, screws, burned dots; four at least, all round the work.'
              : `${photo.own.length} marks: ${photo.own.map((m) => `${m.x}, ${m.y}`).join('; ')}.`}
          </p>
          <TableBox
            draft={`photo-own.${photo.name}`}
            label="A line each: x, y from the bed’s front left corner"
            example={'0; 0\n400; 0\n400; 400\n0; 400'}
            read={parseMarkTable}
            onRead={(marks) => put({ own: marks.slice(0, 40).map(({ x, y }) => ({ x, y })) })}
          />
        </div>
      )}
    </>
  );
};

/** Keeps the camera of the last photograph as the machine's own, fixed one. */
export const KeepCamera = ({ handle }: { handle: BatchHandle }) => {
  const { batch } = handle;
  const shot = shots.use()[batch.id];
  const { machine } = batch;
  const kept = machine.profile.camera;
  if (heldAs(batch, 'photo').choice.marksOn !== 'bed') return null;
  const save = async (camera: typeof kept): Promise<void> => {
    try {
      const answer = await write({
        endpoint: api.saveMachine,
        params: { id: machine.id },
        body: { name: machine.name, profile: { ...machine.profile, camera } },
        scope: machine.id,
        base: machine.version,
      });
      toast(
        answer.kept
          ? KEPT
          : camera
            ? `The camera is kept as ${machine.name}’s own. Leave two or more marks in its sight: they tell whether it moved.`
            : `${machine.name} has no fixed camera any more.`,
      );
    } catch (error) {
      toast.error(messageOf(error));
    }
  };
  return (
    <p className="mt-2 text-[13px]">
      {kept
        ? `Fixed camera of ${machine.name}, measured ${new Date(kept.at).toLocaleDateString('en-GB')} by ${kept.marks} marks${kept.spread === null ? '' : ` within ${kept.spread.toFixed(2)} mm`}. `
        : 'A camera that stays where it is? '}
      {shot && shot.looked.seenBy !== 'kept, not checked' && (
        <button className="link" onClick={() => void save(shot.looked.camera)}>
          {kept ? 'keep this measuring instead' : 'keep it as the machine’s fixed camera'}
        </button>
      )}{' '}
      {kept && (
        <button className="link" onClick={() => void save(null)}>
          it is not fixed any more
        </button>
      )}
    </p>
  );
};
