import { useState } from 'react';
import { zodResolver } from '@hookform/resolvers/zod';
import { useForm } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { z } from 'zod';
import { api, line, wholeNumber, type BlankDocument, type BlankSpec, type MachineDocument } from '@bistre/contract';
import { parseLength } from '@bistre/core';
import { call, messageOf } from '../data/api';
import { queryClient, useBlanks, useMachines } from '../data/queries';
import { Modal } from '../parts/Modal';
import { FRESH_ROUND, ROUND_ZONES } from './shelf/RoundFields';

const length = (name: string, low: number, high: number) =>
  z.string().superRefine((text, context) => {
    const read = parseLength(text);
    if (!read.ok) context.addIssue({ code: 'custom', message: read.problem.message });
    else if (read.value.mm < low || read.value.mm > high)
      context.addIssue({
        code: 'custom',
        message: `${name} is understood as ${read.value.mm.toFixed(2)} mm; it must be between ${low} and ${high} mm.`,
      });
  });
const whole = (name: string, low: number, high: number) =>
  z
    .string()
    .refine(
      (t) => wholeNumber(name, low, high).safeParse(Number(t)).success && t.trim() !== '',
      `${name} must be a whole number between ${low} and ${high}.`,
    );
const schema = z
  .object({
    name: line('Name', 1, 80),
    customer: line('Customer', 0, 80),
    quantity: whole('Quantity', 1, 20_000),
    spares: whole('Spares', 0, 20_000),
    tolerance: length('Tolerance', 0.01, 50),
    dueAt: z.string(),
    machineId: z.uuid('Choose a machine.'),
    blankId: z.string(),
    blankName: z.string(),
    length: z.string(),
    width: z.string(),
    thickness: z.string(),
  })
  .superRefine((v, context) => {
    if (v.blankId !== 'new' && v.blankId !== 'round') return;
    const round = v.blankId === 'round';
    const check = (path: 'length' | 'width' | 'thickness', name: string, low: number, high: number): void => {
      const result = length(name, low, high).safeParse(v[path]);
      if (!result.success) context.addIssue({ code: 'custom', path: [path], message: result.error.issues[0]!.message });
    };
    if (v.blankName.trim() === '')
      context.addIssue({ code: 'custom', path: ['blankName'], message: 'Give the blank a name.' });
    check('length', 'Length', 0.5, 5000);
    // For a round blank the fields are its diameters at the rim and at the base.
    check('width', round ? 'Diameter at the rim' : 'Width', round ? 1 : 0.5, round ? 1000 : 5000);
    check('thickness', round ? 'Diameter at the base' : 'Thickness', round ? 1 : 0.05, round ? 1000 : 500);
  });
type Values = z.infer<typeof schema>;

const toMm = (text: string): number => {
  const read = parseLength(text);
  return read.ok ? read.value.mm : Number.NaN;
};

const flatSpec = (v: Values): BlankSpec => {
  const [l, w] = [toMm(v.length), toMm(v.width)];
  return {
    shape: { kind: 'rectangle', length: l, width: w, cornerRadius: 0 },
    thickness: toMm(v.thickness),
    catalogueTolerance: 0.3,
    holes: [],
    direction: { kind: 'none' },
    zones: [
      {
        id: 'face',
        name: 'face',
        x: 0,
        y: 0,
        width: Math.max(0.5, l - 4),
        height: Math.max(0.5, w - 4),
        margin: 1,
        across: 'centre',
        down: 'middle',
        keepOuts: [],
      },
    ],
  };
};

/** A steel cup of the typed diameters, one zone in the middle of its side. */
const roundSpec = (v: Values): BlankSpec => {
  const [l, rim, base] = [toMm(v.length), toMm(v.width), toMm(v.thickness)];
  return {
    shape: {
      ...FRESH_ROUND,
      profile: [
        { at: 0, diameter: rim },
        { at: l, diameter: base },
      ],
    },
    thickness: Math.max(rim, base),
    catalogueTolerance: 0.4,
    holes: [],
    direction: { kind: 'none' },
    zones: [{ ...ROUND_ZONES[0]!, x: l / 2, width: l / 3, height: (rim + base) / 2, angle: 0 }],
  };
};

/** Begins a batch: what, how many, where; a tag can be described on the spot. */
export const NewBatch = ({ onClose }: { onClose: () => void }) => {
  const { data: machines } = useMachines();
  const { data: blanks } = useBlanks();
  return machines && blanks ? <BatchForm onClose={onClose} machines={machines} blanks={blanks} /> : null;
};

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
  const [busy, setBusy] = useState(false);
  const {
    register,
    handleSubmit,
    watch,
    formState: { errors },
  } = useForm<Values>({
    resolver: zodResolver(schema),
    defaultValues: {
      name: '',
      customer: '',
      quantity: '24',
      spares: '2',
      tolerance: '0.5',
      dueAt: '',
      machineId: machines[0]?.id ?? '',
      blankId: 'new',
      blankName: '',
      length: '60',
      width: '25',
      thickness: '1.5',
    },
  });
  const kind = watch('blankId');
  const isNew = kind === 'new' || kind === 'round';
  const round = kind === 'round';
  const submit = async (v: Values): Promise<void> => {
    setBusy(true);
    try {
      let { blankId } = v;
      if (blankId === 'new' || blankId === 'round') {
        const made = await call(api.createBlank, {
          body: { name: v.blankName.trim(), spec: blankId === 'new' ? flatSpec(v) : roundSpec(v) },
        });
        blankId = made.id;
      }
      const batch = await call(api.createBatch, {
        body: {
          name: v.name,
          customer: v.customer,
          quantity: Number(v.quantity),
          spares: Number(v.spares),
          tolerance: toMm(v.tolerance),
          dueAt: v.dueAt ? new Date(v.dueAt).toISOString() : null,
          machineId: v.machineId,
          blankId,
        },
      });
      await queryClient.invalidateQueries();
      void navigate(`/batches/${batch.id}/blank`);
    } catch (error) {
      toast.error(messageOf(error));
    } finally {
      setBusy(false);
    }
  };
  const field = (name: keyof Values, label: string, extra: { hint?: string; type?: string } = {}) => (
    <label className="min-w-0 text-[13px] text-soft">
      {label}
      <input
        className="field"
        type={extra.type ?? 'text'}
        aria-invalid={errors[name] !== undefined}
        {...register(name)}
      />
      {errors[name] ? (
        <span role="alert" className="block text-oxide">
          {errors[name].message}
        </span>
      ) : (
        extra.hint
      )}
    </label>
  );
  return (
    <Modal
      open
      onOpenChange={(open) => {
        if (!open) onClose();
      }}
      title="New batch"
    >
      <form className="grid grid-cols-2 gap-3" onSubmit={(e) => void handleSubmit(submit)(e)} noValidate>
        <div className="col-span-2 grid">{field('name', 'What is it called?')}</div>
        {field('customer', 'Customer')}
        {field('dueAt', 'Due', { type: 'datetime-local' })}
        {field('quantity', 'Quantity')}
        {field('spares', 'Spare blanks')}
        {field('tolerance', 'Tolerance', { hint: 'How far any point of the art may be off on its piece.' })}
        <label className="text-[13px] text-soft">
          Machine
          <select className="field" {...register('machineId')}>
            {machines.map((m) => (
              <option key={m.id} value={m.id}>
                {m.name}
              </option>
            ))}
          </select>
          {errors.machineId && (
            <span role="alert" className="text-oxide">
              {errors.machineId.message}
            </span>
          )}
        </label>
        <label className="col-span-2 text-[13px] text-soft">
          Blank
          <select className="field" {...register('blankId')}>
            <option value="new">a new flat blank …</option>
            <option value="round">a new cup, glass or bar …</option>
            {blanks.map((b) => (
              <option key={b.id} value={b.id}>
                {b.name}
              </option>
            ))}
          </select>
        </label>
        {isNew && (
          <>
            <div className="col-span-2 grid">{field('blankName', 'Name of the blank')}</div>
            <div className="col-span-2 grid grid-cols-3 gap-3">
              {field('length', 'Length, mm')}
              {field('width', round ? 'Diameter at the rim, mm' : 'Width, mm')}
              {field('thickness', round ? 'Diameter at the base, mm' : 'Thickness, mm')}
            </div>
          </>
        )}
        <p className="col-span-2 mt-2 flex justify-end gap-3">
          <button type="button" className="act" onClick={onClose}>
            Leave it
          </button>
          <button className="act act-main" disabled={busy}>
            Begin
          </button>
        </p>
      </form>
    </Modal>
  );
};
