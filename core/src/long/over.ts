import { comesInto, contoursBox, type Vec } from '../geometry';
import type { Mm } from '../units';
import type { LongShape } from './art';

/** A long piece as it is: its rectangle, and what is drilled or cut out of it; work frame, mm. */
export interface LongPiece {
  readonly length: Mm;
  readonly width: Mm;
  readonly holes?: readonly (Vec & { readonly diameter: Mm })[];
}

/** What art may stand over an edge by, mm: rounding. */
const ROUNDING: Mm = 0.01;

/** Holes that some of the art lies over. */
const holesUnder = (shapes: readonly LongShape[], { holes = [] }: LongPiece): readonly Vec[] => {
  if (holes.length === 0) return [];
  const all = shapes.map((s) => s.contour);
  const fills = shapes.filter((s) => s.kind === 'fill' && s.contour.closed).map((s) => s.contour);
  return holes.filter((h) => comesInto(h, all, fills, ROUNDING));
};

/**
 * That art stands over the edge of a long piece, or over a hole in it: it would burn what lies under it.
 *
 * @param meant whether some of it reaches over the edge on purpose
 * @returns a sentence, or nothing where all of it lies on the piece
 * @example overPiece([square], { length: 1000, width: 200, holes: [{ x: 40, y: 100, diameter: 8 }] }) // 'The art lies over a hole …'
 */
export const overPiece = (shapes: readonly LongShape[], piece: LongPiece, meant = false): string | null => {
  if (shapes.length === 0) return null;
  const { length, width } = piece;
  const { minX, minY, maxX, maxY } = contoursBox(shapes.map((s) => s.contour));
  if (!meant && (minX < -ROUNDING || minY < -ROUNDING || maxX > length + ROUNDING || maxY > width + ROUNDING))
    return `The art of ${(maxX - minX).toFixed(0)} × ${(maxY - minY).toFixed(0)} mm stands over the edge of the work.`;
  const under = holesUnder(shapes, piece);
  return under.length > 0
    ? `The art lies over ${under.length === 1 ? 'a hole' : `${under.length} holes`} of the work, ${under.slice(0, 3).map((h) => `${h.x.toFixed(0)} mm from its beginning`).join(', ')}. Shift it, or put right on the Shelf where the work has holes.` // prettier-ignore
    : null;
};
