import type { Mm, Share } from '../units';
import { fixed, mm, percent, worked, type WorkedLine } from '../working';
import { studentCdf } from './distributions';
import { sampleStats, type SampleStats } from './stats';
import { toleranceFactor } from './tolerance';

/** One dimension of a blank: what the catalogue says, what was measured, what to allow for. */
export interface DimensionInput {
  readonly label: string;
  readonly nominal: Mm;
  /** ± tolerance used while fewer than three pieces have been measured, mm. */
  readonly catalogueTolerance: Mm;
  readonly samples: readonly Mm[];
  /** Share of all pieces that shall go in; 1 where every one of them was measured: the largest of them. */
  readonly coverage: Share;
  readonly confidence: Share;
}

export interface GoverningSize {
  readonly stats: SampleStats | null;
  /** Best estimate of the middle, mm. */
  readonly mean: Mm;
  /** Standard deviation of single pieces, mm. */
  readonly spread: Mm;
  /** Degrees of freedom behind `spread`; Infinity for an assumption. */
  readonly dof: number;
  /** The size that `coverage` of all pieces stay below, mm. */
  readonly upper: Mm;
  readonly assumed: boolean;
  /** Whether those that were measured are all there are. */
  readonly all?: boolean;
  readonly working: readonly WorkedLine[];
}

/** Fewest samples from which a spread is believed. */
export const ENOUGH_SAMPLES = 3;
/** As many as a shop is asked to measure: then the spread is known to a quarter of itself [s/√(2(n−1)), normal]. */
export const MANY_SAMPLES = 10;

/**
 * The size a pocket must take so that the chosen share of pieces drops in.
 * With three or more samples: mean + k₁·s, or the largest where all were measured. Below that: nominal plus the catalogue's tolerance,
 * flagged as an assumption.
 */
export const governingSize = (input: DimensionInput): GoverningSize => {
  const stats = sampleStats(input.samples);
  if (stats && stats.s !== null && stats.n >= ENOUGH_SAMPLES) {
    const measured = {
      stats,
      mean: stats.mean,
      spread: stats.s,
      dof: stats.n - 1,
      assumed: false,
    };
    const working = [
      worked(
        `${input.label}: mean of ${stats.n}`,
        'Σx / n',
        `${stats.n} readings, ${fixed(stats.min)} to ${fixed(stats.max)}`,
        mm(stats.mean, 3),
        'measured here',
      ),
      worked('spread', 's = √(Σ(x − mean)² / (n − 1))', `n = ${stats.n}`, mm(stats.s, 3), 'statistics'),
    ];
    if (input.coverage >= 1)
      return {
        ...measured,
        all: true,
        upper: stats.max,
        working: [
          ...working,
          worked('every piece was measured', 'the largest of them', `${stats.n} readings`, mm(stats.max, 3), 'measured here'), // prettier-ignore
        ],
      };
    const k = toleranceFactor(stats.n, input.coverage, input.confidence);
    const upper = stats.mean + k * stats.s;
    return {
      ...measured,
      upper,
      working: [
        ...working,
        worked(
          'factor',
          'k₁(n, p, γ), one-sided normal tolerance factor',
          `k₁(${stats.n}, ${input.coverage}, ${input.confidence})`,
          fixed(k, 3),
          'published: NBS Handbook 91, computed by noncentral t',
        ),
        worked(
          `size ${percent(input.coverage)} stay below`,
          'mean + k₁ × s',
          `${fixed(stats.mean, 3)} + ${fixed(k, 3)} × ${fixed(stats.s, 3)}`,
          mm(upper, 3),
          'statistics',
        ),
      ],
    };
  }
  const mean = stats?.mean ?? input.nominal;
  const upper = Math.max(input.nominal + input.catalogueTolerance, stats?.max ?? -Infinity);
  return {
    stats,
    mean,
    spread: input.catalogueTolerance / Math.sqrt(3),
    dof: Infinity,
    upper,
    assumed: true,
    working: [
      worked(
        `${input.label}: largest expected`,
        'nominal + catalogue tolerance',
        `${fixed(input.nominal)} + ${fixed(input.catalogueTolerance)}`,
        mm(upper),
        'assumed',
      ),
      worked(
        'spread',
        'tolerance / √3 (anything inside ± equally likely)',
        `${fixed(input.catalogueTolerance)} / √3`,
        mm(input.catalogueTolerance / Math.sqrt(3), 3),
        'assumed',
      ),
    ],
  };
};

/**
 * Chance that the next piece is not larger than `limit`: Student's t with the predictive spread
 * s·√(1 + 1/n), or a uniform law over ± the catalogue's tolerance while it is an assumption.
 */
export const chanceBelow = (size: GoverningSize, limit: Mm): Share => {
  if (size.spread === 0) return size.mean <= limit ? 1 : 0;
  // All were measured, and none is larger.
  if (size.all && size.stats && limit >= size.stats.max) return 1;
  if (size.assumed) {
    const half = size.spread * Math.sqrt(3);
    return Math.min(1, Math.max(0, (limit - (size.mean - half)) / (2 * half)));
  }
  const n = size.stats?.n ?? 1;
  return studentCdf((limit - size.mean) / (size.spread * Math.sqrt(1 + 1 / n)), size.dof);
};

/**
 * Standard uncertainty of the next piece against the mean of those that were measured: few readings tell their mean only
 * so well, s·√(1 + 1/n) [ISO 16269-8 and any statistics text: a prediction interval]. Mm.
 */
export const nextPiece = ({ spread, dof }: Pick<GoverningSize, 'spread' | 'dof'>): Mm =>
  Number.isFinite(dof) ? spread * Math.sqrt(1 + 1 / (dof + 1)) : spread;
