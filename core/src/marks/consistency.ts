import { distance } from '../geometry';
import { chiSquareQuantile, chiSquareTail } from '../samples';
import type { Mm, Share } from '../units';
import { fixed, mm, worked, type WorkedLine } from '../working';
import { findMistake } from './mistakes';
import { LEVEL } from './models';
import { residualSquares, solvePlacement, type MarkPair } from './solve';

export interface Consistency {
  readonly verdict: 'agrees' | 'disagrees';
  /** Sum of squared residuals over σ², and its 95 % limit. */
  readonly chiSquare: number;
  readonly limit: number;
  readonly freedom: number;
  /** Chance of readings at least this far apart when nothing is wrong. */
  readonly chance: Share;
  /** The mark that was probably misread; null when that cannot be told. */
  readonly suspect: number | null;
  readonly message: string;
  readonly working: readonly WorkedLine[];
}

const test = (pairs: readonly MarkPair[], sigma: Mm): { chiSquare: number; freedom: number; limit: number } | null => {
  const solved = solvePlacement(pairs, 'rigid');
  if (!solved.ok) return null;
  const freedom = 2 * pairs.length - 3;
  return { chiSquare: residualSquares(solved.value) / sigma ** 2, freedom, limit: chiSquareQuantile(LEVEL, freedom) };
};

/**
 * Whether readings of a board that cannot stretch agree with each other within the aiming error:
 * χ² of the residuals at 95 %. With two marks this is the check of their distance.
 *
 * @param sigma aiming error of one reading per axis, mm
 */
export const checkConsistency = (pairs: readonly MarkPair[], sigma: Mm): Consistency | null => {
  const result = test(pairs, sigma);
  if (!result) return null;
  const { chiSquare, freedom, limit } = result;
  const agrees = chiSquare <= limit;
  const mistake = agrees ? null : findMistake(pairs, sigma);
  const suspect = mistake?.kind === 'misread' ? mistake.mark : null;
  const working: WorkedLine[] = [];
  const [a, b] = pairs;
  let message: string;
  if (pairs.length === 2 && a && b) {
    const drawn = distance(a.drawn, b.drawn);
    const read = distance(a.read, b.read);
    const room = sigma * Math.SQRT2 * Math.sqrt(limit);
    working.push(
      worked('mark distance', 'read − drawn', `${fixed(read)} − ${fixed(drawn)}`, mm(read - drawn), 'geometry'),
    );
    working.push(
      worked(
        'aiming explains up to',
        'σ × √2 × √χ²(95 %, 1)',
        `${fixed(sigma, 3)} × 1.414 × ${fixed(Math.sqrt(limit), 3)}`,
        mm(room),
        'statistics',
      ),
    );
    message = agrees
      ? 'The distance between the marks agrees with the drawing, so nothing is scaled. Two marks cannot show which of them is misread; a third can.'
      : `The marks are ${Math.abs(read - drawn).toFixed(2)} mm ${read > drawn ? 'too far apart' : 'too near'}; aiming explains ${room.toFixed(2)} mm. A board does not stretch: one mark is misread. Aim at both again.`;
  } else {
    working.push(
      worked(
        'residuals',
        'χ² = Σ r² / σ²',
        `σ = ${fixed(sigma, 3)} mm, ${freedom} degrees of freedom`,
        `${fixed(chiSquare, 2)}, limit ${fixed(limit, 2)}`,
        'statistics',
      ),
    );
    message = agrees
      ? 'All marks agree with each other within the aiming error.'
      : mistake
        ? mistake.message
        : 'The marks do not agree with each other, and it cannot be told which one is misread. Aim at all of them again.';
  }
  return {
    verdict: agrees ? 'agrees' : 'disagrees',
    chiSquare,
    limit,
    freedom,
    chance: chiSquareTail(chiSquare, freedom),
    suspect,
    message,
    working,
  };
};
