import { polyline, segment, type Box, type Contour, type Vec } from '../geometry';
import { setText, type Alphabet } from '../lettering';
import { fail, ok, type Result } from '../result';
import type { Mm } from '../units';
import { degrees, fixed, mm, worked, type WorkedLine } from '../working';
import type { Pass, Slot } from './places';
import { fillCells, type FillOrder } from './order';
import { moveSquare, seatOf, seatWorst, type EdgeSeat, type SeatPoint } from './seat';

/** A board on which an open-frame machine stands against stops, with a grid that it burned itself. */
export interface LocatorSettings {
  /** Over the outsides of the feet, mm. */
  readonly frame: { readonly width: Mm; readonly depth: Mm };
  readonly foot: { readonly width: Mm; readonly depth: Mm };
  /** Front left corner of the travel from the front left corner of the footprint, mm. */
  readonly travel: { readonly x: Mm; readonly y: Mm };
  /** Board beyond the footprint, each way, mm [common practice: 20 to 30]. */
  readonly margin: Mm;
  /** Between the lines of the grid, mm. */
  readonly pitch: Mm;
  /** How far inside the travel the grid ends, mm. */
  readonly inset: Mm;
  /** Least room between pieces, mm. */
  readonly gap: Mm;
  /** How closely an edge is laid to a grid line by eye, mm either way. */
  readonly eye: Mm;
}

export const freshLocator: LocatorSettings = {
  frame: { width: 560, depth: 560 },
  foot: { width: 40, depth: 40 },
  travel: { x: 80, y: 80 },
  margin: 25,
  pitch: 10,
  inset: 5,
  gap: 4,
  eye: 0.2,
};

/** Return of a frame to wooden stops while no dot was repeated, mm either way [assumed]. */
export const UNTRIED_RETURN: Mm = 0.3;
/** How far a glued stop may be off, mm either way [assumed]. */
const STOP_ERROR: Mm = 0.2;
/** Blocks that the feet bear against: along the foot's face, and away from it, mm. */
const BLOCK: { readonly length: Mm; readonly width: Mm } = { length: 40, width: 20 };
/** Numbers stand at every so many lines. */
const NUMBERED = 5;
const NUMBER_HEIGHT: Mm = 3;

/** One block, glued to the board; its long side bears against a foot. */
export interface Stop {
  readonly foot: 'front left' | 'front right' | 'back left';
  readonly face: 'front' | 'left';
  readonly block: Box;
}

export interface CutPart {
  readonly name: string;
  readonly count: number;
  readonly length: Mm;
  readonly width: Mm;
  readonly thickness: Mm;
  readonly note: string;
}

export interface Locator {
  /** In the frame of the travel (the bed), origin at its front left, mm. */
  readonly board: Box;
  readonly feet: readonly Box[];
  readonly stops: readonly Stop[];
  /** Lines of the grid, x then y, bed frame, mm. */
  readonly xs: readonly Mm[];
  readonly ys: readonly Mm[];
  readonly passes: readonly Pass[];
  readonly parts: readonly CutPart[];
  readonly seat: EdgeSeat;
  readonly slots: readonly Slot[];
  readonly columns: number;
  readonly rows: number;
  /** Size of a place in whole grid lines, mm. */
  readonly cell: { readonly width: Mm; readonly height: Mm };
  /** Where zero is set: the intersection at the first piece’s corner. */
  readonly zero: Vec;
  /** Where the dot is repeated: the intersection farthest from zero. */
  readonly repeat: Vec;
  /** Standard error of each stop between two times that the frame is put on, mm. */
  readonly stopError: Mm;
  /** What that makes at the repeated dot, per axis, mm. */
  readonly returns: Mm;
  readonly working: readonly WorkedLine[];
}

/**
 * Standard error of each stop between two times that the frame is put on, mm: a dot's distance from
 * its repeat, squared, is on the average that error's square times the response at the dot.
 */
const stopError = (back: readonly Mm[], seat: EdgeSeat, at: Vec): Mm =>
  back.length === 0
    ? UNTRIED_RETURN / Math.sqrt(3)
    : Math.sqrt(back.reduce((s, d) => s + d * d, 0) / back.length / moveSquare(seat, at));

const lines = (travel: Mm, inset: Mm, pitch: Mm): Mm[] => {
  const first = Math.ceil(inset / pitch) * pitch;
  const out: Mm[] = [];
  for (let x = first; x <= travel - inset + 1e-9; x += pitch) out.push(x);
  return out;
};

/** Three contacts: the faces of two front feet, and one side of the left ones. */
const contactsOf = (s: LocatorSettings): SeatPoint[] => {
  const { frame, foot } = s;
  const from = (x: Mm, y: Mm): Vec => ({ x: x - s.travel.x, y: y - s.travel.y });
  return [
    { at: from(foot.width / 2, 0), normal: { x: 0, y: -1 }, by: 'contact' },
    { at: from(frame.width - foot.width / 2, 0), normal: { x: 0, y: -1 }, by: 'contact' },
    { at: from(0, frame.depth - foot.depth / 2), normal: { x: -1, y: 0 }, by: 'contact' },
  ];
};

const stopsOf = (s: LocatorSettings): Stop[] => {
  const [a, b, c] = contactsOf(s).map((p) => p.at) as [Vec, Vec, Vec];
  const along = (foot: Mm): Mm => Math.min(BLOCK.length, foot) / 2;
  const w = along(s.foot.width);
  const d = along(s.foot.depth);
  return [
    { foot: 'front left', face: 'front', block: { minX: a.x - w, maxX: a.x + w, minY: a.y - BLOCK.width, maxY: a.y } },
    { foot: 'front right', face: 'front', block: { minX: b.x - w, maxX: b.x + w, minY: b.y - BLOCK.width, maxY: b.y } },
    { foot: 'back left', face: 'left', block: { minX: c.x - BLOCK.width, maxX: c.x, minY: c.y - d, maxY: c.y + d } },
  ];
};

const problemOf = (s: LocatorSettings, travel: { width: Mm; height: Mm }): Result<never> | null => {
  if (s.travel.x + travel.width > s.frame.width || s.travel.y + travel.height > s.frame.depth)
    return fail(
      'travel-outside',
      `A travel of ${travel.width} × ${travel.height} mm, ${fixed(s.travel.x, 0)} and ${fixed(s.travel.y, 0)} mm in, does not lie inside a footprint of ${fixed(s.frame.width, 0)} × ${fixed(s.frame.depth, 0)} mm. Measure from foot to foot, over the outsides.`,
      'hold.locator.travel',
    );
  if (2 * s.foot.width >= s.frame.width || 2 * s.foot.depth >= s.frame.depth)
    return fail('feet', 'The feet are wider than the frame they carry. Measure one foot.', 'hold.locator.foot');
  if (s.margin < BLOCK.width)
    return fail(
      'margin',
      `Stops are ${BLOCK.width} mm wide: the board must stand out ${BLOCK.width} mm or more; 20 to 30 mm is usual.`,
      'hold.locator.margin',
    );
  return null;
};

/** Whether a grid line carries its number. */
export const isNumbered = (v: Mm, pitch: Mm): boolean => {
  const at = v / (pitch * NUMBERED);
  return Math.abs(at - Math.round(at)) < 1e-6;
};

const gridPasses = (s: LocatorSettings, xs: readonly Mm[], ys: readonly Mm[], labels: Alphabet): Pass[] => {
  const [x0, x1] = [xs[0]!, xs.at(-1)!];
  const [y0, y1] = [ys[0]!, ys.at(-1)!];
  // There and back, so that the head does not run empty.
  const grid: Contour[] = [
    ...xs.map((x, i) => (i % 2 === 0 ? segment({ x, y: y0 }, { x, y: y1 }) : segment({ x, y: y1 }, { x, y: y0 }))),
    ...ys.map((y, i) => (i % 2 === 0 ? segment({ x: x0, y }, { x: x1, y }) : segment({ x: x1, y }, { x: x0, y }))),
  ];
  const number = (v: Mm, at: Vec): Contour[] =>
    setText(labels, String(Math.round(v)), at, NUMBER_HEIGHT).map((p) => polyline(p));
  const numbered = (v: Mm): boolean => isNumbered(v, s.pitch);
  return [
    { name: 'grid', kind: 'line', contours: grid },
    {
      name: 'labels',
      kind: 'line',
      contours: [
        ...xs.filter(numbered).flatMap((x) => number(x, { x: x + 0.8, y: y0 + 0.8 })),
        ...ys.filter((y) => numbered(y) && y > y0).flatMap((y) => number(y, { x: x0 + 0.8, y: y + 0.8 })),
      ],
    },
  ];
};

/** Board under the frame, standing out by the margin. */
const boardOf = ({ frame, travel, margin }: LocatorSettings): Box => ({
  minX: -travel.x - margin,
  minY: -travel.y - margin,
  maxX: frame.width - travel.x + margin,
  maxY: frame.depth - travel.y + margin,
});

const feetOf = ({ frame, foot, travel }: LocatorSettings): Box[] => {
  const corner = (x: Mm, y: Mm): Box => ({
    minX: x - travel.x,
    minY: y - travel.y,
    maxX: x - travel.x + foot.width,
    maxY: y - travel.y + foot.depth,
  });
  const right = frame.width - foot.width;
  const back = frame.depth - foot.depth;
  return [corner(0, 0), corner(right, 0), corner(0, back), corner(right, back)];
};

type Places = Pick<Locator, 'xs' | 'ys' | 'slots' | 'columns' | 'rows' | 'cell'>;

/** The grid’s lines, and the places of pieces whose front left corners lie at intersections. */
const placesOf = (
  s: LocatorSettings,
  travel: { readonly width: Mm; readonly height: Mm },
  piece: { readonly length: Mm; readonly width: Mm },
  order: FillOrder,
): Result<Places> => {
  const xs = lines(travel.width, s.inset, s.pitch);
  const ys = lines(travel.height, s.inset, s.pitch);
  if (xs.length < 2 || ys.length < 2)
    return fail('no-grid', 'The grid has no two lines inside this travel. Take a finer pitch.', 'hold.locator.pitch');
  const up = (v: Mm): Mm => Math.ceil((v + s.gap) / s.pitch - 1e-9) * s.pitch;
  const cell = { width: up(piece.length), height: up(piece.width) };
  const count = (ends: readonly Mm[], each: Mm, size: Mm, limit: Mm): number =>
    Math.max(0, Math.floor((limit - ends[0]! - size) / each + 1 + 1e-9));
  const columns = count(xs, cell.width, piece.length, travel.width);
  const rows = count(ys, cell.height, piece.width, travel.height);
  if (columns * rows === 0)
    return fail(
      'piece-too-large',
      `A piece of ${fixed(piece.length, 1)} × ${fixed(piece.width, 1)} mm does not lie inside a travel of ${travel.width} × ${travel.height} mm from its first grid line on.`,
      'hold.locator',
    );
  const cells = Array.from({ length: rows * columns }, (_, i) => ({
    row: Math.floor(i / columns),
    column: i % columns,
  }));
  const slots = fillCells(cells, order).map((c, i): Slot => ({
    ...c,
    slot: i + 1,
    angle: 0,
    centre: {
      x: xs[0]! + c.column * cell.width + piece.length / 2,
      y: ys[0]! + c.row * cell.height + piece.width / 2,
    },
  }));
  return ok({ xs, ys, slots, columns, rows, cell });
};

const partsOf = ({ foot }: LocatorSettings, board: Box, thickness: Mm): CutPart[] => [
  {
    name: 'board',
    count: 1,
    length: board.maxX - board.minX,
    width: board.maxY - board.minY,
    thickness,
    note: 'flat; the machine cannot cut it, it is larger than its travel',
  },
  {
    name: 'stop',
    count: 3,
    length: Math.min(BLOCK.length, foot.width),
    width: BLOCK.width,
    thickness,
    note: 'one straight long edge each',
  },
];

const workingOf = (
  s: LocatorSettings & { readonly back: readonly Mm[] },
  travel: { readonly width: Mm; readonly height: Mm },
  piece: { readonly length: Mm; readonly width: Mm },
  made: Omit<Locator, 'working'>,
): WorkedLine[] => {
  const { board, seat, xs, ys, cell, zero, repeat, stopError: stop, returns } = made;
  const size = { width: board.maxX - board.minX, height: board.maxY - board.minY };
  const apart = s.frame.width - s.foot.width;
  const grid: Box = { minX: zero.x, minY: zero.y, maxX: repeat.x, maxY: repeat.y };
  return [
    worked(
      'board',
      'footprint + twice the margin',
      `${fixed(s.frame.width, 0)} + 2 × ${fixed(s.margin, 0)}, ${fixed(s.frame.depth, 0)} + 2 × ${fixed(s.margin, 0)}`,
      `${fixed(size.width, 0)} × ${fixed(size.height, 0)} mm`,
      'common practice',
    ),
    worked(
      'three stops',
      'a frame on a board can shift two ways and turn: three contacts hold three',
      'two fronts, one side',
      'it bears on all three',
      'geometry',
    ),
    worked(
      'a fourth stop',
      'its error / distance of the front stops: it bears on this one or on that one',
      `± ${fixed(STOP_ERROR)} / ${fixed(apart, 0)}`,
      `rocks by ${degrees(STOP_ERROR / apart, 3)}, ${mm((STOP_ERROR / apart) * Math.hypot(travel.width, travel.height))} at the far corner`,
      'geometry',
    ),
    worked(
      'if every stop gave',
      'response of the three contacts at the grid’s worst corner',
      `± ${fixed(STOP_ERROR)} each`,
      `± ${mm(seatWorst(seat, [STOP_ERROR, STOP_ERROR, STOP_ERROR], grid))}`,
      'assumed',
    ),
    worked(
      'grid',
      'whole lines inside travel − inset',
      `${travel.width} × ${travel.height}, ${fixed(s.inset)} in, every ${fixed(s.pitch, 0)}`,
      `${xs.length} × ${ys.length} lines`,
      'geometry',
    ),
    worked(
      'a place',
      '⌈(piece + gap) / pitch⌉ × pitch',
      `(${fixed(piece.length, 1)} + ${fixed(s.gap, 1)}) and (${fixed(piece.width, 1)} + ${fixed(s.gap, 1)}) by ${fixed(s.pitch, 0)}`,
      `${fixed(cell.width, 0)} × ${fixed(cell.height, 0)} mm`,
      'geometry',
    ),
    worked(
      'error of each stop',
      s.back.length === 0 ? '± / √3, no dot repeated yet' : '√(mean distance² / response² at the dot)',
      s.back.length === 0
        ? `${fixed(UNTRIED_RETURN)} / √3`
        : `√((${s.back.map((d) => `${fixed(d)}²`).join(' + ')}) / ${s.back.length} / ${fixed(moveSquare(seat, repeat))})`,
      mm(stop, 3),
      s.back.length === 0 ? 'assumed' : 'measured by repeated dots',
    ),
    worked(
      'return of the frame, one axis',
      'error of each stop × response at the dot / √2',
      `${fixed(stop, 3)} × ${fixed(Math.sqrt(moveSquare(seat, repeat)))} / √2`,
      mm(returns, 3),
      'geometry',
    ),
  ];
};

/**
 * Plans a locator board: its size from the footprint, stops at three feet, the grid that the machine
 * burns inside its own travel, and the places of pieces whose front left corners lie at intersections.
 *
 * @param travel of the head, mm; @param piece mean length and width, mm
 * @param thickness of the board, mm
 * @returns the board in the travel's frame, or a problem naming what does not go together
 */
export const reckonLocator = (
  s: LocatorSettings & { readonly back: readonly Mm[] },
  travel: { readonly width: Mm; readonly height: Mm },
  piece: { readonly length: Mm; readonly width: Mm },
  thickness: Mm,
  order: FillOrder,
  labels: Alphabet,
): Result<Locator> => {
  const bad = problemOf(s, travel);
  if (bad) return bad;
  const places = placesOf(s, travel, piece, order);
  if (!places.ok) return places;
  const seat = seatOf(contactsOf(s));
  if (!seat.ok) return seat;
  const { xs, ys } = places.value;
  const board = boardOf(s);
  const repeat = { x: xs.at(-1)!, y: ys.at(-1)! };
  const stop = stopError(s.back, seat.value, repeat);
  const made = {
    board,
    feet: feetOf(s),
    stops: stopsOf(s),
    passes: gridPasses(s, xs, ys, labels),
    parts: partsOf(s, board, thickness),
    seat: seat.value,
    ...places.value,
    zero: { x: xs[0]!, y: ys[0]! },
    repeat,
    stopError: stop,
    returns: stop * Math.sqrt(moveSquare(seat.value, repeat) / 2),
  };
  return ok({ ...made, working: workingOf(s, travel, piece, made) });
};

/** A piece laid to two grid lines by eye: two places of its front edge, one of its left. */
export const gridSeat = (piece: { readonly length: Mm; readonly width: Mm }): EdgeSeat => {
  const { length, width } = piece;
  const made = seatOf([
    { at: { x: -0.4 * length, y: -width / 2 }, normal: { x: 0, y: -1 }, by: 'line' },
    { at: { x: 0.4 * length, y: -width / 2 }, normal: { x: 0, y: -1 }, by: 'line' },
    { at: { x: -length / 2, y: 0 }, normal: { x: -1, y: 0 }, by: 'line' },
  ]);
  if (!made.ok) throw new Error('a corner holds a rectangle');
  return made.value;
};
