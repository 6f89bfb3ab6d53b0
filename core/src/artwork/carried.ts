import { boxUnion, clipAreas, coveredArea, emptyBox } from '../geometry';
import type { Zone } from '../holding';
import { listed } from '../working';
import { overRect, type LaidArt } from './content';
import type { ArtProblem, BatchArt, PieceArt } from './pieces';

/** Most pieces that are named for one thing. */
const NAMED = 200;

/** Lettering that lies over art, piece by piece: where both are filled nothing would be burned. */
const overArt = (art: BatchArt, zone: Zone, laid: readonly LaidArt[]): ArtProblem[] => {
  const out: ArtProblem[] = [];
  for (const l of laid)
    for (const { piece, label, set } of art.pieces) {
      if (out.length >= NAMED) return out;
      const over = set.lines.some((t) => overRect(l, { minX: zone.x + t.origin.x, maxX: zone.x + t.origin.x + t.width, minY: zone.y + t.bottom, maxY: zone.y + t.top })); // prettier-ignore
      if (over) out.push({ piece, message: `Piece ${piece}, “${label}”: the lettering runs into ${l.artwork.name}. Move one of them, or make it smaller.` }); // prettier-ignore
    }
  return out;
};

/** Art that lies over other art: each is told of the ones before it. */
const overEachOther = (laid: readonly LaidArt[]): readonly LaidArt[] =>
  laid.map((l, i) => {
    const under = laid.slice(0, i).filter((o) => coveredArea(clipAreas(l.areas, o.areas)) > 0.01);
    return under.length === 0
      ? l
      : { ...l, problems: [...l.problems, `${l.artwork.name} lies over ${listed(under.map((o) => o.artwork.name))}. Move one of them, or make it smaller.`] }; // prettier-ignore
  });

/**
 * Lettering with art beside it, which every piece carries. Pieces that no list names are there all the same when they carry
 * art and nothing of the list is asked for.
 *
 * @param zone that the lettering is set in
 * @param count how many pieces there are
 */
export const withArt = (art: BatchArt, zone: Zone, each: readonly LaidArt[], count: number): BatchArt => {
  if (each.length === 0) return art;
  const laid = overEachOther(each);
  const all = laid.reduce((b, l) => boxUnion(b, l.box), emptyBox);
  const unnamed = art.styles.length > 0 ? 0 : Math.max(0, count - art.pieces.length);
  const names = laid.map((l) => l.artwork.name).join(' · ');
  const pieces: PieceArt[] = [
    ...art.pieces.map((p) => ({ ...p, box: boxUnion(p.box, all) })),
    ...Array.from({ length: unnamed }, (_, i) => ({ piece: art.pieces.length + i + 1, label: names, set: { lines: [] }, box: all })), // prettier-ignore
  ];
  return {
    ...art,
    pieces,
    laid,
    problems: [...art.problems, ...overArt(art, zone, laid)],
    box: boxUnion(art.box, all),
  };
};
