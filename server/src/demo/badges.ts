import sharp from 'sharp';
import type { BlankSpec, RecipeSpec } from '@bistre/contract';
import { addRows, emptyInk, freshTrace, paperOf, setText, setWidth, traceSheet, type Alphabet } from '@bistre/core';
import { alphabet } from '../alphabets';
import type { Trx } from '../db/connect';
import { keepPicture } from '../pictures';
import { plainPng } from '../plain-png';
import { holding, addBatch, dueIn, type DemoShop } from './kit';

/** Dots to the inch of the sample sheet. */
export const SAMPLE_DPI = 200;
/** A4 lying, mm. */
const SHEET = { width: 297, height: 210 };

const CREWS = ['KESTREL', 'PUFFIN', 'SANDLING', 'TURNSTONE', 'DUNLIN', 'WHIMBREL'] as const;
const INKS = ['#1d4f91', '#2a7464', '#8a5c00', '#9f2d27'] as const;

/** Forms about their own middle, mm, y down: a shield, a pennant, a round badge, a plate, an oval with a hole. */
const FORMS = [
  'M-20 -18H20V2C20 14 8 20 0 23C-8 20 -20 14 -20 2Z',
  'M-24 -13L25 0L-24 13L-17 0Z',
  'M0 -19A19 19 0 0 1 0 19A19 19 0 0 1 0 -19Z',
  'M-22 -12H22A4 4 0 0 1 26 -8V8A4 4 0 0 1 22 12H-22A4 4 0 0 1 -26 8V-8A4 4 0 0 1 -22 -12Z',
  'M0 -15C22 -15 27 -6 27 0C27 6 22 15 0 15C-22 15 -27 6 -27 0C-27 -6 -22 -15 0 -15ZM-20 -2.5A2.5 2.5 0 0 0 -20 2.5A2.5 2.5 0 0 0 -20 -2.5Z',
] as const;

const lettering = (set: Alphabet, text: string, x: number, y: number, height: number): string => {
  const from = x - (setWidth(set, text) * height) / 2;
  return setText(set, text, { x: from, y: 0 }, height)
    .map((line) => `M${line.map((p) => `${p.x.toFixed(3)} ${(y - p.y).toFixed(3)}`).join('L')}Z`)
    .join('');
};

/** A cross in a circle of 10 mm, as many print shops put it. */
const mark = (x: number, y: number): string =>
  `<circle cx="${x}" cy="${y}" r="4.8"/><path d="M${x - 4.8} ${y}h9.6M${x} ${y - 4.8}v9.6"/>`;

/** A sheet of crew badges of several forms as a print shop would deliver it, in millimetres: an invented sample to try. */
export const sampleDrawing = (): string => {
  const set = alphabet('b612-bold')!;
  const columns = 5;
  const badges = Array.from({ length: 15 }, (_, i) => {
    const x = 40 + (i % columns) * 54.5;
    const y = 45 + Math.floor(i / columns) * 60;
    const form = FORMS[(i + Math.floor(i / columns)) % FORMS.length]!;
    const name = CREWS[i % CREWS.length]!;
    return `<g transform="translate(${x} ${y})"><path d="${form}" fill="${INKS[i % INKS.length]}" fill-rule="evenodd"/><path d="${lettering(set, name, 1.5, 1.8, 3.6)}" fill="#fafaf7"/></g>`;
  });
  const marks = [
    [14, 14],
    [283, 196],
    [283, 14],
    [14, 196],
  ].map(([x, y]) => mark(x!, y!));
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${SHEET.width}mm" height="${SHEET.height}mm" viewBox="0 0 ${SHEET.width} ${SHEET.height}"><rect width="100%" height="100%" fill="#fdfcf8"/>${badges.join('')}<g fill="none" stroke="#241a13" stroke-width="0.4">${marks.join('')}</g></svg>`;
};

/** The same as its picture. */
export const sampleSheet = async (): Promise<Buffer> => {
  const px = (mm: number): number => Math.round((mm / 25.4) * SAMPLE_DPI);
  const svg = sampleDrawing().replace(/width="297mm" height="210mm"/, `width="${px(SHEET.width)}" height="${px(SHEET.height)}"`); // prettier-ignore
  return sharp(Buffer.from(svg))
    .flatten({ background: '#ffffff' })
    .withMetadata({ density: SAMPLE_DPI })
    .png({ compressionLevel: 7 })
    .toBuffer();
};

const badge: BlankSpec = {
  shape: { kind: 'rectangle', length: 55, width: 42, cornerRadius: 0 },
  thickness: 0.3,
  catalogueTolerance: 0,
  holes: [],
  direction: { kind: 'none' },
  zones: [],
};

const card: RecipeSpec = {
  material: 'printed card, 0.3 mm',
  engrave: { power: 0.1, speed: 400, interval: 0.1, passes: 1 },
  cut: { power: 0.16, speed: 45, interval: 0.1, passes: 1 },
  note: 'Trial 25 of 19 Nov 2026: through the card, no scorched rim',
};

/** Crew badges that a print shop delivered, found in the picture it sent along. */
export const seedBadges = async (trx: Trx, shop: DemoShop): Promise<void> => {
  const png = await sampleSheet();
  const { data, info } = await sharp(png).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  const rows = { top: 0, count: info.height, rgba: data };
  const ink = emptyInk(info.width, info.height);
  addRows(ink, rows, paperOf(rows, info.width));
  const found = traceSheet(ink, { name: 'crew-badges.png', dot: 25.4 / SAMPLE_DPI }, freshTrace);
  if (!found.ok) throw new Error(found.problem.message);
  const { id: pictureId } = await keepPicture(trx, await plainPng(png, 'crew-badges.png'), 'crew-badges.png', 'Odile');
  await addBatch(trx, {
    name: 'Crew badges, printed elsewhere',
    quantity: 15,
    spares: 0,
    tolerance: 0.8,
    due: dueIn(8, 12),
    machine: shop.a,
    blank: await shop.blank('Crew badge', badge),
    recipe: await shop.recipe('Printed card, cut', shop.a, card),
    held: holding('sheet', { name: 'BADGES', inset: 0.5, traced: { ...found.value.sheet, pictureId } }),
    lines: [],
  });
};
