import type { BlankSpec, RecipeSpec } from '@bistre/contract';
import { record } from '../changes/change';
import { writeRoster } from '../changes/roster';
import type { Trx } from '../db/connect';
import { holding, type DemoShop, addBatch, dueIn, setBack } from './kit';

const zone = { x: 0, width: 40, margin: 1, across: 'centre', down: 'middle', keepOuts: [] } as const;

const medal: BlankSpec = {
  shape: { kind: 'disc', diameter: 56 },
  thickness: 3.2,
  catalogueTolerance: 0,
  holes: [{ x: 0, y: 23, diameter: 4 }],
  direction: { kind: 'hole' },
  zones: [
    { ...zone, id: 'face', name: 'lane', y: -2, height: 30, keepOuts: [], side: 'front' },
    { ...zone, id: 'crew', name: 'crew', y: -2, height: 26, keepOuts: [], side: 'back' },
  ],
};

const plastic: RecipeSpec = {
  material: 'three-ply engraving plastic, navy on white',
  engrave: { power: 0.22, speed: 350, interval: 0.1, passes: 1 },
  cut: { power: 0.55, speed: 14, interval: 0.1, passes: 1 },
  note: 'Trial 31 of 20 Nov 2026: through the cap, clean core',
};

const CREWS = ['KESTREL', 'PUFFIN', 'SANDLING', 'TURNSTONE', 'DUNLIN', 'WHIMBREL'] as const;

/** Medals engraved on both faces of a sheet of three-ply plastic and cut out of it. */
export const seedPanel = async (trx: Trx, shop: DemoShop): Promise<void> => {
  const batch = await addBatch(trx, {
    name: 'Winners’ medals, both faces',
    quantity: 18,
    spares: 2,
    tolerance: 0.5,
    due: dueIn(7, 12),
    machine: shop.a,
    blank: await shop.blank('Medal, three-ply', medal),
    recipe: await shop.recipe('Three-ply, navy on white', shop.a, plastic),
    held: holding('panel', { name: 'MEDALS', marks: 3, width: 380, height: 240 }),
    lines: [
      { column: 'place', alphabet: 'b612-bold', capHeight: 9 },
      { column: 'lane', alphabet: 'b612', capHeight: 4 },
    ],
  });
  await setBack(trx, batch, {
    zoneId: 'crew',
    deeper: 1.15,
    lines: [
      { column: 'crew', alphabet: 'barlow', capHeight: 6 },
      { column: 'race', alphabet: 'barlow', capHeight: 3.5 },
    ],
  });
  await writeRoster(
    trx,
    batch,
    ['place', 'lane', 'crew', 'race'],
    Array.from({ length: 18 }, (_, i) => ({
      place: ['1st', '2nd', '3rd'][i % 3]!,
      lane: `LANE ${(i % 6) + 1}`,
      crew: CREWS[(i * 5) % 6]!,
      race: `RACE ${Math.floor(i / 3) + 1} · 2026`,
    })),
  );
  await record(trx, {
    by: 'Odile',
    kind: 'roster',
    batchId: batch,
    summary: 'Roster brought in: 18 rows, columns place, lane, crew, race',
  });
};
