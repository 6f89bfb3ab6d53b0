import { apply, centroid, type Vec } from '../geometry';
import { planeRadius95 } from '../samples';
import type { Mm, Share } from '../units';
import type { Fit, Tested } from './models';
import { PARAMETERS } from './model-names';
import type { WorkModel } from './solve';

/** Functions by which each model moves a point, about the centre of the marks. */
const basis = (model: WorkModel, { x, y }: Vec): readonly (readonly [number, number])[] => {
  const common = [
    [1, 0],
    [0, 1],
  ] as const;
  switch (model) {
    case 'rigid':
      return [...common, [-y, x]];
    case 'similarity':
      return [...common, [-y, x], [x, y]];
    case 'two-scales':
      return [...common, [-y, x], [x, 0], [0, y]];
    case 'affine':
      return [...common, [x, 0], [y, 0], [0, x], [0, y]];
  }
};

/** Inverse of a small symmetric positive matrix by Gauss and Jordan; null when it has none. */
const inverse = (matrix: readonly (readonly number[])[]): number[][] | null => {
  const n = matrix.length;
  const rows = matrix.map((row, i) => [...row, ...row.map((_, j) => (i === j ? 1 : 0))]);
  const scale = Math.max(...matrix.map((row, i) => row[i]!));
  for (let k = 0; k < n; k += 1) {
    const pivot = rows[k]![k]!;
    if (Math.abs(pivot) < 1e-12 * scale) return null;
    rows[k] = rows[k]!.map((v) => v / pivot);
    for (let i = 0; i < n; i += 1)
      if (i !== k) {
        const factor = rows[i]![k]!;
        rows[i] = rows[i]!.map((v, j) => v - factor * rows[k]![j]!);
      }
  }
  return rows.map((row) => row.slice(n));
};

/** How well a placement knows where things are: `at(point)` gives its error ellipse. */
export interface ErrorMap {
  /** Standard uncertainties along the axes of the ellipse, mm, largest first, and the largest's direction. */
  readonly at: (point: Vec) => { readonly major: Mm; readonly minor: Mm; readonly angle: number };
  /** Radius that holds 95 of 100 placements of the point, mm. */
  readonly radius: (point: Vec) => Mm;
}

/** Variances of a point's place along x and y, and their covariance, mm². */
interface Spread {
  readonly xx: number;
  readonly yy: number;
  readonly xy: number;
}

const mapOf = (spreadAt: (point: Vec) => Spread): ErrorMap => ({
  at: (point) => {
    const { xx, yy, xy } = spreadAt(point);
    const mean = (xx + yy) / 2;
    const half = Math.hypot((xx - yy) / 2, xy);
    return {
      major: Math.sqrt(Math.max(0, mean + half)),
      minor: Math.sqrt(Math.max(0, mean - half)),
      angle: Math.atan2(2 * xy, xx - yy) / 2,
    };
  },
  radius: (point) => {
    const { xx, yy, xy } = spreadAt(point);
    return planeRadius95(xx, yy, xy);
  },
});

/**
 * Uncertainty of any placed point, from the marks' places and the aiming error alone: first order,
 * σ² B(p) (JᵀJ)⁻¹ B(p)ᵀ with the model's functions B.
 *
 * @param drawn places of the marks read
 * @returns null when the marks do not determine the model
 */
export const errorMap = (model: WorkModel, drawn: readonly Vec[], sigma: Mm): ErrorMap | null => {
  const spread = spreadOf(model, drawn, sigma);
  return spread && mapOf(spread);
};

/** How far one direction of a sheet may be stretched more than the other while nobody measured it, either way [assumed]. */
const UNEVEN: Share = 0.001;

/** What is not known of a sheet across the line of its marks: (ε·h)² along the normal, h the distance from the line. */
const unevenAcross = (drawn: readonly Vec[]): ((point: Vec) => Spread) => {
  const centre = centroid(drawn);
  const far = drawn.reduce((a, b) =>
    Math.hypot(b.x - centre.x, b.y - centre.y) > Math.hypot(a.x - centre.x, a.y - centre.y) ? b : a,
  );
  const along = Math.hypot(far.x - centre.x, far.y - centre.y) || 1;
  const [nx, ny] = [-(far.y - centre.y) / along, (far.x - centre.x) / along];
  return (p) => {
    const off = ((p.x - centre.x) * nx + (p.y - centre.y) * ny) * (UNEVEN / Math.sqrt(3));
    return { xx: off * off * nx * nx, yy: off * off * ny * ny, xy: off * off * nx * ny };
  };
};

/** How two fits of the same marks differ at a point, in the drawing's axes, mm. */
const apart = (one: Fit, other: Fit, p: Vec): Vec => {
  const [a, b] = [apply(one.transform, p), apply(other.transform, p)];
  const angle = Math.atan2(one.transform.b, one.transform.a);
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  return { x: c * (b.x - a.x) + s * (b.y - a.y), y: c * (b.y - a.y) - s * (b.x - a.x) };
};

/**
 * The same of a sheet that may be stretched, placed by the smallest model that agrees with its marks. What that model may
 * hide counts: where the marks can tell two scales, a point is off by the difference between both fits and by what two
 * scales leave open; where they cannot, paper may be stretched unevenly, ± 0.1 % across the line of the marks [assumed].
 *
 * @param tested the models tried on the marks; @param chosen the one that is used; empty and null before marks are read
 */
export const sheetErrorMap = (
  { tested, chosen }: { readonly tested: readonly Tested[]; readonly chosen: WorkModel | null },
  drawn: readonly Vec[],
  sigma: Mm,
): ErrorMap | null => {
  if (chosen === 'affine') return errorMap('affine', drawn, sigma);
  const both = spreadOf('two-scales', drawn, sigma);
  const larger = both ?? spreadOf('similarity', drawn, sigma);
  if (!larger) return null;
  const uneven = both ? () => NOTHING : unevenAcross(drawn);
  const fitOf = (model: WorkModel | null): Fit | undefined => tested.find((t) => t.fit.model === model)?.fit;
  const [used, could] = [fitOf(chosen), fitOf(both ? 'two-scales' : 'similarity')];
  return mapOf((p) => {
    const { x, y } = used && could ? apart(used, could, p) : { x: 0, y: 0 };
    return sum(sum(larger(p), uneven(p)), { xx: x * x, yy: y * y, xy: x * y });
  });
};

const NOTHING: Spread = { xx: 0, yy: 0, xy: 0 };
const sum = (a: Spread, b: Spread): Spread => ({ xx: a.xx + b.xx, yy: a.yy + b.yy, xy: a.xy + b.xy });

/** How a model's placement of a point spreads; null when the marks do not determine the model. */
const spreadOf = (model: WorkModel, drawn: readonly Vec[], sigma: Mm): ((point: Vec) => Spread) | null => {
  const centre = centroid(drawn);
  // Lengths in units of the marks' spread keep the matrix well conditioned.
  const unit = Math.max(1e-9, ...drawn.map((p) => Math.hypot(p.x - centre.x, p.y - centre.y)));
  const local = (p: Vec): Vec => ({ x: (p.x - centre.x) / unit, y: (p.y - centre.y) / unit });
  const count = PARAMETERS[model];
  const normal = Array.from({ length: count }, () => new Array<number>(count).fill(0));
  for (const p of drawn) {
    const b = basis(model, local(p));
    for (let i = 0; i < count; i += 1)
      for (let j = 0; j < count; j += 1) normal[i]![j]! += b[i]![0] * b[j]![0] + b[i]![1] * b[j]![1];
  }
  const inverted = inverse(normal);
  if (!inverted) return null;
  return (point) => {
    const b = basis(model, local(point));
    let [xx, xy, yy] = [0, 0, 0];
    for (let i = 0; i < count; i += 1)
      for (let j = 0; j < count; j += 1) {
        const v = inverted[i]![j]!;
        xx += b[i]![0] * v * b[j]![0];
        xy += b[i]![0] * v * b[j]![1];
        yy += b[i]![1] * v * b[j]![1];
      }
    return { xx: sigma ** 2 * xx, yy: sigma ** 2 * yy, xy: sigma ** 2 * xy };
  };
};

/** Where one more mark would bring the worst place of the work down most. */
export const bestFurtherMark = (
  model: WorkModel,
  drawn: readonly Vec[],
  sigma: Mm,
  candidates: readonly Vec[],
  work: readonly Vec[],
): { readonly at: Vec; readonly now: Mm; readonly then: Mm } | null => {
  const worst = (marks: readonly Vec[]): Mm => {
    const map = errorMap(model, marks, sigma);
    return map ? Math.max(...work.map(map.radius)) : Infinity;
  };
  const now = worst(drawn);
  let best: { at: Vec; now: Mm; then: Mm } | null = null;
  for (const at of candidates) {
    const then = worst([...drawn, at]);
    if (!best || then < best.then) best = { at, now, then };
  }
  return best && best.then < now ? best : null;
};
