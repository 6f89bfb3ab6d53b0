import type { BlankSpec, RecipeSpec } from '@bistre/contract';
import { layBoard } from '@bistre/core/bench-sim';
import { loadWhole, reckonDocument } from '../batches';
import { record } from '../changes/change';
import { writeRoster } from '../changes/roster';
import type { Trx } from '../db/connect';
import { saveSimulation } from '../simulation';
import { holding, addBatch, dueIn, type DemoShop } from './kit';

const decal: BlankSpec = {
  shape: { kind: 'rectangle', length: 85, width: 55, cornerRadius: 8 },
  thickness: 0.2,
  catalogueTolerance: 0,
  holes: [],
  direction: { kind: 'none' },
  zones: [
    {
      id: 'face',
      name: 'number',
      x: 0,
      y: 0,
      width: 79,
      height: 49,
      margin: 3,
      across: 'centre',
      down: 'middle',
      keepOuts: [],
    },
  ],
};

const film: RecipeSpec = {
  material: 'polyester decal film',
  engrave: { power: 0.1, speed: 400, interval: 0.1, passes: 1 },
  cut: { power: 0.12, speed: 60, interval: 0.1, passes: 1 },
  note: 'Trial 24 of 18 Nov 2026: through the film, not the backing',
};

/** Bow numbers printed on sheets, to be cut out: the printer stretched them by 0.3 % in one direction. */
export const seedSheet = async (trx: Trx, shop: DemoShop): Promise<void> => {
  const batch = await addBatch(trx, {
    name: 'Bow-number decals',
    quantity: 24,
    spares: 2,
    tolerance: 0.6,
    due: dueIn(6, 15),
    machine: shop.a,
    blank: await shop.blank('Bow-number decal', decal),
    recipe: await shop.recipe('Decal film, cut', shop.a, film),
    held: holding('sheet', { name: 'BOW', marks: 4, paper: 'A3' }),
    lines: [
      { column: 'number', alphabet: 'b612-bold', capHeight: 30 },
      { column: 'boat', alphabet: 'b612', capHeight: 5 },
    ],
  });
  const boats = ['KESTREL', 'PUFFIN', 'SANDLING', 'TURNSTONE', 'DUNLIN', 'WHIMBREL'];
  await writeRoster(
    trx,
    batch,
    ['number', 'boat'],
    Array.from({ length: 24 }, (_, i) => ({ number: String(i + 1), boat: boats[i % 6]! })),
  );
  await record(trx, {
    by: 'Odile',
    kind: 'roster',
    batchId: batch,
    summary: 'Roster brought in: 24 rows, columns number, boat',
  });
  const document = await loadWhole(trx, batch);
  const { board } = reckonDocument(document, 200).reckoning;
  const laid = layBoard(71, { bed: document.machine.profile.bed }, board!);
  await saveSimulation(trx, batch, {
    ...laid,
    hidden: { ...laid.hidden, print: { scaleX: 1.003, scaleY: 1, skew: 0 } },
  });
};
