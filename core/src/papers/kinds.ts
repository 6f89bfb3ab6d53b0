import type { BatchArt, PieceArt } from '../artwork';
import { nth, type Ordinal } from '../units';

/** Pieces that differ in their words alone, and the first of them. */
export interface Kind {
  readonly first: Ordinal;
  readonly pieces: readonly Ordinal[];
}

/** What a piece is told from others by, its words left out: what lies in its zones, and whether its words had to give way. */
const keyOf = ({ own, set }: PieceArt, heights: readonly number[]): string =>
  JSON.stringify([
    (own ?? []).map((l) => [
      l.content.id,
      l.artwork ? [l.artwork.id, l.artwork.revision, l.artwork.hidden] : '',
      l.picture?.pictureId ?? '',
      l.content.kind === 'artwork' || l.content.kind === 'listed' ? l.name : '',
    ]),
    set.lines.map((l) => [l.line, l.squeeze < 1, l.capHeight < (heights[l.line] ?? 0) - 1e-9]),
  ]);

/**
 * The kinds of a batch, in the order of their first pieces.
 * @param back what the other side carries, piece by piece, where there is one
 */
export const kindsOf = (art: BatchArt, back?: BatchArt | null): readonly Kind[] => {
  const kinds = new Map<string, Ordinal[]>();
  for (const piece of art.pieces) {
    const behind = back && nth(back.pieces, piece.piece);
    const key = `${keyOf(piece, art.lettering.capHeights)}${behind ? keyOf(behind, back.lettering.capHeights) : ''}`;
    const known = kinds.get(key);
    if (known) known.push(piece.piece);
    else kinds.set(key, [piece.piece]);
  }
  return [...kinds.values()].map((pieces) => ({ first: pieces[0]!, pieces }));
};
