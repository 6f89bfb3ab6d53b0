import { apply, distance, type Transform, type Vec } from '../geometry';
import type { Mm, Rad } from '../units';
import { degrees, fixed, mm, worked, type WorkedLine } from '../working';
import type { Placement } from './solve';

export interface TurnInstruction {
  /** Which end to move: the mark that is farther from the one held still. */
  readonly hold: number;
  readonly move: number;
  readonly distance: Mm;
  readonly away: Vec;
  readonly words: string;
  readonly leftover: Rad;
  /** Error at the far end of the work if it is left as it lies, mm. */
  readonly farError: Mm;
  readonly good: boolean;
  readonly working: readonly WorkedLine[];
}

const inWords = (v: Vec): string => {
  const parts: string[] = [];
  if (Math.abs(v.y) >= 0.05) parts.push(`${Math.abs(v.y).toFixed(1)} mm ${v.y > 0 ? 'away from you' : 'towards you'}`);
  if (Math.abs(v.x) >= 0.05) parts.push(`${Math.abs(v.x).toFixed(1)} mm to the ${v.x > 0 ? 'right' : 'left'}`);
  return parts.join(' and ');
};

/**
 * How to turn the board square by hand: hold one mark, move the other. Repeated after each new
 * reading until the rest no longer matters.
 *
 * @param farthest distance from the held mark to the farthest art, mm
 * @param allowed error that may be left at that distance, mm
 */
export const turnTheWork = (
  placement: Placement,
  marks: readonly { id: number; drawn: Vec }[],
  farthest: Mm,
  allowed: Mm,
): TurnInstruction | null => {
  const [first, ...rest] = marks;
  if (!first || rest.length === 0) return null;
  const far = rest.reduce((a, b) => (distance(first.drawn, b.drawn) > distance(first.drawn, a.drawn) ? b : a));
  const still = apply(placement.transform, first.drawn);
  const now = apply(placement.transform, far.drawn);
  const square = { x: still.x + far.drawn.x - first.drawn.x, y: still.y + far.drawn.y - first.drawn.y };
  const away = { x: square.x - now.x, y: square.y - now.y };
  const farError = Math.abs(2 * Math.sin(placement.angle / 2)) * farthest;
  const good = farError <= allowed;
  return {
    hold: first.id,
    move: far.id,
    away,
    distance: Math.hypot(away.x, away.y),
    leftover: placement.angle,
    farError,
    good,
    words: good
      ? `The board is square: the farthest art is off by ${farError.toFixed(2)} mm.`
      : `Hold the board at mark ${first.id}. Move mark ${far.id} ${inWords(away)}. Then read both again.`,
    working: [
      worked('turned by', 'angle of the placement', degrees(placement.angle), degrees(placement.angle), 'geometry'),
      worked(
        'error at the farthest art',
        '2·sin(angle/2) × distance',
        `2·sin(${degrees(placement.angle / 2)}) × ${fixed(farthest, 1)}`,
        mm(farError),
        'geometry',
      ),
    ],
  };
};

/** The placement used when the work was turned square: shift only, the angle is taken as nought. */
export const squarePlacement = (placement: Placement, drawnCentre: Vec): Transform => ({
  a: 1,
  b: 0,
  c: 0,
  d: 1,
  e: placement.centre.x - drawnCentre.x,
  f: placement.centre.y - drawnCentre.y,
});
