import type { Mm, Share } from '../units';
import { fixed, mm, percent, worked, type WorkedLine } from '../working';
import { combined, effectiveDof, radialCoverage } from './combine';
import type { BudgetInput, Source } from './input';
import { simulatePieces, type Scales } from './simulate';
import { reckonSources } from './sources';

export interface Budget {
  readonly sources: readonly Source[];
  readonly largest: Source;
  /** Root sum of squares, radial, mm. */
  readonly combined: Mm;
  readonly dof: number;
  /** Combined × coverage factor for 95 % in the plane, mm. */
  readonly expanded: Mm;
  readonly worst: Mm;
  /** Error that 95 % of simulated pieces stay below at their worst corner, mm. */
  readonly predicted: Mm;
  /** Share of simulated pieces inside the tolerance. */
  readonly yield: Share;
  /** `predicted` if the largest source were halved. */
  readonly ifHalved: Mm;
  readonly tolerance: Mm;
  readonly verdict: 'inside' | 'near' | 'over';
  readonly assumptions: readonly string[];
  readonly working: readonly WorkedLine[];
}

const quantile = (sorted: Float64Array, p: number): number =>
  sorted[Math.min(sorted.length - 1, Math.ceil(p * sorted.length) - 1)] ?? 0;

const shareBelow = (sorted: Float64Array, limit: number): number => {
  let low = 0,
    high = sorted.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (sorted[middle]! <= limit) low = middle + 1;
    else high = middle;
  }
  return sorted.length === 0 ? 1 : low / sorted.length;
};

/** Simulated displacements, sorted, with one source scaled; mm. */
export type Simulate = (count: number, scale?: Scales) => Float64Array;

/** Sums sources, simulates pieces, and checks both against the tolerance. */
export const assembleBudget = (
  bare: readonly Omit<Source, 'share'>[],
  simulate: Simulate,
  input: { readonly tolerance: Mm; readonly pieces: number; readonly seed: number },
): Budget => {
  const total = combined(bare);
  const sources = bare.map((s) => ({ ...s, share: total === 0 ? 0 : (s.u / total) ** 2 })).sort((a, b) => b.u - a.u);
  const largest = sources[0]!;
  const dof = effectiveDof(bare);
  const factor = radialCoverage(0.95, dof);
  const pieces = simulate(input.pieces);
  const predicted = quantile(pieces, 0.95);
  const inside = shareBelow(pieces, input.tolerance);
  const ifHalved = quantile(simulate(Math.min(input.pieces, 20_000), { id: largest.id, factor: 0.5 }), 0.95);
  const worst = sources.reduce((sum, s) => sum + s.worst, 0);
  const assumptions = sources.filter((s) => s.origin === 'assumed' || s.origin === 'catalogue').map((s) => s.name);
  return {
    sources,
    largest,
    combined: total,
    dof,
    expanded: factor * total,
    worst,
    predicted,
    yield: inside,
    ifHalved,
    tolerance: input.tolerance,
    assumptions,
    verdict: predicted > input.tolerance ? 'over' : predicted > 0.85 * input.tolerance ? 'near' : 'inside',
    working: [
      ...sources.map((s) => s.working),
      worked(
        'combined',
        'root sum of squares',
        sources.map((s) => `${fixed(s.u, 3)}²`).join(' + '),
        mm(total, 3),
        'published: JCGM 100:2008',
      ),
      worked(
        '95 % by the sum',
        'combined × √F(95 %; 2, ν)',
        `${fixed(total, 3)} × ${fixed(factor, 3)}, ν ${Number.isFinite(dof) ? fixed(dof, 0) : '∞'}`,
        mm(factor * total),
        'published: JCGM 100:2008, G',
      ),
      worked(
        '95 % by simulation',
        `95th of 100 of ${input.pieces.toLocaleString('en')} simulated pieces, worst corner`,
        `seed ${input.seed}`,
        mm(predicted),
        'published: JCGM 101:2008',
      ),
      worked(
        'inside the tolerance',
        'share of simulated pieces',
        `worst corner ≤ ${mm(input.tolerance)}`,
        percent(inside, 2),
        'statistics',
      ),
      worked(
        'worst case',
        'all at their greatest at once',
        sources.map((s) => fixed(s.worst)).join(' + '),
        mm(worst),
        'geometry',
      ),
    ],
  };
};

/**
 * The placement budget [JCGM 100:2008 for the sum, JCGM 101:2008 for the simulation]: every source
 * of position error at the worst corner of the art, combined, and checked against the tolerance.
 */
export const reckonBudget = (input: BudgetInput): Budget =>
  assembleBudget(reckonSources(input), (count, scale) => simulatePieces(input, count, scale), input);
