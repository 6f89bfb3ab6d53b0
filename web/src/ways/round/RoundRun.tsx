import { useState } from 'react';
import { toast } from 'sonner';
import { api } from '@bistre/contract';
import { call, messageOf } from '../../data/api';
import type { BatchHandle } from '../../data/use-batch';
import { FLAT_RUN } from '../flat/FlatRun';
import type { RunPages, StationProps } from '../pages';
import { asRun, CupResult } from './CupResult';

/** A button that burns the piece on the simulated drive, and the blank as it came off. */
const RoundSimulated = ({ handle: { batch }, shown: { reckoning }, draw, onRun }: StationProps) => {
  const { run, budget } = reckoning;
  const { round } = reckoning.own;
  const [busy, setBusy] = useState(false);
  const simulate = async (): Promise<void> => {
    setBusy(true);
    try {
      const burned = await call(api.cupBurn, { params: { id: batch.id }, body: { what: 'piece' } });
      onRun(asRun(burned, batch.tolerance, budget.predicted));
      if (round) draw({ node: <CupResult run={burned} round={round} onClose={() => draw(null)} /> });
    } catch (error) {
      toast.error(messageOf(error), { duration: 10_000 });
    } finally {
      setBusy(false);
    }
  };
  if (run.openLoad === null) return null;
  return (
    <p className="mt-2">
      <button className="act" disabled={busy} onClick={() => void simulate()}>
        {busy ? 'Running …' : 'Run the file on the simulated drive'}
      </button>
    </p>
  );
};

/** Lets the simulated drive burn the piece that lies on it, and says where it landed. */
const BurnOnDrive = ({ handle }: { readonly handle: BatchHandle }) => {
  const [landed, setLanded] = useState<string | null>(null);
  if (sessionStorage.getItem('bistre.sim') !== 'yes') return null;
  const burn = async (): Promise<void> => {
    try {
      const run = await call(api.cupBurn, { params: { id: handle.batch.id }, body: { what: 'piece' } });
      setLanded(
        run.thrown
          ? 'The blank left the rollers: look at the axis acceleration.'
          : `Burned: off by ${run.dx?.toFixed(2) ?? '–'} mm around, ${run.dy?.toFixed(2) ?? '–'} mm along.`,
      );
    } catch (error) {
      setLanded(messageOf(error));
    }
  };
  return (
    <p className="my-3 flex flex-wrap items-center gap-4 text-xl">
      <button className="act !min-h-14 justify-center !px-8 !text-lg" onClick={() => void burn()}>
        Burn it on the simulated drive
      </button>
      <span role="status">{landed}</span>
    </p>
  );
};

/** Round pieces, one at a time. */
export const ROUND_RUN: RunPages = {
  ...FLAT_RUN,
  alone: true,
  dots: () => false,
  Simulated: RoundSimulated,
  place: (_slot, ordinal) => `Piece ${ordinal ?? ''}`,
  Burn: BurnOnDrive,
};
