import { boxUnion, clipAreas, coveredArea, emptyBox, type Box } from '../geometry';
import type { Zone } from '../holding';
import { listed } from '../working';
import { overRect, wholeArt, type LaidArt } from './content';
import type { Carried } from './each';
import type { Mm } from '../units';
import type { ArtProblem, BatchArt, PieceArt } from './pieces';

/** Lettering that lies over art of its piece: where both are filled nothing would be burned. */
const overArt = ({ piece, label, set }: PieceArt, zone: Zone, carried: readonly LaidArt[]): ArtProblem[] =>
  carried
    .filter((l) =>
      set.lines.some((t) => {
        const line = { minX: zone.x + t.origin.x, maxX: zone.x + t.origin.x + t.width, minY: zone.y + t.bottom, maxY: zone.y + t.top }; // prettier-ignore
        return meet(l.box, line) && (l.framed || overRect(wholeArt(l), line));
      }),
    )
    .map((l) => ({ piece, message: `Piece ${piece}, “${label}”: the lettering runs into ${l.name}. Move one of them, or make it smaller.` })); // prettier-ignore

const meet = (a: Box, b: Box): boolean =>
  Math.min(a.maxX, b.maxX) - Math.max(a.minX, b.minX) > 0.01 && Math.min(a.maxY, b.maxY) - Math.max(a.minY, b.minY) > 0.01; // prettier-ignore

/** Whether one thing in a zone lies over another. */
const overlie = (a: LaidArt, b: LaidArt): boolean => {
  if (!meet(a.box, b.box)) return false;
  if (a.framed && b.framed) return true;
  if (a.framed) return overRect(wholeArt(b), a.box);
  if (b.framed) return overRect(wholeArt(a), b.box);
  return coveredArea(clipAreas(wholeArt(a).areas, wholeArt(b).areas)) > 0.01;
};

/** Tells each thing of the ones before it that it lies over; the same two are compared once. */
class Heap {
  private readonly known = new WeakMap<LaidArt, WeakMap<LaidArt, boolean>>();

  private over(a: LaidArt, b: LaidArt): boolean {
    const of = this.known.get(a) ?? new WeakMap<LaidArt, boolean>();
    this.known.set(a, of);
    const found = of.get(b) ?? overlie(a, b);
    of.set(b, found);
    return found;
  }

  /** In a sentence, or nothing. */
  under(l: LaidArt, before: readonly LaidArt[]): string | null {
    const under = before.filter((o) => this.over(l, o));
    return under.length === 0
      ? null
      : `${l.name} lies over ${listed(under.map((o) => o.name))}. Move one of them, or make it smaller.`;
  }
}

/** What reaches over the edge of its piece on purpose, each by its name, and how far. */
export const overEdge = (art: BatchArt | null): readonly { readonly name: string; readonly by: Mm }[] => {
  const all = new Map<string, Mm>();
  for (const l of [...(art?.laid ?? []), ...(art?.pieces ?? []).flatMap((p) => p.own ?? [])])
    if (l.beyond !== undefined) all.set(l.name, Math.max(l.beyond, all.get(l.name) ?? 0));
  return [...all].map(([name, by]) => ({ name, by }));
};

const namesOf = (carried: readonly LaidArt[]): string => carried.map((l) => l.text ?? l.name).join(' · ');

/**
 * Lettering with what the zones carry beside it. Pieces that no list names are there all the same when they carry something
 * and nothing of the list is asked for.
 *
 * @param zone that the lettering is set in
 * @param count how many pieces there are
 */
export const withArt = (art: BatchArt, zone: Zone, { each, own, problems }: Carried, count: number): BatchArt => {
  if (each.length === 0 && own.length === 0) return { ...art, problems: [...art.problems, ...problems] };
  const heap = new Heap();
  const laid = each.map((l, i) => {
    const over = heap.under(l, each.slice(0, i));
    return over ? { ...l, problems: [...l.problems, over] } : l;
  });
  const all = laid.reduce((b, l) => boxUnion(b, l.box), emptyBox);
  const found: ArtProblem[] = [];
  const pieceWith = (p: PieceArt): PieceArt => {
    const mine = own[p.piece - 1] ?? [];
    const label = p.label || namesOf([...mine, ...laid]);
    const over = mine.flatMap((l, i) => heap.under(l, [...each, ...mine.slice(0, i)]) ?? []);
    const wrong = [...new Set([...mine.flatMap((l) => l.problems), ...over])];
    found.push(...wrong.map((message) => ({ piece: p.piece, message: `Piece ${p.piece}, “${label}”: ${message}` })));
    found.push(...overArt({ ...p, label }, zone, [...laid, ...mine]));
    const box = mine.reduce((b, l) => boxUnion(b, l.box), boxUnion(p.box, all));
    return { ...p, label, box, ...(mine.length > 0 ? { own: mine } : {}) };
  };
  const unnamed = art.styles.length > 0 ? 0 : Math.max(0, count - art.pieces.length);
  const pieces = [
    ...art.pieces.map(pieceWith),
    ...Array.from({ length: unnamed }, (_, i) => pieceWith({ piece: art.pieces.length + i + 1, label: '', set: { lines: [] }, box: emptyBox })), // prettier-ignore
  ];
  return {
    ...art,
    pieces,
    laid,
    problems: [...art.problems, ...problems, ...found],
    box: pieces.reduce((b, p) => boxUnion(b, p.box), art.box),
  };
};
