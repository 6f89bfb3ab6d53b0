import { useState } from 'react';
import { useInfiniteQuery } from '@tanstack/react-query';
import { Link, useSearchParams } from 'react-router';
import { api, type BatchDocument } from '@bistre/contract';
import { useQuery } from '@tanstack/react-query';
import { call, messageOf } from '../data/api';
import { useBatches } from '../data/queries';
import { CalibrationChart } from '../parts/CalibrationChart';
import { OffsetChart } from '../parts/OffsetChart';
import { Select } from '../parts/fields';
import { TopBar } from '../parts/TopBar';

const KINDS = [
  '',
  'run',
  'load',
  'piece',
  'scrap',
  'first piece',
  'reading',
  'calibration',
  'sample',
  'setup',
  'fixture',
  'roster',
  'step',
  'file',
  'putback',
  'simulated',
  'shelf',
  'closed',
];

const Chart = ({ batchId }: { batchId: string }) => {
  const { data } = useQuery({
    queryKey: ['batch', batchId],
    queryFn: () => call(api.getBatch, { params: { id: batchId } }),
  });
  return data ? <OffsetChart batch={data as BatchDocument} /> : null;
};

/** Everything that happened, newest first, searchable. */
export const Log = () => {
  const [params, setParams] = useSearchParams();
  const [q, setQ] = useState(params.get('q') ?? '');
  const batch = params.get('batch') ?? '';
  const kind = params.get('kind') ?? '';
  const set = (key: string, value: string): void =>
    setParams(
      (old) => {
        if (value) old.set(key, value);
        else old.delete(key);
        return old;
      },
      { replace: true },
    );
  const word = params.get('q') ?? '';
  const { data, error, fetchNextPage, hasNextPage } = useInfiniteQuery({
    queryKey: ['log', batch, kind, word],
    initialPageParam: undefined as number | undefined,
    queryFn: ({ pageParam }) =>
      call(api.listLog, {
        query: {
          before: pageParam,
          batch: batch || undefined,
          kind: kind || undefined,
          q: word || undefined,
          limit: 60,
        } as never,
      }),
    getNextPageParam: (last) => last.next ?? undefined,
  });
  const open = useBatches().data ?? [];
  const closed = useBatches(true).data ?? [];
  const rows = data?.pages.flatMap((p) => p.rows) ?? [];
  return (
    <div className="flex min-h-dvh flex-col">
      <title>Log · Bistre</title>
      <TopBar>Log</TopBar>
      <main className="mx-auto w-full max-w-[1240px] flex-1 px-6 py-6">
        <h1 className="mb-4 text-3xl font-bold">Log</h1>
        <form
          className="mb-4 grid grid-cols-[2fr_1.4fr_1fr] gap-3"
          role="search"
          onSubmit={(e) => {
            e.preventDefault();
            set('q', q);
          }}
        >
          <label className="text-[13px] text-soft">
            words
            <input
              className="field"
              value={q}
              onChange={(e) => {
                setQ(e.target.value);
                set('q', e.target.value);
              }}
              placeholder="scrapped, mark 2, slate …"
            />
          </label>
          <Select
            label="Batch"
            value={batch}
            options={[['', 'all'], ...[...open, ...closed].map((b) => [b.id, b.name] as const)]}
            onChange={(v) => set('batch', v)}
          />
          <Select
            label="Kind"
            value={kind}
            options={KINDS.map((k) => [k, k || 'all'] as const)}
            onChange={(v) => set('kind', v)}
          />
        </form>
        {batch && (
          <p className="mb-2">
            <Link className="link" to={`/batches/${batch}/again`}>
              The same again
            </Link>
          </p>
        )}
        {batch && <Chart batchId={batch} />}
        {!batch && kind === 'calibration' && <CalibrationChart />}
        {error && <p className="text-oxide">{messageOf(error)}</p>}
        {data && rows.length === 0 && <p className="text-soft">Nothing of that kind has happened yet.</p>}
        <div data-scrolls className="overflow-x-auto">
          <table className="w-full border-t border-ink">
            <thead>
              <tr className="text-left text-[13px] text-soft">
                <th className="w-36 py-1 font-normal">when</th>
                <th className="w-24 font-normal">who</th>
                <th className="w-24 font-normal">kind</th>
                <th className="font-normal">what</th>
                <th className="w-44 font-normal">batch</th>
              </tr>
            </thead>
            <tbody>
              {rows.map((r) => (
                <tr
                  key={r.id}
                  className={`border-t border-hairline align-top ${r.undone ? 'text-soft line-through' : ''}`}
                >
                  <td className="py-1.5 whitespace-nowrap">
                    {new Date(r.at).toLocaleString('en-GB', {
                      day: '2-digit',
                      month: 'short',
                      hour: '2-digit',
                      minute: '2-digit',
                      second: '2-digit',
                    })}
                  </td>
                  <td className="py-1.5">{r.by}</td>
                  <td className={`py-1.5 ${r.kind === 'scrap' ? 'font-bold text-oxide' : ''}`}>{r.kind}</td>
                  <td className="py-1.5 pr-4">{r.summary}</td>
                  <td className="py-1.5">
                    {r.batchId && (
                      <Link className="link" to={`/batches/${r.batchId}`}>
                        {r.batchName}
                      </Link>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
        {hasNextPage && (
          <p className="mt-4">
            <button className="act" onClick={() => void fetchNextPage()}>
              Earlier
            </button>
          </p>
        )}
      </main>
    </div>
  );
};
