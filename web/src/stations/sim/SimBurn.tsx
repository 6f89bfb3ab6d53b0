import { useState } from 'react';
import { api } from '@bistre/contract';
import { call, messageOf } from '../../data/api';
import type { BatchHandle } from '../../data/use-batch';

/** Runs the file of the load on the simulated machine and says in a sentence how it came out. */
export const SimBurn = ({ handle, large = false }: { handle: BatchHandle; large?: boolean }) => {
  const [said, setSaid] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const burn = async (): Promise<void> => {
    setBusy(true);
    try {
      const run = await call(api.simRun, { params: { id: handle.batch.id } });
      const worst = Math.max(0, ...run.pieces.map((p) => p.worst ?? 0));
      const out = run.pieces.filter((p) => (p.worst ?? 0) > run.tolerance).length;
      const segment = run.landed.at(-1)?.segment;
      const what = segment
        ? `segment ${segment}`
        : `${run.pieces.length} ${run.pieces.length === 1 ? 'piece' : 'pieces'}`;
      setSaid(
        `Burned: ${what}, worst corner off by ${worst.toFixed(2)} mm${out > 0 ? `, ${out} outside the tolerance` : ''}${run.stray > 0.5 ? `; ${run.stray.toFixed(0)} mm beside the pieces` : ''}.`,
      );
    } catch (error) {
      setSaid(messageOf(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <p className={`my-2 flex flex-wrap items-center gap-3 ${large ? 'text-xl' : ''}`}>
      <button
        className={large ? 'act !min-h-14 justify-center !px-8 !text-lg' : 'act'}
        disabled={busy}
        onClick={() => void burn()}
      >
        {busy ? 'Burning …' : 'Burn it on the simulated machine'}
      </button>
      <span role="status">{said}</span>
    </p>
  );
};
