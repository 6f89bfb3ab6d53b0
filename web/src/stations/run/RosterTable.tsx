import { useState } from 'react';
import type { Fix, Roster } from '@bistre/core';

/** Rows that are shown at once. */
const SHOWN = 25;

/** A list as it would be kept: every cell may be put right where it stands. */
export const RosterTable = ({
  list: { columns, rows },
  onFix,
}: {
  list: Pick<Roster, 'columns' | 'rows'>;
  onFix: (fix: Fix) => void;
}) => {
  const [from, setFrom] = useState(0);
  const first = Math.min(from, Math.max(0, Math.floor((rows.length - 1) / SHOWN) * SHOWN));
  const last = Math.min(rows.length, first + SHOWN);
  return (
    <>
      <div className="max-h-56 overflow-auto border border-hairline" tabIndex={0} aria-label="The list">
        <table className="w-full">
          <thead className="sticky top-0 z-10 bg-sheet">
            <tr className="text-left text-[13px] text-soft">
              <th className="px-2 font-normal">piece</th>
              {columns.map((c) => (
                <th key={c} className="px-2 font-normal">
                  {c}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.slice(first, last).map((row, i) => (
              <tr key={first + i} className="border-t border-hairline">
                <td className="px-2 text-soft">{first + i + 1}</td>
                {columns.map((c) => (
                  <td key={c} className="p-0">
                    <input
                      className="w-full min-w-24 bg-transparent px-2 py-1 focus-visible:outline-2 focus-visible:-outline-offset-2 focus-visible:outline-blue"
                      aria-label={`${c} of piece ${first + i + 1}`}
                      value={row[c] ?? ''}
                      maxLength={200}
                      onChange={(e) => onFix({ row: first + i, column: c, value: e.target.value })}
                    />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {rows.length > SHOWN && (
        <p className="mt-1 flex items-center gap-4 text-[13px] text-soft">
          <button
            className="link disabled:text-soft disabled:no-underline"
            disabled={first === 0}
            onClick={() => setFrom(first - SHOWN)}
          >
            before
          </button>
          <span>
            pieces {first + 1} to {last} of {rows.length}
          </span>
          <button
            className="link disabled:text-soft disabled:no-underline"
            disabled={last === rows.length}
            onClick={() => setFrom(first + SHOWN)}
          >
            after
          </button>
        </p>
      )}
    </>
  );
};
