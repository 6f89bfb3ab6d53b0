import { useState } from 'react';
import { api } from '@bistre/contract';
import type { Result, Roster } from '@bistre/core';
import type { BatchHandle } from '../../data/use-batch';
import { reckoner } from '../../data/worker';
import { Finding } from '../../parts/Part';
import { Modal } from '../../parts/Modal';

/** Brings names in: a CSV file, or rows pasted from a spreadsheet. Nothing is kept until it reads well. */
export const RosterDialog = ({ handle, onClose }: { handle: BatchHandle; onClose: () => void }) => {
  const { batch } = handle;
  const draft = `bistre.roster.${batch.id}`;
  const [text, setText] = useState(() => sessionStorage.getItem(draft) ?? '');
  const [read, setRead] = useState<Result<Roster> | null>(null);
  const look = async (next: string): Promise<void> => {
    setText(next);
    sessionStorage.setItem(draft, next.length < 500_000 ? next : '');
    setRead(next.trim() === '' ? null : await reckoner().roster(next));
  };
  const file = async (chosen: File | undefined): Promise<void> => {
    if (!chosen) return;
    if (chosen.size > 8_000_000) {
      setRead({
        ok: false,
        problem: {
          code: 'too-large',
          message: `${chosen.name} is ${(chosen.size / 1e6).toFixed(1)} MB; at most 8 MB are read.`,
        },
      });
      return;
    }
    setRead(await reckoner().rosterFile(new Uint8Array(await chosen.arrayBuffer())));
  };
  const keep = async (roster: Roster): Promise<void> => {
    const good = await handle.act(api.saveRoster, {
      body: { columns: [...roster.columns], rows: roster.rows.map((r) => ({ ...r })) },
    });
    if (!good) return;
    sessionStorage.removeItem(draft);
    onClose();
  };
  const roster = read?.ok ? read.value : null;
  return (
    <Modal
      open
      wide
      onOpenChange={(open) => {
        if (!open) onClose();
      }}
      title="Bring in the roster"
      note={`One row for each of the ${batch.quantity} pieces, in the order the slots are filled. A first row of headings names the columns.`}
    >
      <label className="block text-[13px] text-soft" htmlFor="roster-file">
        CSV file
      </label>
      <input
        id="roster-file"
        type="file"
        accept=".csv,.txt,.tsv,text/csv"
        className="mb-3"
        onChange={(e) => void file(e.target.files?.[0])}
      />
      <label className="block text-[13px] text-soft" htmlFor="roster-text">
        or paste the rows here
      </label>
      <textarea
        id="roster-text"
        className="field !h-36 py-2"
        value={text}
        onChange={(e) => void look(e.target.value)}
        placeholder={'name,lane\nKESTREL,LANE 1'}
      />
      {read && !read.ok && <Finding tone="out">{read.problem.message}</Finding>}
      {roster && (
        <>
          <p className="my-2">
            <b>{roster.rows.length} rows</b>, {roster.columns.length} columns
            {roster.encoding === 'text' ? '' : `, ${roster.encoding}`}.
            {roster.rows.length !== batch.quantity && (
              <span className="text-ochre"> The batch has {batch.quantity} pieces.</span>
            )}{' '}
            {roster.notes.join(' ')}
          </p>
          <div className="max-h-48 overflow-auto border border-hairline" tabIndex={0}>
            <table className="w-full">
              <thead>
                <tr className="text-left text-[13px] text-soft">
                  <th className="px-2 font-normal">piece</th>
                  {roster.columns.map((c) => (
                    <th key={c} className="px-2 font-normal">
                      {c}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {roster.rows.slice(0, 50).map((row, i) => (
                  <tr key={i} className="border-t border-hairline">
                    <td className="px-2 text-soft">{i + 1}</td>
                    {roster.columns.map((c) => (
                      <td key={c} className="px-2">
                        {row[c]}
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </>
      )}
      <p className="mt-4 flex justify-end gap-3">
        <button className="act" onClick={onClose}>
          Leave it
        </button>
        <button className="act act-main" disabled={!roster} onClick={() => roster && void keep(roster)}>
          Use these {roster?.rows.length ?? ''} rows
        </button>
      </p>
    </Modal>
  );
};
