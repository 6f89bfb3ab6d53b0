import { useState } from 'react';
import { zodResolver } from '@hookform/resolvers/zod';
import { useForm } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { z } from 'zod';
import { api, line, wholeNumber, type BlankDocument, type MachineDocument } from '@bistre/contract';
import { parseLength } from '@bistre/core';
import { call, messageOf } from '../data/api';
import { queryClient, useBlanks, useMachines } from '../data/queries';
import { Modal } from '../parts/Modal';

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
    if (v.blankId !== 'new') return;
    const check = (path: 'length' | 'width' | 'thickness', name: string, low: number, high: number): void => {
      const result = length(name, low, high).safeParse(v[path]);
      if (!result.success) context.addIssue({ code: 'custom', path: [path], message: result.error.issues[0]!.message });
    };
    if (v.blankName.trim() === '')
      context.addIssue({ code: 'custom', path: ['blankName'], message: 'Give the blank a name.' });
    check('length', 'Length', 0.5, 5000);
    check('width', 'Width', 0.5, 5000);
    check('thickness', 'Thickness', 0.05, 500);
  });
type Values = z.infer<typeof schema>;

const toMm = (text: string): number => {
  const read = parseLength(text);
  return read.ok ? read.value.mm : Number.NaN;
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
  const isNew = watch('blankId') === 'new';
  const submit = async (v: Values): Promise<void> => {
    setBusy(true);
    try {
      let { blankId } = v;
      if (blankId === 'new') {
        const [l, w] = [toMm(v.length), toMm(v.width)];
        const made = await call(api.createBlank, {
          body: {
            name: v.blankName.trim(),
            spec: {
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
            },
          },
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
              {field('width', 'Width, mm')}
              {field('thickness', 'Thickness, mm')}
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
