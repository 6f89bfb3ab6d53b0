import { api } from '@bistre/contract';
import type { BatchHandle } from '../../data/use-batch';
import { ask } from '../../parts/ask';

/** Approves the first piece; one that was passed out of tolerance is asked about once more. */
export const approveFirst = async (handle: BatchHandle): Promise<void> => {
  const outside = handle.batch.pieces.find((p) => p.state === 'done' && p.cause);
  if (!outside) return void (await handle.act(api.approveFirst, { body: { approved: true } }));
  const sure = await ask(
    'Approve a first piece that is out of tolerance?',
    `Piece ${outside.ordinal} was passed because: ${outside.cause}. All that follow may come like it.`,
    'Approve it all the same',
  );
  if (sure) await handle.act(api.approveFirst, { body: { approved: true, sure } });
};
