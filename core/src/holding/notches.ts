import { circle, contourBox, flatten, uniteContours, type Contour, type Vec } from '../geometry';
import type { Mm } from '../units';
import type { BoardSettings } from './settings';

/** The widest a notch may be, of the side it sits in: a piece still lies on the rest of it. */
const MOST_OF_SIDE = 0.6;

/** What is chosen of finger notches. */
export type Notches = Pick<BoardSettings, 'notches' | 'notchRadius'>;

/**
 * Radius of a finger notch as it is cut, mm: as asked for, or as much as a side of this length takes. Wider ones would run
 * into the next pocket’s.
 *
 * @param side length of the side it sits in, mm
 * @example notchRadius(10, { notches: 'one', notchRadius: 8 }) // 3
 */
export const notchRadius = (side: Mm, { notches, notchRadius: asked }: Notches): Mm =>
  notches === 'none' ? 0 : Math.min(asked, (MOST_OF_SIDE / 2) * side);

/** Where a straight line across the blank at `x` meets an outline, from front to back, mm. */
const crossings = (outline: readonly Vec[], x: Mm): Mm[] =>
  outline
    .flatMap((a, i) => {
      const b = outline[(i + 1) % outline.length]!;
      return a.x > x === b.x > x ? [] : [a.y + ((x - a.x) / (b.x - a.x)) * (b.y - a.y)];
    })
    .sort((a, b) => a - b);

/** How far from the middle a notch may be moved, in shares of the length. */
const MOVES = [0, -1 / 16, 1 / 16, -1 / 8, 1 / 8, -3 / 16, 3 / 16, -1 / 4, 1 / 4, -5 / 16, 5 / 16];

/**
 * Cuts finger notches into a pocket of any outline: on the outline itself, at mid-side where it reaches that far, else
 * where it comes nearest to the side’s edge, and never so that a piece of the board would come loose.
 *
 * @param pocket the pocket’s own line, in the blank’s frame, mm; @param r radius as it is cut, mm
 * @param sides −1 the front side, 1 the back
 */
export const notchOutline = (pocket: readonly Contour[], sides: readonly (1 | -1)[], r: Mm): Contour[] => {
  const outer = pocket[0];
  if (!outer) return [...pocket];
  const box = contourBox(outer);
  const points = flatten(outer, 0.02);
  const length = box.maxX - box.minX;
  return sides.reduce<Contour[]>(
    (cut, side) => {
      const edge = side < 0 ? box.minY : box.maxY;
      const sites = MOVES.map((share) => {
        const x = (box.minX + box.maxX) / 2 + share * length;
        const y = crossings(points, x).at(side < 0 ? 0 : -1);
        return y === undefined || x - r < box.minX || x + r > box.maxX ? null : { x, y, off: Math.abs(y - edge) };
      }).filter((site) => site !== null);
      const best = sites
        .sort((a, b) => Math.max(0, a.off - r / 2) - Math.max(0, b.off - r / 2))
        .map((at) => uniteContours([...cut, circle(at, r)]))
        .find((united) => united.length === cut.length);
      return best ?? cut;
    },
    [...pocket],
  );
};
