import { useState } from 'react';
import { toast } from 'sonner';
import { api, machineChanged, type MachineDocument } from '@bistre/contract';
import { MACHINE_PARTS, overtakenOf, overtakenWords, PART_WORDS, type MachinePart } from '@bistre/core';
import { messageOf } from '../../data/api';
import { KEPT, useWrite } from '../../data/write';
import { Select } from '../../parts/fields';
import { TimeInput } from '../../parts/fields/TimeInput';
import { Finding } from '../../parts/Part';
import { onDate } from './form';

const OPTIONS = MACHINE_PARTS.map((p) => [p, PART_WORDS[p]] as const);

/** What was changed on a machine and when, so that the age of a calibration refers to something. */
export const Changed = ({ machine }: { machine: MachineDocument }) => {
  const { id, profile, changes } = machine;
  const writing = useWrite();
  const [what, setWhat] = useState<MachinePart>('lens');
  const [note, setNote] = useState('');
  const [at, setAt] = useState(() => new Date().toISOString());
  const write = async (asked: Parameters<typeof writing.mutateAsync>[0]): Promise<void> => {
    try {
      if ((await writing.mutateAsync(asked)).kept) toast(KEPT);
    } catch (error) {
      toast.error(messageOf(error));
    }
  };
  const add = async (): Promise<void> => {
    const body = machineChanged.parse({ what, note: note.trim().slice(0, 200), at });
    await write({ endpoint: api.addMachineChange, params: { id }, body, scope: id });
    setNote('');
  };
  const late = overtakenOf({ ...profile, square: profile.square ?? null }, changes);
  return (
    <section aria-label="Changed on it" className="mt-8">
      <h2 className="part-title mb-1">Changed on it</h2>
      {late.map((o) => (
        <div key={o.what} className="mb-1">
          <Finding tone="attention">{overtakenWords(o)}</Finding>
        </div>
      ))}
      {changes.length === 0 && <p className="text-soft">Nothing yet. A lens, a tube, mirrors or belts that are changed make what was measured before doubtful.</p>}
      <ul>
        {changes.map((c) => (
          <li key={c.id} className="flex flex-wrap items-baseline gap-x-4 border-t border-hairline py-2">
            <b className="w-28">{onDate(c.at)}</b>
            <span className="flex-1">
              {PART_WORDS[c.what]}
              {c.note && `: ${c.note}`} <span className="text-soft">by {c.by}</span>
            </span>
            <button
              type="button"
              className="link"
              onClick={() => void write({ endpoint: api.dropMachineChange, params: { id, change: c.id }, scope: id })}
            >
              take it out
            </button>
          </li>
        ))}
      </ul>
      <div className="mt-2 grid grid-cols-[1fr_16rem_1.2fr_auto] items-end gap-3 max-[700px]:grid-cols-1">
        <Select label="What" value={what} options={OPTIONS} onChange={(v) => setWhat(v as MachinePart)} />
        <TimeInput label="When" value={at} onCommit={(next) => next && setAt(next)} />
        <label className="block text-[13px] text-soft">
          Note
          <input className="field" maxLength={200} value={note} onChange={(e) => setNote(e.target.value)} />
        </label>
        <button type="button" className="act min-h-11" disabled={writing.isPending} onClick={() => void add()}>
          Keep it
        </button>
      </div>
    </section>
  );
}; // prettier-ignore
