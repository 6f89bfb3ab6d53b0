import { useState } from 'react';
import { api } from '@bistre/contract';
import type { BatchHandle } from '../../data/use-batch';
import { Tick } from '../../parts/fields';

const WORDS = { setting: 'setting', was: 'it was', now: 'it is now' } as const;
const NOTHING = { setting: '', was: '', now: '' };

/** The machine settings that were changed for a batch, each with what it goes back to; and one more to remember. */
export const Putbacks = ({ handle }: { handle: BatchHandle }) => {
  const { putbacks } = handle.batch;
  const [adding, setAdding] = useState(NOTHING);
  const ready = Object.values(adding).every((text) => text.trim() !== '');
  const add = async (): Promise<void> => {
    if (await handle.act(api.addPutback, { body: adding })) setAdding(NOTHING);
  };
  return (
    <>
      {putbacks.length === 0 && <p className="py-1">None.</p>}
      {putbacks.map((p) => (
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
      <form
        className="mt-1 grid grid-cols-[1.6fr_1fr_1fr_4rem] items-end gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          if (ready) void add();
        }}
      >
        {(Object.keys(WORDS) as (keyof typeof WORDS)[]).map((k) => (
          <label key={k} className="text-[13px] text-soft">
            {WORDS[k]}
            <input
              className="field"
              value={adding[k]}
              maxLength={80}
              onChange={(e) => setAdding({ ...adding, [k]: e.target.value })}
            />
          </label>
        ))}
        <button className="act justify-center !px-1" disabled={!ready}>
          Add
        </button>
      </form>
    </>
  );
};
