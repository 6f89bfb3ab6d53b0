import { useMemo, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { toast } from 'sonner';
import { api, TRIAL_FILES, trialFilePath, type MachineDocument, type TrialDocument, type TrialSpec } from '@bistre/contract'; // prettier-ignore
import {
  burnedOn,
  cellCount,
  cellFor,
  cellWords,
  counted,
  EFFECT_WORDS,
  familyOf,
  freePlace,
  GOOD_ENOUGH,
  gridSize,
  judgeFamily,
  layTrial,
  placeOf,
  planNotes,
  SMALLEST_CELL,
  spotOf,
  verdictsOf,
  type Alphabet,
  type JudgedTrials,
} from '@bistre/core';
import { useLabels } from '../../data/labels';
import { messageOf, operatorName, sendPhotograph } from '../../data/api';
import { useMachines, useTrials } from '../../data/queries';
import { write, type Write } from '../../data/write';
import { useHotkey } from '../../parts/hotkeys';
import { BurnCaution, Finding } from '../../parts/Part';
import { OfMaterial } from '../../stations/burn/OfMaterial';
import { onDate, Page } from '../shelf/form';
import { GridPicture } from './GridPicture';
import { marksOf, saidOf } from './looks';
import { bestWords, ResponseMap } from './ResponseMap';
import { ScorePad, type Said } from './ScorePad';
import { HandWork } from './HandWork';
import { Take } from './Take';

type Endpoint = Write<typeof api.scoreCell>['endpoint'] | Write<typeof api.burnedTrial>['endpoint'];

/** Sends a write of a trial; says what went wrong. */
const send = async (write_: () => Promise<unknown>): Promise<boolean> => {
  try {
    await write_();
    return true;
  } catch (error) {
    toast.error(messageOf(error));
    return false;
  }
};

/** Files of a trial, and what is said once it was burned. */
const Burning = ({ trial }: { trial: TrialDocument }) => {
  const [busy, setBusy] = useState(false);
  const say = async (endpoint: Endpoint | typeof api.simulateTrial, body?: { photoId: string | null }): Promise<void> => {
    setBusy(true);
    await send(() => write({ endpoint, params: { id: trial.id }, ...(body ? { body } : {}), scope: trial.id } as never));
    setBusy(false);
  };
  const photograph = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    setBusy(true);
    await send(async () => say(api.burnedTrial, { photoId: (await sendPhotograph(file)).id }));
    setBusy(false);
  };
  return (
    <section aria-label="Burn it" className="mb-6">
      <h2 className="part-title mb-2">{trial.burned ? 'Files' : 'Burn it'}</h2>
      {!trial.burned && <HandWork material={trial.spec.material} side="before" />}
      {trial.heldBack && <Finding tone="out">{trial.heldBack}</Finding>}
      <p className="mb-2 flex flex-wrap gap-3">
        {TRIAL_FILES.filter((file) => !trial.heldBack || file === 'trial.svg').map((file) => (
          <a key={file} className={`act ${file === 'trial.gcode' && !trial.burned ? 'act-main' : ''}`} href={trialFilePath(trial.id, file)}>
            {{ 'trial.gcode': 'G-code', 'walk.gcode': 'walk of the outline', 'trial.svg': 'drawing' }[file]}
          </a>
        ))}
      </p>
      {!trial.burned && (
        <>
          <p className="mb-2">
            Lay {trial.spec.piece.name} with its lower left corner at {trial.spec.onBed.x.toFixed(1)},{' '}
            {trial.spec.onBed.y.toFixed(1)} mm of the bed, walk the outline, then burn.
          </p>
          <OfMaterial material={trial.spec.material} />
          <BurnCaution>What the material gives off is asked of its safety sheet first.</BurnCaution>
          <p className="mt-3 flex flex-wrap gap-3">
            <button className="act act-main" disabled={busy} onClick={() => void say(api.burnedTrial, { photoId: null })}>
              It is burned
            </button>
            <button className="act" disabled={busy} onClick={() => void say(api.simulateTrial)}>
              Burn it on the simulated machine
            </button>
          </p>
        </>
      )}
      {trial.burned && !trial.burned.simulated && (
        <label className="block text-[13px] text-soft">
          Photograph of the grid, kept with it
          <input type="file" accept=".png,.jpg,.jpeg,.webp" disabled={busy} className="block py-2" onChange={(e) => void photograph(e.target.files?.[0])} />
        </label>
      )}
    </section>
  );
}; // prettier-ignore

const Scoring = ({ trial, alphabet, best }: { trial: TrialDocument; alphabet: Alphabet; best: number | null }) => {
  const laid = useMemo(() => layTrial(trial.spec, trial.name, alphabet), [trial.spec, trial.name, alphabet]);
  const count = cellCount(trial.spec);
  const me = operatorName();
  const [pending, setPending] = useState<ReadonlyMap<number, Said>>(new Map());
  const mine = (cell: number) => trial.scores.find((s) => s.cell === cell && s.by === me);
  const first = Array.from({ length: count }, (_, i) => i).find((i) => !mine(i)) ?? null;
  const [chosen, setChosen] = useState<number | null>(first);
  const verdicts = verdictsOf(trial.scores);
  const marks = marksOf(verdicts);
  for (const [cell, said] of pending) marks.set(cell, { text: String(said.grade), tell: said.tell === 'right' ? null : said.tell, apart: false }); // prettier-ignore
  const done = (cell: number): boolean => marks.has(cell);
  const move = (dx: number, dy: number): void => {
    const { column, row } = placeOf(trial.spec, chosen ?? 0);
    const [nx, ny] = [trial.spec.columns.levels.length, trial.spec.rows.levels.length];
    const c = Math.min(nx - 1, Math.max(0, column + dx));
    setChosen(Math.min(ny - 1, Math.max(0, row + dy)) * nx + c);
  };
  useHotkey('ArrowRight', () => move(1, 0));
  useHotkey('ArrowLeft', () => move(-1, 0));
  useHotkey('ArrowUp', () => move(0, 1));
  useHotkey('ArrowDown', () => move(0, -1));
  const say = async (said: Said): Promise<void> => {
    if (chosen === null) return;
    const cell = chosen;
    setPending((p) => new Map(p).set(cell, said));
    // The next that was not looked at, row by row; the same where none is left.
    const after = Array.from({ length: count }, (_, i) => (cell + 1 + i) % count).find((i) => !done(i) && i !== cell);
    if (after !== undefined) setChosen(after);
    await send(() =>
      write({ endpoint: api.scoreCell, params: { id: trial.id }, body: { cell, ...said }, scope: trial.id }),
    );
    setPending((p) => new Map([...p].filter(([c, s]) => c !== cell || s !== said)));
  };
  const left = count - marks.size;
  const apart = verdicts.filter((v) => v.apart);
  const looks = chosen === null ? [] : trial.scores.filter((s) => s.cell === chosen);
  return (
    <section aria-label="Look at it" className="mb-6">
      <h2 className="part-title mb-2">Look at it</h2>
      {left === count && <HandWork material={trial.spec.material} side="after" />}
      <div className="grid grid-cols-[minmax(0,1fr)] gap-5 lg:grid-cols-[minmax(0,1fr)_400px]">
        <div>
          <GridPicture spec={trial.spec} laid={laid} photo={trial.burned?.simulated ? (trial.photo?.id ?? null) : null} marks={marks} chosen={chosen} best={best} onChoose={setChosen} />
          <p className="mt-1 text-[13px] text-soft">
            {left > 0 ? `${counted(left, 'cell')} of ${count} not looked at yet.` : 'Every cell was looked at.'} A bar below a grade: too weak; above it: too strong.
          </p>
        </div>
        <div>
          <p className="mb-2 text-xl font-bold" aria-live="polite">
            {chosen === null ? 'Choose a cell' : `Cell ${chosen + 1}: ${cellWords(trial.spec, chosen)}`}
          </p>
          <ScorePad trial={trial} mine={chosen === null ? undefined : mine(chosen)} onSay={(said) => void say(said)} />
          {looks.length > 0 && (
            <p className="mt-2 text-[13px]">
              {looks.map((s) => `${s.by}: ${saidOf(trial.spec, s)}`).join('; ')}
            </p>
          )}
          {looks.some((s) => s.by === me) && (
            <button className="link" onClick={() => void send(() => write({ endpoint: api.dropScore, params: { id: trial.id, score: mine(chosen!)!.id }, scope: trial.id }))}>
              take mine out
            </button>
          )}
        </div>
      </div>
      {apart.length > 0 && (
        <Finding tone="attention">
          {apart.map((v) => `Cell ${v.cell + 1} (${v.looks.map((s) => `${s.by} ${s.grade}`).join(', ')})`).join('; ')}: told far apart. Look again together; until then both count alike.
        </Finding>
      )}
    </section>
  );
}; // prettier-ignore

/** The next grid as a plan on the same piece, or on another of its size where that one is full. */
const nextSpec = (
  trial: TrialDocument,
  all: readonly TrialDocument[],
  alphabet: Alphabet,
  a: readonly number[],
  b: readonly number[],
): TrialSpec => {
  // prettier-ignore
  const grid = {
    ...trial.spec,
    columns: { ...trial.spec.columns, levels: [...a] },
    rows: { ...trial.spec.rows, levels: [...b] },
  };
  const taken = burnedOn(trial.spec.piece.name, all, alphabet).map((o) => o.taken);
  const same = freePlace(trial.spec.piece, gridSize(grid, alphabet), taken);
  if (same.ok) return { ...grid, onPiece: same.value };
  const side = cellFor(grid, trial.spec.piece, alphabet, { least: SMALLEST_CELL, most: trial.spec.cell.width }) ?? SMALLEST_CELL; // prettier-ignore
  const fresh = { ...grid, cell: { width: side, height: side }, onPiece: { x: 0, y: 0 } };
  const used = new Set(all.map((t) => t.spec.piece.name));
  const base = trial.spec.piece.name.replace(/, another( \d+)?$/, '');
  const name = [`${base}, another`, ...Array.from({ length: 30 }, (_, i) => `${base}, another ${i + 2}`)].find((n) => !used.has(n))!; // prettier-ignore
  return { ...fresh, piece: { ...trial.spec.piece, name } };
};

/** “Compound on steel” → “Compound on steel 2”; what has a number gets the next free one. */
const nextName = (name: string, all: readonly TrialDocument[]): string => {
  const [, stem = name, number = '1'] = /^(.*?)(?: (\d+))?$/.exec(name) ?? [];
  const taken = new Set(all.map((t) => t.name));
  for (let i = Number(number) + 1; ; i += 1) if (!taken.has(`${stem} ${i}`)) return `${stem} ${i}`;
};

const Judgement = ({
  trial,
  all,
  judged,
  alphabet,
}: {
  trial: TrialDocument;
  all: readonly TrialDocument[];
  judged: JudgedTrials;
  alphabet: Alphabet;
}) => {
  // prettier-ignore
  const navigate = useNavigate();
  const { columns, rows } = trial.spec;
  const { best, next } = judged;
  const at = judged.tried[best.index]!;
  const of = all.find((t) => t.id === at.trial) ?? trial;
  const plan = async (): Promise<void> => {
    if (!('a' in next)) return;
    await send(async () => {
      const body = { name: nextName(trial.name, all), machineId: trial.machineId, spec: nextSpec(trial, all, alphabet, next.a, next.b), follows: trial.id }; // prettier-ignore
      const made = await write({ endpoint: api.createTrial, body, scope: 'new' });
      if (!made.kept && made.reply) await navigate(`/shelf/trials/${made.reply.id}`);
    });
  };
  return (
    <section aria-label="What it says" className="mb-6">
      <h2 className="part-title mb-2">What it says</h2>
      <p className="mb-1 text-xl">
        <b>{best.mean >= GOOD_ENOUGH ? 'Best:' : 'Best so far, and not good enough:'}</b>{' '}
        {bestWords(judged, columns, rows)}
        {of.id !== trial.id && (
          <>
            {' '}
            in{' '}
            <Link className="link" to={`/shelf/trials/${of.id}`}>
              {of.name}
            </Link>
          </>
        )}
      </p>
      <p className="mb-3">
        Expected grade {best.mean.toFixed(1)} ± {best.doubt.toFixed(1)} of 10, from{' '}
        {counted(judged.tried.length, 'cell')}. {next.why}
      </p>
      {'a' in next && (
        <button className="act act-main mb-4" onClick={() => void plan()}>
          Plan the next grid
        </button>
      )}
      {!('a' in next) && of.id !== trial.id && (
        <p className="mb-4">
          <Link className="act act-main" to={`/shelf/trials/${of.id}`}>
            Take it from {of.name}
          </Link>
        </p>
      )}
      <ResponseMap judged={judged} columns={columns} rows={rows} />
    </section>
  );
};

const Facts = ({ trial, machine, all }: { trial: TrialDocument; machine: MachineDocument | undefined; all: readonly TrialDocument[] }) => { // prettier-ignore
  const before = all.find((t) => t.id === trial.follows);
  const after = all.filter((t) => t.follows === trial.id);
  const { spec } = trial;
  return (
    <div className="mb-5">
      <p className="text-lg">
        {EFFECT_WORDS[spec.effect]}, {spec.material}, on {machine?.name ?? 'a machine that was put away'}; {spec.piece.name}
      </p>
      <p className="text-soft">
        Planned {onDate(trial.at)} by {trial.by}
        {trial.burned && `; burned ${onDate(trial.burned.at)} by ${trial.burned.by}${trial.burned.simulated ? ' on the simulated machine' : ''}`}
        {before && <>; after <Link className="link" to={`/shelf/trials/${before.id}`}>{before.name}</Link></>}
        {after.map((t) => <span key={t.id}>; followed by <Link className="link" to={`/shelf/trials/${t.id}`}>{t.name}</Link></span>)}
        {trial.proves.map((r) => <span key={r.id}>; proves <Link className="link" to={`/shelf/recipes/${r.id}`}>{r.name}</Link> by cell {r.cell + 1}</span>)}
      </p>
      {planNotes(spec, machine?.profile.optics ? spotOf(machine.profile.optics) : undefined).map((note) => <p key={note} className="mt-1 text-[13px]">{note}</p>)}
    </div>
  );
}; // prettier-ignore

/** A trial: burned, looked at, judged, and taken into a recipe. */
export const TrialPage = ({ trial }: { trial: TrialDocument }) => {
  const { data: all = [] } = useTrials();
  const { data: machines = [] } = useMachines();
  const alphabet = useLabels();
  const machine = machines.find((m) => m.id === trial.machineId);
  const judged = useMemo(
    () => (machine ? judgeFamily(familyOf(trial, all), machine.profile) : null),
    [trial, all, machine],
  );
  const at = judged?.tried[judged.best.index];
  const best = at?.trial === trial.id ? at.cell : null;
  const scored = verdictsOf(trial.scores).length >= Math.min(9, cellCount(trial.spec));
  return (
    <Page kind="trials" title={trial.name} subject={trial.id} wide>
      <Facts trial={trial} machine={machine} all={all} />
      {!trial.burned && <Burning trial={trial} />}
      {alphabet && trial.burned && <Scoring trial={trial} alphabet={alphabet} best={scored ? best : null} />}
      {alphabet && !trial.burned && <Planned trial={trial} alphabet={alphabet} />}
      {alphabet && judged && scored && <Judgement trial={trial} all={all} judged={judged} alphabet={alphabet} />}
      {scored && best !== null && judged && judged.best.mean >= GOOD_ENOUGH && <Take key={best} trial={trial} cell={best} />}
      {trial.burned && <Burning trial={trial} />}
    </Page>
  );
}; // prettier-ignore

const Planned = ({ trial, alphabet }: { trial: TrialDocument; alphabet: Alphabet }) => (
  <section aria-label="The grid" className="mb-6">
    <h2 className="part-title mb-2">The grid</h2>
    <div className="max-w-2xl">
      <GridPicture
        spec={trial.spec}
        laid={layTrial(trial.spec, trial.name, alphabet)}
        photo={null}
        marks={new Map()}
        chosen={null}
        best={null}
      />
    </div>
  </section>
);
