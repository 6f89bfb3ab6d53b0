import type { BlankSpec, RecipeSpec } from '@bistre/contract';
import { record } from '../changes/change';
import { writeRoster } from '../changes/roster';
import type { Trx } from '../db/connect';
import { holding, addBatch, addSamples, dueIn, gaussian, type DemoShop } from './kit';

const card: BlankSpec = {
  shape: { kind: 'rectangle', length: 86, width: 54, cornerRadius: 3 },
  thickness: 2,
  catalogueTolerance: 0.2,
  holes: [],
  direction: { kind: 'none' },
  zones: [
    {
      id: 'face',
      name: 'face',
      x: 0,
      y: 0,
      width: 78,
      height: 42,
      margin: 2,
      across: 'centre',
      down: 'middle',
      keepOuts: [],
    },
  ],
};

const cherry: RecipeSpec = {
  material: 'cherry veneer 2 mm',
  engrave: { power: 0.7, speed: 80, interval: 0.12, passes: 1 },
  cut: { power: 1, speed: 5, interval: 0.12, passes: 2 },
  note: 'Trial 6 of 18 Nov 2026: even brown at 80 mm/s',
};

/** Berth cards on Bench B, whose open frame stands on a locator board. */
export const seedLocator = async (trx: Trx, shop: DemoShop): Promise<void> => {
  const blank = await shop.blank('Berth card, cherry', card);
  await addSamples(trx, blank, {
    length: gaussian(113, 86.01, 0.05, 10),
    width: gaussian(127, 53.98, 0.05, 10),
    thickness: gaussian(131, 2.02, 0.02, 6),
  });
  const batch = await addBatch(trx, {
    name: 'Berth cards, Bench B on its board',
    quantity: 48,
    spares: 4,
    tolerance: 0.8,
    due: dueIn(14, 9),
    machine: shop.b,
    blank,
    recipe: await shop.recipe('Cherry veneer, diode', shop.b, cherry),
    stock: shop.ply.b,
    held: holding('locator', { name: 'LOCATOR-B', boardThickness: 12 }),
    lines: [
      { column: 'crew', alphabet: 'garamond', capHeight: 9 },
      { column: 'berth', alphabet: 'b612', capHeight: 4 },
    ],
  });
  const crews = ['KESTREL', 'PUFFIN', 'SANDLING', 'TURNSTONE', 'DUNLIN', 'WHIMBREL'];
  await writeRoster(
    trx,
    batch,
    ['crew', 'berth'],
    Array.from({ length: 48 }, (_, i) => ({ crew: crews[i % 6]!, berth: `BERTH ${i + 1}` })),
  );
  await record(trx, {
    by: 'Odile',
    kind: 'roster',
    batchId: batch,
    summary: 'Roster brought in: 48 rows, columns crew, berth',
  });
};
