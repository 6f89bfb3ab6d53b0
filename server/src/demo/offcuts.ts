import type { BlankSpec, RecipeSpec } from '@bistre/contract';
import { writeRoster } from '../changes/roster';
import { record } from '../changes/change';
import type { Trx } from '../db/connect';
import { holding, addBatch, dueIn, type DemoShop } from './kit';

/** A peg that marks a lane: pointed at one end, a hole for the pennant at the other. */
const peg: BlankSpec = {
  shape: {
    kind: 'outline',
    contours: [
      {
        closed: true,
        vertices: [
          { x: -55, y: 0 },
          { x: -38, y: -12 },
          { x: 55, y: -12 },
          { x: 55, y: 12 },
          { x: -38, y: 12 },
        ],
      },
    ],
    source: 'peg.svg',
  },
  thickness: 6,
  catalogueTolerance: 0,
  holes: [{ x: 46, y: 0, diameter: 6 }],
  direction: { kind: 'hole' },
  zones: [
    {
      id: 'face',
      name: 'face',
      x: 2,
      y: 0,
      width: 72,
      height: 20,
      margin: 2,
      across: 'centre',
      down: 'middle',
      keepOuts: [],
    },
  ],
};

const larch: RecipeSpec = {
  material: 'larch board 6 mm',
  engrave: { power: 0.34, speed: 340, interval: 0.12, passes: 1 },
  cut: { power: 0.8, speed: 8, interval: 0.1, passes: 1 },
  note: 'Trial 38 of 23 Nov 2026: dark brown, through in one pass',
};

const buoy: BlankSpec = {
  shape: { kind: 'disc', diameter: 46 },
  thickness: 6,
  catalogueTolerance: 0.5,
  holes: [{ x: 0, y: 18, diameter: 4 }],
  direction: { kind: 'hole' },
  zones: [
    {
      id: 'face',
      name: 'face',
      x: 0,
      y: -2,
      width: 32,
      height: 20,
      margin: 1,
      across: 'centre',
      down: 'middle',
      keepOuts: [],
    },
  ],
};

/** Buoy labels of the same larch: a second list for the same stock. */
const seedBuoys = async (trx: Trx, shop: DemoShop, recipe: string): Promise<void> => {
  const batch = await addBatch(trx, {
    name: 'Buoy labels, same larch',
    quantity: 16,
    spares: 1,
    tolerance: 1,
    due: dueIn(15, 11),
    machine: shop.a,
    blank: await shop.blank('Buoy label', buoy),
    recipe,
    stock: shop.paper,
    held: holding('photo', { name: 'BUOYS', use: 'offcuts', gap: 1.5 }),
    lines: [{ column: 'buoy', alphabet: 'b612-bold', capHeight: 10 }],
  });
  await writeRoster(
    trx,
    batch,
    ['buoy'],
    Array.from({ length: 16 }, (_, i) => ({ buoy: `B${i + 1}` })),
  );
};

/** Lane pegs cut from offcuts, round their knots. */
export const seedOffcuts = async (trx: Trx, shop: DemoShop): Promise<void> => {
  const larchId = await shop.recipe('Larch, 6 mm', shop.a, larch);
  const batch = await addBatch(trx, {
    name: 'Lane pegs, from offcuts',
    quantity: 36,
    spares: 2,
    tolerance: 1,
    due: dueIn(12, 15),
    machine: shop.a,
    blank: await shop.blank('Lane peg', peg),
    recipe: larchId,
    stock: shop.paper,
    held: holding('photo', { name: 'PEGS', use: 'offcuts', gap: 1.5 }),
    lines: [
      { column: 'lane', alphabet: 'b612-bold', capHeight: 8 },
      { column: 'mark', alphabet: 'b612', capHeight: 4 },
    ],
  });
  await writeRoster(
    trx,
    batch,
    ['lane', 'mark'],
    Array.from({ length: 36 }, (_, i) => ({ lane: `LANE ${(i % 6) + 1}`, mark: `${Math.floor(i / 6) * 400} m` })),
  );
  await record(trx, {
    by: 'Odile',
    kind: 'roster',
    batchId: batch,
    summary: 'Roster brought in: 36 rows, columns lane, mark',
  });
  await seedBuoys(trx, shop, larchId);
};
