import { useState } from 'react';
import { Link } from 'react-router';
import type { BatchRow, MachineDocument } from '@bistre/contract';
import { roughly, STATION_NAMES, type StationId } from '@bistre/core';
import { AT_NEXT } from '../data/at-next';
import { messageOf } from '../data/api';
import { useBatches, useMachines } from '../data/queries';
import { PutAwayList } from '../parts/PutAway';
import { TopBar } from '../parts/TopBar';
import { inTimeOf, type InTime } from './board/in-time';
import { PieceDrawing } from './board/PieceDrawing';
import { Walks } from './board/Walks';

const due = (row: BatchRow): { words: string; late: boolean } => {
  if (!row.dueAt) return { words: 'no due time', late: false };
  const at = new Date(row.dueAt);
  return {
    words: at.toLocaleString('en-GB', {
      weekday: 'short',
      day: 'numeric',
      month: 'short',
      hour: '2-digit',
      minute: '2-digit',
    }),
    late: at.getTime() < Date.now(),
  };
};

const Progress = ({ row }: { row: BatchRow }) => (
  <svg
    viewBox="0 0 100 6"
    preserveAspectRatio="none"
    className="mt-1 h-1.5 w-full"
    role="img"
    aria-label={`${row.done} of ${row.quantity} done`}
  >
    <rect width="100" height="6" className="fill-hairline" />
    <rect width={(100 * row.done) / row.quantity} height="6" className="fill-verdigris" />
  </svg>
);

const TIMES: Readonly<Record<InTime['state'], readonly [string, string]>> = {
  'in time': ['tone tone-inside text-verdigris', 'in time'],
  close: ['tone tone-attention text-ochre', 'close'],
  late: ['tone tone-out text-oxide', 'will be late'],
  'no time set': ['text-soft', ''],
};

const Row = ({ row, time }: { row: BatchRow; time: InTime }) => {
  const { words, late } = due(row);
  const over = row.budget !== null && row.budget > row.tolerance;
  const [tone, says] = TIMES[time.state];
  return (
    <li className="border-t border-hairline">
      <Link
        to={`/batches/${row.id}/${row.station}`}
        state={AT_NEXT}
        className="grid grid-cols-[5.5rem_minmax(0,2.1fr)_minmax(0,2.4fr)_7rem_9rem_9.5rem] items-center gap-4 px-2 py-3 hover:bg-sheet max-[900px]:grid-cols-2"
      >
        <PieceDrawing of={row.picture} name={row.blankName} />
        <span className="min-w-0">
          <b className="block text-lg leading-tight">{row.name}</b>
          <span className="block leading-tight text-soft">{row.customer || row.blankName}</span>
        </span>
        <span className="min-w-0">
          <span className="block text-[13px] text-soft">
            {STATION_NAMES[row.station as StationId] ?? row.station}, waits to
          </span>
          <span className="block font-bold text-blue">{row.waits || 'be closed'}</span>
        </span>
        <span>
          <b className="text-xl">{row.done}</b> <span className="text-soft">of {row.quantity}</span>
          <Progress row={row} />
        </span>
        <span>
          <span className="block text-[13px] text-soft">predicted of allowed</span>
          <b className={over ? 'text-oxide' : 'text-verdigris'}>
            {row.budget === null ? '–' : row.budget.toFixed(2)} of {row.tolerance.toFixed(2)} mm
          </b>
          {over && <span className="block text-[13px] text-oxide">over</span>}
        </span>
        <span className={late ? 'text-oxide' : ''}>
          <span className="block text-[13px] text-soft">{late ? 'was due' : 'due'}</span>
          {words}
          <span className="block text-[13px] text-soft">
            {time.atLeast ? 'over ' : ''}
            {roughly(time.minutes)} of work {says && <b className={`${tone} whitespace-nowrap`}>{says}</b>}
          </span>
        </span>
      </Link>
      <Alarms of={row.name} alarms={batchAlarms(row)} />
    </li>
  );
};

interface Alarm {
  readonly tone: 'text-oxide' | 'text-ochre';
  readonly text: string;
  readonly to: string;
}

/** What wants attention, a line each, where it belongs: each the way to where it is mended. */
const Alarms = ({ of, alarms }: { of: string; alarms: readonly Alarm[] }) =>
  alarms.length === 0 ? null : (
    <ul aria-label={`Alarms of ${of}`}>
      {alarms.map((a) => (
        <li key={a.text}>
          <Link to={a.to} className={`inline-flex min-h-11 items-center px-2 ${a.tone} underline decoration-dotted underline-offset-4`}>
            {a.text}
          </Link>
        </li>
      ))}
    </ul>
  ); // prettier-ignore

/** What of a batch is not as it must be; that its budget is over stands in its row. */
const batchAlarms = (row: BatchRow): Alarm[] => [
  ...(row.openPutbacks > 0
    ? [{ tone: 'text-oxide' as const, text: `${row.openPutbacks} ${row.openPutbacks === 1 ? 'setting' : 'settings'} of ${row.machineName} not put back`, to: `/batches/${row.id}/close` }]
    : []),
  ...row.outOfDate.map((reason) => ({ tone: 'text-ochre' as const, text: `Board out of date. ${reason}`, to: `/batches/${row.id}/hold` })),
]; // prettier-ignore

const OLD = 90 * 86_400_000;

/** What of a machine is assumed, or was measured long ago. */
const machineAlarms = ({ id, profile: { pointerOffset, kerfMeasuredAt } }: MachineDocument): Alarm[] => {
  const to = `/shelf/machines/${id}`;
  const tone = 'text-ochre' as const;
  return [
    ...(pointerOffset === null ? [{ tone, text: 'pointer offset never measured, ± 0.3 mm is carried', to }] : []),
    ...(pointerOffset && Date.now() - new Date(pointerOffset.measuredAt).getTime() > OLD ? [{ tone, text: 'pointer offset is older than 90 days', to }] : []),
    ...(kerfMeasuredAt ? [] : [{ tone, text: 'kerf is assumed, cut a gauge strip', to }]),
  ];
}; // prettier-ignore

/** The Board: what is on, by machine and due time, and what each batch waits for. */
export const Board = () => {
  const { data: rows, error } = useBatches();
  const [closed, setClosed] = useState(false);
  const { data: old = [] } = useBatches(true);
  const { data: owned = [] } = useMachines();
  const machines = [...new Set((rows ?? []).map((r) => r.machineName))].sort();
  const times = new Map(machines.flatMap((m) => [...inTimeOf((rows ?? []).filter((r) => r.machineName === m), Date.now())])); // prettier-ignore
  return (
    <div className="flex min-h-dvh flex-col">
      <title>Board · Bistre</title>
      <TopBar>{new Date().toLocaleDateString('en-GB', { weekday: 'long', day: 'numeric', month: 'long' })}</TopBar>
      <main className="mx-auto w-full max-w-[1240px] flex-1 px-6 py-6">
        <div className="mb-5 flex items-end justify-between">
          <h1 className="text-3xl font-bold">Board</h1>
          <span className="flex items-center gap-5">
            <Link className="link" to="/read-in">
              Read a job in
            </Link>
            <Link className="act act-main" to="/new">
              New batch
            </Link>
          </span>
        </div>
        {rows && <Walks rows={rows} />}
        {error && <p className="text-oxide">{messageOf(error)}</p>}
        {rows?.length === 0 && (
          <p className="border border-hairline bg-sheet p-6 text-lg">
            Nothing is on. Begin with{' '}
            <Link className="link" to="/new">
              a new batch
            </Link>
            : what is engraved, how many, on which machine.
          </p>
        )}
        {machines.map((machine) => (
          <section key={machine} aria-label={machine} className="mb-7">
            <div className="part-title flex flex-wrap items-center gap-x-4">
              <h2>{machine}</h2>
              <div className="text-[15px] tracking-normal normal-case [&>ul]:flex [&>ul]:flex-wrap">
                <Alarms of={machine} alarms={owned.filter((m) => m.name === machine).flatMap(machineAlarms)} />
              </div>
            </div>
            <ul>
              {rows!
                .filter((r) => r.machineName === machine)
                .map((r) => (
                  <Row key={r.id} row={r} time={times.get(r.id)!} />
                ))}
            </ul>
          </section>
        ))}
        {old.length > 0 && (
          <section aria-label="Closed batches">
            <h2 className="part-title flex justify-between">
              Closed
              <button className="link tracking-normal normal-case" onClick={() => setClosed(!closed)}>
                {closed ? 'hide' : `show ${old.length}`}
              </button>
            </h2>
            {closed && (
              <ul>
                {old.map((r) => (
                  <li key={r.id} className="flex justify-between gap-4 border-t border-hairline px-2 py-2.5">
                    <Link className="link" to={`/batches/${r.id}/close`}>
                      {r.name}
                    </Link>
                    <span>
                      {r.done} of {r.quantity}
                      {r.yieldShare === null ? '' : `, yield ${(r.yieldShare * 100).toFixed(1)} %`}
                    </span>
                    <span className="flex gap-4">
                      <Link className="link" to={`/batches/${r.id}/again`}>
                        again
                      </Link>
                      <Link className="link" to={`/log?batch=${r.id}`}>
                        log
                      </Link>
                    </span>
                  </li>
                ))}
              </ul>
            )}
          </section>
        )}
        <PutAwayList kind="batches" />
      </main>
    </div>
  );
};
