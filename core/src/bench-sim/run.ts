import { chosenSource } from './beam';
import {
  apply,
  arcOf,
  boxOf,
  distanceToSegment,
  insidePolygon,
  invert,
  rigid,
  scanFill,
  type Transform,
  type Vec,
} from '../geometry';
import { seeded } from '../budget';
import { readGcode } from '../output';
import { countedToFile, type Machine } from '../burn';
import { maxYaw, slotTransform, turnedSize, type BlankSizes, type Made, type Pocket, type Slot } from '../holding';
import { allShapes, type PieceShapes } from '../artwork';
import { ok, type Result } from '../result';
import type { Mm, Rad, SlotNumber, LoadNumber } from '../units';
import { realSizes } from './real';
import { reallyAt, truePose, type Hidden } from './machine';

/** A real piece in a real pocket: its own size and where it came to lie. Piece frame to slot frame. */
export interface LyingPiece {
  readonly length: Mm;
  readonly width: Mm;
  readonly dx: Mm;
  readonly dy: Mm;
  readonly yaw: Rad;
}

/** How pieces lie to what holds them, and where on a piece errors are measured. */
export interface Seating {
  readonly lies: (slot: Slot) => LyingPiece;
  /** How far from a slot's middle a burn still belongs to its piece: as far as its art reaches, or so far beyond its pocket, mm. */
  readonly reach: 'art' | Mm;
  /** Whether errors are measured from a piece's left and front edges instead of from its middle. */
  readonly fromEdges: boolean;
}

interface Held {
  readonly hidden: Hidden;
  readonly load: LoadNumber;
  readonly sizes: BlankSizes;
  readonly pocket: Pocket;
  /** How truly it is made; just as drawn when absent. */
  readonly made?: Made;
}

/** How far a bench's walls stand outward of where they were drawn: all alike by its kerf, each of a slot by itself, mm. */
export interface Walls {
  readonly left: Mm;
  readonly right: Mm;
  readonly front: Mm;
  readonly back: Mm;
}

/** The walls of a place as a bench cut them: the same whatever lies in it. */
export const wallsOf = (seed: number, slot: SlotNumber, made: Made | undefined): Walls => {
  const kerf = made ? made.kerf * (2 * seeded(seed * 389 + 5).uniform() - 1) : 0;
  const r = seeded(seed * 1013 + slot * 7 + 11);
  const wall = (): Mm => (made ? kerf / 2 + made.place * (2 * r.uniform() - 1) : 0);
  return { left: wall(), right: wall(), front: wall(), back: wall() };
};

/** A piece of its own size, and the most it can turn where it lies; the same load and slot always give the same piece. */
const someOf = (
  { hidden, load, sizes, pocket: drawn, made }: Held,
  slot: Slot,
): {
  length: Mm;
  width: Mm;
  round: boolean;
  turn: Rad;
  open: Pocket;
  off: Vec;
  walls: Walls;
  uniform: () => number;
} => {
  const r = seeded(hidden.seed * 7919 + load * 104_729 + slot.slot * 131);
  const walls = wallsOf(hidden.seed, slot.slot, made);
  const { left, right, front, back } = walls;
  const open = { ...drawn, length: drawn.length + left + right, width: drawn.width + front + back };
  const round = drawn.yaw === null;
  const real = realSizes(hidden.seed, sizes);
  const length = Math.min(open.length, real.length.mean + real.length.spread * r.normal());
  const width = round ? length : Math.min(open.width, real.width.mean + real.width.spread * r.normal());
  const most = round ? (open.byEye ?? 0) : maxYaw(length, width, open.length, open.width, open.corner);
  return {
    length,
    width,
    round,
    turn: most * (2 * r.uniform() - 1),
    open,
    off: { x: (right - left) / 2, y: (back - front) / 2 },
    walls,
    uniform: () => r.uniform(),
  };
};

/** Pieces dropped into pockets. */
export const inPockets = (held: Held): Seating => ({
  lies: (slot) => {
    const { length, width, round, turn, open, off, uniform } = someOf(held, slot);
    const turned = round ? { length, width } : turnedSize(length, width, turn, open.corner);
    return {
      length,
      width,
      yaw: turn,
      dx: off.x + Math.max(0, (open.length - turned.length) / 2) * (2 * uniform() - 1),
      dy: off.y + Math.max(0, (open.width - turned.width) / 2) * (2 * uniform() - 1),
    };
  },
  reach: 0,
  fromEdges: true,
});

/**
 * Pieces pushed against a stop, to its left and front walls.
 * @param laid ± at which each is laid, mm
 */
export const againstStop = (held: Held, laid: Mm = held.made?.seating ?? 0): Seating => ({
  lies: (slot) => {
    const { length, width, round, turn, walls, uniform } = someOf(held, slot);
    const { sizes } = held;
    return {
      length,
      width,
      dx: (length - sizes.length.mean) / 2 - walls.left + laid * (2 * uniform() - 1),
      dy: (width - sizes.width.mean) / 2 - walls.front + laid * (2 * uniform() - 1),
      yaw: round ? turn : 0,
    };
  },
  reach: 0,
  fromEdges: false,
});

/** Pieces that are part of their sheet: as large as drawn, just where they are drawn, of any size and form. */
export const partOfSheet = (sizes: BlankSizes): Seating => ({ ...asDrawn(sizes), reach: 'art' });

/** Work that lies as it is drawn; what is burned on it may run a little off where it was meant. */
export const asDrawn = (sizes: BlankSizes): Seating => ({
  lies: () => ({ length: sizes.length.mean, width: sizes.width.mean, dx: 0, dy: 0, yaw: 0 }),
  reach: 1,
  fromEdges: false,
});

/** Pieces laid by eye or hand, each as it came to lie. */
export const laidSo = (lies: Seating['lies']): Seating => ({ lies, reach: 0, fromEdges: false });

/** What was burned on a piece and how far it is from where it should be. */
export interface BurnedPiece {
  readonly slot: SlotNumber;
  readonly piece: LyingPiece;
  /** Burned stretches in the piece's frame, flat x0, y0, x1, y1, …, mm. */
  readonly strokes: readonly number[];
  /** Position error as measured on the piece; null when nothing was burned on it. */
  readonly dx: Mm | null;
  readonly dy: Mm | null;
  readonly yaw: Rad | null;
  /** How far off the head had returned for this piece, board frame, mm. */
  readonly back: Vec;
}

export interface SimRun {
  readonly pieces: readonly BurnedPiece[];
  /** Length burned outside every loaded piece, mm. */
  readonly stray: Mm;
  readonly lines: number;
}

/** Length-weighted middle and lean of a set of stretches. */
class Moments {
  private l = 0;
  private x = 0;
  private y = 0;
  private xx = 0;
  private yy = 0;
  private xy = 0;

  add(x0: number, y0: number, x1: number, y1: number): void {
    const l = Math.hypot(x1 - x0, y1 - y0);
    const mx = (x0 + x1) / 2;
    const my = (y0 + y1) / 2;
    const hx = (x1 - x0) / 2;
    const hy = (y1 - y0) / 2;
    this.l += l;
    this.x += l * mx;
    this.y += l * my;
    this.xx += l * (mx * mx + (hx * hx) / 3);
    this.yy += l * (my * my + (hy * hy) / 3);
    this.xy += l * (mx * my + (hx * hy) / 3);
  }

  get result(): { x: number; y: number; lean: number; slender: boolean } | null {
    if (this.l === 0) return null;
    const x = this.x / this.l;
    const y = this.y / this.l;
    const a = this.xx / this.l - x * x;
    const b = this.yy / this.l - y * y;
    const c = this.xy / this.l - x * y;
    const spread = Math.hypot(a - b, 2 * c);
    return { x, y, lean: Math.atan2(2 * c, a - b) / 2, slender: a + b > 0 && spread / (a + b) > 0.2 };
  }
}

const intendedMoments = (shapes: PieceShapes, interval: Mm): Moments => {
  const m = new Moments();
  for (const row of scanFill(shapes.filled, interval)) {
    for (let i = 0; i < row.spans.length; i += 2) m.add(row.spans[i]!, row.y, row.spans[i + 1]!, row.y);
  }
  for (const line of [...shapes.drawn, ...(shapes.cut ?? [])]) {
    for (let i = 1; i < line.length; i += 1) m.add(line[i - 1]!.x, line[i - 1]!.y, line[i]!.x, line[i]!.y);
  }
  return m;
};

/** Half the box of what is meant for a piece, and a millimetre. */
const reachOf = ({ filled, drawn, cut = [] }: PieceShapes): Vec => {
  const box = boxOf([...filled, ...drawn, ...cut].flat());
  const half = (from: Mm, to: Mm): Mm => Math.max(Math.abs(from), Math.abs(to)) + 1;
  return { x: half(box.minX, box.maxX), y: half(box.minY, box.maxY) };
};

/**
 * Least distance from burned stretches to the edge of a print around them, mm: positive inside it,
 * negative where the cut left it.
 * @param strokes flat x0, y0, x1, y1, …; @param edge closed line, same frame
 */
export const leastMargin = (strokes: readonly number[], edge: readonly Vec[]): Mm => {
  let least = Infinity;
  for (let i = 0; i + 1 < strokes.length; i += 2) {
    const p = { x: strokes[i]!, y: strokes[i + 1]! };
    let d = Infinity;
    for (let k = 0; k < edge.length; k += 1)
      d = Math.min(d, distanceToSegment(p, edge[k]!, edge[(k + 1) % edge.length]!));
    least = Math.min(least, insidePolygon(p, edge) ? d : -d);
  }
  return least;
};

const NOWHERE: Vec = { x: 0, y: 0 };

/** Where a second source's beam really is, from where it is said to be: its two dots were read with an eye, the head not quite back. */
const hiddenBeam = (seed: number, machine: Machine): Vec => {
  const r = seeded(seed * 271 + 41);
  const read = (): Mm => machine.eye * r.normal() + machine.repeatability * (2 * r.uniform() - 1);
  return { x: read() - read(), y: read() - read() };
};

/**
 * Runs an output file on the simulated bench and looks at the pieces afterwards.
 *
 * The file is read as a machine reads it. Where the board lies and how the pieces lie in it comes
 * from the hidden state; the errors are then measured on the pieces: from their left and front
 * edges in pockets, from their middles against a stop.
 *
 * @param loaded shapes that were meant for each loaded slot
 * @param setup `zero`: what the machine showed where the file's zero was set, where it is not its own
 */
export const runFile = (
  gcode: string,
  hidden: Hidden,
  machine: Machine,
  setup: {
    sizes: BlankSizes;
    pocket: Pocket;
    seating: Seating;
    load: LoadNumber;
    interval: Mm;
    zero?: Vec;
  },
  loaded: readonly { slot: Slot; shapes: PieceShapes }[],
): Result<SimRun> => {
  const program = readGcode(gcode, machine.dialect.powerMax);
  if (!program.ok) return program;
  const { moves, lines } = program.value;
  const toBoard = invert(truePose(hidden));
  const fromFile = invert(countedToFile(machine));
  const { x: zx, y: zy } = setup.zero ?? { x: 0, y: 0 };
  // Where the beam meets the work, from where the head is: beside it while the second source is chosen.
  let beside = NOWHERE;
  const toBoardFromFile = (p: Vec): Vec => {
    const head = apply(fromFile, { x: p.x + zx, y: p.y + zy });
    return apply(toBoard, reallyAt(hidden, { x: head.x + beside.x, y: head.y + beside.y }));
  };
  const r = seeded(hidden.seed + setup.load * 17 + 3);
  const seats = loaded.map(({ slot, shapes: meant }) => {
    const shapes = allShapes(meant);
    const piece = setup.seating.lies(slot);
    const seat: Transform = slotTransform(slot);
    const back = { x: machine.repeatability * (2 * r.uniform() - 1), y: machine.repeatability * (2 * r.uniform() - 1) };
    const inSlot = invert(seat);
    const inPiece = invert(rigid(piece.yaw, piece.dx, piece.dy));
    const { reach: beyond } = setup.seating;
    const reach =
      beyond === 'art' ? reachOf(shapes) : { x: setup.pocket.length / 2 + beyond, y: setup.pocket.width / 2 + beyond };
    return { slot, shapes, piece, inSlot, inPiece, back, reach, strokes: [] as number[], moments: new Moments() };
  });
  let seat = seats[0];
  let stray = 0;
  const holds = (s: (typeof seats)[number], p: Vec): boolean => {
    const q = apply(s.inSlot, p);
    return Math.abs(q.x) <= s.reach.x && Math.abs(q.y) <= s.reach.y;
  };
  const burn = (a: Vec, b: Vec): void => {
    const p = toBoardFromFile(a);
    const q = toBoardFromFile(b);
    const middle = { x: (p.x + q.x) / 2, y: (p.y + q.y) / 2 };
    if (!seat || !holds(seat, middle)) seat = seats.find((s) => holds(s, middle));
    if (!seat) {
      stray += Math.hypot(q.x - p.x, q.y - p.y);
      [seat] = seats;
      return;
    }
    const on = (v: Vec): Vec =>
      apply(seat!.inPiece, apply(seat!.inSlot, { x: v.x + seat!.back.x, y: v.y + seat!.back.y }));
    const u = on(p);
    const v = on(q);
    seat.moments.add(u.x, u.y, v.x, v.y);
    seat.strokes.push(u.x, u.y, v.x, v.y);
  };
  let at = { x: 0, y: 0 };
  const source = chosenSource(program.value, machine);
  const off = hiddenBeam(hidden.seed, machine);
  for (let i = 0; i < moves.count; i += 1) {
    const second = source(i);
    beside = second ? { x: second.offset.x + off.x, y: second.offset.y + off.y } : NOWHERE;
    const to = { x: moves.x[i]!, y: moves.y[i]! };
    if (moves.power[i]! > 0) {
      const bulge = moves.bulge[i]!;
      if (bulge === 0) burn(at, to);
      else {
        const arc = arcOf(at, to, bulge);
        const steps = Math.max(2, Math.ceil(Math.abs(arc.sweep) / 0.1));
        let from = at;
        for (let k = 1; k <= steps; k += 1) {
          const angle = arc.start + (arc.sweep * k) / steps;
          const next =
            k === steps
              ? to
              : { x: arc.centre.x + arc.radius * Math.cos(angle), y: arc.centre.y + arc.radius * Math.sin(angle) };
          burn(from, next);
          from = next;
        }
      }
    }
    at = to;
  }
  const pieces = seats.map((s): BurnedPiece => {
    const burned = s.moments.result;
    const meant = intendedMoments(s.shapes, setup.interval).result;
    if (!burned || !meant)
      return { slot: s.slot.slot, piece: s.piece, strokes: s.strokes, dx: null, dy: null, yaw: null, back: s.back };
    const yaw =
      burned.slender && meant.slender
        ? Math.atan2(Math.sin(2 * (burned.lean - meant.lean)), Math.cos(2 * (burned.lean - meant.lean))) / 2
        : 0;
    // The art's middle is compared after taking the turn about the piece's middle out.
    const turned = apply(rigid(yaw, 0, 0), meant);
    const fromEdge = setup.seating.fromEdges
      ? { x: (s.piece.length - setup.sizes.length.mean) / 2, y: (s.piece.width - setup.sizes.width.mean) / 2 }
      : { x: 0, y: 0 };
    return {
      slot: s.slot.slot,
      piece: s.piece,
      strokes: s.strokes,
      dx: burned.x - turned.x + fromEdge.x,
      dy: burned.y - turned.y + fromEdge.y,
      yaw,
      back: s.back,
    };
  });
  return ok({ pieces, stray, lines });
};
