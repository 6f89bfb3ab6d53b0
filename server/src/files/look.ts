import { allShapes, boxHeight, boxOf, boxWidth, flatOutline, flatten, nth, pieceShapes, transformContour, translation, unrolledPasses, type BatchInput, type BatchReckoning, type Contour, type Ordinal, type PieceShapes } from '@bistre/core'; // prettier-ignore
import { pieceOutline } from './piece-outline';

/** A piece as a customer sees it: how large, its outline, and what any one of them carries; its middle at the origin, mm. */
export interface Look {
  readonly size: { readonly length: number; readonly width: number };
  readonly outline: readonly Contour[];
  readonly shapesOf: (ordinal: Ordinal) => PieceShapes | null;
  /** How it is shown, where that needs a word. */
  readonly words?: string;
}

const flatLook = (input: BatchInput, r: BatchReckoning): Look => ({
  size: { length: r.sizes.length.mean, width: r.sizes.width.mean },
  outline: pieceOutline(input, r),
  shapesOf: (ordinal) => {
    const piece = nth(r.art?.pieces, ordinal);
    return piece && r.zone && r.art ? allShapes(pieceShapes(r.art, r.zone, piece)) : null;
  },
});

/** What is round is laid flat, rim up: art that runs over its seam meets at both ends. Pictures are told by their edges. */
const roundLook = (r: BatchReckoning, round: NonNullable<BatchReckoning['own']['round']>): Look => {
  const side = flatOutline(round.shape, round.artFrom, round.artTo);
  const box = boxOf(side);
  const middle = translation(-(box.minX + box.maxX) / 2, -(box.minY + box.maxY) / 2);
  return {
    size: { length: boxWidth(box), width: boxHeight(box) },
    outline: [transformContour(middle, { closed: true, vertices: side })],
    shapesOf: (ordinal) => {
      const passes = unrolledPasses({ ...r, onTheBoard: [{ ordinal }] }, 'meet');
      const of = (fill: boolean) => passes.filter((p) => (p.kind === 'fill') === fill).flatMap((p) => p.contours.map((c) => flatten(transformContour(middle, c), 0.05))); // prettier-ignore
      return { filled: of(true), drawn: of(false) };
    },
    words: 'Laid flat, rim up, 0° in the middle; a picture is shown by its edges.',
  };
};

/** How pieces of a batch look. */
export const lookOf = (input: BatchInput, r: BatchReckoning): Look =>
  r.own.round ? roundLook(r, r.own.round) : flatLook(input, r);
