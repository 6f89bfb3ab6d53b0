import { AXIS_95 } from '../samples';
import type { Mm } from '../units';
import { fixed, mm, percent, worked, type WorkedLine } from '../working';
import { CALIPER_ERROR } from './cross-check';

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
  /** Diameter of the very piece that carried it, measured where the others are, mm; null where nobody measured it. */
  readonly diameter?: Mm | null | undefined;
}

/** The pieces that a drive is set for. A length is turned, so a ring on a larger one looks like a drive that turns too little. */
export interface RingPieces {
  /** Mean diameter where pieces are measured, mm. */
  readonly mean: Mm;
  /** Standard uncertainty of one piece’s diameter against that mean, mm. */
  readonly u: Mm;
}

export interface RingResult {
  /** Factor on steps from here on. */
  readonly correction: number;
  /** Closing error that may remain on the piece that carried them, 95 %, mm. */
  readonly remaining: Mm;
  /** Standard uncertainty of the correction for other pieces, as a share: with what is not known of the piece that carried the rings. */
  readonly uncertainty: number;
  /** The part of it that is owed to pieces nobody measured. */
  readonly ofPiece: number;
  readonly rings: number;
  readonly working: readonly WorkedLine[];
}

/** Reading a ring with a rule, ± [common practice]. */
export const RING_READING: Mm = 0.25;
/** How well a drive repeats a turn when nothing else is known, mm, standard [common practice]. */
export const RING_REPEAT: Mm = 0.08;

/** Correction from one ring: C / (C + δ). @example ringFactor(251.33, 2) // 0.99211 */
export const ringFactor = (circumference: Mm, overlap: Mm): number => circumference / (circumference + overlap);

/** The length that the surface went for one that was commanded, by one ring. */
const wentBy = (ring: RingReading, pieces: RingPieces | null): number => {
  const angle = (ring.circumference + ring.overlap) / ring.circumference / ring.correction;
  if (!pieces || ring.diameter == null) return angle;
  // A larger piece has more to go round: the same overlap was reached by more surface.
  const larger = Math.PI * (ring.diameter - pieces.mean);
  return (
    ((ring.circumference + larger + ring.overlap) / (ring.circumference + larger) / ring.correction) *
    (ring.diameter / pieces.mean)
  );
};

/**
 * Combines the rings of one drive and blank, whatever correction each was burned with, weighted by
 * their reading errors.
 *
 * A ring says how far the surface really went for one commanded length: (C + δ)/C, divided by the
 * correction in force. Its inverse is the correction wanted. On rollers a length is turned: a piece that was not measured
 * may be larger or smaller than the rest by their spread, and all rings on it are wrong by the same share.
 *
 * @param pieces whose length is turned; null in a chuck, which keeps the angle whatever the piece
 */
export const combineRings = (
  rings: readonly RingReading[],
  circumference: Mm,
  repeat: Mm = RING_REPEAT,
  pieces: RingPieces | null = null,
): RingResult => {
  if (rings.length === 0)
    return { correction: 1, remaining: Infinity, uncertainty: Infinity, ofPiece: 0, rings: 0, working: [] };
  let [weights, unmeasured, sum] = [0, 0, 0];
  for (const ring of rings) {
    const known = pieces !== null && ring.diameter != null;
    const caliper = known ? CALIPER_ERROR / Math.sqrt(3) / pieces.mean : 0;
    const u = Math.hypot(Math.hypot(ring.readingError, repeat) / ring.circumference, caliper);
    weights += 1 / (u * u);
    if (!known) unmeasured += 1 / (u * u);
    sum += wentBy(ring, pieces) / (u * u);
  }
  const gain = sum / weights;
  const read = 1 / Math.sqrt(weights);
  const ofPiece = pieces ? (pieces.u / pieces.mean) * (unmeasured / weights) : 0;
  const closing = circumference * read;
  // The next ring also has its own repeatability.
  const remaining = AXIS_95 * Math.hypot(closing, repeat);
  const last = rings[rings.length - 1]!;
  return {
    correction: 1 / gain,
    remaining,
    uncertainty: Math.hypot(read, ofPiece),
    ofPiece,
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
        'the next ring on that piece closes within',
        '1.96 × √((C × u)² + repeat²)',
        `1.96 × √(${fixed(closing, 3)}² + ${fixed(repeat, 3)}²)`,
        `± ${mm(remaining)}`,
        'statistics',
      ),
      ...(pieces && ofPiece > 0
        ? [
            worked(
              'the piece that carried it, not measured',
              's / D of its kind',
              `${fixed(pieces.u, 3)} / ${fixed(pieces.mean)}`,
              `± ${percent(ofPiece, 3)}`,
              'statistics',
            ),
          ]
        : []),
    ],
  };
};

/** A reading beyond a quarter turn is more likely the other way round or a wrong unit. */
export const ringIsDoubtful = (circumference: Mm, overlap: Mm): boolean => Math.abs(overlap) > circumference / 4;

/** What a first ring may be off by before it is asked whether the number stands in the machine: five times what rollers are. */
const FAR = 0.05;

/** Whether a first ring is further off than a drive of its own dimensions is [common practice: rollers within a hundredth]. */
export const ringIsFar = (circumference: Mm, overlap: Mm): boolean => Math.abs(overlap) > FAR * circumference;
