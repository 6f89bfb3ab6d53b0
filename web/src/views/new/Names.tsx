import { useState } from 'react';
import type { Roster } from '@bistre/core';
import { counted } from '@bistre/core';
import { reckoner } from '../../data/worker';
import { Finding } from '../../parts/Part';

/** A list of names, pasted or from a file, read as it comes; put right later, at the Run station. */
export const Names = ({
  list,
  onList,
  letters = 'The letters are set at the Run station.',
}: {
  list: Roster | null;
  onList: (list: Roster | null) => void;
  /** What becomes of its columns. */
  letters?: string;
}) => {
  const [text, setText] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const take = async (read: ReturnType<ReturnType<typeof reckoner>['roster']> | null): Promise<void> => {
    const result = await read;
    setProblem(result && !result.ok ? result.problem.message : null);
    onList(result?.ok ? result.value : null);
  };
  return (
    <div>
      <label className="block text-[13px] text-soft" htmlFor="new-names">
        Names or numbers, a line a piece: pasted here, or as a CSV file
      </label>
      <textarea
        id="new-names"
        className="field !h-20 py-2"
        value={text}
        placeholder={'name,lane\nKESTREL,LANE 1'}
        onChange={(e) => {
          setText(e.target.value);
          void take(e.target.value.trim() === '' ? null : reckoner().roster(e.target.value, null));
        }}
      />
      <input
        type="file"
        aria-label="CSV file of names"
        accept=".csv,.txt,.tsv,text/csv"
        className="mt-1 block"
        onChange={(e) => {
          const file = e.target.files?.[0];
          setText('');
          if (file) void file.arrayBuffer().then((bytes) => take(reckoner().rosterFile(new Uint8Array(bytes), null)));
        }}
      />
      {problem && <Finding tone="out">{problem}</Finding>}
      {list && (
        <p className="mt-1">
          <b>{counted(list.rows.length, 'row')}</b>: {list.columns.join(', ')}. {letters}
        </p>
      )}
    </div>
  );
};
