import { useState } from 'react';
import { toast } from 'sonner';
import { api, type BodyOf, type SimRunView } from '@bistre/contract';
import { capability, fixed, percent, SCRAP_CAUSES } from '@bistre/core';
import { call, messageOf } from '../data/api';
import { useAlphabets } from '../data/queries';
import { MeasureField, Select } from '../parts/fields';
import { FileLinks } from '../parts/FileLinks';
import { Caution, Finding, Part } from '../parts/Part';
import { Reading } from '../parts/Reading';
import { Steps } from '../parts/Steps';
import type { BatchHandle } from '../data/use-batch';
import type { StationProps } from '../views/Workspace';
import { RosterDialog } from './RosterDialog';
import { SimResult } from './SimResult';

/** Which column fills which line, in which alphabet, how tall. */
const LetteringTable = ({ handle, shown }: Pick<StationProps, 'handle' | 'shown'>) => {
  const { batch } = handle;
  const { lettering } = batch.setup;
  const { data: alphabets = [] } = useAlphabets();
  const change = (index: number, part: Partial<(typeof lettering.lines)[number]>): void =>
    handle.update('lettering', {
      ...lettering,
      lines: lettering.lines.map((l, i) => (i === index ? { ...l, ...part } : l)),
    });
  const heights = shown.reckoning.art?.capHeights ?? [];
  return (
    <div>
      {lettering.lines.map((l, i) => (
        <div key={i} className="grid grid-cols-[2.6rem_1fr_1.5fr_5.6rem_4.4rem_1.4rem] items-end gap-1.5 py-0.5">
          <span className="pb-2 text-[13px] text-soft">line {i + 1}</span>
          <Select
            hideLabel={i > 0}
            label="column"
            value={l.column}
            options={[...new Set([...batch.columns, l.column])].map((c) => [c, c] as const)}
            onChange={(column) => change(i, { column })}
          />
          <Select
            hideLabel={i > 0}
            label="alphabet"
            value={l.alphabet}
            options={alphabets.map((a) => [a.id, a.name] as const)}
            onChange={(alphabet) => change(i, { alphabet })}
          />
          <MeasureField
            hideLabel={i > 0}
            label="cap height"
            value={l.capHeight}
            min={0.5}
            max={200}
            onCommit={(capHeight) => change(i, { capHeight })}
          />
          <span className="pb-2 text-[13px]">{heights[i] !== undefined ? `set ${fixed(heights[i])}` : ''}</span>
          <button
            className="pb-2 text-blue"
            aria-label={`Take out line ${i + 1}`}
            onClick={() =>
              handle.update('lettering', { ...lettering, lines: lettering.lines.filter((_, k) => k !== i) })
            }
          >
            ✕
          </button>
        </div>
      ))}
      {lettering.lines.length < 6 && batch.columns.length > 0 && (
        <button
          className="link"
          onClick={() =>
            handle.update('lettering', {
              ...lettering,
              lines: [
                ...lettering.lines,
                {
                  column: batch.columns[lettering.lines.length % batch.columns.length]!,
                  alphabet: 'b612-bold',
                  capHeight: 4,
                },
              ],
            })
          }
        >
          add a line
        </button>
      )}
    </div>
  );
};

type Verdict = BodyOf<typeof api.judgePieces>['pieces'][number];

/** The next piece of the open load: done, scrap or again; with its measured place where one was taken. */
const Judge = ({
  handle,
  slot,
  run,
  rest,
}: {
  handle: BatchHandle;
  slot: number;
  run: SimRunView | null;
  rest: readonly number[];
}) => {
  const [cause, setCause] = useState<string>('');
  const [words, setWords] = useState('');
  const simulated = run?.pieces.find((p) => p.slot === slot);
  const [typed, setTyped] = useState<{ dx: number | null; dy: number | null }>({ dx: null, dy: null });
  const piece = handle.batch.pieces.find((p) => p.state === 'loaded' && p.slot === slot);
  const measured = (of: typeof simulated): Pick<Verdict, 'dx' | 'dy' | 'yaw'> =>
    of && of.dx !== null ? { dx: of.dx, dy: of.dy, yaw: of.yaw } : {};
  const judge = async (pieces: Verdict[]): Promise<void> => {
    if (await handle.act(api.judgePieces, { body: { pieces } })) {
      setCause('');
      setWords('');
      setTyped({ dx: null, dy: null });
    }
  };
  const here: Pick<Verdict, 'dx' | 'dy' | 'yaw'> =
    typed.dx !== null || typed.dy !== null ? { dx: typed.dx ?? 0, dy: typed.dy ?? 0, yaw: 0 } : measured(simulated);
  const why = cause === 'other' ? words.trim() : cause + (words.trim() ? `: ${words.trim()}` : '');
  return (
    <div className="border border-rim p-3">
      <p className="text-[22px] leading-tight font-bold">
        Slot {slot}{' '}
        <span className="text-[15px] font-normal">
          piece {piece?.ordinal}: {piece ? Object.values(handle.batch.roster[piece.ordinal - 1] ?? {}).join(' · ') : ''}
        </span>
      </p>
      <div className="mt-2 grid grid-cols-[1fr_1fr_1.6fr] gap-2" key={`${slot}-${piece?.id}`}>
        <MeasureField
          kind="number"
          unit="mm"
          label="off to the right"
          value={typed.dx ?? (simulated?.dx ? Number(simulated.dx.toFixed(2)) : null)}
          min={-50}
          max={50}
          digits={2}
          onCommit={(dx) => setTyped((t) => ({ ...t, dx }))}
        />
        <MeasureField
          kind="number"
          unit="mm"
          label="off away from you"
          value={typed.dy ?? (simulated?.dy ? Number(simulated.dy.toFixed(2)) : null)}
          min={-50}
          max={50}
          digits={2}
          onCommit={(dy) => setTyped((t) => ({ ...t, dy }))}
        />
        <p className="pt-5 text-[13px] text-soft">
          {simulated?.worst != null ? (
            <>
              worst corner{' '}
              <b className={simulated.worst > (run?.tolerance ?? 1) ? 'text-oxide' : 'text-verdigris'}>
                {simulated.worst.toFixed(2)} mm
              </b>{' '}
              of {run?.tolerance.toFixed(2)}
            </>
          ) : (
            'measured from the piece’s edges, if you like'
          )}
        </p>
      </div>
      <div className="mt-2 flex flex-wrap items-end gap-2">
        <button
          className="act act-main !min-h-11 !px-6"
          onClick={() => void judge([{ slot, state: 'done', cause: null, ...here }])}
        >
          Done
        </button>
        <div className="w-44">
          <Select
            label="cause, when scrapped"
            value={cause}
            options={[['', 'choose …'], ...SCRAP_CAUSES.map((c) => [c, c] as const)]}
            onChange={setCause}
          />
        </div>
        {cause !== '' && (
          <input
            aria-label="in words"
            className="field !w-36"
            placeholder="in words"
            value={words}
            maxLength={80}
            onChange={(e) => setWords(e.target.value)}
          />
        )}
        <button
          className="act act-danger"
          disabled={why === ''}
          onClick={() => void judge([{ slot, state: 'scrap', cause: why, ...here }])}
        >
          Scrap
        </button>
        <button
          className="act"
          title="Not burned, or burned on nothing: the name goes back to the roster, no blank is lost"
          onClick={() => void judge([{ slot, state: 'again', cause: null }])}
        >
          Again
        </button>
        {rest.length > 1 && (
          <button
            className="act"
            onClick={() =>
              void judge(
                rest.map((s) => ({
                  slot: s,
                  state: 'done' as const,
                  cause: null,
                  ...measured(run?.pieces.find((p) => p.slot === s)),
                })),
              )
            }
          >
            All {rest.length} done
          </button>
        )}
      </div>
    </div>
  );
};

/** Offsets of the measured pieces: capability, and a correction only when it is not noise. */
const Measured = ({ handle }: { handle: BatchHandle }) => {
  const pieces = handle.batch.pieces.filter((p) => p.dx !== null && p.state !== 'loaded');
  const t = handle.batch.tolerance;
  const x = capability(
    pieces.map((p) => p.dx!),
    -t,
    t,
  );
  const y = capability(
    pieces.map((p) => p.dy ?? 0),
    -t,
    t,
  );
  if (!x || !y)
    return <p className="text-soft">Measured offsets of done pieces show here; two or more give a spread.</p>;
  const worse = x.cpk < y.cpk ? x : y;
  const sentence = [
    x.correction === null ? null : `x by ${fixed(x.correction)} mm`,
    y.correction === null ? null : `y by ${fixed(y.correction)} mm`,
  ]
    .filter(Boolean)
    .join(', ');
  return (
    <>
      <div className="grid grid-cols-3 gap-3">
        <Reading
          label={`mean of ${x.n}, x and y`}
          size="text-[19px]"
          value={`${fixed(x.mean)}, ${fixed(y.mean)}`}
          unit="mm"
          working={[...x.working, ...y.working]}
        />
        <Reading label="spread, x and y" size="text-[19px]" value={`${fixed(x.s)}, ${fixed(y.s)}`} unit="mm" />
        <Reading
          label="capability Cpk"
          size="text-[19px]"
          value={fixed(worse.cpk)}
          tone={worse.cpk >= 1.33 ? 'inside' : worse.cpk >= 1 ? 'attention' : 'out'}
          working={worse.working}
          note={`Cp ${fixed(worse.cp)}`}
        />
      </div>
      <p className="mt-1 text-[13px]">
        {sentence ? (
          <b>The mean is shifted beyond noise: correct {sentence}.</b>
        ) : (
          'The mean may be noise: do not chase it.'
        )}
      </p>
    </>
  );
};

/** Run: names, loads, the first piece, then the rest; every piece judged. */
export const RunStation = ({ handle, shown, draw }: StationProps) => {
  const { batch } = handle;
  const { reckoning } = shown;
  const { run, art } = reckoning;
  const [bringing, setBringing] = useState(false);
  const [lettering, setLettering] = useState(false);
  const begun = batch.pieces.length > 0;
  const [result, setResult] = useState<SimRunView | null>(null);
  const [busy, setBusy] = useState(false);
  const shape = batch.blank.spec.shape;
  const loaded = batch.pieces
    .filter((p) => p.state === 'loaded')
    .map((p) => p.slot)
    .sort((a, b) => a - b);
  const simulate = async (): Promise<void> => {
    setBusy(true);
    try {
      const value = await call(api.simRun, { params: { id: batch.id } });
      setResult(value);
      draw({
        node: (
          <SimResult
            run={value}
            length={reckoning.sizes.length.mean}
            width={reckoning.sizes.width.mean}
            holes={batch.blank.spec.holes}
            disc={shape.kind === 'disc'}
            cornerRadius={shape.kind === 'rectangle' ? shape.cornerRadius : 0}
            onClose={() => draw(null)}
          />
        ),
      });
    } catch (error) {
      toast.error(messageOf(error), { duration: 10_000 });
    } finally {
      setBusy(false);
    }
  };
  const first = !batch.firstApproved;
  const waitingFirst = first && run.done > 0 && run.openLoad === null;
  const warnings = reckoning.warnings.filter((w) => w.station === 'run');
  return (
    <>
      <Part
        name="Measure"
        aside={
          batch.roster.length > 0 ? (
            <button className="link" onClick={() => setBringing(true)}>
              bring in another roster
            </button>
          ) : undefined
        }
      >
        {batch.roster.length === 0 ? (
          <p>
            <button className="act act-main" onClick={() => setBringing(true)}>
              Bring in the roster
            </button>{' '}
            <span className="ml-2 text-soft">names and numbers, from CSV or a spreadsheet</span>
          </p>
        ) : begun && !lettering ? (
          <p>
            {batch.roster.length} names in{' '}
            {batch.setup.lettering.lines
              .map((l, i) => `${l.column} ${fixed(art?.capHeights[i] ?? l.capHeight)} mm`)
              .join(', ')}
            .{' '}
            <button className="link" onClick={() => setLettering(true)}>
              change the lettering
            </button>
          </p>
        ) : (
          <LetteringTable handle={handle} shown={shown} />
        )}
      </Part>
      <Part name="Reckon">
        <div className="grid grid-cols-4 gap-3">
          <Reading
            label="done"
            value={`${run.done}`}
            unit={`of ${batch.quantity}`}
            tone={run.finished ? 'inside' : 'plain'}
          />
          <Reading
            label="loads to come"
            value={String(run.loadsLeft)}
            note={run.openLoad === null ? undefined : `load ${run.openLoad} is on`}
          />
          <Reading
            label="scrapped"
            value={String(run.scrapped)}
            tone={run.scrapped > 0 ? 'attention' : 'plain'}
            note={run.yield === null ? undefined : `yield ${percent(run.yield)}`}
          />
          <Reading label="spare blanks" value={String(run.sparesLeft)} tone={run.sparesLeft < 0 ? 'out' : 'plain'} />
        </div>
        {warnings.slice(0, 4).map((w) => (
          <div key={w.message} className="mt-2">
            <Finding tone="out">{w.message}</Finding>
          </div>
        ))}
        {warnings.length > 4 && <p className="text-oxide">and {warnings.length - 4} more.</p>}
        {art && art.exceptions.filter((e) => e.kind === 'narrower' || e.kind === 'smaller').length > 0 && (
          <details className="mt-2">
            <summary className="cursor-pointer text-blue">
              {art.exceptions.length} lettered differently from the rest
            </summary>
            <ul className="max-h-28 overflow-auto text-[13px]">
              {art.exceptions.slice(0, 200).map((e) => (
                <li key={`${e.piece}-${e.line}`}>{e.message}</li>
              ))}
            </ul>
          </details>
        )}
      </Part>
      <Part name="Do">
        {run.finished ? (
          <Finding tone="inside">All {batch.quantity} pieces are done.</Finding>
        ) : (
          <>
            {run.openLoad === null && !waitingFirst && (
              <p className="mb-2">
                <button
                  className="act act-main"
                  disabled={batch.roster.length === 0}
                  onClick={() => {
                    setResult(null);
                    draw(null);
                    void handle.act(api.startLoad);
                  }}
                >
                  {first
                    ? 'Load the first piece'
                    : `Load the next ${Math.min(run.waiting.length, reckoning.board?.slots.length ?? 0)}`}
                </button>{' '}
                <span className="ml-2 text-soft">{first ? 'the rest is held until it is approved' : ''}</span>
              </p>
            )}
            <FileLinks
              batchId={batch.id}
              files={[
                ['load.gcode', 'G-code'],
                ['load.svg', 'SVG'],
                ['load.dxf', 'DXF'],
                ['load.png', 'PNG'],
              ]}
              label="This load"
            />
            <FileLinks
              batchId={batch.id}
              files={[
                ['setup.pdf', 'Setup sheet'],
                ['proof.pdf', '1:1 proof'],
                ['roster.csv', 'List'],
              ]}
              label="Papers"
            />
            <Caution>
              A person at the machine starts the burn: door shut, extraction on, eyewear for this wavelength, someone
              stays. Local rules and the maker’s instructions come first.
            </Caution>
            {run.openLoad !== null && (
              <p className="mt-2">
                <button className="act" disabled={busy} onClick={() => void simulate()}>
                  {busy ? 'Running …' : 'Run the file on the simulated machine'}
                </button>
              </p>
            )}
          </>
        )}
      </Part>
      <Part name="Check">
        {run.openLoad !== null && run.nextSlot !== null && (
          <Judge key={run.nextSlot} handle={handle} slot={run.nextSlot} run={result} rest={loaded} />
        )}
        {waitingFirst && (
          <div className="mb-2 border border-rim p-3">
            <p className="mb-2">
              The first piece is done. Is it as the customer wants it: place, size, depth, spelling?
            </p>
            <button
              className="act act-main"
              onClick={() => {
                draw(null);
                setResult(null);
                void handle.act(api.approveFirst, { body: { approved: true } });
              }}
            >
              Approve the first piece
            </button>
            <button
              className="act ml-2"
              onClick={() => {
                draw(null);
                setResult(null);
                void handle.act(api.startLoad);
              }}
            >
              Make another first piece
            </button>
          </div>
        )}
        <div className="mt-2">
          <Measured handle={handle} />
        </div>
        <Steps handle={handle} steps={shown.steps} station="run" part="check" />
      </Part>
      {bringing && <RosterDialog handle={handle} onClose={() => setBringing(false)} />}
    </>
  );
};
