import { useState, type ReactNode } from 'react';
import { api } from '@bistre/contract';
import {
  correctionsInForce,
  fixed,
  degrees,
  distance,
  MODEL_WORDS,
  parseReadingTable,
  overtakenOf,
  overtakenWords,
  pointerWords,
  UNMEASURED_POINTER,
  type Step,
  RADIAL_95,
} from '@bistre/core';
import { Choice, Measure, Select } from '../parts/fields';
import { FileLinks } from '../parts/FileLinks';
import { Moved } from '../parts/Moved';
import { Finding, Part } from '../parts/Part';
import { Reading } from '../parts/Reading';
import { TableBox } from '../parts/TableBox';
import { useSimulated } from '../parts/use-simulated';
import { Steps } from '../parts/Steps';
import type { BatchHandle } from '../data/use-batch';
import type { StationProps } from '../ways/pages';
import { SimPanel } from './sim/SimPanel';

const heightWords = (h: number): string =>
  Math.abs(h) < 0.05 ? 'in focus' : `${Math.abs(h).toFixed(1)} mm ${h > 0 ? 'over' : 'below'} focus`;

/** Where the hand types on after Enter in a field of a mark: the other number of the pair, then the next mark. */
const goOn = (row: HTMLElement, field: HTMLInputElement, pair: readonly [number | null, number | null]): void => {
  const fields = [...row.querySelectorAll('input')];
  const missing = pair.indexOf(null);
  if (missing >= 0) return void fields[fields[missing] === field ? 1 - missing : missing]?.focus();
  const next = row.nextElementSibling;
  if (next?.hasAttribute('data-mark')) next.querySelector('input')?.focus();
};

/** Two fields for one mark; the pair is saved when both are there and Enter is pressed. */
const MarkRow = ({
  handle,
  mark,
  role,
  offBy,
  suspect,
}: {
  handle: BatchHandle;
  mark: number;
  role: string;
  offBy: number | null;
  suspect: boolean;
}) => {
  const { batch } = handle;
  const last = batch.readings.filter((r) => r.mark === mark && r.purpose === 'place').at(-1);
  const [x, setX] = useState<number | null>(null);
  const [y, setY] = useState<number | null>(null);
  const take = (nx: number | null, ny: number | null): void => {
    if (nx === null || ny === null) return;
    setX(null);
    setY(null);
    for (const axis of ['x', 'y']) sessionStorage.removeItem(`bistre.field.mark.${batch.id}.${mark}.${axis}`);
    void handle.act(api.takeReading, { body: { mark, x: nx, y: ny, source: 'typed', purpose: 'place' } });
  };
  const key = last?.id ?? 'none';
  return (
    <div
      data-mark={mark}
      className="grid grid-cols-[5.2rem_1fr_1fr_6.2rem] items-start gap-2 border-t border-hairline py-1.5"
      onKeyDown={(e) => {
        if (e.key !== 'Enter' || !(e.target instanceof HTMLInputElement)) return;
        const pair = [x ?? last?.x ?? null, y ?? last?.y ?? null] as const;
        take(...pair);
        goOn(e.currentTarget, e.target, pair);
      }}
    >
      <b className={`pt-2 ${suspect ? 'text-oxide' : ''}`}>
        {mark}
        {role === 'check' ? ' check' : ''}
      </b>
      <Measure
        of={api.takeReading.body}
        at="x"
        key={`${key}x`}
        hideLabel
        label={`mark ${mark}, x on the machine`}
        value={x ?? last?.x ?? null}
        draft={`mark.${batch.id}.${mark}.x`}
        onCommit={(v) => {
          if (v !== last?.x) setX(v);
        }}
      />
      <Measure
        of={api.takeReading.body}
        at="y"
        key={`${key}y`}
        hideLabel
        label={`mark ${mark}, y on the machine`}
        value={y ?? last?.y ?? null}
        draft={`mark.${batch.id}.${mark}.y`}
        onCommit={(v) => {
          if (v !== last?.y) setY(v);
        }}
      />
      <span className="pt-2 text-[13px] text-soft">
        {x !== null || y !== null ? (
          <button className="link" onClick={() => take(x ?? last?.x ?? null, y ?? last?.y ?? null)}>
            keep (Enter)
          </button>
        ) : last ? (
          <>
            {offBy === null ? 'read' : `off by ${offBy.toFixed(2)}`}{' '}
            <button
              className="link"
              aria-label={`take out reading of mark ${mark}`}
              onClick={() => void handle.act(api.dropReading, { params: { reading: last.id } })}
            >
              ✕
            </button>
          </>
        ) : (
          'aim, then Enter'
        )}
      </span>
    </div>
  );
};

/** What is done before the first mark is read: open until all of it is ticked, a line once it is. */
const First = ({ handle, steps }: { handle: BatchHandle; steps: readonly Step[] }) => {
  const done = steps.filter((s) => s.done || handle.batch.ticks.some((t) => t.step === s.id)).length;
  const [opened] = useState(done < steps.length);
  if (steps.length === 0) return null;
  return (
    <details className="mb-2" open={opened}>
      <summary className="min-h-11 cursor-pointer py-2 text-[13px] text-soft">
        Before the first mark: {done} of {steps.length} done
      </summary>
      <Steps handle={handle} steps={steps} station="place" part="do" />
    </details>
  );
};

/** Place: where the work really lies, from its marks. */
export const AimedPlace = ({
  handle,
  shown,
  draw,
  work = 'board',
  print = 'print',
  mine = () => true,
  children,
}: StationProps & {
  /** What lies under the head. */
  work?: 'board' | 'sheet' | 'work';
  /** What a model is fitted to. */
  print?: 'piece' | 'print';
  /** The steps that are done while these marks are read. */
  mine?: (step: Step) => boolean;
  /** What is done once it is aimed. */
  children?: ReactNode;
}) => {
  const { batch } = handle;
  const { reckoning } = shown;
  const { place, board } = reckoning;
  // Only a board is turned to the machine: what lies by itself is written where it lies.
  const turns = work === 'board';
  const [simulated, setSimulated] = useSimulated();
  if (!board)
    return (
      <Part name="Measure">
        <Finding tone="attention">There is no board yet. Compute one at the Hold station.</Finding>
      </Part>
    );
  const unread = board.marks.find((m) => !place.pairs.some((p) => p.id === m.id));
  const next = unread
    ? { mark: unread.id, purpose: 'place' as const }
    : place.rereadOk === null
      ? { mark: board.marks[0]!.id, purpose: 'reread' as const }
      : null;
  const drawn = distance(board.marks[0]!.at, board.marks[1]!.at);
  const pair = board.marks.slice(0, 2).map((m) => place.pairs.find((p) => p.id === m.id));
  const read = pair[0] && pair[1] ? distance(pair[0].read, pair[1].read) : null;
  const budget = reckoning.budget.sources.find((s) => s.id === 'aiming');
  const { profile, changes } = batch.machine;
  const offset = profile.pointerOffset;
  const overtaken = overtakenOf(profile, changes).find((o) => o.what === 'pointer offset');
  // What is done before the first mark is read stands before its fields; what follows, after them.
  const tasks = shown.steps.filter((s) => s.station === 'place' && s.part === 'do' && mine(s));
  const reads = tasks.findIndex((s) => s.takes?.kind === 'reading');
  const before = tasks.slice(0, Math.max(0, reads));
  const toggle = (on: boolean): void => {
    setSimulated(on);
    if (!on) draw(null);
  };
  return (
    <>
      <Part
        name="Measure"
        aside={
          <button className="link" onClick={() => toggle(!simulated)}>
            {simulated ? 'type readings' : 'use the simulated machine'}
          </button>
        }
      >
        <First handle={handle} steps={before} />
        <div className="grid grid-cols-[5.2rem_1fr_1fr_6.2rem] gap-2 text-[13px] text-soft">
          <span>mark</span>
          <span>x on the machine</span>
          <span>y on the machine</span>
          <span />
        </div>
        {board.marks.map((m) => (
          <MarkRow
            key={m.id}
            handle={handle}
            mark={m.id}
            role={m.role}
            suspect={place.consistency?.suspect === m.id}
            offBy={place.placement?.residuals.find((r) => r.id === m.id)?.distance ?? null}
          />
        ))}
        <ReadingTable handle={handle} marks={board.marks.map((m) => m.id)}>
          {batch.readings.length > 0 && (
            <button className="link ml-4" onClick={() => void handle.act(api.layAnew)}>
              the {work} was laid anew
            </button>
          )}
        </ReadingTable>
        {simulated && (
          <div className="mt-2">
            <SimPanel
              handle={handle}
              mark={next?.mark ?? null}
              purpose={next?.purpose ?? 'place'}
              onHead={(head) => draw({ head })}
              onReading={(x, y) => {
                if (next)
                  void handle.act(api.takeReading, {
                    body: { mark: next.mark, x, y, source: 'simulated machine', purpose: next.purpose },
                  });
              }}
            />
          </div>
        )}
        <p className="mt-2 text-[13px]">
          {offset ? (
            <>
              The pointer’s dot falls {pointerWords(offset)} (measured{' '}
              {new Date(offset.measuredAt).toLocaleDateString('en-GB')}): that is taken off.
              {Math.abs(place.marksAt - offset.height) > 0.05 &&
                (offset.second
                  ? ` The marks lie ${heightWords(place.marksAt)}: the offset there is used.`
                  : ` The marks lie ${heightWords(place.marksAt)}, it was measured ${heightWords(offset.height)}: what a pointer aslant may make of that is carried.`)}
              {place.pointer.status === 'stale' && <b className="text-ochre"> It is old: measure it again.</b>}
              {overtaken && <b className="text-ochre"> {overtakenWords(overtaken)}</b>}
            </>
          ) : (
            <span className="text-ochre">
              The pointer offset is unmeasured: ± {UNMEASURED_POINTER} mm is carried. Burn a dot on scrap, bring the
              pointer onto it, and take the offset.
            </span>
          )}
        </p>
      </Part>
      <Part name="Reckon">
        {place.problem && <Finding tone="out">{place.problem.message}</Finding>}
        <div className="readings">
          <Reading
            label={`${work} turned`}
            value={place.placement ? fixed((place.placement.angle * 180) / Math.PI) : '–'}
            unit="°"
            working={place.turn?.working ?? []}
            note={place.placement ? `± ${degrees((place.sigma * Math.SQRT2) / drawn, 2)}` : 'needs two marks'}
          />
          <Reading
            label="mark distance"
            value={read === null ? '–' : read.toFixed(2)}
            unit="mm"
            tone={!place.consistency ? 'plain' : place.consistency.verdict === 'agrees' ? 'inside' : 'out'}
            working={place.consistency?.working ?? []}
            note={`drawn ${drawn.toFixed(2)}`}
          />
          <Reading
            label="aiming at the pieces"
            value={budget ? (budget.u * RADIAL_95).toFixed(2) : '–'}
            unit="mm"
            working={[...place.sigmaWorking, ...(budget ? [budget.working] : [])]}
            note={
              place.gain && place.gain.now - place.gain.then > 0.005
                ? `at 95 %; mark ${place.gain.mark} too: ${place.gain.now.toFixed(2)} → ${place.gain.then.toFixed(2)} at the corner`
                : 'at 95 %'
            }
          />
        </div>
        <Moved inForce={correctionsInForce(batch)} />
        {place.question && (
          <div className="mt-2">
            <Finding tone="out">{place.question.message}</Finding>
          </div>
        )}
        {place.consistency && (
          <div className="mt-2">
            <Finding tone={place.consistency.verdict === 'agrees' ? 'inside' : 'out'}>
              {place.consistency.message}
            </Finding>
          </div>
        )}
        {reckoning.warnings
          .filter((w) => w.station === 'place')
          .slice(0, 4)
          .map((w) => (
            <div key={w.message} className="mt-2">
              <Finding tone="out">{w.message}</Finding>
            </div>
          ))}
      </Part>
      <Part name="Do">
        {place.choice && (
          <Select
            label={`The ${print} is fitted to its marks`}
            value={batch.setup.place.model}
            options={[
              ['auto', 'as proposed'],
              ...place.choice.tested.map((t) => [t.fit.model, MODEL_WORDS[t.fit.model]] as const),
            ]}
            onChange={(model) =>
              handle.update('place', { ...batch.setup.place, model: model as typeof batch.setup.place.model })
            }
          />
        )}
        {turns && (
          <Choice
            label="Use of the marks (the file is turned by default: nobody has to nudge a board)"
            value={batch.setup.place.school}
            options={[
              ['file', 'turn the file'],
              ['work', 'turn the work'],
            ]}
            onChange={(school) => handle.update('place', { ...batch.setup.place, school })}
          />
        )}
        {turns && batch.setup.place.school === 'work' && place.turn && (
          <div className="mt-2">
            <Finding tone={place.turn.good ? 'inside' : 'attention'}>{place.turn.words}</Finding>
          </div>
        )}
        <Steps handle={handle} steps={tasks.filter((s) => !before.includes(s))} station="place" part="do" />
      </Part>
      <Part name="Check">
        <ReRead
          mark={board.marks[0]!.id}
          handle={handle}
          reread={place.reread}
          good={place.rereadOk}
          ready={place.pairs.length >= 2}
        />
        <FileLinks batchId={batch.id} files={[['walk.gcode', 'Walk file']]} label="True outline, beam off" />
        <Steps
          handle={handle}
          steps={shown.steps.filter((s) => s.id !== 'place.reread' && !s.id.endsWith('-reread') && mine(s))}
          station="place"
          part="check"
        />
        {children}
      </Part>
    </>
  );
};

/** Readings written down elsewhere, brought in at once. */
const ReadingTable = ({
  handle,
  marks,
  children,
}: {
  handle: BatchHandle;
  marks: readonly number[];
  /** What else is done with readings, beside it. */
  children?: ReactNode;
}) => {
  const [open, setOpen] = useState(false);
  return (
    <div className="mt-1 text-[13px]">
      <button className="link" onClick={() => setOpen(!open)}>
        readings from a table
      </button>
      {children}
      {open && (
        <TableBox
          draft={`readings.${handle.batch.id}`}
          label="A line each: mark, x, y, as the machine shows them"
          example={'1; 166.84; 110.13\n2; 714.70; 143.02'}
          read={(text) => parseReadingTable(text, marks)}
          onRead={(readings) => {
            setOpen(false);
            void handle.act(api.takeReadings, { body: { readings } });
          }}
        />
      )}
    </div>
  );
};

/** The first mark read once more: shows that nothing moved while the others were read. */
const ReRead = ({
  mark,
  handle,
  reread,
  good,
  ready,
}: {
  mark: number;
  handle: BatchHandle;
  reread: number | null;
  good: boolean | null;
  ready: boolean;
}) => {
  const [x, setX] = useState<number | null>(null);
  const [y, setY] = useState<number | null>(null);
  const [round, setRound] = useState(0);
  const take = (): void => {
    if (x === null || y === null) return;
    void handle.act(api.takeReading, { body: { mark, x, y, source: 'typed', purpose: 'reread' } });
    setX(null);
    setY(null);
    setRound(round + 1);
  };
  if (!ready) return <p className="text-soft">After two marks, read mark {mark} again.</p>;
  return (
    <>
      <div
        className="grid grid-cols-[6.4rem_1fr_1fr_5rem] items-start gap-2"
        onKeyDown={(e) => {
          if (e.key === 'Enter') take();
        }}
      >
        <span className="pt-2">Mark {mark} again</span>
        <Measure
          of={api.takeReading.body}
          at="x"
          key={`x${round}`}
          hideLabel
          label={`mark ${mark} again, x`}
          onCommit={setX}
        />
        <Measure
          of={api.takeReading.body}
          at="y"
          key={`y${round}`}
          hideLabel
          label={`mark ${mark} again, y`}
          onCommit={setY}
        />
        <button className="act justify-center !px-1" disabled={x === null || y === null} onClick={take}>
          keep
        </button>
      </div>
      {reread !== null && (
        <div className="mt-1">
          <Finding tone={good ? 'inside' : 'out'}>
            {good
              ? `Mark ${mark} came back within ${reread.toFixed(2)} mm.`
              : `Mark ${mark} is ${reread.toFixed(2)} mm from its first reading: the work or the head has moved. Read all marks again.`}
          </Finding>
        </div>
      )}
    </>
  );
};
