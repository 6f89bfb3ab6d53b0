import { manyWords, outbox } from './outbox';

/** How long is waited for what was typed just before, ms. */
const PATIENCE = 3_000;

/** What of a batch is shown here but not stored, so that neither a file nor the simulated bench has it; null when all is stored. */
export const unstored = async (batchId: string): Promise<string | null> => {
  await Promise.race([outbox.flush(batchId), new Promise((done) => setTimeout(done, PATIENCE))]);
  const waiting = outbox.get().kept.filter((k) => k.scope === batchId);
  return waiting.length === 0 ? null : manyWords(waiting);
};
