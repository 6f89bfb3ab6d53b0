import {
  apply,
  distanceToSegment,
  flatten,
  insidePolygon,
  polygonArea,
  rigid,
  solveLinear,
  zeros,
  type Contour,
  type Vec,
} from '../geometry';
import { seeded } from '../budget';
import {
  SHANK_STEPS,
  type BlankSizes,
  type LineSeat,
  type LinesSettings,
  type Locator,
  type LocatorSettings,
  type Made,
} from '../holding';
import { GAUGE_STEPS } from '../slotted';

import type { Mm, SlotNumber, LoadNumber } from '../units';
import { realSizes } from './real';
import type { LyingPiece } from './run';

/** Places round an outline at which a real blank differs from its drawing. */
const WAVES = 9;

/** How a bench's blanks differ from the outline that was drawn: waves round the edge, each up to `most`, mm. */
const edgeError = (seed: number, most: Mm): ((share: number) => Mm) => {
  const r = seeded(seed * 193 + 7);
  const nodes = Array.from({ length: WAVES }, () => most * (2 * r.uniform() - 1));
  return (share) => {
    const at = share * WAVES;
    const i = Math.floor(at) % WAVES;
    const t = (1 - Math.cos(Math.PI * (at - Math.floor(at)))) / 2;
    return nodes[i]! * (1 - t) + nodes[(i + 1) % WAVES]! * t;
  };
};

/** A real blank of a bench: the drawn outline, off by its waves, as much longer and wider as it came. */
const realOutline = (outline: Contour, seed: number, most: Mm, longer: number, wider: number): Vec[] => {
  const flat = flatten(outline, 0.01);
  const drawn = polygonArea(flat) < 0 ? [...flat].reverse() : flat;
  // Long sides are broken up, so that the waves bend them too.
  const points = drawn.flatMap((p, i) => {
    const q = drawn[(i + 1) % drawn.length]!;
    const n = Math.max(1, Math.ceil(Math.hypot(q.x - p.x, q.y - p.y) / 4));
    return Array.from({ length: n }, (_, k) => ({ x: p.x + ((q.x - p.x) * k) / n, y: p.y + ((q.y - p.y) * k) / n }));
  });
  const wave = edgeError(seed, most);
  return points.map((p, i) => {
    const before = points[(i + points.length - 1) % points.length]!;
    const after = points[(i + 1) % points.length]!;
    const l = Math.hypot(after.x - before.x, after.y - before.y) || 1;
    const out = wave(i / points.length);
    return {
      x: p.x * (1 + longer) + ((after.y - before.y) / l) * out,
      y: p.y * (1 + wider) - ((after.x - before.x) / l) * out,
    };
  });
};

/** Signed distance from a point to a polygon's edge: positive outside. */
const outside = (p: Vec, polygon: readonly Vec[]): Mm => {
  let least = Infinity;
  for (let i = 0; i < polygon.length; i += 1)
    least = Math.min(least, distanceToSegment(p, polygon[i]!, polygon[(i + 1) % polygon.length]!));
  return insidePolygon(p, polygon) ? -least : least;
};

/** By how much the blanks of a bench differ from their drawing at most, mm. */
export const unlikeDrawing = (seed: number): Mm => 0.1 + 0.3 * seeded(seed * 29 + 11).uniform();

/** Greatest gap between a blank of this bench and its outline, as a rule shows it on the trial in card, mm. */
export const gapOnCard = (seed: number, most: Mm): Mm => {
  const wave = edgeError(seed, most);
  let gap = 0;
  for (let i = 0; i < 400; i += 1) gap = Math.max(gap, Math.abs(wave(i / 400)));
  return Math.round(gap * 20) / 20;
};

/**
 * Lays a real blank against its pegs and lines: pushed until its true edge touches both, slid until
 * the gaps at both lines look even to an eye. Solved on the real edge, by distances, not by the
 * seat's response.
 *
 * @param most by which this bench's blanks differ from their drawing, mm
 * @param made how truly pegs and lines are made
 */
export const layToPegs = (
  seed: number,
  load: LoadNumber,
  slot: SlotNumber,
  outline: Contour,
  { pegs, seat }: Pick<LineSeat, 'pegs' | 'seat'>,
  sizes: BlankSizes,
  settings: Pick<LinesSettings, 'peg' | 'eye'>,
  most: Mm,
  made: Made,
): LyingPiece => {
  const r = seeded(seed * 7919 + load * 104_729 + slot * 131);
  const is = realSizes(seed, sizes);
  const length = is.length.mean + is.length.spread * r.normal();
  const width = is.width.mean + is.width.spread * r.normal();
  const real = realOutline(outline, seed, most, length / sizes.length.mean - 1, width / sizes.width.mean - 1);
  // Pegs and lines of a place are where they are, whatever is laid to them.
  const stands = seeded(seed * 1013 + slot * 7 + 11);
  const within = (a: Mm, by = r): Mm => a * (2 * by.uniform() - 1);
  const targets = seat.points.map((p, i) => {
    const place = within(made.place, stands);
    return p.by === 'contact'
      ? { at: pegs[i]!, gap: settings.peg / 2 + place + within(made.seating), weight: 1e3 }
      : { at: p.at, gap: place + within(settings.eye) + within(made.line), weight: 1 };
  });
  let pose = [0, 0, 0];
  const off = ([x, y, turn]: readonly number[]): number[] => {
    const lying = real.map((p) => apply(rigid(turn!, x!, y!), p));
    return targets.map((t) => t.weight * (outside(t.at, lying) - t.gap));
  };
  for (let round = 0; round < 4; round += 1) {
    const now = off(pose);
    const slopes = [0.01, 0.01, 0.0002].map((h, k) => {
      const moved = off(pose.map((v, i) => (i === k ? v + h : v)));
      return moved.map((v, i) => (v - now[i]!) / h);
    });
    const a = zeros(3);
    const b = [0, 0, 0];
    for (let i = 0; i < 3; i += 1) {
      for (let j = 0; j < 3; j += 1) a[i]![j] = slopes[i]!.reduce((s, v, k) => s + v * slopes[j]![k]!, 0);
      b[i] = -slopes[i]!.reduce((s, v, k) => s + v * now[k]!, 0);
    }
    const step = solveLinear(a, b);
    if (!step) break;
    pose = pose.map((v, i) => v + step[i]!);
  }
  return { length, width, dx: pose[0]!, dy: pose[1]!, yaw: pose[2]! };
};

/** How far a foot stands off its stop each time a frame is put back, standard, mm. */
const STAND_OFF: Mm = 0.06;

/** Where a frame stands after it was put on its stops for the `time`th time: turn about the travel's corner, shift, mm. */
const frameBack = (
  seed: number,
  time: number,
  { frame, foot, travel }: Pick<LocatorSettings, 'frame' | 'foot' | 'travel'>,
): { angle: number; x: Mm; y: Mm } => {
  const r = seeded(seed * 617 + time * 8191 + 3);
  const [left, right, side] = [r.normal(), r.normal(), r.normal()].map((v) => v * STAND_OFF) as [Mm, Mm, Mm];
  const apart = frame.width - foot.width;
  const angle = (right - left) / apart;
  // The left foot's face stands at (foot / 2, 0) of the footprint, the side contact at its back.
  const x0 = foot.width / 2 - travel.x;
  const y2 = frame.depth - foot.depth / 2 - travel.y;
  return { angle, y: left - angle * x0, x: side + angle * y2 };
};

/** Where a dot lands on the board when the frame stands so. */
const dotOn = (at: Vec, stands: { angle: number; x: Mm; y: Mm }): Vec =>
  apply(rigid(stands.angle, stands.x, stands.y), at);

/** How the board lies to the frame for a load, against how it lay when zero was set; bed frame. */
export const sinceZero = (
  seed: number,
  load: LoadNumber,
  settings: Pick<LocatorSettings, 'frame' | 'foot' | 'travel'>,
): { angle: number; x: Mm; y: Mm } => {
  const start = frameBack(seed, 0, settings);
  const now = frameBack(seed, load, settings);
  return { angle: start.angle - now.angle, x: start.x - now.x, y: start.y - now.y };
};

/** Distance of a dot and its repeat after the frame was lifted off, read with a loupe in twentieths, mm. */
export const repeatedDot = (seed: number, time: number, locator: Locator, settings: LocatorSettings): Mm => {
  const a = dotOn(locator.repeat, frameBack(seed, 2 * time + 1000, settings));
  const b = dotOn(locator.repeat, frameBack(seed, 2 * time + 1001, settings));
  return Math.round(Math.hypot(a.x - b.x, a.y - b.y) * 20) / 20;
};

/** A piece laid to two grid lines by eye: two places of its front edge, one of its left. */
export const layToGrid = (
  seed: number,
  load: LoadNumber,
  slot: SlotNumber,
  sizes: BlankSizes,
  eye: Mm,
  made: Made,
): LyingPiece => {
  const r = seeded(seed * 7919 + load * 104_729 + slot * 131);
  const is = realSizes(seed, sizes);
  const length = is.length.mean + is.length.spread * r.normal();
  const width = is.width.mean + is.width.spread * r.normal();
  const within = (most: Mm): Mm => most * (2 * r.uniform() - 1);
  const [a, b, c] = [0, 1, 2].map(() => within(eye) + within(made.line) + within(made.place)) as [Mm, Mm, Mm];
  const yaw = Math.atan2(b - a, 0.8 * length);
  // Its front edge lies (a + b) / 2 off the line at its middle, its left edge c; its middle half a size in.
  return {
    length,
    width,
    dx: c + (length - sizes.length.mean) / 2,
    dy: (a + b) / 2 + (width - sizes.width.mean) / 2,
    yaw,
  };
};

/** Dots of the widest shank that goes into this bench's cells by hand: no two beds have quite the same. */
export const shankThatGoesIn = (seed: number, cell: Mm): number => {
  const real = cell - 0.05 - 0.3 * seeded(seed * 41 + 1).uniform();
  return Math.max(1, SHANK_STEPS.filter((by) => cell + by <= real).length);
};

/** Dots of the narrowest slot that an offcut of this bench's board goes into. */
export const slotThatHolds = (seed: number): number => {
  const thicker = 0.02 + 0.14 * seeded(seed * 43 + 1).uniform();
  return GAUGE_STEPS.findIndex((by) => by >= thicker) + 1;
};
