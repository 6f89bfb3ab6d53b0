import sharp from 'sharp';
import { FRESH_TREATMENT } from '@bistre/core';
import type { BlankSpec, RecipeSpec } from '@bistre/contract';
import { writeRoster } from '../changes/roster';
import type { Trx } from '../db/connect';
import { keepPicture } from '../pictures';
import { plainPng } from '../plain-png';
import { inZones } from './art';
import { addBatch, addSamples, dueIn, gaussian, holding, type DemoShop } from './kit';

/** The harbour at dawn with a single scull on it, as the regatta’s photographer might have it: all in shades. */
const HARBOUR = `<svg xmlns="http://www.w3.org/2000/svg" width="900" height="620" viewBox="0 0 90 62">
  <defs>
    <linearGradient id="sky" x2="0" y2="1"><stop stop-color="#8d8d8d"/><stop offset=".75" stop-color="#f4f4f4"/><stop offset="1" stop-color="#ffffff"/></linearGradient>
    <linearGradient id="sea" x2="0" y2="1"><stop stop-color="#e8e8e8"/><stop offset="1" stop-color="#4a4a4a"/></linearGradient>
    <radialGradient id="sun"><stop stop-color="#ffffff"/><stop offset=".6" stop-color="#fdfdfd"/><stop offset="1" stop-color="#ffffff" stop-opacity="0"/></radialGradient>
  </defs>
  <rect width="90" height="34" fill="url(#sky)"/><rect y="34" width="90" height="28" fill="url(#sea)"/>
  <circle cx="62" cy="29" r="12" fill="url(#sun)"/>
  <path d="M0 34V25L9 21 17 27 28 19 37 30 46 34Z" fill="#6c6c6c"/><path d="M0 34V30L12 27 22 31 31 34Z" fill="#3c3c3c"/>
  <path d="M78 34V18h2v16zM76 18h6l-1-3h-4z" fill="#2b2b2b"/>
  <g fill="#1c1c1c"><path d="M20 47C30 45.6 52 45.6 63 47 52 48.6 30 48.6 20 47Z"/><circle cx="41" cy="41.6" r="1.5"/><path d="M39.6 43.2h3l1.2 4h-5z"/></g>
  <g stroke="#1c1c1c" stroke-width=".5" fill="none"><path d="M41 45L29 50M42 45L55 50"/></g>
  <g stroke="#ffffff" stroke-width=".35" opacity=".7"><path d="M52 40h20M56 43h14M50 52h26M12 55h24M44 58h30"/></g>
</svg>`;

/** A card of cherry veneer for the helpers’ table. */
const card: BlankSpec = {
  material: 'cherry veneer',
  shape: { kind: 'rectangle', length: 86, width: 54, cornerRadius: 3 },
  thickness: 0.9,
  catalogueTolerance: 0.2,
  holes: [],
  direction: { kind: 'none' },
  zones: [
    { id: 'face', name: 'name', x: 0, y: -20, width: 80, height: 12, margin: 1, across: 'centre', down: 'middle', keepOuts: [] }, // prettier-ignore
    { id: 'picture', name: 'picture', x: 0, y: 6, width: 80, height: 40, margin: 1, across: 'centre', down: 'middle', keepOuts: [] }, // prettier-ignore
  ],
};

const cherry: RecipeSpec = {
  material: 'cherry veneer',
  engrave: { power: 0.16, speed: 300, interval: 0.12, passes: 1 },
  cut: { power: 0.5, speed: 25, interval: 0.12, passes: 1 },
  note: 'Trial 47 of 27 Nov 2026: every shade told apart, nothing charred',
};

const HELPERS = ['Ardith', 'Corwin', 'Ysolde', 'Perrin', 'Maren', 'Tobin'];

/** Cards of cherry: a photograph burned as dots over each helper’s name. */
export const seedCards = async (trx: Trx, shop: DemoShop): Promise<void> => {
  const plain = await plainPng(await sharp(Buffer.from(HARBOUR)).png().toBuffer(), 'harbour.png');
  const { id, width, height, darkness } = await keepPicture(trx, plain, 'harbour.png', 'Odile');
  const blank = await shop.blank('Card, cherry veneer', card);
  await addSamples(trx, blank, {
    length: gaussian(411, 86.02, 0.05, 8),
    width: gaussian(413, 54.03, 0.05, 8),
    thickness: gaussian(417, 0.9, 0.02, 6),
  });
  const batch = await addBatch(trx, {
    name: 'Helpers’ cards, cherry',
    quantity: HELPERS.length,
    spares: 2,
    tolerance: 1,
    due: dueIn(19, 12),
    machine: shop.a,
    blank,
    recipe: await shop.recipe('Cherry veneer, shades', shop.a, cherry),
    stock: shop.ply.a,
    held: holding('pockets', { name: 'CARD-6', extent: { kind: 'count', count: 6 }, clearance: { school: 'snug' } }),
    lines: [{ column: 'name', alphabet: 'garamond', capHeight: 5 }],
  });
  await writeRoster(trx, batch, ['name'], HELPERS.map((name) => ({ name }))); // prettier-ignore
  await inZones(trx, batch, [
    { kind: 'picture', id: 'harbour', zoneId: 'picture', pictureId: id, name: 'harbour', width, height, darkness, treatment: FRESH_TREATMENT, size: { kind: 'fit' }, turn: 0, mirrored: false }, // prettier-ignore
  ]);
};
