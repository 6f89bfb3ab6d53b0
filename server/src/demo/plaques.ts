import type { BlankSpec, RecipeSpec } from '@bistre/contract';
import { freshStock, freshPins } from '@bistre/core';
import { loadBatch } from '../batches';
import { record } from '../changes/change';
import { writeRoster } from '../changes/roster';
import type { Trx } from '../db/connect';
import { holding, addBatch, addSamples, dueIn, gaussian, type DemoShop } from './kit';

/** Half of a hull seen from above, stern to bow; the other half is its mirror. */
const HALF = [
  [-70, 13],
  [-60, 17.5],
  [-40, 21],
  [-15, 22.5],
  [10, 21],
  [34, 16.5],
  [54, 10],
  [68, 4],
  [74, 0],
] as const;
const hull = [
  ...HALF,
  ...HALF.slice(0, -1)
    .map(([x, y]) => [x, -y] as const)
    .reverse(),
];

/** A boat-shaped plaque, turned over at its edge: no pocket grips it, no straight edge stops it. */
const plaque: BlankSpec = {
  shape: {
    kind: 'outline',
    // Counter-clockwise.
    contours: [{ closed: true, vertices: [...hull].reverse().map(([x, y]) => ({ x, y })) }],
    source: 'hull.svg',
  },
  thickness: 6,
  catalogueTolerance: 0.4,
  holes: [{ x: 57, y: 0, diameter: 4 }],
  direction: { kind: 'hole' },
  zones: [
    {
      id: 'face',
      name: 'deck',
      x: -12,
      y: 0,
      width: 92,
      height: 26,
      margin: 1.5,
      across: 'centre',
      down: 'middle',
      keepOuts: [],
    },
  ],
};

const sycamore: RecipeSpec = {
  material: 'sycamore 6 mm, oiled',
  engrave: { power: 0.42, speed: 300, interval: 0.1, passes: 1 },
  cut: { power: 0.8, speed: 10, interval: 0.1, passes: 1 },
  note: 'Trial 41 of 24 Nov 2026: dark brown, no halo',
};

const BOATS = ['KESTREL', 'PUFFIN', 'SANDLING', 'TURNSTONE', 'DUNLIN', 'WHIMBREL', 'KNOT', 'REDSHANK', 'GANNET'];

/** Boat-shaped plaques that bear against two pegs and are laid to two lines, pinned on the honeycomb. */
export const seedPlaques = async (trx: Trx, shop: DemoShop): Promise<void> => {
  const blank = await shop.blank('Boat plaque, sycamore', plaque);
  await addSamples(trx, blank, {
    length: gaussian(101, 144.02, 0.09, 10),
    width: gaussian(103, 45.01, 0.07, 10),
    thickness: gaussian(107, 6.03, 0.03, 6),
  });
  const batch = await addBatch(trx, {
    name: 'Boat plaques, pegs and lines',
    quantity: 18,
    spares: 2,
    tolerance: 0.8,
    due: dueIn(13, 10),
    machine: shop.a,
    blank,
    recipe: await shop.recipe('Sycamore, dark', shop.a, sycamore),
    stock: shop.ply.a,
    held: holding('pegs', {
      name: 'PLAQUE-9',
      extent: { kind: 'count', count: 9 },
      boardThickness: 4,
      shoulder: 4,
    }),
    beside: { boardWarp: 3, pins: freshPins, stock: { ...freshStock, thickness: 4 } },
    lines: [
      { column: 'boat', alphabet: 'garamond', capHeight: 9 },
      { column: 'place', alphabet: 'b612', capHeight: 3.6 },
    ],
  });
  await writeRoster(
    trx,
    batch,
    ['boat', 'place'],
    Array.from({ length: 18 }, (_, i) => ({ boat: BOATS[i % 9]!, place: i < 9 ? 'FIRST REGATTA' : 'SECOND REGATTA' })),
  );
  const { setup } = await loadBatch(trx, batch);
  await trx
    .updateTable('batches')
    .set({
      setup: JSON.stringify({
        ...setup,
        looks: {
          pieces: [
            { ordinal: 1, side: 'one', defects: [] },
            { ordinal: 2, side: 'two', defects: [{ x: 2, y: -6, diameter: 7 }] },
          ],
        },
      }),
    })
    .where('id', '=', batch)
    .execute();
  await record(trx, {
    by: 'Odile',
    kind: 'roster',
    batchId: batch,
    summary: 'Roster brought in: 18 rows, columns boat, place',
  });
};
