import type { BlankSpec, RecipeSpec, ShopStepSpec } from '@bistre/contract';
import { record } from '../changes/change';
import { writeRoster } from '../changes/roster';
import { createThing } from '../changes/shelf-things';
import type { Trx } from '../db/connect';
import { boat, inZones, shelfArt } from './art';
import { addBatch, addSamples, dueIn, gaussian, holding, type DemoShop } from './kit';

/** The regatta's crest as its designer sent it: on a page with a frame, in two colours, styled by classes. */
const CREST = `<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="70mm" viewBox="0 0 60 70">
  <style>.ink{fill:#1b3a57;fill-rule:evenodd}.fine{fill:none;stroke:#b00020;stroke-width:.35}.page{fill:none;stroke:#00a0ff;stroke-width:.1}</style>
  <rect class="page" width="60" height="70"/>
  <path class="ink" d="M6 4H54V34C54 51 41 61 30 66 19 61 6 51 6 34ZM9.5 7.5V34C9.5 48.6 20.6 57.6 30 62.1 39.4 57.6 50.5 48.6 50.5 34V7.5Z"/>
  <g class="ink" transform="translate(30 19)"><circle r="6.5"/><path d="M-1.2-6.5h2.4V-9h-2.4z"/></g>
  <g class="fine"><path id="wave" d="M13 34q4.25-5 8.5 0t8.5 0 8.5 0 8.5 0"/><use href="#wave" y="7"/><path d="M17 48q3.25-4 6.5 0t6.5 0 6.5 0 6.5 0"/></g>
</svg>
`;

/** A slate tile, sawn to about 100 mm: two edges are straight enough to stop it. */
const tile: BlankSpec = {
  material: 'slate',
  shape: { kind: 'rectangle', length: 100, width: 100, cornerRadius: 0 },
  thickness: 7,
  catalogueTolerance: 1,
  holes: [],
  direction: { kind: 'none' },
  zones: [
    { id: 'face', name: 'name', x: 0, y: -36, width: 88, height: 16, margin: 1, across: 'centre', down: 'middle', keepOuts: [] }, // prettier-ignore
    { id: 'crest', name: 'crest', x: 0, y: 10, width: 88, height: 72, margin: 2, across: 'centre', down: 'middle', keepOuts: [] }, // prettier-ignore
  ],
};

const slate: RecipeSpec = {
  material: 'slate',
  engrave: { power: 0.32, speed: 250, interval: 0.12, passes: 1 },
  cut: { power: 0.32, speed: 80, interval: 0.12, passes: 1 },
  note: 'Trial 44 of 26 Nov 2026: light grey, even, nothing flakes',
};

/** A slate tile’s berth: the boat that lies there, and what kind it is. */
const BERTHS = [
  ['KESTREL', 'Single scull'],
  ['PUFFIN', 'Double scull'],
  ['SANDLING', 'Single scull'],
  ['TURNSTONE', 'Coxless four'],
  ['DUNLIN', 'Eight'],
  ['WHIMBREL', 'Double scull'],
  ['KNOT', 'Coxless four'],
  ['REDSHANK', 'Eight'],
] as const;
const BOATS = { 'Single scull': [1, true], 'Double scull': [2, true], 'Coxless four': [4, false], Eight: [8, false] } as const; // prettier-ignore

/** Slate tiles for the berths: the crest from the Shelf over each boat’s own picture and its name, against a stop. Gives the crest. */
/** What this shop learned of slate. */
const seedSteps = async (trx: Trx): Promise<void> => {
  const of = { kind: 'material', material: 'slate' } as const;
  const steps: readonly (readonly [string, ShopStepSpec])[] = [
    [
      'Scrub the face with water and let it dry',
      { of, station: 'run', when: 'first', detail: 'Dust of the saw shines through as pale streaks.', caution: '', minutes: 20, photoId: null }, // prettier-ignore
    ],
    [
      'Rub one drop of oil over the slate, not over the engraving',
      { of, station: 'close', when: 'last', detail: 'The face darkens and what is engraved stands out.', caution: 'Oily rags are laid out flat to dry: heaped up they can catch fire. Local rules come first.', minutes: null, photoId: null }, // prettier-ignore
    ],
  ];
  for (const [name, document] of steps) await createThing(trx, 'steps', { name, document, by: 'Odile' });
};

export const seedTiles = async (trx: Trx, shop: DemoShop): Promise<string> => {
  const crest = await shelfArt(trx, 'Regatta crest', CREST, { 'stroke #00a0ff': 'guide' });
  const of: { word: string; artworkId: string; revision: number }[] = [];
  for (const [word, [seats, sculls]] of Object.entries(BOATS))
    of.push({ word, artworkId: await shelfArt(trx, word, boat(seats, sculls)), revision: 1 });
  const blank = await shop.blank('Berth tile, slate', tile);
  await addSamples(trx, blank, {
    length: gaussian(211, 100.3, 0.35, 8),
    width: gaussian(223, 100.1, 0.4, 8),
    thickness: gaussian(227, 7.1, 0.25, 8),
  });
  const batch = await addBatch(trx, {
    name: 'Berth tiles, slate',
    quantity: BERTHS.length,
    spares: 2,
    tolerance: 1.5,
    due: dueIn(16, 10),
    machine: shop.a,
    blank,
    recipe: await shop.recipe('Slate, light grey', shop.a, slate),
    stock: shop.ply.a,
    held: holding('fence', { name: 'TILE-STOP', extent: { kind: 'count', count: 8 } }),
    lines: [{ column: 'boat', alphabet: 'garamond', capHeight: 9 }],
  });
  await writeRoster(trx, batch, ['boat', 'kind'], BERTHS.map(([name, kind]) => ({ boat: name, kind }))); // prettier-ignore
  const lies = { zoneId: 'crest', turn: 0, mirrored: false } as const;
  await inZones(trx, batch, [
    { kind: 'artwork', id: 'crest', artworkId: crest, revision: 1, size: { kind: 'height', height: 38 }, down: 'top', ...lies }, // prettier-ignore
    { kind: 'listed', id: 'boat', column: 'kind', of, size: { kind: 'width', width: 80 }, down: 'bottom', ...lies },
  ]);
  await record(trx, { by: 'Odile', kind: 'roster', batchId: batch, summary: `Roster brought in: ${BERTHS.length} rows, columns boat, kind` }); // prettier-ignore
  await seedSteps(trx);
  return crest;
};
