// Scaffolding of the ways' redesign: what every batch of the last release's backup comes to, as it stands and in
// the states that a job goes through. Two commits that print the same reckon the same. Run by scripts/same.mjs.
import { createHash } from 'node:crypto';
import { writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { FILES, type BatchDocument } from '@bistre/contract';
import { frozen, apply, bedToFile, benchSteps, stationStates, trueOutline, type Machine } from '@bistre/core';
import { restoreBackup } from '../backup/restore';
import { loadBatch, reckonDocument } from '../batches';
import { connect } from '../db/connect';
import { seedDemo } from '../demo';
import { makeFile } from '../files/make';
import { HttpProblem } from '../http/problem';

const NOW = '2026-06-01T12:00:00.000Z';
const fixedClock = (): void => {
  const Real = Date;
  globalThis.Date = class extends Real {
    constructor(...given: []) {
      super(...((given.length > 0 ? given : [NOW]) as unknown as []));
    }
    static override now = (): number => new Real(NOW).getTime();
  } as DateConstructor;
};

const uuid = (n: number): string => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;

/** Where a mark is read that lies so on the board: a turn of 0.6°, moved. */
const read = (machine: Machine, { x, y }: { x: number; y: number }): { x: number; y: number } =>
  apply(bedToFile(machine), {
    x: 22 + x * Math.cos(0.01) - y * Math.sin(0.01),
    y: 17 + x * Math.sin(0.01) + y * Math.cos(0.01),
  });

type Change = (b: BatchDocument) => BatchDocument;
const reckoned = (b: BatchDocument): ReturnType<typeof reckonDocument> => reckonDocument(b, 200);

const bare: Change = (b) => ({
  ...b,
  ticks: [],
  readings: [],
  pieces: [],
  rings: [],
  firstApproved: false,
  feeder: b.feeder && { ...b.feeder, readings: [] },
});
const aimed =
  (share: number): Change =>
  (b) => {
    const { input, reckoning } = reckoned(b);
    const marks = reckoning.board?.marks ?? [];
    const some = marks.slice(0, Math.ceil(marks.length * share));
    const at = (mark: number, place: { x: number; y: number }, purpose: 'place' | 'reread', i: number) => ({
      id: uuid(100 + i),
      mark,
      ...read(input.machine, place),
      source: 'typed' as const,
      at: `2026-05-30T10:0${i % 10}:00.000Z`,
      by: 'operator',
      purpose,
    });
    return {
      ...b,
      readings: [
        ...some.map((m, i) => at(m.id, m.at, 'place', i)),
        ...(share === 1 && marks[0] ? [at(marks[0].id, marks[0].at, 'reread', 9)] : []),
      ],
    };
  };
const ticked: Change = (b) => {
  const { input, reckoning } = reckoned(b);
  // All but those that move the work on: what is burned is told apart below.
  const steps = benchSteps(input, reckoning).filter((s) => !/^run\.segment|turned/.test(s.id));
  return { ...b, ticks: steps.map((s) => ({ step: s.id, at: NOW, by: 'operator' })) };
};
const loaded =
  (state: 'loaded' | 'done' | 'scrap'): Change =>
  (b) => ({
    ...b,
    pieces: reckoned(b).reckoning.onTheBoard.map(({ slot, ordinal }, i) => ({
      id: uuid(i),
      ordinal,
      load: 1,
      slot: slot.slot,
      state,
      cause: state === 'scrap' ? 'operator' : null,
      dx: null,
      dy: null,
    })) as BatchDocument['pieces'],
  });
const approved: Change = (b) => ({ ...b, firstApproved: true });
const finished: Change = (b) => ({
  ...b,
  firstApproved: true,
  pieces: Array.from({ length: b.quantity }, (_, i) => ({
    ...loaded('done')({ ...b, pieces: [] }).pieces[0]!,
    id: uuid(i),
    ordinal: i + 1,
    load: i + 1,
    slot: 1,
  })),
});
const moved: Change = (b) => ({
  ...b,
  ticks: [...b.ticks, ...['place.turned', 'run.segment-1'].map((step) => ({ step, at: NOW, by: 'operator' }))],
});
/** A recipe, names, samples and a saved fixture for every batch, so that its files are written. */
const equipped =
  (recipe: BatchDocument['recipe']): Change =>
  (b) => {
    const names = Array.from({ length: b.quantity }, (_, i) =>
      Object.fromEntries(['Name', ...b.columns].map((c) => [c, `N ${i + 1}`])),
    );
    const { sizes } = reckoned(b).reckoning;
    const samples = (['length', 'width', 'thickness', 'diameter', 'tape'] as const).flatMap((dimension, d) =>
      Array.from({ length: 12 }, (_, i) => ({
        id: uuid(1000 + 100 * d + i),
        dimension,
        value:
          (dimension === 'tape' ? Math.PI * sizes.length.mean : (sizes[dimension as 'length'] ?? sizes.length).mean) +
          0.04 * Math.sin(i * 1.7),
        at: NOW,
        by: 'operator',
      })),
    ) as BatchDocument['blank']['samples'];
    const full: BatchDocument = {
      ...b,
      recipe: b.recipe ?? recipe,
      roster: b.roster.length > 0 ? b.roster : names,
      blank: b.blank.samples.length > 0 ? b.blank : { ...b.blank, samples },
    };
    const seen: BatchDocument = {
      ...full,
      setup: {
        ...full.setup,
        held: shownTo(full.setup.held),
      },
    };
    return held(seen);
  };
/** What was seen at the bench, where that is what a way waits for. */
const shownTo = (held: BatchDocument['setup']['held']): BatchDocument['setup']['held'] =>
  held.way === 'drive'
    ? { ...held, found: { ...held.found, letter: held.found.letter ?? { quarters: 0, mirrored: false } } }
    : held.way === 'photo'
      ? {
          ...held,
          found: {
            ...held.found,
            blanks: [0, 1, 2].map((i) => ({
              x: 80 + 60 * i,
              y: 90 + 25 * i,
              angle: 0.3 * i,
              doubt: 0.1,
              turn: 0.002,
              ask: false,
              why: '',
            })),
          },
        }
      : held;
const held: Change = (full) => {
  if (full.fixture) return full;
  return {
    ...full,
    fixture: {
      id: uuid(1),
      fixtureId: uuid(2),
      name: 'made for it',
      revision: 1,
      ...frozen(full.setup),
      basis: reckoned(full).reckoning.basis,
      savedAt: '2026-05-29T10:00:00.000Z',
      savedBy: 'operator',
    },
  };
};
const then =
  (...all: Change[]): Change =>
  (b) =>
    all.reduce((x, change) => change(x), b);

const states = (full: Change): Readonly<Record<string, Change>> => ({
  'as it is': (b) => b,
  bare,
  equipped: full,
  'without a fixture': then(bare, (b) => ({ ...b, fixture: null })),
  'without a recipe': (b) => ({ ...b, recipe: null, backRecipe: null }),
  'without a roster': (b) => ({ ...b, roster: [] }),
  'without a drive or feeder': (b) => ({ ...b, drive: null, feeder: null }),
  'half aimed': then(bare, aimed(0.5)),
  aimed: then(full, bare, aimed(1)),
  'aimed, by turning the work': then(full, bare, aimed(1), (b) => ({
    ...b,
    setup: { ...b.setup, place: { ...b.setup.place, school: 'work' } },
  })),
  ticked: then(full, bare, aimed(1), ticked),
  'first loaded': then(full, bare, loaded('loaded'), aimed(1), ticked),
  'first done': then(full, bare, aimed(1), ticked, loaded('done')),
  approved: then(full, bare, aimed(1), ticked, loaded('done'), approved),
  'loaded, approved': then(full, bare, approved, loaded('loaded'), aimed(1), ticked),
  'scrapped, approved': then(full, bare, approved, aimed(1), ticked, loaded('scrap')),
  'turned or moved on': then(full, bare, approved, loaded('loaded'), ticked, moved, aimed(1)),
  finished: then(full, aimed(1), ticked, finished),
});

const hash = (text: string): string => createHash('sha256').update(text).digest('hex').slice(0, 16);
const bodyOf = (body: string | Buffer | Generator<string>): string =>
  typeof body === 'string' || Buffer.isBuffer(body) ? body.toString() : [...body].join('');

const fileOf = async (b: BatchDocument, file: (typeof FILES)[number], known: ReturnType<typeof reckonDocument>) => {
  try {
    return hash(bodyOf(await makeFile(b, file, new Map(), known)));
  } catch (error) {
    return error instanceof HttpProblem ? `refused: ${error.problem.message}` : `threw ${String(error)}`;
  }
};

const report = async (b: BatchDocument): Promise<unknown> => {
  const known = reckoned(b);
  const { input, reckoning: r } = known;
  const files: Record<string, string> = {};
  // Papers carry the day; pictures follow from the same shapes.
  for (const file of FILES.filter((f) => !/\.(pdf|png)$/.test(f))) files[file] = await fileOf(b, file, known);
  return {
    stations: stationStates(input, r),
    steps: benchSteps(input, r),
    warnings: r.warnings,
    predicted: r.budget.predicted.toFixed(6),
    sources: r.budget.sources.map((s) => `${s.id} ${s.u.toFixed(6)}`),
    onTheBoard: r.onTheBoard.map((o) => `${o.slot.slot}:${o.ordinal}`),
    planned: r.planned,
    placed: r.placed,
    run: r.run,
    outline: hash(JSON.stringify(trueOutline(r).map((p) => [p.x.toFixed(4), p.y.toFixed(4)]))),
    files,
  };
};

const [out, url, demo] = process.argv.slice(2) as [string, string, string | undefined];
if (demo) await seedDemo(connect(url, 1, 'unlimited'));
else await restoreBackup(url, fileURLToPath(new URL('../src/backup/release-0012.backup.gz', import.meta.url)));
fixedClock();
const db = connect(url, 2);
const ids = await db.selectFrom('batches').select(['id', 'name']).orderBy('name').execute();
const all: Record<string, unknown> = {};
let recipe: BatchDocument['recipe'] = null;
for (const { id } of ids) recipe ??= (await db.transaction().execute((trx) => loadBatch(trx, id))).recipe;
const STATES = states(equipped(recipe));
for (const { id, name } of ids) {
  const batch = await db.transaction().execute((trx) => loadBatch(trx, id));
  for (const [state, change] of Object.entries(STATES)) {
    try {
      all[`${name}: ${state}`] = await report(change(batch));
    } catch (error) {
      all[`${name}: ${state}`] = `threw ${(error as Error).stack ?? String(error)}`.split('\n').slice(0, 3).join(' ');
    }
  }
}
writeFileSync(out, JSON.stringify(all, null, 1));
await db.destroy();
