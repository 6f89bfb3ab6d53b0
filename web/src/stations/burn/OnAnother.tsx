import { useState } from 'react';
import { api, forgottenOnMove } from '@bistre/contract';
import { listed } from '@bistre/core';
import { useMachines } from '../../data/queries';
import type { BatchHandle } from '../../data/use-batch';
import { ask } from '../../parts/ask';
import { Select } from '../../parts/fields';

/** Which machine it is done on, and the way to do the rest on another: what does not hold there is named first. */
export const OnAnother = ({ handle }: { handle: BatchHandle }) => {
  const { batch } = handle;
  const { data: machines = [] } = useMachines();
  const [open, setOpen] = useState(false);
  const others = machines.filter((m) => m.id !== batch.machine.id);
  if (batch.closedAt || others.length === 0) return null;
  if (!open)
    return (
      <p className="mt-1 text-soft">
        On {batch.machine.name}.{' '}
        <button className="link" onClick={() => setOpen(true)}>
          do the rest on another machine
        </button>
      </p>
    );
  const move = async (machineId: string): Promise<void> => {
    const other = others.find((m) => m.id === machineId);
    if (!other) return;
    const forgotten = forgottenOnMove(batch, machineId);
    const sure = await ask(
      `Do the rest of ${batch.name} on ${other.name}?`,
      forgotten.length > 0
        ? `What does not hold there is forgotten: ${listed(forgotten)}. It comes back when the move is taken back.`
        : 'Nothing that was read or found so far is lost by it.',
      `Move it to ${other.name}`,
    );
    if (sure && (await handle.act(api.moveBatch, { body: { machineId } }))) setOpen(false);
  };
  return (
    <div className="mt-2 max-w-sm">
      <Select
        label={`Now on ${batch.machine.name}; the rest on`}
        value=""
        options={[['', 'choose a machine'], ...others.map((m) => [m.id, m.name] as const)]}
        onChange={(id) => void move(id)}
      />
    </div>
  );
};
