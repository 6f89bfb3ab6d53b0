import { sql } from 'kysely';
import { recipeSpec, type RecipeSpec, type ShopStepSpec, type TrialSpec } from '@bistre/contract';
import { machineOf } from '@bistre/contract';
import {
  cellFor,
  energyOf,
  familyOf,
  gridSize,
  judgeFamily,
  partOf,
  placeOf,
  seeded,
  HOLD_WORDS,
  settingAt,
  testsFor,
  spreadLevels,
  trialRange,
  type CellScore,
  type Effect,
  type Machine,
} from '@bistre/core';
import { answerOf, hiddenMaterial, lookAt } from '@bistre/core/bench-sim';
import { alphabet, LABELS } from '../alphabets';
import { loadMachine } from '../batches';
import { createThing } from '../changes/shelf-things';
import type { Trx } from '../db/connect';
import type { Proved } from '../db/schema';
import { keepPhotograph, smallPhotograph } from '../photographs';
import { simulatedLooks, simulatedTrial } from '../simulated-trial';
import type { DemoShop } from './kit';

const labels = () => alphabet(LABELS)!;

/** What a recipe of the demo is for, by what was noted of its trial. */
const effectOf = ({ material, note, engrave }: RecipeSpec): Effect => {
  if (engrave.power === 0 || /falls out|through/.test(note)) return 'cut';
  if (/coating|lacquer|film/.test(note)) return 'clean';
  return /glass/i.test(material) ? 'frost' : 'mark';
};

/** A grid of speed and power about a setting, on a piece just large enough. */
const gridAbout = (
  material: string,
  effect: Effect,
  base: TrialSpec['base'],
  machine: Machine,
  pieceName: string,
): TrialSpec => {
  const powers = trialRange('power', machine);
  const high = Math.min(1, base.power * 1.6);
  const low = Math.max(powers[0], Math.min(base.power / 1.6, high / 2));
  const own = (levels: number[], value: number): number[] => [...new Set([...levels, value])].sort((a, b) => a - b);
  const columns = { number: 'speed' as const, levels: own(spreadLevels('speed', base.speed / 1.8, Math.min(base.speed * 1.8, machine.rapidSpeed), 4), base.speed) }; // prettier-ignore
  const rows = { number: 'power' as const, levels: own(spreadLevels('power', low, high, 4), base.power) };
  const plan = { columns, rows, cell: { width: 6, height: 6 }, gap: 1.5 };
  const size = gridSize(plan, labels());
  return {
    material,
    effect,
    base,
    label: {
      power: Math.max(powers[0], Math.min(1, base.power * 0.8)),
      speed: Math.min(base.speed, 150),
      interval: 0.1,
      passes: 1,
    },
    ...plan,
    piece: { name: pieceName, width: Math.ceil(size.width + 4), height: Math.ceil(size.height + 4) },
    onPiece: { x: 2, y: 2 },
    onBed: { x: 40, y: 40 },
  };
};

interface Kept {
  readonly id: string;
  readonly name: string;
  readonly spec: TrialSpec;
  readonly scores: readonly CellScore[];
  readonly follows: string | null;
}

/** Keeps a trial as it was burned and scored. */
const keepTrial = async (
  trx: Trx,
  machine: Machine,
  { name, spec, scores, follows = null, at, by, pictured = false }: Omit<Kept, 'id' | 'follows'> & { follows?: string | null; at: Date; by: string; pictured?: boolean }, // prettier-ignore
): Promise<Kept> => {
  const { id } = await createThing(trx, 'trials', { name, document: spec, by, machineId: machine.id });
  const photo = pictured
    ? await keepPhotograph(
        trx,
        await smallPhotograph(await simulatedTrial({ name, spec }, machine, labels()), name),
        by,
      )
    : null;
  await trx
    .updateTable('trials')
    .set({ follows, by, at, burned_at: at, burned_by: by, simulated: pictured, photo_id: photo?.id ?? null })
    .where('id', '=', id)
    .execute();
  await trx
    .insertInto('trial_scores')
    .values(
      scores.map((s, i) => ({ trial_id: id, ...s, at: new Date(at.getTime() + 60_000 + i * 1000), removed_at: null })),
    )
    .execute();
  return { id, name, spec, scores, follows };
};

const prove = async (
  trx: Trx,
  recipeId: string,
  trial: Kept,
  cell: number,
  machine: Machine,
  all: readonly Kept[],
  at: Date,
  by: string,
): Promise<void> => {
  // prettier-ignore
  const { fit } = judgeFamily(familyOf(trial, all), machine)!;
  const { column, row } = placeOf(trial.spec, cell);
  const { mean, doubt } = fit.at(trial.spec.columns.levels[column]!, trial.spec.rows.levels[row]!);
  const proved: Proved = { cell, at: at.toISOString(), by, grade: Math.min(10, Math.max(0, mean)), doubt, setting: settingAt(trial.spec, column, row), after: trial.spec.after, tests: testsFor(trial.spec.effect).map((kind) => ({ kind, times: HOLD_WORDS[kind].times, with: HOLD_WORDS[kind].with, holds: true })) }; // prettier-ignore
  await trx.updateTable('recipes').set({ trial_id: trial.id, proved: JSON.stringify(proved) }).where('id', '=', recipeId).execute(); // prettier-ignore
};

/** When a trial was burned, as its note says. */
const dayIn = (note: string): Date => {
  const found = /of (\d+ \w+ 20\d\d)/.exec(note)?.[1];
  return new Date(found ? `${found} 15:20 UTC` : '20 Nov 2026 15:20 UTC');
};

/** A trial for every recipe of the shop: what was noted of it, as a grid with its scores. */
const proveAll = async (trx: Trx): Promise<void> => {
  const recipes = await trx.selectFrom('recipes').selectAll().orderBy('name').execute();
  const used = new Set<string>();
  for (const [i, recipe] of recipes.entries()) {
    const machine = machineOf(await loadMachine(trx, recipe.machine_id));
    const effect = effectOf(recipe.spec);
    const base = recipe.spec[partOf(effect)];
    const noted = /Trial (\d+)/.exec(recipe.spec.note)?.[1] ?? String(60 + i);
    // One that was noted for two recipes was two grids.
    const number = used.has(noted) ? `${noted}b` : noted;
    used.add(number);
    const after = partOf(effect) === 'engrave' ? recipe.spec.after : undefined;
    const spec = { ...gridAbout(recipe.spec.material, effect, base, machine, `Scrap ${number}`), ...(after ? { after } : {}) }; // prettier-ignore
    // A material that likes what the shop found: made up about it.
    const energy = energyOf(machine.power, effect, base);
    const hidden = { ...hiddenMaterial(i + 1, effect, energy), saturation: energy * 0.8, threshold: energy * 0.35, char: energy * 1.9, slowness: 0, soft: base.speed / (effect === 'cut' ? 0.06 : 5), sag: 0 }; // prettier-ignore
    const r = seeded(500 + i);
    const wide = spec.columns.levels.length;
    const own = spec.rows.levels.indexOf(base.power) * wide + spec.columns.levels.indexOf(base.speed);
    const scores = Array.from({ length: wide * spec.rows.levels.length }, (_, cell): CellScore => {
      const { column, row } = placeOf(spec, cell);
      return lookAt(answerOf(hidden, machine.power, settingAt(spec, column, row)), cell, r, 'Imre');
    });
    const at = dayIn(recipe.spec.note);
    const trial = await keepTrial(trx, machine, { name: `Trial ${number}`, spec, scores, at, by: 'Imre' });
    await prove(trx, recipe.id, trial, own, machine, [trial], at, 'Imre');
  }
};

/** Scores of the simulated bench's own looks. */
const simulatedScores = (name: string, spec: TrialSpec, machine: Machine, seed: number): CellScore[] => {
  const r = seeded(seed);
  return simulatedLooks({ name, spec }, machine, labels(), seed).map((look, cell) => lookAt(look, cell, r, 'Odile'));
};

/**
 * A material that was unknown: a first grid over all that the machine gives, a second where the first one said, and the
 * recipe of the best cell.
 */
const twoGrids = async (
  trx: Trx,
  machine: Machine,
  of: { names: readonly [string, string]; recipe: string; first: TrialSpec; at: Date; seed: number },
): Promise<void> => {
  const kept: Kept[] = [];
  let spec = of.first;
  let last: Kept | null = null;
  for (const [i, name] of of.names.entries()) {
    const at = new Date(of.at.getTime() + i * 3 * 3600_000);
    last = await keepTrial(trx, machine, { name, spec, scores: simulatedScores(name, spec, machine, of.seed + i), follows: last?.id ?? null, at, by: 'Odile', pictured: true }); // prettier-ignore
    kept.push(last);
    const { next } = judgeFamily(familyOf(last, kept), machine)!;
    if (!('a' in next)) break;
    const grid = {
      ...spec,
      columns: { ...spec.columns, levels: [...next.a] },
      rows: { ...spec.rows, levels: [...next.b] },
    };
    const side = cellFor(grid, spec.piece, labels(), { least: 4, most: 8 }) ?? 4;
    spec = {
      ...grid,
      cell: { width: side, height: side },
      piece: { ...spec.piece, name: `${of.first.piece.name}, second` },
    };
  }
  const judged = judgeFamily(familyOf(last!, kept), machine)!;
  const best = judged.tried[judged.best.index]!;
  const trial = kept.find((k) => k.id === best.trial)!;
  const { column, row } = placeOf(trial.spec, best.cell);
  const setting = settingAt(trial.spec, column, row);
  const part = partOf(spec.effect);
  const document = recipeSpec.parse({ material: spec.material, engrave: spec.base, cut: { ...spec.base, power: 0 }, [part]: setting, note: '' }); // prettier-ignore
  const { id } = await createThing(trx, 'recipes', { name: of.recipe, document, by: 'Odile', machineId: machine.id });
  await prove(trx, id, trial, best.cell, machine, kept, of.at, 'Odile');
};

/** What this shop does by hand where marking compound is burned on. */
const seedCompoundSteps = async (trx: Trx, material: string): Promise<void> => {
  const of = { kind: 'material', material } as const;
  const none = { of, caution: '', minutes: null, photoId: null };
  const steps: readonly (readonly [string, ShopStepSpec])[] = [
    ['Clean the steel', { ...none, station: 'place', when: 'first', detail: 'Alcohol and a cloth that leaves nothing; no finger on it afterwards.' }], // prettier-ignore
    ['First thin coat of compound', { ...none, station: 'place', when: 'first', detail: 'Even, from a hand’s breadth to a forearm away; no wet runs.', caution: 'Gloves; under extraction, away from flames.', minutes: 5 }], // prettier-ignore
    ['Second coat, dry it fully and look', { ...none, station: 'place', when: 'first', detail: 'Dull all over, and no steel seen through. What is still wet boils off and leaves pale places.', minutes: 15 }], // prettier-ignore
    ['Rinse off what was not burned, and dry', { ...none, station: 'close', when: 'last', detail: 'Warm water and a soft brush; nothing that scratches.' }], // prettier-ignore
    ['Rub it with alcohol, wash it before use', { ...none, station: 'close', when: 'last', detail: 'Twenty rubs on one of each load: nothing comes off.', caution: 'What is drunk or eaten from is washed before it is handed over.' }], // prettier-ignore
  ];
  for (const [i, [name, document]] of steps.entries()) {
    const { id } = await createThing(trx, 'steps', { name, document, by: 'Odile' });
    // One after the other, as they are done.
    await sql`update steps set added_at = added_at + ${i} * interval '1 second' where id = ${id}`.execute(trx);
  }
};

/** Every recipe names a trial that can be opened; two materials are followed from nothing. */
export const seedTrials = async (trx: Trx, shop: DemoShop): Promise<void> => {
  await proveAll(trx);
  const machine = machineOf(await loadMachine(trx, shop.a));
  const speeds = spreadLevels('speed', 100, 480, 5);
  const base = { power: 0.5, speed: 150, interval: 0.1, passes: 1 };
  const piece = { name: 'Steel plate 3', width: 70, height: 62 };
  const compound: TrialSpec = {
    ...gridAbout('stainless steel under marking compound', 'mark', base, machine, piece.name),
    columns: { number: 'speed', levels: speeds },
    rows: { number: 'power', levels: spreadLevels('power', 0.15, 0.6, 4) },
    cell: { width: 7, height: 7 },
    piece,
  };
  await seedCompoundSteps(trx, compound.material);
  await twoGrids(trx, machine, { names: ['Compound on steel 1', 'Compound on steel 2'], recipe: 'Steel, marking compound', first: compound, at: new Date('2026-11-24T09:10:00Z'), seed: 11 }); // prettier-ignore
  const board: TrialSpec = {
    ...gridAbout('birch plywood, 6 mm', 'cut', { power: 0.7, speed: 20, interval: 0.1, passes: 1 }, machine, 'Board offcut 5'), // prettier-ignore
    columns: { number: 'speed', levels: spreadLevels('speed', 14, 36, 4) },
    rows: { number: 'power', levels: [0.4, 0.55, 0.7] },
    cell: { width: 8, height: 8 },
    piece: { name: 'Board offcut 5', width: 64, height: 52 },
  };
  await twoGrids(trx, machine, { names: ['Ply 6 mm, first', 'Ply 6 mm, second'], recipe: 'Birch ply 6 mm, racks', first: board, at: new Date('2026-11-25T13:30:00Z'), seed: 21 }); // prettier-ignore
};
