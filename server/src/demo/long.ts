import type { BlankSpec, RecipeSpec, Setup } from '@bistre/contract';
import {
  circle,
  polyline,
  roundedRectangle,
  segment,
  setText,
  setWidth,
  type LongKind,
  type LongShape,
} from '@bistre/core';
import { alphabet } from '../alphabets';
import type { Trx } from '../db/connect';
import { inZones, shelfArt } from './art';
import { DRAWING_ROLES, drawingFile } from '../drawing-file';
import { holding, addBatch, dueIn, type DemoShop } from './kit';

export const courseBlank: BlankSpec = {
  shape: { kind: 'rectangle', length: 2200, width: 320, cornerRadius: 0 },
  thickness: 6,
  catalogueTolerance: 2,
  holes: [],
  direction: { kind: 'none' },
  zones: [
    { id: 'board', name: 'board', x: 0, y: 0, width: 2200, height: 320, margin: 10, across: 'centre', down: 'middle', keepOuts: [] }, // prettier-ignore
  ],
};

export const birch: RecipeSpec = {
  material: 'birch plywood 6 mm',
  engrave: { power: 0.32, speed: 350, interval: 0.12, passes: 1 },
  cut: { power: 0.75, speed: 9, interval: 0.1, passes: 1 },
  note: 'Trial 33 of 21 Nov 2026: brown, not burned through',
};

const LANES = ['KESTREL', 'PUFFIN', 'SANDLING', 'TURNSTONE', 'DUNLIN', 'WHIMBREL'] as const;
const TOP = 238;
const PITCH = 30;
const START = 230;
const FINISH = 2080;

/** Text as filled shapes, centred on x or begun there. */
const words = (id: string, text: string, x: number, y: number, height: number, centred = false): LongShape[] => {
  const set = alphabet(id)!;
  const from = centred ? x - (setWidth(set, text) * height) / 2 : x;
  return setText(set, text, { x: from, y }, height).map((points) => ({
    kind: 'fill',
    contour: polyline(points, true),
  }));
};
const stroke = (kind: LongKind, x0: number, y0: number, x1: number, y1: number): LongShape => ({
  kind,
  contour: segment({ x: x0, y: y0 }, { x: x1, y: y1 }),
});

/** A rowing course of six lanes, 2000 m to the scale 1 : 1081, with its buoys. */
export const course = (): LongShape[] => [
  { kind: 'cut', contour: roundedRectangle({ x: 1100, y: 160 }, 2170, 284, 20) },
  ...words('barlow', 'SKERRY SOUND · 2000 m COURSE', 1100, 262, 22, true),
  ...Array.from({ length: 7 }, (_, i) => stroke('line', START, TOP - i * PITCH, FINISH, TOP - i * PITCH)),
  ...LANES.flatMap((name, i) => words('b612-bold', `${i + 1} ${name}`, 40, TOP - (i + 0.5) * PITCH - 5, 10)),
  ...Array.from({ length: 9 }, (_, i) => START + (i * (FINISH - START)) / 8).flatMap((x, i) => [
    stroke('line', x, TOP, x, TOP - 6 * PITCH),
    ...words('b612', i === 0 ? 'START' : i === 8 ? 'FINISH' : `${i * 250} m`, x, 34, 9, true),
  ]),
  ...Array.from({ length: 5 }, (_, lane) =>
    Array.from({ length: 72 }, (_, i) => START + ((i + 1) * (FINISH - START)) / 73).map((x): LongShape => ({
      kind: 'fill',
      contour: circle({ x, y: TOP - (lane + 1) * PITCH }, 1.6),
    })),
  ).flat(),
];

/** The course in the middle of a board. */
export const onBoard = (artworkId: string): NonNullable<Setup['contents']>[number] => ({ kind: 'artwork', id: 'course', zoneId: 'board', artworkId, revision: 1, size: { kind: 'true' }, turn: 0, mirrored: false }); // prettier-ignore

/** A course board, longer than any bed of the shop, burned in segments. */
export const seedLong = async (trx: Trx, shop: DemoShop): Promise<void> => {
  const batch = await addBatch(trx, {
    name: 'Course board, 2.2 m',
    quantity: 1,
    spares: 0,
    tolerance: 1,
    due: dueIn(10, 9),
    machine: shop.a,
    blank: await shop.blank('Board 2200 × 320', courseBlank),
    recipe: await shop.recipe('Birch, brown', shop.a, birch),
    held: holding('long', { name: 'COURSE', feed: 'x' }),
    lines: [],
  });
  await inZones(trx, batch, [onBoard(await shelfArt(trx, 'Course', drawingFile(course()), DRAWING_ROLES))]);
};
