import { useState } from 'react';
import { Link } from 'react-router';
import { api } from '@bistre/contract';
import { ask } from '../../parts/ask';
import { Held } from '../../parts/FileLinks';
import { Finding } from '../../parts/Part';
import type { BatchProps } from '../../ways/pages';

/** The end of a batch: once everything is put back; short, where pieces are not done and that is meant. */
export const CloseBatch = ({ handle, shown, className = 'act' }: BatchProps & { readonly className?: string }) => {
  const { batch } = handle;
  const { run } = shown.reckoning;
  const [reason, setReason] = useState('');
  // What lies elsewhere than it was meant to is not closed over without a word.
  const doubts = (shown.gates['load.gcode'] ?? []).filter((r) => !r.waits && r.field?.split('.')[0] === 'place');
  const why = reason.trim();
  const left = batch.quantity - run.done;
  const open = batch.putbacks.filter((p) => p.restoredAt === null).length;
  if (batch.closedAt)
    return (
      <Finding tone="inside">
        Closed on {new Date(batch.closedAt).toLocaleString('en-GB')}.{' '}
        <Link className="link" to={`/log?batch=${batch.id}`}>
          See it in the Log.
        </Link>{' '}
        <Link className="link" to={`/batches/${batch.id}/again`}>
          The same again
        </Link>
      </Finding>
    );
  const close = async (): Promise<void> => {
    const sure =
      run.finished ||
      (await ask(
        'Close the batch short?',
        `${left} pieces are not done. They stay in the log as not done.`,
        'Close it',
        'Leave it open',
      ));
    if (sure) await handle.act(api.closeBatch, why === '' ? {} : { body: { reason: why } });
  };
  return (
    <>
      {!run.finished && (
        <Finding tone="attention">
          {left} pieces are not done. The batch can be closed short; the log will say so.
        </Finding>
      )}
      {doubts.length > 0 && (
        <div className="mt-2">
          <Held batchId={batch.id} reasons={doubts} />
          <label className="block text-[13px] text-soft">
            why it is closed all the same
            <input className="field" maxLength={200} value={reason} onChange={(e) => setReason(e.target.value)} />
          </label>
        </div>
      )}
      <p className="mt-2">
        <button
          className={`${className} act-main`}
          disabled={open > 0 || (doubts.length > 0 && why === '')}
          onClick={() => void close()}
        >
          Close the batch
        </button>{' '}
        {open > 0 && <span className="ml-2 text-oxide">Put back {open} first.</span>}
      </p>
    </>
  );
};
