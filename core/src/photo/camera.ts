import { addEquation, solveLinear, zeros, type Vec } from '../geometry';
import { fail, ok, type Result } from '../result';
import type { Mm } from '../units';

/** A mark whose place on the bed is known and whose place in the picture was found. */
export interface PhotoPair {
  readonly id: number;
  /** On the bed, mm. */
  readonly bed: Vec;
  /** In the picture, dots from its upper left corner, y down. */
  readonly dot: Vec;
}

/** Nine numbers, row by row, that carry points of one plane to another. */
export type Homography = readonly [number, number, number, number, number, number, number, number, number];

/** A camera looking at the bed: a plane-to-plane map and the lens's bending. */
export interface CameraFit {
  readonly width: number;
  readonly height: number;
  /** Bed to the picture an unbent lens would give, dots. */
  readonly toPicture: Homography;
  readonly toBed: Homography;
  /** Radial bending: `1 + k1·r² + k2·r⁴`, r in half diagonals from the middle. */
  readonly k1: number;
  readonly k2: number;
  readonly residuals: readonly { readonly id: number; readonly distance: Mm }[];
  /** Root of the mean square of the residuals for the freedom left, per axis, mm; null without any. */
  readonly spread: Mm | null;
  /** Size of a dot on the bed at the picture's middle, mm. */
  readonly dot: Mm;
}

/** Fewest marks, and fewest that one and two numbers of lens bending are fitted to. */
export const FEWEST_PHOTO_MARKS = 4;
const FOR_ONE_BEND = 6;
const FOR_TWO_BENDS = 8;

export const project = (h: Homography, { x, y }: Vec): Vec => {
  const w = h[6] * x + h[7] * y + h[8];
  return { x: (h[0] * x + h[1] * y + h[2]) / w, y: (h[3] * x + h[4] * y + h[5]) / w };
};

export const multiply = (a: Homography, b: Homography): Homography => {
  const out: number[] = [];
  for (let i = 0; i < 3; i += 1)
    for (let j = 0; j < 3; j += 1) out.push(a[3 * i]! * b[j]! + a[3 * i + 1]! * b[3 + j]! + a[3 * i + 2]! * b[6 + j]!);
  return out as unknown as Homography;
};

/** Inverse up to a factor, which a homography does not feel. */
export const invertHomography = ([a, b, c, d, e, f, g, h, i]: Homography): Homography => [
  e * i - f * h,
  c * h - b * i,
  b * f - c * e,
  f * g - d * i,
  a * i - c * g,
  c * d - a * f,
  d * h - e * g,
  b * g - a * h,
  a * e - b * d,
];

/** Moves points to their middle and to a mean distance of √2 [Hartley and Zisserman, algorithm 4.2]. */
const normaliser = (points: readonly Vec[]): Homography => {
  const n = points.length;
  const mx = points.reduce((s, p) => s + p.x, 0) / n;
  const my = points.reduce((s, p) => s + p.y, 0) / n;
  const d = points.reduce((s, p) => s + Math.hypot(p.x - mx, p.y - my), 0) / n;
  const k = Math.SQRT2 / Math.max(d, 1e-9);
  return [k, 0, -k * mx, 0, k, -k * my, 0, 0, 1];
};

/**
 * Plane-to-plane map by the normalised direct linear transform [Hartley and Zisserman, ch. 4], its
 * last element set to one; null when the points do not settle it.
 */
export const fitHomography = (pairs: readonly { readonly from: Vec; readonly to: Vec }[]): Homography | null => {
  if (pairs.length < FEWEST_PHOTO_MARKS) return null;
  const a = normaliser(pairs.map((p) => p.from));
  const b = normaliser(pairs.map((p) => p.to));
  const ata = zeros(8);
  const atb = new Array<number>(8).fill(0);
  for (const pair of pairs) {
    const { x, y } = project(a, pair.from);
    const { x: u, y: v } = project(b, pair.to);
    addEquation(ata, atb, [x, y, 1, 0, 0, 0, -u * x, -u * y], u);
    addEquation(ata, atb, [0, 0, 0, x, y, 1, -v * x, -v * y], v);
  }
  const h = solveLinear(ata, atb);
  if (!h) return null;
  return multiply(multiply(invertHomography(b), [...h, 1] as unknown as Homography), a);
};

/** A point of an unbent picture where the lens puts it. */
export const bend = (p: Vec, width: number, height: number, k1: number, k2: number): Vec => {
  const cx = width / 2;
  const cy = height / 2;
  const r2 = ((p.x - cx) ** 2 + (p.y - cy) ** 2) / (cx * cx + cy * cy);
  const k = 1 + k1 * r2 + k2 * r2 * r2;
  return { x: cx + (p.x - cx) * k, y: cy + (p.y - cy) * k };
};

/** The other way, by Newton's rule on the radius. */
export const unbend = (p: Vec, width: number, height: number, k1: number, k2: number): Vec => {
  if (k1 === 0 && k2 === 0) return p;
  const cx = width / 2;
  const cy = height / 2;
  const half = Math.hypot(cx, cy);
  const bent = Math.hypot(p.x - cx, p.y - cy) / half;
  let r = bent;
  for (let i = 0; i < 8; i += 1) {
    const r2 = r * r;
    const value = r * (1 + k1 * r2 + k2 * r2 * r2) - bent;
    r -= value / (1 + 3 * k1 * r2 + 5 * k2 * r2 * r2);
  }
  const k = bent === 0 ? 1 : r / bent;
  return { x: cx + (p.x - cx) * k, y: cy + (p.y - cy) * k };
};

/** Where a point of the bed lies in the picture. */
export const toPicture = (fit: CameraFit, p: Vec): Vec =>
  bend(project(fit.toPicture, p), fit.width, fit.height, fit.k1, fit.k2);

/** Which point of the bed lies at a place of the picture, were it in the calibrated plane. */
export const toBed = (fit: CameraFit, dot: Vec): Vec =>
  project(fit.toBed, unbend(dot, fit.width, fit.height, fit.k1, fit.k2));

/** Least squares of the marks' places in the picture over map and bending together, by damped steps. */
const refine = (
  pairs: readonly PhotoPair[],
  size: { width: number; height: number },
  start: Homography,
  bends: 0 | 1 | 2,
): { h: Homography; k1: number; k2: number } => {
  const a = normaliser(pairs.map((p) => p.bed));
  const half = Math.hypot(size.width, size.height) / 2;
  const b: Homography = [1 / half, 0, -size.width / 2 / half, 0, 1 / half, -size.height / 2 / half, 0, 0, 1];
  const first = multiply(multiply(b, start), invertHomography(a));
  let x = [...first.slice(0, 8).map((v) => v / first[8]), ...[0, 0].slice(0, bends)];
  const n = x.length;
  const marks = pairs.map((p) => ({ from: project(a, p.bed), to: project(b, p.dot) }));
  const residuals = (v: readonly number[]): number[] =>
    marks.flatMap(({ from, to }) => {
      const p = project([...v.slice(0, 8), 1] as unknown as Homography, from);
      const r2 = p.x * p.x + p.y * p.y;
      const k = 1 + (v[8] ?? 0) * r2 + (v[9] ?? 0) * r2 * r2;
      return [p.x * k - to.x, p.y * k - to.y];
    });
  const cost = (r: readonly number[]): number => r.reduce((s, v) => s + v * v, 0);
  let r = residuals(x);
  let damping = 1e-6;
  for (let step = 0; step < 40; step += 1) {
    const columns = x.map((v, j) => {
      const d = 1e-6 * Math.max(1, Math.abs(v));
      const moved = residuals(x.map((w, k) => (k === j ? w + d : w)));
      return moved.map((m, i) => (m - r[i]!) / d);
    });
    const ata = zeros(n);
    const atb = new Array<number>(n).fill(0);
    for (let i = 0; i < r.length; i += 1)
      addEquation(
        ata,
        atb,
        columns.map((c) => c[i]!),
        -r[i]!,
      );
    for (let i = 0; i < n; i += 1) ata[i]![i]! *= 1 + damping;
    const by = solveLinear(ata, atb);
    if (!by) break;
    const next = x.map((v, i) => v + by[i]!);
    const after = residuals(next);
    if (cost(after) < cost(r)) {
      const gained = cost(r) - cost(after);
      x = next;
      const done = gained < 1e-14 * Math.max(1, cost(r));
      r = after;
      damping = Math.max(1e-12, damping / 10);
      if (done) break;
    } else damping *= 10;
    if (damping > 1e6) break;
  }
  const h = multiply(multiply(invertHomography(b), [...x.slice(0, 8), 1] as unknown as Homography), a);
  return { h, k1: x[8] ?? 0, k2: x[9] ?? 0 };
};

/** Marks that miss by more than this are not the ones they were taken for, mm. */
const POOR: Mm = 2;

/**
 * Camera from marks: four give the map; six and eight the lens's bending too. Refused when the marks
 * do not agree, with the one that agrees least.
 */
export const fitCamera = (pairs: readonly PhotoPair[], size: { width: number; height: number }): Result<CameraFit> => {
  if (pairs.length < FEWEST_PHOTO_MARKS)
    return fail(
      'too-few-marks',
      `${pairs.length === 0 ? 'No mark was' : pairs.length === 1 ? 'Only one mark was' : `Only ${pairs.length} marks were`} found; four at least are needed, best all round the work.`,
      'photo.marks',
    );
  const start = fitHomography(pairs.map((p) => ({ from: p.bed, to: p.dot })));
  if (!start)
    return fail(
      'marks-in-line',
      'The marks found lie on one line: nothing is known beside it. Take the picture with marks on all sides of the work.',
      'photo.marks',
    );
  const bends = pairs.length >= FOR_TWO_BENDS ? 2 : pairs.length >= FOR_ONE_BEND ? 1 : 0;
  const { h, k1, k2 } = refine(pairs, size, start, bends);
  const inverse = invertHomography(h);
  const middle = { x: size.width / 2, y: size.height / 2 };
  const here = project(inverse, middle);
  const beside = project(inverse, { x: middle.x + 1, y: middle.y });
  const bare = { ...size, toPicture: h, toBed: inverse, k1, k2, dot: Math.hypot(beside.x - here.x, beside.y - here.y) };
  const residuals = pairs.map((p) => {
    const at = toBed({ ...bare, residuals: [], spread: null }, p.dot);
    return { id: p.id, distance: Math.hypot(at.x - p.bed.x, at.y - p.bed.y) };
  });
  const freedom = 2 * pairs.length - 8 - bends;
  const spread = freedom > 0 ? Math.sqrt(residuals.reduce((s, r) => s + r.distance ** 2, 0) / freedom) : null;
  const worst = residuals.reduce((m, r) => (r.distance > m.distance ? r : m));
  if (worst.distance > POOR)
    return fail(
      'marks-disagree',
      `Mark ${worst.id} misses its place by ${worst.distance.toFixed(1)} mm. Is it another bed’s picture, did a mark move, or was the sheet not flat? Aim at the marks by hand, or take the picture again.`,
      `photo.mark.${worst.id}`,
    );
  return ok({ ...bare, residuals, spread });
};

/** Where the camera is: over which point of the bed, and how high. */
export interface CameraPlace {
  readonly x: Mm;
  readonly y: Mm;
  readonly height: Mm;
}

/**
 * Where a camera of this map stands, when its height over the bed is known: the focal length is the
 * one that puts it there, square dots and a middle in the picture's middle taken for granted.
 */
export const cameraPlace = (fit: CameraFit, height: Mm): CameraPlace => {
  const at = (f: number): CameraPlace => {
    // Columns of K⁻¹H: two sides of the bed and the way to its origin, all to one unknown scale.
    const column = (i: number): [number, number, number] => {
      const z = fit.toPicture[6 + i]!;
      return [(fit.toPicture[i]! - (fit.width / 2) * z) / f, (fit.toPicture[3 + i]! - (fit.height / 2) * z) / f, z];
    };
    const [r1, r2, t] = [column(0), column(1), column(2)];
    const length = (v: readonly number[]): number => Math.hypot(v[0]!, v[1]!, v[2]!);
    const k = 2 / (length(r1) + length(r2));
    const dot = (a: readonly number[], b: readonly number[]): number =>
      k * k * (a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!);
    const r3 = [
      k * k * (r1[1]! * r2[2]! - r1[2]! * r2[1]!),
      k * k * (r1[2]! * r2[0]! - r1[0]! * r2[2]!),
      k * k * (r1[0]! * r2[1]! - r1[1]! * r2[0]!),
    ];
    return {
      x: -dot(r1, t),
      y: -dot(r2, t),
      height: Math.abs(k * (r3[0]! * t[0]! + r3[1]! * t[1]! + r3[2]! * t[2]!)),
    };
  };
  let low = Math.hypot(fit.width, fit.height) / 50;
  let high = low * 2_000;
  for (let i = 0; i < 80; i += 1) {
    const middle = Math.sqrt(low * high);
    if (at(middle).height < height) low = middle;
    else high = middle;
  }
  return { ...at(Math.sqrt(low * high)), height };
};

/** How far a lens’s axis may meet the picture from its middle, as a share of its width [assumed]. */
export const AXIS_OFF = 0.02;

/**
 * How far the point under the camera may be off, ± mm on the bed: marks of one plane do not tell where the lens’s axis meets
 * the picture, so it is taken for its middle.
 */
export const footDoubt = ({ width, dot }: Pick<CameraFit, 'width' | 'dot'>): Mm => AXIS_OFF * width * dot;

/**
 * A point that was taken for one of the calibrated plane but lies `above` it: it is nearer to the
 * point under the camera, by `ρ·t / (H − t)` of where it is.
 */
export const lowered = (seen: Vec, camera: CameraPlace, above: Mm): Vec => {
  const k = (camera.height - above) / camera.height;
  return { x: camera.x + (seen.x - camera.x) * k, y: camera.y + (seen.y - camera.y) * k };
};

/** The other way: where a point at a height seems to lie in the calibrated plane. */
export const raised = (at: Vec, camera: CameraPlace, above: Mm): Vec => {
  const k = camera.height / (camera.height - above);
  return { x: camera.x + (at.x - camera.x) * k, y: camera.y + (at.y - camera.y) * k };
};

/**
 * What forgetting a thickness costs at a distance from the point under the camera.
 * @example parallax(200, 6, 500) // 2.43 mm
 */
export const parallax = (distance: Mm, above: Mm, height: Mm): Mm => (distance * above) / (height - above);
