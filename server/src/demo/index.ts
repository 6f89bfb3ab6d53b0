import { sql } from 'kysely';
import { freshMachine, runSummary, seeded } from '@bistre/core';
import type { BlankSpec, MachineProfile, RecipeSpec } from '@bistre/contract';
import { loadBatch, loadWhole } from '../batches';
import { markChanged, record } from '../changes/change';
import type { Db, Trx } from '../db/connect';
import { freshBoard, saveFixture } from '../changes/fixture';
import { writeRoster } from '../changes/roster';
import { seedBadges } from './badges';
import { seedFeeder } from './feeder';
import { seedRound } from './round';
import { seedLong } from './long';
import { seedLocator } from './locator';
import { seedMarked } from './marked';
import { seedPhoto } from './photo';
import { seedPlaques } from './plaques';
import { seedCards } from './cards';
import { seedCharts } from './charts';
import { seedStopwatches } from './stopwatches';
import { seedTrials } from './trials';
import { seedTiles } from './tiles';
import { seedOffcuts } from './offcuts';
import { seedPanel } from './panel';
import { seedSheet } from './sheet';
import { holding, gaussian, addSamples, type DemoShop, addBatch, tick, dueIn } from './kit';

const gasTube: MachineProfile = {
  ...freshMachine,
  jogSteps: [...freshMachine.jogSteps],
  power: 60,
  leastPower: 0.1,
  bed: { width: 900, height: 600 },
  bedLowest: 190,
  withoutBed: 260,
  zeroCorner: 'back-left',
  yRuns: 'toward',
  kerfMeasuredAt: '2026-10-02T09:12:00.000Z',
  repeatability: 0.04,
  focusRange: 2.4,
  acceleration: 5000,
  rapidSpeed: 500,
  optics: { wavelength: 10.6, focal: 50.8, beam: 5, quality: 1.2 },
};
const diode: MachineProfile = {
  ...gasTube,
  source: 'diode',
  optics: { wavelength: 0.45, focal: 40, beam: 4, quality: 5 },
  power: 10,
  leastPower: 0.01,
  bed: { width: 400, height: 400 },
  zeroCorner: 'front-left',
  yRuns: 'away',
  kerf: 0.1,
  kerfMeasuredAt: null,
  focusRange: 1.2,
  acceleration: 1500,
  rapidSpeed: 120,
  headRadius: 25,
  nozzleGap: 20,
};
const fibre: MachineProfile = {
  ...gasTube,
  source: 'fibre',
  optics: { wavelength: 1.064, focal: 160, beam: 7, quality: 1.4 },
  power: 30,
  leastPower: 0.05,
  bed: { width: 150, height: 150 },
  zeroCorner: 'front-left',
  yRuns: 'away',
  kerf: 0.05,
  kerfMeasuredAt: null,
  jogSteps: [5, 0.5, 0.05],
  repeatability: 0.01,
  focusRange: 0.8,
  nozzleGap: 160,
  headRadius: 40,
  acceleration: 20_000,
  rapidSpeed: 3000,
  dialect: { powerMax: 1000, laserOn: 'M3', arcs: false, decimals: 4 },
};

const SLATE = 'two-layer acrylic, 1.5 mm, slate on bone';
const boatTag: BlankSpec = {
  material: SLATE,
  shape: { kind: 'rectangle', length: 60, width: 25, cornerRadius: 3 },
  thickness: 1.5,
  catalogueTolerance: 0.3,
  holes: [{ x: -25.5, y: 0, diameter: 4 }],
  direction: { kind: 'hole' },
  zones: [
    {
      id: 'face',
      name: 'face',
      x: 3.5,
      y: 0,
      width: 50,
      height: 22,
      margin: 1.5,
      across: 'centre',
      down: 'middle',
      keepOuts: [],
    },
  ],
};
const laneMedal: BlankSpec = {
  shape: { kind: 'disc', diameter: 50 },
  thickness: 3.2,
  catalogueTolerance: 0.2,
  holes: [{ x: 0, y: 21, diameter: 4 }],
  direction: { kind: 'hole' },
  zones: [
    {
      id: 'face',
      name: 'face',
      x: 0,
      y: -2,
      width: 36,
      height: 24,
      margin: 1,
      across: 'centre',
      down: 'middle',
      keepOuts: [],
    },
  ],
};
const bagTag: BlankSpec = {
  shape: { kind: 'rectangle', length: 70, width: 30, cornerRadius: 4 },
  thickness: 1.6,
  catalogueTolerance: 0.3,
  holes: [{ x: -30, y: 0, diameter: 5 }],
  direction: { kind: 'hole' },
  zones: [
    {
      id: 'face',
      name: 'face',
      x: 4,
      y: 0,
      width: 56,
      height: 26,
      margin: 2,
      across: 'centre',
      down: 'middle',
      keepOuts: [],
    },
  ],
};

const tagRecipe: RecipeSpec = {
  material: SLATE,
  engrave: { power: 0.35, speed: 400, interval: 0.1, passes: 1 },
  cut: { power: 0.7, speed: 12, interval: 0.1, passes: 1 },
  note: 'Trial 14 of 28 Sep 2026: 5 × 5 grid, power by speed; cell 3/3 chosen',
};
const diodeRecipe: RecipeSpec = {
  material: 'three-ply plastic, 3.2 mm',
  engrave: { power: 0.8, speed: 60, interval: 0.1, passes: 1 },
  cut: { power: 1, speed: 4, interval: 0.1, passes: 3 },
  note: '',
};

/** Plywood for boards and gauges: the cut goes through, numbers are drawn lightly. */
const plyRecipe: RecipeSpec = {
  material: 'birch plywood, 3 mm',
  engrave: { power: 0.2, speed: 250, interval: 0.1, passes: 1 },
  cut: { power: 0.75, speed: 14, interval: 0.1, passes: 1 },
  note: 'Trial 17 of 12 Oct 2026: falls out at 75 % and 14 mm/s, pushed out at 16',
};
const plyDiode: RecipeSpec = {
  material: 'birch plywood, 3 mm',
  engrave: { power: 0.5, speed: 60, interval: 0.1, passes: 1 },
  cut: { power: 1, speed: 4, interval: 0.1, passes: 4 },
  note: '',
};
const paperRecipe: RecipeSpec = {
  material: 'white paper, 160 g',
  engrave: { power: 0.1, speed: 400, interval: 0.1, passes: 1 },
  cut: { power: 0.2, speed: 60, interval: 0.1, passes: 1 },
  note: '',
};

const BOATS = [
  'KESTREL',
  'PUFFIN',
  'SANDLING',
  'TURNSTONE',
  'DUNLIN',
  'WHIMBREL',
  'KNOT',
  'REDSHANK',
  'GANNET',
  'OYSTERCATCHER',
  'FULMAR',
  'SHEARWATER',
];

const crews = (): Record<string, string>[] =>
  BOATS.flatMap((name, b) =>
    Array.from({ length: 8 }, (_, i) => ({
      name,
      seat: `LANE ${(b % 6) + 1} · ${String(b * 8 + i + 1).padStart(2, '0')}`,
    })),
  );

/** Saves a demo batch's board as an operator would. */
const demoFixture = async (trx: Trx, id: string, by: string): Promise<void> =>
  saveFixture(trx, id, freshBoard(await loadWhole(trx, id)), by, await markChanged(trx, id, by));

/** A batch that was run and closed, with measured pieces and two scrapped ones. */
const finishedBatch = async (
  trx: Trx,
  machine: string,
  blank: string,
  recipe: string,
  stock: string,
): Promise<void> => {
  const id = await addBatch(trx, {
    name: 'Bag tags, junior crews',
    quantity: 24,
    spares: 4,
    tolerance: 0.6,
    due: dueIn(-6, 15),
    machine,
    blank,
    recipe,
    stock,
    held: holding('pockets', {
      extent: { kind: 'count', count: 12 },
      clearance: { school: 'snug' },
      name: 'BAGTAG-12',
    }),
    lines: [
      { column: 'name', alphabet: 'barlow', capHeight: 8 },
      { column: 'crew', alphabet: 'barlow', capHeight: 3.5 },
    ],
  });
  const roster = Array.from({ length: 24 }, (_, i) => ({
    name: BOATS[i % 12]!,
    crew: `JUNIOR ${String.fromCharCode(65 + (i % 4))} · ${i + 1}`,
  }));
  await writeRoster(trx, id, ['name', 'crew'], roster);
  await demoFixture(trx, id, 'Imre');
  await tick(trx, id, 'hold.cut', 'hold.fit', 'place.home', 'place.lay', 'place.focus', 'place.walk');
  const r = seeded(41);
  const scrapAt = new Set([9, 17]);
  let load = 1;
  const waiting = Array.from({ length: 24 }, (_, i) => i + 1);
  let first = true;
  while (waiting.length > 0) {
    const fill = waiting.splice(0, first ? 1 : 12);
    for (const [i, ordinal] of fill.entries()) {
      const scrapped = scrapAt.delete(ordinal);
      const [dx, dy, yaw] = [0.04 + 0.12 * r.normal(), -0.02 + 0.11 * r.normal(), 0.0015 * r.normal()].map(
        (v) => Math.round(v * 1e4) / 1e4,
      ) as [number, number, number];
      const cause = scrapped ? (ordinal === 9 ? 'blank flawed' : 'moved while burning') : null;
      await trx
        .insertInto('pieces')
        .values({
          batch_id: id,
          ordinal,
          load,
          slot: i + 1,
          state: scrapped ? 'scrap' : 'done',
          cause,
          dx_mm: dx,
          dy_mm: dy,
          yaw_rad: yaw,
          by: 'Imre',
        })
        .execute();
      await record(trx, {
        by: 'Imre',
        kind: scrapped ? 'scrap' : 'piece',
        batchId: id,
        summary: `Piece ${ordinal} (load ${load}, slot ${i + 1}) ${scrapped ? `scrapped: ${cause}` : 'done'}, off by ${dx.toFixed(2)}, ${dy.toFixed(2)} mm`,
      });
      if (scrapped) waiting.push(ordinal);
    }
    if (first) await record(trx, { by: 'Odile', kind: 'first piece', batchId: id, summary: 'First piece approved' });
    first = false;
    load += 1;
  }
  const summary = runSummary({
    quantity: 24,
    spares: 4,
    capacity: 12,
    firstApproved: true,
    pieces: (await loadBatch(trx, id)).pieces,
  });
  await record(trx, {
    by: 'Imre',
    kind: 'closed',
    batchId: id,
    summary: `Batch closed: ${summary.done} of 24 done, ${summary.scrapped} scrapped. Snug pockets held well; wipe the masking off warm`,
  });
  await sql`update batches set closed_at = now() - interval '5 days', closed_by = 'Imre', first_approved = true
    where id = ${id}`.execute(trx);
};

/** The invented shop: machines, blanks, recipes and three batches. Does nothing when anything exists. */
export const seedDemo = (db: Db): Promise<void> =>
  db.transaction().execute(async (trx) => {
    // One seeding at a time, whoever starts.
    await sql`select pg_advisory_xact_lock(4173)`.execute(trx);
    const any = await trx.selectFrom('machines').select('id').limit(1).executeTakeFirst();
    if (any) return;
    const machine = async (name: string, profile: MachineProfile): Promise<string> =>
      (
        await trx
          .insertInto('machines')
          .values({ name, profile: JSON.stringify(profile) })
          .returning('id')
          .executeTakeFirstOrThrow()
      ).id;
    const blank = async (name: string, spec: BlankSpec): Promise<string> =>
      (
        await trx
          .insertInto('blanks')
          .values({ name, spec: JSON.stringify(spec) })
          .returning('id')
          .executeTakeFirstOrThrow()
      ).id;
    const recipe = async (name: string, machineId: string, spec: RecipeSpec): Promise<string> =>
      (
        await trx
          .insertInto('recipes')
          .values({ name, machine_id: machineId, spec: JSON.stringify(spec) })
          .returning('id')
          .executeTakeFirstOrThrow()
      ).id;
    const a = await machine('Bench A', gasTube);
    const b = await machine('Bench B', diode);
    await machine('Bench C', fibre);
    const tag = await blank('Boat tag', boatTag);
    const medal = await blank('Lane medal', laneMedal);
    const bag = await blank('Bag tag', bagTag);
    await addSamples(trx, tag, {
      length: gaussian(3, 60.04, 0.07, 12),
      width: gaussian(5, 25.02, 0.05, 12),
      thickness: gaussian(8, 1.5, 0.02, 6),
    });
    await addSamples(trx, bag, {
      length: gaussian(13, 70.02, 0.06, 10),
      width: gaussian(15, 29.98, 0.05, 10),
      thickness: gaussian(18, 1.6, 0.02, 5),
    });
    const slate = await recipe('Slate acrylic, fine', a, tagRecipe);
    await recipe('Three-ply, slow', b, diodeRecipe);
    const ply = await recipe('Birch ply 3 mm, boards', a, plyRecipe);
    const plyB = await recipe('Birch ply 3 mm, boards, diode', b, plyDiode);
    await finishedBatch(trx, a, bag, slate, ply);

    const tags = await addBatch(trx, {
      name: 'Boat tags',
      quantity: 96,
      spares: 6,
      tolerance: 0.6,
      due: dueIn(3, 14),
      machine: a,
      blank: tag,
      recipe: slate,
      stock: ply,
      held: holding('pockets', {
        extent: { kind: 'count', count: 48 },
        clearance: { school: 'snug' },
        name: 'BOATTAG-48',
      }),
      lines: [
        { column: 'name', alphabet: 'b612-bold', capHeight: 6 },
        { column: 'seat', alphabet: 'b612', capHeight: 3.2 },
      ],
    });
    await writeRoster(trx, tags, ['name', 'seat'], crews());
    await record(trx, {
      by: 'Odile',
      kind: 'roster',
      batchId: tags,
      summary: 'Roster brought in: 96 rows, columns name, seat',
    });
    await demoFixture(trx, tags, 'Imre');
    await tick(trx, tags, 'blank.measure', 'hold.cut', 'hold.fit');
    await record(trx, { by: 'Imre', kind: 'step', batchId: tags, summary: 'Step hold.cut done' });

    await addBatch(trx, {
      name: 'Lane medals',
      quantity: 36,
      spares: 3,
      tolerance: 0.6,
      due: dueIn(9, 12),
      machine: b,
      blank: medal,
      recipe: null,
      stock: plyB,
      held: holding('pockets', { extent: { kind: 'count', count: 18 }, name: 'MEDAL-18' }),
      lines: [],
    });
    const paper = await recipe('White paper, camera marks', a, paperRecipe);
    const shop: DemoShop = { a, b, blank, recipe, ply: { a: ply, b: plyB }, paper };
    await seedRound(trx, shop);
    await seedSheet(trx, shop);
    await seedBadges(trx, shop);
    await seedPanel(trx, shop);
    await seedLong(trx, shop);
    await seedFeeder(trx, shop);
    await seedPhoto(trx, shop);
    await seedOffcuts(trx, shop);
    await seedMarked(trx, shop);
    await seedPlaques(trx, shop);
    await seedStopwatches(trx, shop, await seedTiles(trx, shop));
    await seedCards(trx, shop);
    await seedCharts(trx, shop);
    await seedLocator(trx, shop);
    await seedTrials(trx, shop);
  });

/** Empties every table; only for putting the demo back. */
export const clearAll = async (db: Db): Promise<void> => {
  await sql`truncate machines, trials, trial_scores, offcuts, drives, rings, feeders, feed_readings, blanks, blank_samples, recipes, fixtures, fixture_revisions, batches, mark_readings, roster_rows, pieces, step_ticks, putbacks, events, simulations, replies, pictures, artworks, artwork_revisions, serial_numbers, steps, photographs restart identity cascade`.execute(
    db,
  );
};
