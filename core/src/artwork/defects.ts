import { boxUnion, comesInto, emptyBox, flatten, type Box, type Vec } from '../geometry';
import type { Zone } from '../holding';
import type { Mm, Ordinal } from '../units';
import { wholeArt, type LaidArt } from './content';
import { carriedOn, type ArtProblem, type BatchArt, type PieceArt } from './pieces';
import { zoneRoom } from './zone';

/** A knot, dark streak or dent to keep clear of; as seen on the face that lies up, blank frame, mm. */
export interface Defect extends Vec {
  readonly diameter: Mm;
}

/** What was seen on one piece before it was laid down. */
export interface PieceLook {
  /** Roster line, from 1. */
  readonly ordinal: Ordinal;
  /** The better face, which is engraved; null while nobody looked. */
  readonly side: 'one' | 'two' | null;
  readonly defects: readonly Defect[];
}

/** Air between art and a defect, mm [assumed]. */
const CLEAR: Mm = 0.5;
/** Steps in which art is moved out of a defect's way, mm. */
const STEP: Mm = 0.5;

const linesOf = (piece: PieceArt, zone: Zone): Box[] =>
  piece.set.lines.map((l) => ({
    minX: zone.x + l.origin.x,
    maxX: zone.x + l.origin.x + l.width,
    minY: zone.y + l.bottom,
    maxY: zone.y + l.top,
  }));

const touches = (box: Box, d: Defect, by: Vec): boolean => {
  const dx = Math.max(box.minX + by.x - d.x, 0, d.x - box.maxX - by.x);
  const dy = Math.max(box.minY + by.y - d.y, 0, d.y - box.maxY - by.y);
  return Math.hypot(dx, dy) < d.diameter / 2 + CLEAR;
};

/** Whether art that is moved by so much comes too near a defect. */
const artTouches = (laid: LaidArt, d: Defect, by: Vec): boolean => {
  const { box, framed } = laid;
  const { areas, lines, cuts } = wholeArt(laid);
  const disc = { x: d.x - by.x, y: d.y - by.y, diameter: d.diameter + 2 * CLEAR };
  return touches(box, d, by) && (framed || comesInto(disc, [...areas, ...lines, ...cuts], areas, 0));
};

/** Shifts within the zone, nearest first. */
const shiftsIn = (box: Box, zone: Zone): Vec[] => {
  const room = zoneRoom(zone);
  const x0 = zone.x - room.width / 2 - box.minX;
  const x1 = zone.x + room.width / 2 - box.maxX;
  const y0 = zone.y - room.height / 2 - box.minY;
  const y1 = zone.y + room.height / 2 - box.maxY;
  const out: Vec[] = [];
  for (let x = Math.ceil(x0 / STEP) * STEP; x <= x1; x += STEP)
    for (let y = Math.ceil(y0 / STEP) * STEP; y <= y1; y += STEP) out.push({ x, y });
  return out.sort((a, b) => Math.hypot(a.x, a.y) - Math.hypot(b.x, b.y));
};

/**
 * Moves each piece's art clear of its own defects: the least shift, in steps of half a millimetre,
 * that keeps it in its zone; a piece where no shift does is named.
 *
 * @param fits whether a line of art at a place is on the part of the blank that can be engraved
 */
export const avoidDefects = (
  art: BatchArt,
  zone: Zone,
  looks: readonly PieceLook[],
  fits: (box: Box) => boolean = () => true,
): BatchArt => {
  const seen = new Map(looks.filter((l) => l.defects.length > 0).map((l) => [l.ordinal, l]));
  if (seen.size === 0) return art;
  const problems: ArtProblem[] = [];
  const pieces = art.pieces.map((piece): PieceArt => {
    const look = seen.get(piece.piece);
    const carried = carriedOn(art, piece);
    if (!look || (piece.set.lines.length === 0 && carried.length === 0)) return piece;
    const lines = linesOf(piece, zone);
    const clear = (by: Vec): boolean =>
      look.defects.every(
        (d) => lines.every((l) => !touches(l, d, by)) && carried.every((l) => !artTouches(l, d, by)),
      ) &&
      ((by.x === 0 && by.y === 0) ||
        [...lines, ...carried.map((l) => l.box)].every((l) =>
          fits({ minX: l.minX + by.x, maxX: l.maxX + by.x, minY: l.minY + by.y, maxY: l.maxY + by.y }),
        ));
    if (clear({ x: 0, y: 0 })) return piece;
    const shift = shiftsIn(piece.box, zone).find(clear);
    if (!shift) {
      problems.push({
        piece: piece.piece,
        message: `Piece ${piece.piece}, “${piece.label}”: its defect lies under what it carries, and no place of ${zone.name} is clear of it. Turn it over, or give this name another piece.`,
      });
      return piece;
    }
    const { box } = piece;
    return {
      ...piece,
      shift,
      box: { minX: box.minX + shift.x, maxX: box.maxX + shift.x, minY: box.minY + shift.y, maxY: box.maxY + shift.y },
    };
  });
  return {
    ...art,
    pieces,
    problems: [...art.problems, ...problems],
    box: pieces.reduce((all, p) => boxUnion(all, p.box), emptyBox),
  };
};

/** Whether all that is burned of some art lies on a part of the blank. */
const artFits = (laid: LaidArt, by: Vec, fits: (box: Box) => boolean): boolean => {
  const { box, framed } = laid;
  const { areas, lines, cuts } = wholeArt(laid);
  const moved = (b: Box): Box => ({ minX: b.minX + by.x, maxX: b.maxX + by.x, minY: b.minY + by.y, maxY: b.maxY + by.y }); // prettier-ignore
  if (framed || fits(moved(box))) return fits(moved(box));
  return [...areas, ...lines, ...cuts].every((c) =>
    flatten(c).every((p) => fits(moved({ minX: p.x, maxX: p.x, minY: p.y, maxY: p.y }))),
  );
};

/** What all pieces carry alike, with what of it leaves the part of the blank that can be engraved, unless on purpose; what is wrong already is not said twice. */
export const laidOffUsable = ({ laid = [] }: BatchArt, fits: (box: Box) => boolean, over: string): readonly LaidArt[] =>
  laid.map((l) =>
    l.problems.length > 0 || l.content.over || artFits(l, { x: 0, y: 0 }, fits)
      ? l
      : { ...l, problems: [`${l.name} runs over ${over}.`] },
  );

/** Pieces whose lettering, or what they alone carry beside it, leaves the part of the blank that can be engraved. */
export const offUsable = (art: BatchArt, zone: Zone, fits: (box: Box) => boolean, over: string): ArtProblem[] => {
  const lain = new Map<LaidArt, boolean>();
  const still: Vec = { x: 0, y: 0 };
  const lies = (l: LaidArt, by: Vec): boolean => {
    // What is not moved lies alike on all pieces that carry it.
    if (by.x !== 0 || by.y !== 0) return artFits(l, by, fits);
    const found = lain.get(l) ?? artFits(l, still, fits);
    lain.set(l, found);
    return found;
  };
  return art.pieces.flatMap((piece): ArtProblem[] => {
    const by = piece.shift ?? still;
    const wrong = [
      ...(linesOf(piece, zone).every((l) =>
        fits({ minX: l.minX + by.x, maxX: l.maxX + by.x, minY: l.minY + by.y, maxY: l.maxY + by.y }),
      )
        ? []
        : ['the lettering']),
      ...(piece.own ?? []).filter((l) => l.problems.length === 0 && !l.content.over && !lies(l, by)).map((l) => l.name),
    ];
    return wrong.map((what) => ({
      piece: piece.piece,
      message: `Piece ${piece.piece}, “${piece.label}”: ${what} runs over ${over}.`,
    }));
  });
};
