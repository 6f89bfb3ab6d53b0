import type { BlankSpec, RecipeSpec } from '@bistre/contract';
import { writeRoster } from '../changes/roster';
import type { Trx } from '../db/connect';
import { record } from '../changes/change';
import { holding, addBatch, dueIn, type DemoShop } from './kit';

const hole = (x: number, y: number): { x: number; y: number; diameter: number } => ({ x, y, diameter: 4 });

/** A brass plate, drilled already: its holes are the marks. */
const plate: BlankSpec = {
  shape: { kind: 'rectangle', length: 120, width: 40, cornerRadius: 3 },
  thickness: 1.5,
  catalogueTolerance: 0.5,
  holes: [hole(-52, -12), hole(52, 12), hole(52, -12)],
  direction: { kind: 'none' },
  zones: [
    {
      id: 'face',
      name: 'name',
      x: 0,
      y: 0,
      width: 92,
      height: 30,
      margin: 2,
      across: 'centre',
      down: 'middle',
      keepOuts: [],
    },
  ],
};

const brass: RecipeSpec = {
  material: 'lacquered brass 1.5 mm',
  engrave: { power: 0.4, speed: 300, interval: 0.08, passes: 1, air: 'on' },
  // Across, and weaker: what is left of the lacquer goes.
  after: [{ power: 0.2, speed: 400, interval: 0.08, passes: 1, angle: Math.PI / 2, air: 'on' }],
  cut: { power: 0.4, speed: 300, interval: 0.08, passes: 1 },
  note: 'Trial 29 of 20 Nov 2026: lacquer off, brass clean',
};

/** Cleat plates that came drilled: every one is placed by its own three holes. */
export const seedMarked = async (trx: Trx, shop: DemoShop): Promise<void> => {
  const look = { kind: 'ring', size: 4 } as const;
  const batch = await addBatch(trx, {
    name: 'Cleat plates, drilled',
    quantity: 6,
    spares: 1,
    tolerance: 0.5,
    due: dueIn(9, 16),
    machine: shop.a,
    blank: await shop.blank('Cleat plate', plate),
    recipe: await shop.recipe('Lacquered brass', shop.a, brass),
    held: holding('marked', {
      name: 'CLEAT',
      own: { marks: plate.holes.map(({ x, y }) => ({ x: 60 + x, y: 20 + y, look })), stretches: false },
    }),
    lines: [
      { column: 'boat', alphabet: 'garamond', capHeight: 9 },
      { column: 'place', alphabet: 'b612', capHeight: 4 },
    ],
  });
  const boats = ['KESTREL', 'PUFFIN', 'SANDLING', 'TURNSTONE', 'DUNLIN', 'WHIMBREL'];
  await writeRoster(
    trx,
    batch,
    ['boat', 'place'],
    boats.map((boat, i) => ({ boat, place: `BERTH ${i + 1}` })),
  );
  await record(trx, {
    by: 'Odile',
    kind: 'roster',
    batchId: batch,
    summary: 'Roster brought in: 6 rows, columns boat, place',
  });
};
