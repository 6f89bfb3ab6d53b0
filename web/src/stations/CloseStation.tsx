import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { api } from '@bistre/contract';
import { percent } from '@bistre/core';
import { ask } from '../parts/ask';
import { Tick } from '../parts/fields';
import { Finding, Part } from '../parts/Part';
import { PutAway } from '../parts/PutAway';
import { Reading } from '../parts/Reading';
import { Steps } from '../parts/Steps';
import type { StationProps } from '../ways/pages';

const Notes = ({ label, value, onChange }: { label: string; value: string; onChange: (v: string) => void }) => (
  <label className="block text-[13px] text-soft">
    {label}
    <textarea
      className="field !h-16 py-1.5"
      value={value}
      maxLength={4000}
      onChange={(e) => onChange(e.target.value)}
    />
  </label>
);

/** Close: everything put back, what was learned kept. */
export const CloseStation = ({ handle, shown }: StationProps) => {
  const { batch } = handle;
  const navigate = useNavigate();
  const { run } = shown.reckoning;
  const [adding, setAdding] = useState({ setting: '', was: '', now: '' });
  const open = batch.putbacks.filter((p) => p.restoredAt === null).length;
  const ready = adding.setting.trim() !== '' && adding.was.trim() !== '' && adding.now.trim() !== '';
  return (
    <>
      <Part name="Measure">
        <p className="text-soft">Machine settings changed for this batch, to be put back:</p>
        {batch.putbacks.length === 0 && <p className="py-1">None.</p>}
        {batch.putbacks.map((p) => (
          <Tick
            key={p.id}
            label={
              <>
                {p.setting}: {p.now} back to <b>{p.was}</b>
              </>
            }
            checked={p.restoredAt !== null}
            onChange={(restored) =>
              void handle.act(api.restorePutback, { params: { putback: p.id }, body: { restored } })
            }
          />
        ))}
        <div className="mt-1 grid grid-cols-[1.6fr_1fr_1fr_4rem] items-end gap-2">
          {(['setting', 'was', 'now'] as const).map((k) => (
            <label key={k} className="text-[13px] text-soft">
              {k === 'was' ? 'it was' : k === 'now' ? 'it is now' : 'setting'}
              <input
                className="field"
                value={adding[k]}
                maxLength={80}
                onChange={(e) => setAdding({ ...adding, [k]: e.target.value })}
              />
            </label>
          ))}
          <button
            className="act justify-center !px-1"
            disabled={!ready}
            onClick={() =>
              void handle
                .act(api.addPutback, { body: adding })
                .then((good) => good && setAdding({ setting: '', was: '', now: '' }))
            }
          >
            Add
          </button>
        </div>
      </Part>
      <Part name="Reckon">
        <div className="readings">
          <Reading
            label="done"
            value={String(run.done)}
            unit={`of ${batch.quantity}`}
            tone={run.finished ? 'inside' : 'attention'}
          />
          <Reading
            label="yield"
            value={run.yield === null ? '–' : percent(run.yield)}
            note={`predicted ${percent(shown.reckoning.budget.yield)}`}
          />
          <Reading label="to put back" value={String(open)} tone={open > 0 ? 'out' : 'inside'} />
        </div>
      </Part>
      <Part name="Do">
        <Notes
          label="Notes for the log"
          value={batch.setup.close.notes}
          onChange={(notes) => handle.update('close', { ...batch.setup.close, notes })}
        />
        <Notes
          label="What to keep for the next time"
          value={batch.setup.close.keep}
          onChange={(keep) => handle.update('close', { ...batch.setup.close, keep })}
        />
        <Steps handle={handle} steps={shown.steps} station="close" part="do" />
      </Part>
      <Part name="Check">
        <Steps handle={handle} steps={shown.steps} station="close" part="check" />
        {batch.closedAt ? (
          <Finding tone="inside">
            Closed on {new Date(batch.closedAt).toLocaleString('en-GB')}.{' '}
            <Link className="link" to={`/log?batch=${batch.id}`}>
              See it in the Log.
            </Link>
          </Finding>
        ) : (
          <>
            {!run.finished && (
              <Finding tone="attention">
                {batch.quantity - run.done} pieces are not done. The batch can be closed short; the log will say so.
              </Finding>
            )}
            <p className="mt-2">
              <button
                className="act act-main"
                disabled={open > 0}
                onClick={() =>
                  void (
                    run.finished
                      ? Promise.resolve(true)
                      : ask(
                          'Close the batch short?',
                          `${batch.quantity - run.done} pieces are not done. They stay in the log as not done.`,
                          'Close it',
                          'Leave it open',
                        )
                  ).then((yes) => yes && handle.act(api.closeBatch))
                }
              >
                Close the batch
              </button>{' '}
              {open > 0 && <span className="ml-2 text-oxide">Put back {open} first.</span>}
            </p>
            {run.done === 0 && !batch.awayAt && (
              <p className="mt-3 text-[13px] text-soft">
                Begun by mistake?{' '}
                <PutAway
                  kind="batches"
                  id={batch.id}
                  name={batch.name}
                  words="put the batch away"
                  className="link"
                  after={() => void navigate('/')}
                />
              </p>
            )}
          </>
        )}
      </Part>
    </>
  );
};
