import type { BlankSpec, RecipeSpec } from '@bistre/contract';
import type { Trx } from '../db/connect';
import { inZones } from './art';
import { addBatch, addSamples, dueIn, gaussian, holding, type DemoShop } from './kit';

/** The lid of a timekeeper’s stopwatch case. */
const lid: BlankSpec = {
  material: 'anodised aluminium, black',
  shape: { kind: 'rectangle', length: 72, width: 54, cornerRadius: 6 },
  thickness: 9,
  catalogueTolerance: 0.2,
  holes: [],
  direction: { kind: 'none' },
  zones: [
    { id: 'face', name: 'lane', x: 13, y: 12, width: 40, height: 22, margin: 1, across: 'centre', down: 'middle', keepOuts: [] }, // prettier-ignore
    { id: 'logo', name: 'logo', x: -20, y: 0, width: 26, height: 46, margin: 1, across: 'centre', down: 'middle', keepOuts: [] }, // prettier-ignore
    { id: 'number', name: 'number', x: 13, y: -12, width: 40, height: 20, margin: 1, across: 'centre', down: 'middle', keepOuts: [] }, // prettier-ignore
  ],
};

const bleached: RecipeSpec = {
  material: 'anodised aluminium, black',
  engrave: { power: 0.24, speed: 400, interval: 0.08, passes: 1 },
  cut: { power: 0, speed: 80, interval: 0.08, passes: 1 },
  note: 'Trial 46 of 27 Nov 2026: white, sharp, does not rub off',
};

/** Cases of the timekeepers’ stopwatches: the crest, a number that no other piece of the shop has, and a code of it. */
export const seedStopwatches = async (trx: Trx, shop: DemoShop, crest: string): Promise<void> => {
  const blank = await shop.blank('Stopwatch case, lid', lid);
  await addSamples(trx, blank, {
    length: gaussian(311, 72.02, 0.05, 10),
    width: gaussian(313, 54.01, 0.05, 10),
    thickness: gaussian(317, 9.02, 0.03, 6),
  });
  const batch = await addBatch(trx, {
    name: 'Stopwatch cases',
    quantity: 12,
    spares: 1,
    tolerance: 0.5,
    due: dueIn(18, 15),
    machine: shop.a,
    blank,
    recipe: await shop.recipe('Anodised, bleached white', shop.a, bleached),
    stock: shop.ply.a,
    held: holding('fence', { name: 'CASE-STOP', extent: { kind: 'count', count: 12 } }),
    lines: [],
  });
  const lies = { turn: 0, mirrored: false } as const;
  await inZones(trx, batch, [
    { kind: 'artwork', id: 'crest', zoneId: 'logo', artworkId: crest, revision: 1, size: { kind: 'height', height: 26 }, ...lies }, // prettier-ignore
    { kind: 'serial', id: 'number', zoneId: 'face', prefix: 'SW-', digits: 4, step: 1, first: 101, alphabet: 'b612-bold', capHeight: 4.5, size: { kind: 'true' }, ...lies }, // prettier-ignore
    { kind: 'code', id: 'code', zoneId: 'number', symbology: 'datamatrix', text: '{serial}', reversed: true, size: { kind: 'width', width: 14 }, across: 'right', ...lies }, // prettier-ignore
  ]);
};
