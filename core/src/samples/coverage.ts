/**
 * Factors from a standard uncertainty to what holds 95 of 100, for a normal error that is known well
 * (many degrees of freedom). They differ by what the uncertainty is of.
 */

/** Along one axis, either way: the 0.975 quantile of the standard normal [JCGM 100:2008, table G.1]. */
export const AXIS_95 = 1.959964;

/** In the plane, of the standard deviation along each axis: √χ²(0.95; 2) = √(−2 ln 0.05) = 2.448. */
export const PLANE_95 = Math.sqrt(-2 * Math.log(0.05));

/** In the plane, of the radial standard uncertainty √(ux² + uy²): √(−ln 0.05) = 1.731. */
export const RADIAL_95 = PLANE_95 / Math.SQRT2;

/** Angles over which a circle's content is averaged: even steps of a periodic function, exact to many digits. */
const STEPS = 64;

/**
 * Radius that holds 95 of 100 where one axis has the standard deviation 1 and the other `ratio` of it.
 *
 * In the error's own scales angles are even and radii follow √χ²(2), so the share within r is
 * 1 − mean over φ of exp(−r² / (2·(cos²φ + ratio²·sin²φ))) [geometry].
 */
const factor = (ratio: number): number => {
  // A tiny second axis would divide by nothing at one angle: there the share left outside is nothing too.
  const outside = (r: number): number => {
    let sum = 0;
    for (let i = 0; i < STEPS; i += 1) {
      const c = Math.cos((Math.PI * (i + 0.5)) / STEPS) ** 2;
      sum += Math.exp(-(r * r) / (2 * (c + ratio * ratio * (1 - c))));
    }
    return sum / STEPS;
  };
  let [low, high] = [1.9, PLANE_95 * 1.001];
  for (let i = 0; i < 50; i += 1) {
    const r = (low + high) / 2;
    if (outside(r) > 0.05) low = r;
    else high = r;
  }
  return (low + high) / 2;
};

/** Ratios at which the factor is found; between them it runs straight to within 0.00001. */
const RATIOS = 256;
let factors: readonly number[] | null = null;

/**
 * Radius that holds 95 of 100 of a plane normal error whose axes differ: between 1.96 of the one axis, when the other is
 * nothing, and 2.448 of both, when they are alike.
 *
 * @param xx variances along two axes and their covariance, mm²
 * @example planeRadius95(1, 1, 0) // 2.448
 */
export const planeRadius95 = (xx: number, yy: number, xy: number): number => {
  const middle = (xx + yy) / 2;
  const half = Math.hypot((xx - yy) / 2, xy);
  const [a, b] = [middle + half, Math.max(0, middle - half)];
  if (a === 0) return 0;
  factors ??= Array.from({ length: RATIOS + 1 }, (_, i) => factor(i / RATIOS));
  const at = RATIOS * Math.sqrt(b / a);
  const below = Math.min(RATIOS - 1, Math.floor(at));
  return Math.sqrt(a) * (factors[below]! + (at - below) * (factors[below + 1]! - factors[below]!));
};
