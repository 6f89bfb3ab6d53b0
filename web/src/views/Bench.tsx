import { useEffect, useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { api } from '@bistre/contract';
import { STATION_NAMES, type Step } from '@bistre/core';
import { BenchDrawing } from '../drawing/BenchDrawing';
import { RoundDrawing } from '../drawing/round/RoundDrawing';
import type { RoundShown } from '../data/reckon.worker';
import { call, messageOf } from '../data/api';
import { useBatch, useShown, type BatchHandle } from '../data/use-batch';
import { MeasureField } from '../parts/fields';
import { useHotkey } from '../parts/hotkeys';
import { Caution } from '../parts/Part';
import { LetterStep, NumberStep, RingStep, RunOutStep, SlowStep } from '../stations/drive/checks';
import { CupPanel } from '../stations/drive/CupPanel';
import { KerfCheck } from '../stations/hold/KerfCheck';
import { SimPanel } from '../stations/sim/SimPanel';

const big = 'act !min-h-14 !px-8 !text-lg justify-center';

/** A mark's reading at the bench: typed, or aimed at on the simulated machine. */
const TakeReading = ({
  handle,
  step,
  onTaken,
  onHead,
}: {
  handle: BatchHandle;
  step: Step & { takes: { kind: 'reading'; mark: number; purpose: 'place' | 'reread' } };
  onTaken: () => void;
  onHead: (at: { x: number; y: number }) => void;
}) => {
  const { mark, purpose } = step.takes;
  const [x, setX] = useState<number | null>(null);
  const [y, setY] = useState<number | null>(null);
  const [simulated, setSimulated] = useState(() => sessionStorage.getItem('bistre.sim') === 'yes');
  const last = handle.batch.readings.filter((r) => r.mark === mark && r.purpose === purpose).at(-1);
  const take = async (nx: number, ny: number, source: 'typed' | 'simulated machine'): Promise<void> => {
    if (!(await handle.act(api.takeReading, { body: { mark, x: nx, y: ny, source, purpose } }))) return;
    await handle.act(api.tick, { params: { step: step.id }, body: { done: true } });
    onTaken();
  };
  return (
    <div className="mt-5">
      {last && (
        <p className="mb-2 text-lg">
          Last read {last.x.toFixed(2)}, {last.y.toFixed(2)} by {last.by}.
        </p>
      )}
      {simulated ? (
        <div className="max-w-2xl">
          <SimPanel
            handle={handle}
            mark={mark}
            purpose={purpose}
            onHead={onHead}
            onReading={(nx, ny) => void take(nx, ny, 'simulated machine')}
          />
        </div>
      ) : (
        <div
          className="grid max-w-xl grid-cols-[1fr_1fr_auto] items-end gap-3"
          onKeyDown={(e) => {
            if (e.key === 'Enter' && x !== null && y !== null) void take(x, y, 'typed');
          }}
        >
          <MeasureField
            label={`mark ${mark}, x on the machine`}
            value={null}
            draft={`bench.${handle.batch.id}.${step.id}.x`}
            onCommit={setX}
            autoFocus
          />
          <MeasureField
            label={`mark ${mark}, y on the machine`}
            value={null}
            draft={`bench.${handle.batch.id}.${step.id}.y`}
            onCommit={setY}
          />
          <button className={big} disabled={x === null || y === null} onClick={() => void take(x!, y!, 'typed')}>
            Keep
          </button>
        </div>
      )}
      <button
        className="link mt-2"
        onClick={() => {
          sessionStorage.setItem('bistre.sim', simulated ? 'no' : 'yes');
          setSimulated(!simulated);
        }}
      >
        {simulated ? 'type the reading' : 'use the simulated machine'}
      </button>
    </div>
  );
};

/** Lets the simulated drive burn the piece that lies on it, and says where it landed. */
const BurnOnDrive = ({ handle }: { handle: BatchHandle }) => {
  const [landed, setLanded] = useState<string | null>(null);
  if (sessionStorage.getItem('bistre.sim') !== 'yes') return null;
  const burn = async (): Promise<void> => {
    try {
      const run = await call(api.cupBurn, { params: { id: handle.batch.id }, body: { what: 'piece' } });
      setLanded(
        run.thrown
          ? 'The blank left the rollers: look at the axis acceleration.'
          : `Burned: off by ${run.dx?.toFixed(2) ?? '–'} mm around, ${run.dy?.toFixed(2) ?? '–'} mm along.`,
      );
    } catch (error) {
      setLanded(messageOf(error));
    }
  };
  return (
    <p className="my-3 flex flex-wrap items-center gap-4 text-xl">
      <button className={big} onClick={() => void burn()}>
        Burn it on the simulated drive
      </button>
      <span role="status">{landed}</span>
    </p>
  );
};

/** Where a run stands, with the two or three things that can be done next. */
const RunStep = ({
  handle,
  openLoad,
  nextSlot,
  done,
}: {
  handle: BatchHandle;
  openLoad: number | null;
  nextSlot: number | null;
  done: number;
}) => {
  const { batch } = handle;
  if (openLoad === null && done > 0 && !batch.firstApproved)
    return (
      <p className="mt-5">
        <button
          className={`${big} act-main`}
          onClick={() => void handle.act(api.approveFirst, { body: { approved: true } })}
        >
          Approve the first piece
        </button>
      </p>
    );
  if (openLoad === null)
    return (
      <p className="mt-5">
        <button className={`${big} act-main`} onClick={() => void handle.act(api.startLoad)}>
          It is loaded
        </button>
      </p>
    );
  const piece = batch.pieces.find((p) => p.state === 'loaded' && p.slot === nextSlot);
  return (
    <div className="mt-5">
      <p className="text-[40px] leading-tight font-bold">
        {batch.drive ? `Piece ${piece?.ordinal ?? ''}` : `Slot ${nextSlot}`}
      </p>
      {batch.drive && <BurnOnDrive key={piece?.id} handle={handle} />}
      <p className="text-2xl">{piece ? Object.values(batch.roster[piece.ordinal - 1] ?? {}).join(' · ') : ''}</p>
      <p className="mt-4 flex flex-wrap gap-3">
        <button
          className={`${big} act-main`}
          onClick={() =>
            void handle.act(api.judgePieces, { body: { pieces: [{ slot: nextSlot!, state: 'done', cause: null }] } })
          }
        >
          Done
        </button>
        {(['off position', 'mark too faint', 'moved while burning', 'blank flawed'] as const).map((cause) => (
          <button
            key={cause}
            className={`${big} act-danger`}
            onClick={() =>
              void handle.act(api.judgePieces, { body: { pieces: [{ slot: nextSlot!, state: 'scrap', cause }] } })
            }
          >
            Scrap: {cause}
          </button>
        ))}
      </p>
    </div>
  );
};

/** What a drive's step takes: the number, the lowered axis, a ring, the F; with the simulated drive beside it. */
const DriveTakes = ({
  handle,
  round,
  kind,
  step,
}: {
  handle: BatchHandle;
  round: RoundShown;
  kind: string | undefined;
  step: string;
}) => {
  const [simulated, setSimulated] = useState(() => sessionStorage.getItem('bistre.sim') === 'yes');
  const on = round.on!;
  if (!step.startsWith('drive.') || !kind) return null;
  return (
    <>
      {kind === 'number' && <NumberStep handle={handle} on={on} large />}
      {kind === 'slow' && <SlowStep handle={handle} on={on} large />}
      {kind === 'ring' && <RingStep handle={handle} on={on} large />}
      {kind === 'letter' && <LetterStep handle={handle} large />}
      {kind === 'run-out' && <RunOutStep handle={handle} />}
      {simulated && (
        <div className="mt-3 max-w-2xl">
          <CupPanel handle={handle} round={round} />
        </div>
      )}
      <button
        className="link mt-2"
        onClick={() => {
          sessionStorage.setItem('bistre.sim', simulated ? 'no' : 'yes');
          setSimulated(!simulated);
        }}
      >
        {simulated ? 'leave the simulated drive' : 'use the simulated drive'}
      </button>
    </>
  );
};

/** One step at a time, readable from two metres, back where it was after a reload. */
export const Bench = () => {
  const { id = '' } = useParams();
  const [params, setParams] = useSearchParams();
  const { handle, error } = useBatch(id);
  const shown = useShown(handle?.batch ?? null);
  const [head, setHead] = useState<{ x: number; y: number } | undefined>();
  const steps = shown?.steps ?? [];
  const done = new Set([
    ...(handle?.batch.ticks.map((t) => t.step) ?? []),
    ...steps.filter((s) => s.done).map((s) => s.id),
  ]);
  const firstOpen = Math.max(
    0,
    steps.findIndex((s) => !done.has(s.id)),
  );
  const wanted = params.get('step');
  const found = steps.findIndex((s) => s.id === wanted);
  const index = found >= 0 ? found : firstOpen;
  const step = steps[index];
  const go = (to: number): void => {
    const next = steps[Math.min(steps.length - 1, Math.max(0, to))];
    if (next) setParams({ step: next.id }, { replace: true });
  };
  useEffect(() => {
    if (step && wanted !== step.id) setParams({ step: step.id }, { replace: true });
  }, [step, wanted, setParams]);
  useHotkey('ArrowRight', () => go(index + 1));
  useHotkey('ArrowLeft', () => go(index - 1));
  if (!handle || !shown || !step)
    return <main className="p-8">{error ? messageOf(error) : 'Opening the bench view …'}</main>;
  const { batch } = handle;
  const ticked = done.has(step.id);
  const tickAndGo = async (): Promise<void> => {
    if (await handle.act(api.tick, { params: { step: step.id }, body: { done: true } })) go(index + 1);
  };
  const { takes } = step;
  return (
    <div className="flex min-h-dvh flex-col bg-sheet">
      <header className="flex h-12 shrink-0 items-center justify-between border-b border-ink px-6">
        <h1 className="truncate">
          <b>{batch.name}</b>{' '}
          <span className="text-soft">
            · {STATION_NAMES[step.station]} · {step.part === 'do' ? 'Do' : 'Check'} · step {index + 1} of {steps.length}
          </span>
        </h1>
        <Link className="act" to={`/batches/${id}/${step.station}`}>
          Leave the bench view
        </Link>
      </header>
      <svg viewBox={`0 0 ${steps.length} 1`} preserveAspectRatio="none" className="h-2 w-full" aria-hidden>
        {steps.map((s, i) => (
          <rect
            key={s.id}
            x={i + 0.04}
            width={0.92}
            height={1}
            className={i === index ? 'fill-blue' : done.has(s.id) ? 'fill-verdigris' : 'fill-hairline'}
          />
        ))}
      </svg>
      <main className="grid flex-1 grid-cols-[minmax(0,1fr)_minmax(0,40%)] gap-6 px-8 py-6 max-[900px]:grid-cols-1">
        <div>
          <h2 className="text-[34px] leading-tight font-bold">{step.title}</h2>
          {step.detail && <p className="mt-3 max-w-3xl text-[21px] leading-snug">{step.detail}</p>}
          {step.figure && (
            <p className="mt-4">
              <span className="block text-lg text-soft">{step.figure.label}</span>
              <span className="text-[76px] leading-none font-bold">{step.figure.value}</span>{' '}
              <span className="text-3xl">{step.figure.unit}</span>
            </p>
          )}
          {takes?.kind === 'reading' && (
            <TakeReading
              key={step.id}
              handle={handle}
              step={step as Step & { takes: { kind: 'reading'; mark: number; purpose: 'place' | 'reread' } }}
              onHead={setHead}
              onTaken={() => go(index + 1)}
            />
          )}
          {takes?.kind === 'reading' && shown.reckoning.place.consistency && (
            <p
              className={`mt-4 text-xl ${shown.reckoning.place.consistency.verdict === 'agrees' ? 'text-verdigris' : 'text-oxide'}`}
            >
              {shown.reckoning.place.consistency.message}
            </p>
          )}
          {takes?.kind === 'kerf' && (
            <div className="mt-5 max-w-2xl text-lg">
              <KerfCheck handle={handle} />
            </div>
          )}
          {shown.reckoning.round?.on && (
            <DriveTakes handle={handle} round={shown.reckoning.round} kind={takes?.kind} step={step.id} />
          )}
          {takes?.kind === 'run' && (
            <RunStep
              handle={handle}
              openLoad={shown.reckoning.run.openLoad}
              nextSlot={shown.reckoning.run.nextSlot}
              done={shown.reckoning.run.done}
            />
          )}
          {step.caution && (
            <div className="mt-6 max-w-3xl text-[17px]">
              <Caution>{step.caution}</Caution>
            </div>
          )}
        </div>
        <div className="min-h-[320px] border border-hairline">
          {shown.reckoning.round ? (
            <RoundDrawing
              key={step.station}
              handle={handle}
              round={shown.reckoning.round}
              first={step.station === 'drive' ? 'drive' : 'wrap'}
            />
          ) : (
            <BenchDrawing
              key={step.station}
              machine={batch.machine}
              shown={shown}
              fit={step.station === 'hold' ? 'board' : 'bed'}
              head={head}
              showOutline={step.id === 'place.walk'}
            />
          )}
        </div>
      </main>
      <footer className="sticky bottom-0 flex gap-4 border-t border-ink bg-sheet px-8 py-3">
        <button className={big} disabled={index === 0} onClick={() => go(index - 1)}>
          ← Back
        </button>
        <p className="flex flex-1 items-center justify-center text-lg text-soft">
          {ticked
            ? `done by ${batch.ticks.find((t) => t.step === step.id)?.by ?? batch.readings.at(-1)?.by ?? ''}`
            : ''}
        </p>
        {takes?.kind !== 'run' && !ticked && (
          <button className={`${big} act-main min-w-56`} onClick={() => void tickAndGo()}>
            Done, next →
          </button>
        )}
        <button
          className={`${big} ${ticked || takes?.kind === 'run' ? 'act-main min-w-56' : ''}`}
          disabled={index === steps.length - 1}
          onClick={() => go(index + 1)}
        >
          {ticked || takes?.kind === 'run' ? 'Next →' : 'Skip →'}
        </button>
      </footer>
    </div>
  );
};
