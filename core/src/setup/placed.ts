import { artOutline, pieceShapes, type PlacedPiece } from '../artwork';
import { apply, compose, convexHull, flatten, polyline, transformContour, type Contour, type Transform, type Vec } from '../geometry'; // prettier-ignore
import { slotTransform, type Slot } from '../holding';
import { crossContours } from '../marks';
import { segmentPoints } from './long';
import type { BatchReckoning, FreeingCuts } from './reckoned';
import { type Ordinal, nth } from '../units';

/** The art of the pieces in the given slots: what is engraved on them, or printed on a sheet. */
export const placedArt = (
  { art, zone }: Pick<BatchReckoning, 'art' | 'zone'>,
  on: readonly { slot: Slot; ordinal: Ordinal }[],
): PlacedPiece[] =>
  !art || !zone
    ? []
    : on.flatMap(({ slot, ordinal }) => {
        const piece = nth(art.pieces, ordinal);
        return piece ? [{ slot, label: piece.label, shapes: pieceShapes(art, zone, piece) }] : [];
      });

/** Shapes that are burned on the pieces in the given slots, for drawing, output and simulation. */
export const placedPieces = (
  reckoning: Pick<BatchReckoning, 'art' | 'zone' | 'own'>,
  on: readonly { slot: Slot; ordinal: Ordinal }[],
): PlacedPiece[] => {
  const { art } = reckoning;
  const { cutLine } = reckoning.own;
  if (cutLine)
    return on.map(({ slot, ordinal }) => ({
      slot,
      label: nth(art?.pieces, ordinal)?.label ?? '',
      shapes: { filled: [], drawn: nth(cutLine, slot.slot) ?? [] },
    }));
  return placedArt(reckoning, on);
};

/** Lines of one kind of the pieces in their slots, bed frame. */
export const linesOnBed = (
  pieces: readonly PlacedPiece[],
  kind: 'filled' | 'drawn' | 'cut',
  boardToBed: Transform,
): Contour[] =>
  pieces.flatMap(({ shapes, slot }) => {
    const m = compose(boardToBed, slotTransform(slot));
    return (shapes[kind] ?? []).map((line) => transformContour(m, polyline(line, kind === 'filled')));
  });

const cutPieces = ({ lines }: FreeingCuts, on: BatchReckoning['onTheBoard']): Contour[] =>
  on.flatMap(({ slot }) => lines.map((c) => transformContour(slotTransform(slot), c)));

/**
 * What the file of the side that lies up cuts through a panel, holes before outlines, panel frame:
 * marks first and pieces last, or pieces at once when each turns in its own hole.
 */
export const panelCuts = ({ own: { cutOut }, board, face, onTheBoard }: BatchReckoning): Contour[] => {
  if (!cutOut || !board) return [];
  if (cutOut.when === 'at once') return cutPieces(cutOut, onTheBoard);
  const pieces = board.marks.length === 0 ? 'front' : 'back';
  if (face.side === pieces) return cutPieces(cutOut, onTheBoard);
  return face.side === 'front' ? board.marks.flatMap(crossContours) : [];
};

/** The true outline of what will be burned on the board now, bed frame. */
export const trueOutline = (reckoning: BatchReckoning): Vec[] => {
  const { long } = reckoning.own;
  if (long) return segmentPoints(long).map((p) => apply(reckoning.boardToBed, p));
  const art = artOutline(placedPieces(reckoning, reckoning.onTheBoard), reckoning.boardToBed);
  const cuts = panelCuts(reckoning).flatMap((c) => flatten(c, 0.05).map((p) => apply(reckoning.boardToBed, p)));
  return cuts.length === 0 ? art : convexHull([...art, ...cuts]);
};
