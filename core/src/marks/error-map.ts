import { centroid, type Vec } from '../geometry';
import type { Mm } from '../units';
import { LEVEL, PARAMETERS } from './models';
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

/** √χ²(95 %, 2): radius of a round 95 % region in standard uncertainties. */
const R95 = Math.sqrt(-2 * Math.log(1 - LEVEL));

/**
 * Uncertainty of any placed point, from the marks' places and the aiming error alone: first order,
 * σ² B(p) (JᵀJ)⁻¹ B(p)ᵀ with the model's functions B. The radius takes the ellipse's long axis, so
 * it errs to the safe side.
 *
 * @param drawn places of the marks read
 * @returns null when the marks do not determine the model
 */
export const errorMap = (model: WorkModel, drawn: readonly Vec[], sigma: Mm): ErrorMap | null => {
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
  const at = (point: Vec): { major: Mm; minor: Mm; angle: number } => {
    const b = basis(model, local(point));
    let [xx, xy, yy] = [0, 0, 0];
    for (let i = 0; i < count; i += 1)
      for (let j = 0; j < count; j += 1) {
        const v = inverted[i]![j]!;
        xx += b[i]![0] * v * b[j]![0];
        xy += b[i]![0] * v * b[j]![1];
        yy += b[i]![1] * v * b[j]![1];
      }
    const mean = (xx + yy) / 2;
    const half = Math.hypot((xx - yy) / 2, xy);
    return {
      major: sigma * Math.sqrt(Math.max(0, mean + half)),
      minor: sigma * Math.sqrt(Math.max(0, mean - half)),
      angle: Math.atan2(2 * xy, xx - yy) / 2,
    };
  };
  return { at, radius: (point) => R95 * at(point).major };
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
