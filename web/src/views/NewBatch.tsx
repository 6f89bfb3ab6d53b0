import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { z } from 'zod';
import {
  api,
  blankSpec,
  diameterAt,
  id,
  line,
  size,
  type BlankDocument,
  type BlankSpec,
  type MachineDocument,
} from '@bistre/contract';
import { messageOf, newId } from '../data/api';
import { useBlanks, useMachines } from '../data/queries';
import { KEPT, useWrite } from '../data/write';
import { DraftFields, Field, Fields, Select, useDraftForm, usePart } from '../parts/fields';
import { Modal } from '../parts/Modal';
import { refusedField } from '../parts/refused';
import { followingZone, freshFlat } from './shelf/fresh';
import { NotTaken } from './shelf/NotTaken';
import { FRESH_ROUND, ROUND_ZONES } from './shelf/RoundFields';

const blankName = line('Name of the blank', 1, 80);
/** A batch with the blank it needs: one of the Shelf, or one that is described on the spot. */
const schema = api.createBatch.body.omit({ blankId: true }).extend({
  blank: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('kept'), id }),
    z.object({
      kind: z.literal('flat'),
      name: blankName,
      length: size('Length'),
      width: size('Width'),
      thickness: blankSpec.shape.thickness,
    }),
    z.object({
      kind: z.literal('round'),
      name: blankName,
      length: size('Length'),
      rim: diameterAt('Diameter at the rim'),
      base: diameterAt('Diameter at the base'),
    }),
  ]),
});
type Values = z.infer<typeof schema>;
type NewBlank = Values['blank'];

const FLAT: NewBlank = { kind: 'flat', name: '', length: 60, width: 25, thickness: 1.5 };
const ROUND: NewBlank = { kind: 'round', name: '', length: 95, rim: 82, base: 78 };

const flatSpec = ({ length, width, thickness }: Extract<NewBlank, { kind: 'flat' }>): BlankSpec =>
  freshFlat([length, width, thickness], followingZone({ length, width }, { x: 4, y: 4 }));

/** A steel cup of the typed diameters, one zone in the middle of its side. */
const roundSpec = ({ length, rim, base }: Extract<NewBlank, { kind: 'round' }>): BlankSpec => ({
  shape: {
    ...FRESH_ROUND,
    profile: [
      { at: 0, diameter: rim },
      { at: length, diameter: base },
    ],
  },
  thickness: Math.max(rim, base),
  catalogueTolerance: 0.4,
  holes: [],
  direction: { kind: 'none' },
  zones: [{ ...ROUND_ZONES[0]!, x: length / 2, width: length / 3, height: (rim + base) / 2, angle: 0 }],
});

/** Begins a batch: what, how many, where; a tag can be described on the spot. */
export const NewBatch = ({ onClose }: { onClose: () => void }) => {
  const { data: machines } = useMachines();
  const { data: blanks } = useBlanks();
  return machines && blanks ? <BatchForm onClose={onClose} machines={machines} blanks={blanks} /> : null;
};

const MachineSelect = ({ machines }: { machines: readonly MachineDocument[] }) => {
  const [machineId, put] = usePart<string>('machineId');
  return (
    <Select label="Machine" value={machineId} options={machines.map((m) => [m.id, m.name] as const)} onChange={put} />
  );
};

const BlankFields = ({ blanks }: { blanks: readonly BlankDocument[] }) => {
  const [blank, put] = usePart<NewBlank>('blank');
  const { kind } = blank;
  return (
    <>
      <div className="col-span-2">
        <Select
          label="Blank"
          value={kind === 'kept' ? blank.id : kind}
          options={[
            ['flat', 'a new flat blank …'],
            ['round', 'a new cup, glass or bar …'],
            ...blanks.map((b) => [b.id, b.name] as const),
          ]}
          onChange={(v) => put(v === 'flat' ? FLAT : v === 'round' ? ROUND : { kind: 'kept', id: v })}
        />
      </div>
      {kind !== 'kept' && (
        <>
          <div className="col-span-2">
            <Field at="blank.name" />
          </div>
          <div key={kind} className="col-span-2 grid grid-cols-3 gap-3">
            <Field at="blank.length" />
            <Field at={kind === 'flat' ? 'blank.width' : 'blank.rim'} />
            <Field at={kind === 'flat' ? 'blank.thickness' : 'blank.base'} />
          </div>
        </>
      )}
    </>
  );
};

const FRESH = { name: '', customer: '', quantity: 24, spares: 2, tolerance: 0.5, dueAt: null };

const BatchForm = ({
  onClose,
  machines,
  blanks,
}: {
  onClose: () => void;
  machines: readonly MachineDocument[];
  blanks: readonly BlankDocument[];
}) => {
  const navigate = useNavigate();
  const form = useDraftForm<Values>(schema, { ...FRESH, machineId: machines[0]?.id ?? '', blank: FLAT });
  const writing = useWrite();
  const submit = async ({ blank, ...batch }: Values): Promise<void> => {
    const [id, blankId] = [newId(), blank.kind === 'kept' ? blank.id : newId()];
    try {
      if (blank.kind !== 'kept') {
        const spec = blank.kind === 'flat' ? flatSpec(blank) : roundSpec(blank);
        const body = { id: blankId, name: blank.name, spec };
        await writing.mutateAsync({ endpoint: api.createBlank, body, scope: 'new', whole: true });
        // Made, whatever becomes of the batch: the next attempt takes it from the Shelf.
        form.setValue('blank', { kind: 'kept', id: blankId });
      }
      const body = { ...batch, id, blankId };
      const answer = await writing.mutateAsync({ endpoint: api.createBatch, body, scope: 'new', whole: true });
      if (answer.kept) {
        toast(KEPT);
        onClose();
      } else void navigate(`/batches/${id}/blank`);
    } catch (error) {
      toast.error(messageOf(error));
    }
  };
  return (
    <Modal
      open
      onOpenChange={(open) => {
        if (!open) onClose();
      }}
      title="New batch"
    >
      <form
        className="grid grid-cols-2 gap-3"
        noValidate
        onSubmit={(e) => {
          e.preventDefault();
          if (refusedField(e.currentTarget) === null) void form.handleSubmit(submit)(e);
        }}
      >
        <DraftFields form={form} schema={schema}>
          <div className="col-span-2">
            <Field at="name" label="What is it called?" />
          </div>
          <Fields at="customer dueAt quantity spares tolerance" />
          <MachineSelect machines={machines} />
          <BlankFields blanks={blanks} />
        </DraftFields>
        <div className="col-span-2">
          <NotTaken
            scope="new"
            call="createBatch"
            schema={api.createBatch.body}
            stored={{ ...FRESH, machineId: '', blankId: '' }}
            onTake={({ blankId, ...batch }) =>
              form.reset({ ...form.getValues(), ...batch, blank: { kind: 'kept', id: blankId } })
            }
          />
        </div>
        <p className="col-span-2 mt-2 flex justify-end gap-3">
          <button type="button" className="act" onClick={onClose}>
            Leave it
          </button>
          <button className="act act-main" disabled={writing.isPending}>
            Begin
          </button>
        </p>
      </form>
    </Modal>
  );
};
