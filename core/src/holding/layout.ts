import { vec, type Vec } from '../geometry';
import { fail, ok, type Result } from '../result';
import type { Mm } from '../units';
import { fillCells, type Cell } from './order';
import type { BoardExtent, BoardSettings } from './settings';
import { type MarkPlace, MARK_DIAMETER } from '../marks';
import type { Grid } from './places';

/** Clear rim between a mark's circle and the board's edge, mm. */
const MARK_RIM: Mm = 3;
/** Further in on printed sheets: printers leave an edge blank [common practice: up to 5 mm]. */
export const PRINT_RIM: Mm = 4;
/** Side of the square a mark claims in a corner, mm. */
export const MARK_SQUARE: Mm = MARK_DIAMETER + 2 * MARK_RIM;
/** Height of a slot number in the wall, and the wall it needs, mm. */
export const SLOT_NUMBER_HEIGHT: Mm = 2.2;
const SLOT_NUMBER_WALL: Mm = 4.2;
/** Narrowest board that takes its name, arrow and code beside two marks, mm. */
const LEAST_BOARD: Mm = 110;
/** Rim left free around a board that fills the bed, mm. */
const BED_RIM: Mm = 10;
export const MOST_SLOTS = 2000;

interface CellSize {
  readonly width: Mm;
  readonly height: Mm;
  readonly turned: boolean;
}

interface Plan {
  readonly columns: number;
  readonly rows: number;
  readonly width: Mm;
  readonly height: Mm;
  /** Room kept free along the back edge for marks, mm. */
  readonly back: Mm;
}

const span = (count: number, size: Mm, gap: Mm): Mm => count * size + Math.max(0, count - 1) * gap;
const countIn = (room: Mm, size: Mm, gap: Mm): number => Math.max(0, Math.floor((room + gap + 1e-9) / (size + gap)));

/** How places are laid in rows and columns. */
export interface GridSettings extends Pick<
  BoardSettings,
  'extent' | 'turned' | 'wall' | 'notches' | 'notchRadius' | 'slotNumbers' | 'marks' | 'order'
> {
  /** How much further in from the edge marks lie, mm. */
  readonly rim?: Mm;
}

/** The grid of a board: walls never thinner than it is thick nor than 2 mm [common practice]. */
export const boardGrid = (hold: BoardSettings): GridSettings => ({
  ...hold,
  wall: Math.max(hold.wall, hold.boardThickness, 2),
});

/**
 * Walls and rims around pockets. A finger notch sits on the front long side of a piece; when pieces
 * are turned it faces right, so its reach is needed sideways.
 */
const gaps = (
  hold: GridSettings,
  turned: boolean,
): {
  x: Mm;
  y: Mm;
  side: Mm;
  front: Mm;
  back: Mm;
  /** How far notches reach beyond their pocket towards the back marks, mm. */
  reach: { right: Mm; left: Mm; up: Mm };
} => {
  const { wall, rim: markRim = 0 } = hold;
  const one = hold.notches === 'none' ? 0 : hold.notchRadius;
  const both = hold.notches === 'both' ? one : 0;
  const upright = Math.max(wall, hold.slotNumbers ? SLOT_NUMBER_WALL : 0);
  const rim = Math.max(wall, 5);
  const front = MARK_SQUARE + markRim;
  return turned
    ? { x: wall + one + both, y: upright, side: rim + one, front, back: rim, reach: { right: one, left: both, up: 0 } }
    : {
        ...{ x: wall, y: upright + one + both, side: rim, front: front + one, back: rim + both },
        reach: { right: 0, left: 0, up: both },
      };
};

/**
 * Where marks go on a board: first the two corners farthest apart, then the other corners, then
 * along the back edge, where they keep their distance from the engraved name. The error in angle
 * falls with Σr² about their centre, so corners come before everything else.
 *
 * @param count 2 to 12, fewer where the back edge has no room for more; @param rim further in from the edge, mm
 */
export const markPlaces = (width: Mm, height: Mm, count: number, rim: Mm = 0): MarkPlace[] => {
  const inset = MARK_SQUARE / 2 + rim;
  const back = height - inset;
  const room = Math.floor((width - 2 * inset) / MARK_SQUARE) - 1;
  const more = Math.max(0, Math.min(count - 4, room));
  const places = [
    vec(inset, inset),
    vec(width - inset, back),
    vec(width - inset, inset),
    vec(inset, back),
    ...Array.from({ length: more }, (_, i) => vec(inset + ((i + 1) / (more + 1)) * (width - 2 * inset), back)),
  ];
  return places.slice(0, count).map((at, i) => ({ id: i + 1, at, role: i < 2 ? 'place' : 'check' }));
};

const placeCells = (plan: Plan, cell: CellSize, hold: GridSettings, wanted: number, offset: Vec): Grid => {
  const gap = gaps(hold, cell.turned);
  const { wall } = hold;
  const usedWidth = span(plan.columns, cell.width, gap.x);
  const usedHeight = span(plan.rows, cell.height, gap.y);
  const x0 = (plan.width - usedWidth) / 2;
  const room = plan.height - gap.front - Math.max(plan.back, gap.back);
  const y0 = gap.front + Math.max(0, room - usedHeight) / 2;
  const angle = cell.turned ? Math.PI / 2 : 0;
  const marks = markPlaces(plan.width, plan.height, hold.marks, hold.rim);
  const cells: (Cell & { centre: Vec; open: Vec })[] = [];
  for (let row = 0; row < plan.rows; row += 1) {
    for (let column = 0; column < plan.columns; column += 1) {
      const open = vec(
        x0 + column * (cell.width + gap.x) + cell.width / 2,
        y0 + row * (cell.height + gap.y) + cell.height / 2,
      );
      const hitsMark = marks.some(
        ({ at }) =>
          at.x - open.x < (cell.width + MARK_SQUARE) / 2 + gap.reach.right &&
          open.x - at.x < (cell.width + MARK_SQUARE) / 2 + gap.reach.left &&
          open.y + cell.height / 2 + gap.reach.up > at.y - MARK_SQUARE / 2 + 1e-9 &&
          at.y > plan.height / 2,
      );
      if (hitsMark) continue;
      const turnedOffset = cell.turned ? vec(-offset.y, offset.x) : offset;
      cells.push({ row, column, open, centre: { x: open.x - turnedOffset.x, y: open.y - turnedOffset.y } });
    }
  }
  const ordered = fillCells(cells, hold.order).slice(0, wanted);
  return {
    width: plan.width,
    height: plan.height,
    columns: plan.columns,
    rows: plan.rows,
    turned: cell.turned,
    wall,
    slots: ordered.map((c, i) => ({ slot: i + 1, column: c.column, row: c.row, centre: c.centre, angle })),
    marks,
  };
};

/** The fullest grid on a board of a given size: with a free back strip, or with the back marks in cells’ places. */
const fillBoard = (width: Mm, height: Mm, cell: CellSize, hold: GridSettings, offset: Vec): Grid => {
  const gap = gaps(hold, cell.turned);
  const columns = countIn(width - 2 * gap.side, cell.width, gap.x);
  const plan = (back: Mm): Plan => ({
    columns,
    rows: countIn(height - gap.front - Math.max(back, gap.back), cell.height, gap.y),
    width,
    height,
    back,
  });
  const grids = [MARK_SQUARE + (hold.rim ?? 0) + gap.reach.up, 0].map((back) =>
    placeCells(plan(back), cell, hold, MOST_SLOTS, offset),
  );
  return grids[1]!.slots.length > grids[0]!.slots.length ? grids[1]! : grids[0]!;
};

/** The smallest board with so many columns and rows, whether or not it lies on the bed. */
const planOf = (columns: number, rows: number, cell: CellSize, hold: GridSettings): Plan => {
  const gap = gaps(hold, cell.turned);
  const back = Math.max(MARK_SQUARE + gap.reach.up, gap.back);
  return {
    columns,
    rows,
    width: Math.ceil(Math.max(LEAST_BOARD, span(columns, cell.width, gap.x) + 2 * gap.side)),
    height: Math.ceil(gap.front + span(rows, cell.height, gap.y) + back),
    back,
  };
};

/** The smallest board that holds `count` pieces and lies on the bed; fewer when the bed ends first. */
const boardForCount = (
  count: number,
  bed: { width: Mm; height: Mm },
  cell: CellSize,
  hold: GridSettings,
  offset: Vec,
): Grid => {
  const gap = gaps(hold, cell.turned);
  const plans: (Plan & { cost: number })[] = [];
  const most = Math.min(count, countIn(bed.width - 2 * gap.side, cell.width, gap.x));
  for (let columns = 1; columns <= most; columns += 1) {
    const plan = planOf(columns, Math.ceil(count / columns), cell, hold);
    const { width, height } = plan;
    if (width > bed.width || height > bed.height) continue;
    // Least area; among nearly equal ones the shape most like the bed's.
    const cost = width * height * (1 + 0.1 * Math.abs(Math.log(width / height / (bed.width / bed.height))));
    plans.push({ ...plan, cost });
  }
  for (const plan of plans.sort((a, b) => a.cost - b.cost)) {
    const grid = placeCells(plan, cell, hold, count, offset);
    if (grid.slots.length === count) return grid;
  }
  return fillBoard(bed.width, bed.height, cell, hold, offset);
};

/** The smallest board with so many columns and rows; no place where the bed is too small for it. */
const boardForGrid = (
  { columns, rows }: { readonly columns: number; readonly rows: number },
  bed: { width: Mm; height: Mm },
  cell: CellSize,
  hold: GridSettings,
  offset: Vec,
): Grid => {
  const plan = planOf(columns, rows, cell, hold);
  const lies = plan.width <= bed.width && plan.height <= bed.height;
  return placeCells(lies ? plan : { ...plan, rows: 0 }, cell, hold, columns * rows, offset);
};

/** What cannot be laid as it was asked for, whatever the pieces’ size. */
const askedTooMuch = (extent: BoardExtent, bed: { width: Mm; height: Mm }): Result<never> | null => {
  if (extent.kind === 'board' && (extent.width > bed.width || extent.height > bed.height))
    return fail(
      'board-too-large',
      `A board of ${extent.width} × ${extent.height} mm does not lie on a bed of ${bed.width} × ${bed.height} mm.`,
      'hold.extent',
    );
  const asked = askedOf(extent);
  return asked !== null && asked > MOST_SLOTS
    ? fail('too-many-slots', `A board takes at most ${MOST_SLOTS} pieces; ${asked} were asked for.`, 'hold.extent')
    : null;
};

/** How many places were asked for, where a number was. */
const askedOf = (extent: BoardExtent): number | null =>
  extent.kind === 'count' ? extent.count : extent.kind === 'grid' ? extent.columns * extent.rows : null;

/**
 * Lays pockets on a board in rows and columns, places its marks as far apart as the board allows,
 * and numbers the slots in filling order.
 *
 * @param pocket finished opening in the blank's axes, mm
 * @param offset centre of the opening seen from a piece's centre, blank frame, mm
 * @param bed the machine's bed, mm
 * @returns the grid, or a problem naming what does not fit
 */
export const layGrid = (
  pocket: { length: Mm; width: Mm },
  offset: Vec,
  hold: GridSettings,
  bed: { width: Mm; height: Mm },
): Result<Grid> => {
  const most = { width: bed.width - 2 * BED_RIM, height: bed.height - 2 * BED_RIM };
  const { extent } = hold;
  const refused = askedTooMuch(extent, bed);
  if (refused) return refused;
  const make = (turned: boolean): Grid => {
    const cell: CellSize = turned
      ? { width: pocket.width, height: pocket.length, turned }
      : { width: pocket.length, height: pocket.width, turned };
    switch (extent.kind) {
      case 'board':
        return fillBoard(extent.width, extent.height, cell, hold, offset);
      case 'bed':
        return fillBoard(most.width, most.height, cell, hold, offset);
      case 'count':
        return boardForCount(extent.count, most, cell, hold, offset);
      case 'grid':
        return boardForGrid(extent, most, cell, hold, offset);
    }
  };
  const choices = hold.turned === 'auto' ? [make(false), make(true)] : [make(hold.turned === 'across')];
  // Text reads along the board unless turning the pieces holds more of them.
  const best = choices.reduce((a, b) => (b.slots.length > a.slots.length ? b : a));
  const asked = askedOf(extent);
  if (best.slots.length === 0) {
    return fail(
      'no-room',
      extent.kind === 'grid'
        ? `${extent.columns} × ${extent.rows} pockets of ${pocket.length.toFixed(1)} × ${pocket.width.toFixed(1)} mm need a board of ${best.width} × ${best.height} mm; the bed takes ${most.width} × ${most.height}. Ask for fewer, or for as many as fill the bed.`
        : `A pocket of ${pocket.length.toFixed(1)} × ${pocket.width.toFixed(1)} mm with its walls and marks does not fit on this board. Use a larger board or a smaller wall.`,
      'hold.extent',
    );
  }
  if (best.slots.length > MOST_SLOTS) return fail('too-many-slots', `More than ${MOST_SLOTS} pockets.`, 'hold.extent');
  const other = choices.find((c) => c !== best);
  return ok({
    ...best,
    ...(other ? { otherWay: other.slots.length } : {}),
    ...(asked !== null && best.slots.length < asked ? { asked } : {}),
  });
};
