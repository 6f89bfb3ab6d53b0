import { AXIS_95 } from '../samples';
import type { Mm } from '../units';
import { fixed, mm, worked, type WorkedLine } from '../working';

/** A witness ring as it was read: one circumference of line, burned with some correction in force. */
export interface RingReading {
  /** Positive: the line runs over its own start, the blank turned too far. Negative: a gap. */
  readonly overlap: Mm;
  /** Length of the line as commanded, mm. */
  readonly circumference: Mm;
  /** Correction on steps that was in force when it was burned. */
  readonly correction: number;
  /** Standard uncertainty of the reading, mm. */
  readonly readingError: Mm;
}

export interface RingResult {
  /** Factor on steps from here on. */
  readonly correction: number;
  /** Closing error that may remain, 95 %, mm. */
  readonly remaining: Mm;
  /** Standard uncertainty of the correction, as a share. */
  readonly uncertainty: number;
  readonly rings: number;
  readonly working: readonly WorkedLine[];
}

/** Reading a ring with a rule, ± [common practice]. */
export const RING_READING: Mm = 0.25;
/** How well a drive repeats a turn when nothing else is known, mm, standard [common practice]. */
export const RING_REPEAT: Mm = 0.08;

/** Correction from one ring: C / (C + δ). @example ringFactor(251.33, 2) // 0.99211 */
export const ringFactor = (circumference: Mm, overlap: Mm): number => circumference / (circumference + overlap);

/**
 * Combines the rings of one drive and blank, whatever correction each was burned with, weighted by
 * their reading errors.
 *
 * A ring says how far the surface really went for one commanded length: (C + δ)/C, divided by the
 * correction in force. Its inverse is the correction wanted.
 */
export const combineRings = (
  rings: readonly RingReading[],
  circumference: Mm,
  repeat: Mm = RING_REPEAT,
): RingResult => {
  if (rings.length === 0) return { correction: 1, remaining: Infinity, uncertainty: Infinity, rings: 0, working: [] };
  let weights = 0;
  let sum = 0;
  for (const ring of rings) {
    const went = (ring.circumference + ring.overlap) / ring.circumference / ring.correction;
    const u = Math.hypot(ring.readingError, repeat) / ring.circumference;
    weights += 1 / (u * u);
    sum += went / (u * u);
  }
  const gain = sum / weights;
  const uncertainty = 1 / Math.sqrt(weights);
  const closing = circumference * uncertainty;
  // The next ring also has its own repeatability.
  const remaining = AXIS_95 * Math.hypot(closing, repeat);
  const last = rings[rings.length - 1]!;
  return {
    correction: 1 / gain,
    remaining,
    uncertainty,
    rings: rings.length,
    working: [
      worked(
        'last ring',
        'C / (C + overlap)',
        `${fixed(last.circumference)} / (${fixed(last.circumference)} ${last.overlap < 0 ? '−' : '+'} ${fixed(Math.abs(last.overlap))})`,
        fixed(ringFactor(last.circumference, last.overlap), 5),
        'geometry',
      ),
      worked(
        `correction from ${rings.length} ${rings.length === 1 ? 'ring' : 'rings'}`,
        'inverse of the weighted mean of how far each really went',
        `1 / ${fixed(gain, 5)}`,
        fixed(1 / gain, 5),
        'statistics',
      ),
      worked(
        'closing error that may remain',
        '1.96 × √((C × u)² + repeat²)',
        `1.96 × √(${fixed(closing, 3)}² + ${fixed(repeat, 3)}²)`,
        mm(remaining),
        'statistics',
      ),
    ],
  };
};

/** A reading beyond a quarter turn is more likely the other way round or a wrong unit. */
export const ringIsDoubtful = (circumference: Mm, overlap: Mm): boolean => Math.abs(overlap) > circumference / 4;
