import { Link } from 'react-router';
import { useQuery } from '@tanstack/react-query';
import { api } from '@bistre/contract';
import { counted } from '@bistre/core';
import { call } from '../../data/api';
import { onDate } from './form';

/** The batches that a thing was used by, the latest first; each can be begun again. */
export const useRuns = (id: string) => useQuery({ queryKey: ['runs', id], queryFn: () => call(api.listRuns, { params: { id } }) }); // prettier-ignore

export const Runs = ({ id, revisions = false }: { id: string; revisions?: boolean }) => {
  const { data: runs } = useRuns(id);
  if (!runs) return null;
  return (
    <section aria-label="Runs" className="mt-8">
      <h2 className="part-title mb-1">Runs</h2>
      {runs.length === 0 ? (
        <p className="text-soft">No batch used it yet.</p>
      ) : (
        <div className="overflow-x-auto">
          <table className="w-full">
            <thead>
              <tr className="text-left text-[13px] text-soft">
                <th className="pr-4 font-normal">batch</th>
                <th className="pr-4 font-normal">on</th>
                {revisions && <th className="pr-4 font-normal">revision</th>}
                <th className="pr-4 font-normal">done</th>
                <th className="pr-4 font-normal">last worked on</th>
                <th />
              </tr>
            </thead>
            <tbody>
              {runs.map((r) => (
                <tr key={r.id} className="border-t border-hairline">
                  <td className="py-2 pr-4">
                    <Link className="link" to={`/batches/${r.id}`}>
                      {r.name}
                    </Link>
                  </td>
                  <td className="pr-4">{r.machineName}</td>
                  {revisions && <td className="pr-4">{r.revision === null ? '–' : `r${r.revision}`}</td>}
                  <td className="pr-4 whitespace-nowrap">
                    {r.done} of {counted(r.quantity, 'piece')}
                    {r.scrapped > 0 && `, ${r.scrapped} scrapped`}
                  </td>
                  <td className="pr-4 whitespace-nowrap">
                    {onDate(r.closedAt ?? r.updatedAt)}
                    {r.closedAt ? '' : ', open'}
                  </td>
                  <td>
                    <Link className="link whitespace-nowrap" to={`/batches/${r.id}/again`}>
                      again<span className="sr-only"> as {r.name}</span>
                    </Link>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  );
};
