import { Suspense, useEffect, useRef, useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { api, photographPath, type BatchDocument, type FileName } from '@bistre/contract';
import { inHand, STATION_NAMES, type Step } from '@bistre/core';
import { messageOf } from '../data/api';
import { doneSteps, stepAfter } from '../data/go-on';
import { useBatch, useShown } from '../data/use-batch';
import { Operator } from '../parts/Operator';
import { useHotkey } from '../parts/hotkeys';
import { Caution } from '../parts/Part';
import { FileLinks, GatesOf } from '../parts/FileLinks';
import { SimulatedBurn } from '../stations/sim/SimulatedBurn';
import { useWayPages } from '../ways';
import type { BatchProps } from '../ways/pages';
import { big, RunStep, TakeAnyway, TakeReading } from './bench/takes';
import { Timer } from './bench/Timer';

/** Who ticked a step, or read what it asked for. */
const doneBy = (batch: BatchDocument, step: string): string => {
  const by = batch.ticks.find((t) => t.step === step)?.by ?? batch.readings.at(-1)?.by;
  return by ? `done by ${by}` : 'done';
};

const OPENING = 'Opening the bench view …';

/** One step at a time, readable from two metres, back where it was after a reload. */
export const Bench = () => {
  const { id = '' } = useParams();
  const { handle, error } = useBatch(id);
  const shown = useShown(handle?.batch ?? null);
  if (!handle || !shown || shown.steps.length === 0)
    return <main className="p-8">{error ? messageOf(error) : OPENING}</main>;
  return (
    <Suspense fallback={<main className="p-8">{OPENING}</main>}>
      <BenchSteps handle={handle} shown={shown} />
    </Suspense>
  );
};

/** The steps of a batch, one at a time. */
export const BenchSteps = ({ handle, shown }: BatchProps) => {
  const [params, setParams] = useSearchParams();
  const [head, setHead] = useState<{ x: number; y: number } | undefined>();
  const { batch } = handle;
  const pages = useWayPages(batch);
  const { steps } = shown;
  const done = doneSteps(steps, batch);
  const firstOpen = Math.max(
    0,
    steps.findIndex((s) => !done.has(s.id)),
  );
  const wanted = params.get('step');
  const found = steps.findIndex((s) => s.id === wanted);
  const last = useRef(firstOpen);
  const index = found >= 0 ? found : (stepAfter(steps, done, wanted ?? '', last.current) ?? firstOpen);
  useEffect(() => {
    last.current = index;
  }, [index]);
  const step = steps[index]!;
  const go = (to: number): void => {
    const next = steps[Math.min(steps.length - 1, Math.max(0, to))];
    if (next) setParams({ step: next.id }, { replace: true });
  };
  useEffect(() => {
    if (wanted !== step.id) setParams({ step: step.id }, { replace: true });
  }, [step, wanted, setParams]);
  useHotkey('ArrowRight', () => go(index + 1));
  useHotkey('ArrowLeft', () => go(index - 1));
  const ticked = done.has(step.id);
  const tickAndGo = async (): Promise<void> => {
    if (await handle.act(api.tick, { params: { step: step.id }, body: { done: true } })) go(index + 1);
  };
  const { takes } = step;
  const hand = inHand(step);
  const byHand = takes?.kind !== 'run' && step.ticked !== false;
  const goesOn = ticked || takes?.kind === 'run';
  const isLast = index === steps.length - 1;
  return (
    <div className="flex min-h-dvh flex-col bg-sheet">
      <title>{`${step.title} · ${batch.name} · Bistre`}</title>
      <p role="status" className="sr-only">
        Step {index + 1} of {steps.length}: {step.title}
      </p>
      <header className="flex min-h-14 shrink-0 flex-wrap items-center justify-between gap-x-4 border-b border-ink px-6">
        <h1 className="min-w-0 py-1">
          <b>{batch.name}</b>{' '}
          <span className="text-soft">
            · {STATION_NAMES[step.station]} · {step.part === 'do' ? 'Do' : 'Check'} · step {index + 1} of {steps.length}
          </span>
        </h1>
        <span className="flex flex-wrap items-center gap-x-4">
          <Operator large />
          <Link className="act !min-h-11 whitespace-nowrap" to={`/batches/${batch.id}/${step.station}`}>
            Leave the bench view
          </Link>
        </span>
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
      <main
        className={`grid flex-1 gap-6 px-8 py-6 max-[900px]:grid-cols-1 max-[700px]:px-4 ${
          // Large where it is about a place; where it is about a number, that is.
          step.figure || takes?.kind === 'samples'
            ? 'grid-cols-[minmax(0,1fr)_minmax(0,40%)]'
            : 'grid-cols-[minmax(0,1fr)_minmax(0,40%)] min-[1200px]:grid-cols-[minmax(0,1fr)_minmax(0,54%)]'
        }`}
      >
        <div>
          <h2 className="text-[34px] leading-tight font-bold">{step.title}</h2>
          {step.shops && (
            <p className="text-lg text-soft">
              A step of this shop.{' '}
              <Link className="link" to={`/shelf/steps/${step.id.slice('shop.'.length)}`}>
                change it
              </Link>
            </p>
          )}
          {step.detail && <p className="mt-3 max-w-3xl text-[21px] leading-snug">{step.detail}</p>}
          {hand.length > 0 && (
            <p className="mt-2 text-lg text-soft">
              At hand: <span className="text-ink">{hand.join(', ')}</span>
            </p>
          )}
          {step.figure && (
            <p className="mt-4">
              <span className="block text-lg text-soft">{step.figure.label}</span>
              <span className="text-[76px] leading-[1.2] font-bold">{step.figure.value}</span>{' '}
              <span className="text-3xl">{step.figure.unit}</span>
            </p>
          )}
          {step.minutes !== undefined && (
            <Timer key={`clock ${step.id}`} id={`${batch.id}.${step.id}`} minutes={step.minutes} />
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
          <TakeAnyway key={`any ${step.id}`} handle={handle} shown={shown} step={step} />
          {takes && pages.Take && <pages.Take handle={handle} shown={shown} step={step} />}
          {step.files && step.files.length > 0 && (
            <div className="mt-4 text-lg">
              <GatesOf value={shown.gates}>
                <FileLinks
                  batchId={batch.id}
                  files={step.files as readonly (readonly [FileName, string])[]}
                  label={step.files.length === 1 ? 'File' : 'Files'}
                />
              </GatesOf>
            </div>
          )}
          {takes?.kind === 'burn' && !ticked && <SimulatedBurn handle={handle} />}
          {takes?.kind === 'run' && (
            <GatesOf value={shown.gates}>
              <RunStep handle={handle} shown={shown} pages={pages} />
            </GatesOf>
          )}
          {step.caution && (
            <div className="mt-6 max-w-3xl text-[17px]">
              <Caution>{step.caution}</Caution>
            </div>
          )}
        </div>
        <div className="bench-drawing min-h-[320px] border border-hairline">
          {step.photoId ? (
            <img src={photographPath(step.photoId)} alt={step.title} className="mx-auto max-h-[70dvh]" />
          ) : (
            <pages.Drawing handle={handle} shown={shown} station={step.station} step={step} head={head} />
          )}
        </div>
      </main>
      <footer className="sticky bottom-0 flex flex-wrap gap-4 border-t border-ink bg-sheet px-8 py-3 max-[700px]:gap-2 max-[700px]:px-2">
        <button className={big} disabled={index === 0} onClick={() => go(index - 1)}>
          ← Back
        </button>
        <p className="flex flex-1 items-center justify-center text-lg text-soft">
          {ticked ? doneBy(batch, step.id) : ''}
        </p>
        {!goesOn && (
          <button className={big} disabled={isLast} onClick={() => go(index + 1)}>
            Skip →
          </button>
        )}
        {/* One button in one place: a press holds though the step is done by a reading while the finger is down. */}
        {(goesOn || byHand) && (
          <button
            className={`${big} act-main min-w-56`}
            disabled={goesOn && isLast}
            onClick={() => (goesOn ? go(index + 1) : void tickAndGo())}
          >
            {goesOn ? 'Next →' : 'Done, next →'}
          </button>
        )}
      </footer>
    </div>
  );
};
