import { useState } from 'react';
import { api } from '@bistre/contract';
import { setAway } from '../data/away';
import type { BatchHandle } from '../data/use-batch';
import { Modal } from './Modal';

const day = (at: string): string =>
  new Date(at).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });

const Reopen = ({ handle, onClose }: { handle: BatchHandle; onClose: () => void }) => {
  const [reason, setReason] = useState('');
  return (
    <Modal
      open
      onOpenChange={(open) => !open && onClose()}
      title="Open the batch again"
      note="The reason goes into the log."
    >
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void handle.act(api.reopenBatch, { body: { reason } }).then((good) => good && onClose());
        }}
      >
        <label className="block text-[13px] text-soft">
          why
          <input
            className="field mt-1"
            value={reason}
            maxLength={200}
            autoFocus
            onChange={(e) => setReason(e.target.value)}
          />
        </label>
        <p className="mt-4 flex justify-end gap-3">
          <button type="button" className="act" onClick={onClose}>
            Leave it closed
          </button>
          <button className="act act-main" disabled={reason.trim() === ''}>
            Open it again
          </button>
        </p>
      </form>
    </Modal>
  );
};

/** Says over every station that a batch is only read, and how to go on with it. */
export const ClosedNote = ({ handle }: { handle: BatchHandle }) => {
  const { batch } = handle;
  const [opening, setOpening] = useState(false);
  if (!batch.closedAt && !batch.awayAt) return null;
  return (
    <p role="status" className="flex items-center justify-between gap-4 border-b border-hairline bg-wash px-5 py-1.5">
      {batch.awayAt ? (
        <>
          <span>
            <b>Put away</b> on {day(batch.awayAt)}: it is only read until it is brought back.
          </span>
          <button className="link" onClick={() => void setAway('batches', batch.id, batch.name, false)}>
            bring it back
          </button>
        </>
      ) : (
        <>
          <span>
            <b>Closed</b> by {batch.closedBy ?? 'somebody'} on {day(batch.closedAt!)}: it is only read.
          </span>
          <button className="link" onClick={() => setOpening(true)}>
            open it again …
          </button>
        </>
      )}
      {opening && <Reopen handle={handle} onClose={() => setOpening(false)} />}
    </p>
  );
};
