import { addEquation, solveLinear, zeros, type Vec } from '../geometry';
import { fail, ok, type Result } from '../result';
import { emptyInk, inkLevel, ringsAt, shapesOf, smoothed, type Shape } from '../trace';
import type { Mm } from '../units';
import type { Rectified } from './rectify';

/** Outline of a thing that lies on the bed, bed frame, mm. */
export interface SeenShape {
  readonly outline: readonly Vec[];
  readonly holes: readonly (readonly Vec[])[];
  /** mm². */
  readonly area: number;
  /** Whether it is darker than its bed, as its shadow is; not told when absent. */
  readonly darker?: boolean;
}

/** Tiles across and down by which the bed's own brightness is learnt. */
const TILES = 12;
/** Holes and specks of less area are not looked at, mm². */
const SPECK = 6;
/** Roughness of found outlines that is smoothed, mm. */
const SMOOTH: Mm = 0.4;

/**
 * The bed's brightness as a gentle hill: a square of x and y fitted to the tiles' middle values, those
 * that lie under work left out as they stand out from the rest.
 */
const bedBrightness = ({ width, height, data }: Rectified): ((x: number, y: number) => number) => {
  const tiles: { x: number; y: number; v: number }[] = [];
  const seen: number[] = [];
  for (let ty = 0; ty < TILES; ty += 1)
    for (let tx = 0; tx < TILES; tx += 1) {
      const x0 = Math.floor((tx * width) / TILES);
      const x1 = Math.floor(((tx + 1) * width) / TILES);
      const y0 = Math.floor((ty * height) / TILES);
      const y1 = Math.floor(((ty + 1) * height) / TILES);
      seen.length = 0;
      const step = Math.max(1, Math.floor((x1 - x0) / 20));
      for (let y = y0; y < y1; y += step) for (let x = x0; x < x1; x += step) seen.push(data[y * width + x]!);
      seen.sort((a, b) => a - b);
      tiles.push({ x: (x0 + x1) / 2 / width - 0.5, y: (y0 + y1) / 2 / height - 0.5, v: seen[seen.length >> 1]! });
    }
  let weights = tiles.map(() => 1);
  let c = [tiles.map((t) => t.v).sort((a, b) => a - b)[tiles.length >> 1]!, 0, 0, 0, 0, 0];
  const terms = (x: number, y: number): number[] => [1, x, y, x * x, x * y, y * y];
  const value = (x: number, y: number): number =>
    c[0]! + c[1]! * x + c[2]! * y + c[3]! * x * x + c[4]! * x * y + c[5]! * y * y;
  for (let round = 0; round < 8; round += 1) {
    const off = tiles.map((t) => Math.abs(t.v - value(t.x, t.y)));
    const scale = Math.max(3, [...off].sort((a, b) => a - b)[off.length >> 1]!);
    weights = off.map((o) => 1 / (1 + (o / (1.5 * scale)) ** 2) ** 2);
    const ata = zeros(6);
    const atb = new Array<number>(6).fill(0);
    tiles.forEach((t, i) => {
      const w = Math.sqrt(weights[i]!);
      addEquation(
        ata,
        atb,
        terms(t.x, t.y).map((v) => v * w),
        t.v * w,
      );
    });
    c = solveLinear(ata, atb) ?? c;
  }
  return value;
};

/** Darker or lighter than its bed by less than this is noise, of 255. */
const NOISE = 12;

/**
 * Whether what lies there is lighter than its bed: what stands out so in sum. Its shadow, and knots in it, stand out the
 * other way.
 */
const liesLighter = (over: Int16Array): boolean => {
  let sum = 0;
  for (const v of over) if (Math.abs(v) > NOISE) sum += v;
  return sum > 0;
};

/**
 * Outlines of everything that lies on the bed, where it stands out half from the bed's own brightness, lighter or darker as
 * most of it does.
 *
 * @param marks discs that are looked away from
 * @param smallest things of less area are specks, mm²
 */
export const seenShapes = (
  picture: Rectified,
  marks: readonly { readonly x: Mm; readonly y: Mm; readonly radius: Mm }[],
  smallest: number,
  progress: (share: number) => void = () => undefined,
): Result<SeenShape[]> => {
  const { width, height, data, dot } = picture;
  const bed = bedBrightness(picture);
  const over = new Int16Array(width * height);
  for (let y = 0; y < height; y += 1) {
    const v = y / height - 0.5;
    for (let x = 0; x < width; x += 1) {
      const seen = data[y * width + x]!;
      // Where the camera saw nothing there is nothing.
      over[y * width + x] = seen === 0 ? 0 : seen - bed(x / width - 0.5, v);
    }
    if ((y & 127) === 0) progress((0.4 * y) / height);
  }
  for (const m of marks) {
    const cx = (m.x - picture.x) / dot;
    const cy = height - (m.y - picture.y) / dot;
    const r = m.radius / dot;
    for (let y = Math.max(0, Math.floor(cy - r)); y < Math.min(height, cy + r); y += 1)
      for (let x = Math.max(0, Math.floor(cx - r)); x < Math.min(width, cx + r); x += 1)
        if (Math.hypot(x + 0.5 - cx, y + 0.5 - cy) <= r) over[y * width + x] = 0;
  }
  const ink = emptyInk(width, height);
  const sign = liesLighter(over) ? 1 : -1;
  for (let y = 0; y < height; y += 1) {
    const row = (y + 1) * (width + 2) + 1;
    for (let x = 0; x < width; x += 1) ink.data[row + x] = Math.min(255, Math.max(0, sign * over[y * width + x]!));
  }
  const level = inkLevel(ink);
  if (!level.ok)
    return fail(
      'nothing-lies-there',
      'Nothing stands out from the bed. Lay a light sheet under dark blanks, or a dark one under light ones.',
      'photo',
    );
  const rings = ringsAt(ink, level.value.level, 24, (share) => progress(0.4 + 0.5 * share));
  if (!rings)
    return fail(
      'too-busy',
      'The bed is too busy to tell what lies on it: cover its slats or honeycomb with a plain sheet.',
      'photo',
    );
  const shapes = shapesOf(rings, dot, height * dot, SPECK).filter((s) => s.area >= smallest);
  const place = (points: readonly Vec[]): Vec[] =>
    smoothed(points, SMOOTH).map((p) => ({ x: p.x + picture.x, y: p.y + picture.y }));
  progress(1);
  return ok(
    shapes.map((s: Shape) => ({
      outline: place(s.points),
      holes: s.holes.map((h) => place(h.points)),
      area: s.area - s.holes.reduce((n, h) => n + h.area, 0),
      darker: sign < 0,
    })),
  );
};
