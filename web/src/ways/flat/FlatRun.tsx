import { useState } from 'react';
import { toast } from 'sonner';
import { api } from '@bistre/contract';
import { call, messageOf } from '../../data/api';
import { SimulatedBurn } from '../../stations/sim/SimulatedBurn';
import type { RunPages, StationProps } from '../pages';
import { SimResult, type Pieces } from './SimResult';

/** A button that runs the file of the load on the simulated machine, and the pieces as they came out. */
export const FlatSimulated = ({ handle, shown, draw, onRun, pieces }: StationProps & { pieces?: Pieces }) => {
  const { batch } = handle;
  const { reckoning } = shown;
  const [busy, setBusy] = useState(false);
  const { shape } = batch.blank.spec;
  const simulate = async (): Promise<void> => {
    setBusy(true);
    try {
      const run = await call(api.simRun, { params: { id: batch.id } });
      onRun(run);
      draw({
        node: (
          <SimResult
            run={run}
            holes={reckoning.face.blank.holes}
            disc={shape.kind === 'disc'}
            cornerRadius={shape.kind === 'rectangle' ? shape.cornerRadius : 0}
            pieces={
              pieces ?? {
                length: reckoning.sizes.length.mean,
                width: reckoning.sizes.width.mean,
                printed: null,
                bare: false,
              }
            }
            onClose={() => draw(null)}
          />
        ),
      });
    } catch (error) {
      toast.error(messageOf(error), { duration: 10_000 });
    } finally {
      setBusy(false);
    }
  };
  if (reckoning.run.openLoad === null) return null;
  return (
    <p className="mt-2">
      <button className="act" disabled={busy} onClick={() => void simulate()}>
        {busy ? 'Running …' : 'Run the file on the simulated machine'}
      </button>
    </p>
  );
};

/** Flat pieces, a load at a time, each with art of its own or all alike. */
export const FLAT_RUN: RunPages = {
  noNames: () => ({ words: 'Nothing of a list goes on the pieces', bring: false }),
  bothFaces: false,
  alone: false,
  dots: () => true,
  Simulated: FlatSimulated,
  laid: 'It lies there',
  place: (slot) => `Slot ${slot}`,
  Burn: SimulatedBurn,
};
