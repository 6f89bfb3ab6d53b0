import { sampleStats, studentQuantile } from '../samples';
import { fixed, worked, type WorkedLine } from '../working';

/** Process capability of one measured offset against symmetric or one-sided limits. */
export interface Capability {
  readonly n: number;
  readonly mean: number;
  readonly s: number;
  readonly cp: number;
  readonly cpk: number;
  /** Correction worth making; null while the mean may be noise at 95 %. */
  readonly correction: number | null;
  readonly working: readonly WorkedLine[];
}

/**
 * Cp = (USL − LSL)/6s, Cpk = min(USL − x̄, x̄ − LSL)/3s [NIST/SEMATECH e-Handbook 6.1.6], and the
 * shift of the mean from the middle of the limits, proposed only when Student's t at 95 % says it
 * is not noise.
 */
export const capability = (values: readonly number[], lower: number, upper: number): Capability | null => {
  const stats = sampleStats(values);
  if (!stats || stats.s === null || stats.s === 0) return null;
  const { n, mean, s } = stats;
  const target = (lower + upper) / 2;
  const noise = (studentQuantile(0.975, n - 1) * s) / Math.sqrt(n);
  const shift = mean - target;
  return {
    n,
    mean,
    s,
    cp: (upper - lower) / (6 * s),
    cpk: Math.min(upper - mean, mean - lower) / (3 * s),
    correction: Math.abs(shift) > noise ? -shift : null,
    working: [
      worked(
        'capability',
        'Cp = (upper − lower) / 6s',
        `(${fixed(upper)} − ${fixed(lower)}) / (6 × ${fixed(s, 3)})`,
        fixed((upper - lower) / (6 * s)),
        'published: NIST/SEMATECH e-Handbook 6.1.6',
      ),
      worked(
        'mean shift',
        'x̄ ± t·s/√n',
        `${fixed(mean, 3)} ± ${fixed(noise, 3)}`,
        Math.abs(shift) > noise ? `correct by ${fixed(-shift, 3)}` : 'may be noise: leave it',
        'statistics',
      ),
    ],
  };
};
