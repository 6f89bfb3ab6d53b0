import {
  circle,
  contourBox,
  boxContains,
  polyline,
  roundedRectangle,
  segment,
  transformContour,
  type Contour,
  type Vec,
} from '../geometry';
import { setText, setWidth, type Alphabet } from '../lettering';
import { ok, type Result } from '../result';
import type { Mm } from '../units';
import type { Blank, BlankSizes } from './blank';
import { scannableCode } from './code';
import { boardGrid, layGrid, MARK_SQUARE, SLOT_NUMBER_HEIGHT } from './layout';
import { type Grid, type Slot, type Pass, type Board, type ZeroCorner, slotTransform } from './places';
import { notchRadius } from './notches';
import { pocketOutline, type Pocket } from './pocket';
import type { BoardSettings } from './settings';
import { markContours } from '../marks';
import type { LineSeat } from './lines';

const textContours = (alphabet: Alphabet, text: string, at: Vec, height: Mm): Contour[] =>
  setText(alphabet, text, at, height).map((points) => polyline(points, alphabet.kind === 'outline'));

const arrow = (zero: ZeroCorner, at: Vec): Contour[] => {
  const dx = zero.endsWith('left') ? -1 : 1;
  const dy = zero.startsWith('front') ? -1 : 1;
  const tip = { x: at.x + dx * 3, y: at.y + dy * 3 };
  return [
    segment({ x: at.x - dx * 3, y: at.y - dy * 3 }, tip),
    polyline([{ x: tip.x - dx * 3.4, y: tip.y }, tip, { x: tip.x, y: tip.y - dy * 3.4 }]),
  ];
};

/** The strip along the front edge: code, arrow to zero, name, revision and thickness. */
const frontStrip = (
  grid: Grid,
  hold: BoardSettings,
  places: 'pockets' | 'places',
  revision: number,
  zero: ZeroCorner,
  labels: Alphabet,
): { lines: Contour[]; code: Contour[] } => {
  const codeSize = 12;
  const left = MARK_SQUARE + 3;
  const title = `${hold.name} r${revision}`;
  const detail = `board ${hold.boardThickness.toFixed(1)} mm, ${grid.slots.length} ${places}, zero`;
  const textX = left + codeSize + 5;
  const room = grid.width - MARK_SQUARE - textX - 12;
  const fit = (text: string, wanted: Mm): Mm => Math.min(wanted, room / Math.max(1, setWidth(labels, text)));
  const detailHeight = fit(detail, 2.6);
  const arrowX = textX + setWidth(labels, detail) * detailHeight + 7;
  return {
    code: [...scannableCode(title, { x: left, y: (MARK_SQUARE - codeSize) / 2 }, codeSize)],
    lines: [
      ...textContours(labels, title, { x: textX, y: 10 }, fit(title, 4)),
      ...textContours(labels, detail, { x: textX, y: 4 }, detailHeight),
      ...arrow(zero, { x: arrowX, y: 5.5 }),
    ],
  };
};

/** Clear strip round a slot's number, mm. */
const NUMBER_ROOM: Mm = 0.5;

/** How far a notch reaches from the front side of a pocket into the wall, mm. */
const frontNotch = (grid: Grid, hold: BoardSettings): Mm =>
  grid.turned || hold.notches === 'none' ? 0 : hold.notchRadius;

/** A slot's number in the wall in front of its pocket: at the left end of it, or before the notch that leaves no room there. */
const slotNumber = (
  { slot }: Slot,
  open: Vec,
  cell: { readonly width: Mm; readonly height: Mm },
  grid: Grid,
  hold: BoardSettings,
  labels: Alphabet,
  outlined: boolean,
): Contour[] => {
  const text = String(slot);
  const room = cell.width + grid.wall - 2 * NUMBER_ROOM;
  const height = Math.min(SLOT_NUMBER_HEIGHT, room / Math.max(1e-9, setWidth(labels, text)));
  const width = height * setWidth(labels, text);
  const left = open.x - cell.width / 2 + NUMBER_ROOM;
  const foot = open.y - cell.height / 2 - height;
  const notch = frontNotch(grid, hold);
  // On an outline the notch lies where the outline lets it.
  const beside = notch === 0 || (!outlined && left + width + NUMBER_ROOM < open.x - notch);
  return textContours(labels, text, { x: left, y: beside ? foot - 1 : foot - notch - NUMBER_ROOM }, height);
};

/** A slot's number in the wall in front of it, and a triangle at the end where the hole goes. */
const slotLabels = (
  slot: Slot,
  blank: Blank,
  pocket: Pocket,
  grid: Grid,
  hold: BoardSettings,
  labels: Alphabet,
): Contour[] => {
  const cell = grid.turned
    ? { width: pocket.width, height: pocket.length }
    : { width: pocket.length, height: pocket.width };
  const open = { x: slot.centre.x + pocket.offset.x, y: slot.centre.y + pocket.offset.y };
  const bottom = open.y - cell.height / 2;
  const out: Contour[] = [];
  if (hold.slotNumbers) out.push(...slotNumber(slot, open, cell, grid, hold, labels, blank.shape.kind === 'outline'));
  const hole = blank.holes[0];
  if (blank.direction.kind === 'hole' && hole && !grid.turned) {
    const x = slot.centre.x + hole.x;
    const notch = frontNotch(grid, hold);
    const inNotch = notch > 0 && Math.abs(x - open.x) < notch + 2;
    const y = bottom - (inNotch ? notch + NUMBER_ROOM : 1);
    if (Math.abs(x - (open.x - cell.width / 2)) > 5)
      out.push(
        polyline(
          [
            { x: x - 1.1, y: y - 1.9 },
            { x: x + 1.1, y: y - 1.9 },
            { x, y },
          ],
          true,
        ),
      );
    else
      out.push(
        polyline(
          [
            { x: x + 3.9, y: y - 1.9 },
            { x: x + 6.1, y: y - 1.9 },
            { x: x + 5, y },
          ],
          true,
        ),
      );
  }
  return out;
};

/** What a board is cut for: a blank of these sizes in these places, on this machine, as this revision. */
export interface BoardFor {
  readonly blank: Blank;
  readonly sizes: BlankSizes;
  readonly pocket: Pocket;
  readonly machine: {
    readonly bed: { readonly width: Mm; readonly height: Mm };
    readonly zeroCorner: ZeroCorner;
    /** Full width of the cut in this board, mm. */
    readonly kerf: Mm;
  };
  readonly revision: number;
  /** A single-stroke alphabet for names and numbers. */
  readonly labels: Alphabet;
}

/** A whole board: grid, marks, labels, what holds each piece, and its outline, grown by half a kerf. */
const boardWith = (
  { blank, pocket, machine, revision, labels }: BoardFor,
  chosen: BoardSettings,
  places: 'pockets' | 'places',
  held: (everywhere: (contours: readonly Contour[]) => Contour[]) => readonly Pass[],
): Result<Board> => {
  const { kerf } = machine;
  const hold = { ...chosen, notchRadius: notchRadius(pocket.length, chosen) };
  const laid = layGrid(pocket, pocket.offset, boardGrid(hold), machine.bed);
  if (!laid.ok) return laid;
  const grid = laid.value;
  const strip = frontStrip(grid, hold, places, revision, machine.zeroCorner, labels);
  const middle = { x: grid.width / 2, y: grid.height / 2 };
  return ok({
    ...grid,
    name: hold.name,
    revision,
    thickness: hold.boardThickness,
    pocket: { length: pocket.length, width: pocket.width },
    kerf,
    passes: [
      { name: 'marks', kind: 'line', contours: grid.marks.flatMap(markContours) },
      { name: 'code', kind: 'fill', contours: strip.code },
      { name: 'labels', kind: 'line', contours: strip.lines },
      {
        name: 'slots',
        kind: 'line',
        contours: grid.slots.flatMap((s) => slotLabels(s, blank, pocket, grid, hold, labels)),
      },
      ...held((contours) => grid.slots.flatMap((s) => contours.map((c) => transformContour(slotTransform(s), c)))),
      {
        name: 'outline',
        kind: 'cut',
        contours: [roundedRectangle(middle, grid.width + kerf, grid.height + kerf, 3)],
      },
    ],
  });
};

/** A board with pockets, which shrink by half a kerf. */
export const pocketBoard = (made: BoardFor, hold: BoardSettings): Result<Board> => {
  const { blank, sizes, pocket, machine } = made;
  return boardWith(made, hold, 'pockets', (everywhere) => [
    { name: 'pockets', kind: 'cut', contours: everywhere(pocketOutline(blank, sizes, pocket, hold, machine.kerf)) },
  ]);
};

/** A board with pegs and witness lines; pegs press in: their holes are cut to the peg's own size. */
export const pegBoard = (made: BoardFor, hold: BoardSettings, seat: LineSeat, peg: Mm): Result<Board> =>
  boardWith(made, { ...hold, notches: 'none' }, 'places', (everywhere) => [
    { name: 'lines', kind: 'line', contours: everywhere(seat.lines) },
    { name: 'pegs', kind: 'cut', contours: everywhere(seat.pegs.map((p) => circle(p, (peg - made.machine.kerf) / 2))) },
  ]);

/** Whether everything a board carries lies inside its outline; a self-check of the layout. */
export const boardIsWhole = (board: Board): boolean => {
  const edge = {
    minX: -board.kerf,
    minY: -board.kerf,
    maxX: board.width + board.kerf,
    maxY: board.height + board.kerf,
  };
  return board.passes.every((pass) => pass.contours.every((c) => boxContains(edge, contourBox(c))));
};
