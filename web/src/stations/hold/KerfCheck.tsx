import { toast } from 'sonner';
import { z } from 'zod';
import { wholeNumber } from '@bistre/contract';
import { gaugeStrip, kerfFromGauge, mm, thicknessOf } from '@bistre/core';
import type { BatchHandle } from '../../data/use-batch';
import { Measure } from '../../parts/fields';
import { FileLink } from '../../parts/FileLinks';
import { saveProfile } from './save-profile';

const ANSWER = z.object({ slot: wholeNumber('The slot', 1, 11) });
const EMPTY_ALPHABET = { id: '', name: '', kind: 'stroke' as const, licence: '', glyphs: {}, kern: {} };

/** The gauge strip's answer, typed back: corrects the machine's kerf with today's date. */
export const KerfCheck = ({ handle }: { handle: BatchHandle }) => {
  const { machine } = handle.batch;
  const take = async (slot: number): Promise<void> => {
    const found = kerfFromGauge(gaugeStrip(thicknessOf(handle.batch), EMPTY_ALPHABET), slot);
    if (!found) {
      toast.error(`There is no slot ${slot} on the gauge strip.`);
      return;
    }
    await saveProfile(
      machine,
      { kerf: found.kerf, kerfMeasuredAt: new Date().toISOString() },
      `Kerf of ${machine.name} is now ${mm(found.kerf)}, measured today.`,
    );
  };
  const measured = machine.profile.kerfMeasuredAt;
  return (
    <div className="grid grid-cols-[1fr_9rem] items-end gap-3">
      <p className="text-[13px]">
        Kerf <b>{machine.profile.kerf.toFixed(2)} mm</b>,{' '}
        {measured ? (
          `measured ${new Date(measured).toLocaleDateString('en-GB')}`
        ) : (
          <span className="text-ochre">assumed</span>
        )}
        . Cut the <FileLink batchId={handle.batch.id} file="gauge.svg" word="gauge strip" />; which is the narrowest
        slot its tongue enters?
      </p>
      <Measure of={ANSWER} at="slot" list label="slot, then Enter" onCommit={(slot) => void take(slot)} />
    </div>
  );
};
