import type { BlankSpec, FeederSpec, RecipeSpec } from '@bistre/contract';
import { freshWork, freshFeeder } from '@bistre/core';
import { record } from '../changes/change';
import { createThing } from '../changes/shelf-things';
import { writeRoster } from '../changes/roster';
import type { Trx } from '../db/connect';
import { artworkNamed, inZones } from './art';
import { holding, addBatch, addSamples, dueIn, gaussian, type DemoShop } from './kit';
import { birch, courseBlank, onBoard } from './long';

const passThrough: FeederSpec = {
  ...freshFeeder,
  window: { ...freshFeeder.window },
  rollers: [...freshFeeder.rollers],
  supports: freshFeeder.supports.map((s) => ({ ...s })),
};

const rackPlate: BlankSpec = {
  shape: { kind: 'rectangle', length: 110, width: 45, cornerRadius: 4 },
  thickness: 2,
  catalogueTolerance: 0.3,
  holes: [
    { x: -48, y: 0, diameter: 4.5 },
    { x: 48, y: 0, diameter: 4.5 },
  ],
  direction: { kind: 'none' },
  zones: [
    {
      id: 'face',
      name: 'face',
      x: 0,
      y: 0,
      width: 86,
      height: 38,
      margin: 2,
      across: 'centre',
      down: 'middle',
      keepOuts: [],
    },
  ],
};

const anodised: RecipeSpec = {
  material: 'anodised aluminium 2 mm, navy',
  engrave: { power: 0.45, speed: 320, interval: 0.085, passes: 1 },
  cut: { power: 0.45, speed: 320, interval: 0.085, passes: 1 },
  note: 'Trial 35 of 22 Nov 2026: white, even, no halo',
};

/** A feeder, the course board that goes through it in windows, and a row of plates at a pitch. */
export const seedFeeder = async (trx: Trx, shop: DemoShop): Promise<void> => {
  const { id: feederId } = await createThing(trx, 'feeders', {
    name: 'Pass-through A',
    document: passThrough,
    by: 'Imre',
  });
  const board = await addBatch(trx, {
    name: 'Course through the feeder, 2.2 m',
    quantity: 1,
    spares: 0,
    tolerance: 1,
    due: dueIn(11, 9),
    machine: shop.a,
    blank: await shop.blank('Course board for the feeder', courseBlank),
    recipe: await shop.recipe('Birch, brown, on the feeder', shop.a, birch),
    held: holding('feed', { name: 'COURSE-F', feederId, work: freshWork('long'), rails: true }),
    lines: [],
  });
  await inZones(trx, board, [onBoard(await artworkNamed(trx, 'Course'))]);
  const rack = await shop.blank('Oar-rack plate', rackPlate);
  await addSamples(trx, rack, {
    length: gaussian(71, 110.02, 0.08, 10),
    width: gaussian(73, 45.01, 0.06, 10),
    thickness: gaussian(79, 2, 0.02, 10),
  });
  const plates = await addBatch(trx, {
    name: 'Oar-rack plates, in a row',
    quantity: 60,
    spares: 4,
    tolerance: 0.8,
    due: dueIn(8, 14),
    machine: shop.a,
    blank: rack,
    recipe: await shop.recipe('Anodised, navy', shop.a, anodised),
    held: holding('feed', {
      name: 'RACK',
      feederId,
      rails: true,
      pitch: 130,
      strip: { length: 2400, width: 60 },
    }),
    lines: [
      { column: 'rack', alphabet: 'b612-bold', capHeight: 11 },
      { column: 'boat', alphabet: 'b612', capHeight: 5 },
    ],
  });
  const boats = ['KESTREL', 'PUFFIN', 'SANDLING', 'TURNSTONE', 'DUNLIN', 'WHIMBREL'];
  await writeRoster(
    trx,
    plates,
    ['rack', 'boat'],
    Array.from({ length: 60 }, (_, i) => ({
      rack: `${String.fromCharCode(65 + Math.floor(i / 10))}${(i % 10) + 1}`,
      boat: boats[i % 6]!,
    })),
  );
  await record(trx, {
    by: 'Odile',
    kind: 'roster',
    batchId: plates,
    summary: 'Roster brought in: 60 rows, columns rack, boat',
  });
};
