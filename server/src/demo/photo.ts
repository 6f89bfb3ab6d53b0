import type { BlankSpec, RecipeSpec } from '@bistre/contract';
import { record } from '../changes/change';
import { writeRoster } from '../changes/roster';
import type { Trx } from '../db/connect';
import { holding, addBatch, addSamples, dueIn, gaussian, type DemoShop } from './kit';

/** A gull in flight, cut from driftwood ply: no turn of it looks like another. */
const gull = (): { x: number; y: number }[] => {
  const upper = [
    [-62, 14],
    [-48, 21],
    [-32, 19],
    [-16, 9],
    [-4, 5],
    [8, 9],
    [20, 20],
    [36, 26],
    [52, 22],
    [58, 16],
  ];
  const lower = [
    [46, 12],
    [34, 6],
    [26, -6],
    [18, -17],
    [4, -22],
    [-12, -20],
    [-26, -10],
    [-44, 2],
  ];
  return [...upper, ...lower].map(([x, y]) => ({ x: x!, y: y! }));
};

const outline = gull();
const gullBlank: BlankSpec = {
  shape: {
    kind: 'outline',
    contours: [{ closed: true, vertices: outline }],
    source: 'gull.svg',
  },
  thickness: 4,
  catalogueTolerance: 0.5,
  holes: [{ x: 30, y: 15, diameter: 5 }],
  direction: { kind: 'hole' },
  zones: [
    {
      id: 'face',
      name: 'body',
      x: -2,
      y: -7,
      width: 44,
      height: 20,
      margin: 2,
      across: 'centre',
      down: 'middle',
      keepOuts: [],
    },
  ],
};

const driftwood: RecipeSpec = {
  material: 'driftwood plywood 4 mm',
  engrave: { power: 0.3, speed: 350, interval: 0.1, passes: 1 },
  cut: { power: 0.75, speed: 14, interval: 0.1, passes: 1 },
  note: 'Trial 37 of 23 Nov 2026: brown, clean edges',
};

/** Twelve gulls that lie anywhere on the bed: a photograph says where. */
export const seedPhoto = async (trx: Trx, shop: DemoShop): Promise<void> => {
  const blank = await shop.blank('Gull, driftwood', gullBlank);
  await addSamples(trx, blank, {
    length: gaussian(83, 120, 0.1, 6),
    width: gaussian(89, 48, 0.1, 6),
    thickness: gaussian(97, 4.05, 0.04, 6),
  });
  const batch = await addBatch(trx, {
    name: 'Gulls, lying anywhere',
    quantity: 12,
    spares: 1,
    tolerance: 0.8,
    due: dueIn(12, 11),
    machine: shop.a,
    blank,
    recipe: await shop.recipe('Driftwood, brown', shop.a, driftwood),
    stock: shop.paper,
    held: holding('photo', { name: 'GULLS' }),
    lines: [
      { column: 'crew', alphabet: 'garamond', capHeight: 6 },
      { column: 'seat', alphabet: 'b612', capHeight: 3.2 },
    ],
  });
  const crews = ['KESTREL', 'PUFFIN', 'SANDLING', 'TURNSTONE', 'DUNLIN', 'WHIMBREL'];
  await writeRoster(
    trx,
    batch,
    ['crew', 'seat'],
    Array.from({ length: 12 }, (_, i) => ({ crew: crews[i % 6]!, seat: i < 6 ? 'BOW' : 'STERN' })),
  );
  await record(trx, {
    by: 'Odile',
    kind: 'roster',
    batchId: batch,
    summary: 'Roster brought in: 12 rows, columns crew, seat',
  });
};
