import { normalQuantile, noncentralTCdf } from './distributions';

const known = new Map<string, number>();

/**
 * One-sided normal tolerance factor k₁: with confidence γ at least the share p of all pieces lies
 * below mean + k₁·s. Exact through the noncentral t distribution, k₁ = t'(γ; n−1, z_p√n)/√n.
 *
 * @param n number of samples, at least 2
 * @param p share to be covered, in (0, 1)
 * @param gamma confidence, in (0, 1)
 * @example toleranceFactor(10, 0.95, 0.95) // 2.911
 */
export const toleranceFactor = (n: number, p: number, gamma: number): number => {
  if (!Number.isInteger(n) || n < 2) throw new RangeError('a tolerance factor needs at least two samples');
  const key = `${n}/${p}/${gamma}`;
  const before = known.get(key);
  if (before !== undefined) return before;
  const delta = normalQuantile(p) * Math.sqrt(n);
  let low = -50;
  let high = 200 * Math.sqrt(n);
  for (let i = 0; i < 60; i += 1) {
    const middle = (low + high) / 2;
    if (noncentralTCdf(middle, n - 1, delta) < gamma) low = middle;
    else high = middle;
  }
  const factor = (low + high) / 2 / Math.sqrt(n);
  known.set(key, factor);
  return factor;
};
