import {
  apply,
  boxContains,
  boxesMeet,
  boxUnion,
  compose,
  convexHull,
  emptyBox,
  flatten,
  type Box,
  type Contour,
  type Transform,
  type Vec,
} from '../geometry';
import { slotTransform, type Blank, type Slot, type Zone } from '../holding';
import {
  fitLettering,
  letteringLines,
  type Alphabet,
  type Lettering,
  type LineStyle,
  type PieceLettering,
} from '../lettering';
import { addFill, addLines, type BurnSetting, type Moves } from '../burn';
import { movedPicture, pictureRim, type ZonePicture } from '../picture';
import type { Mm, Share, Ordinal } from '../units';
import type { LaidArt } from './content';
import { keepOutBox, rectBox, zoneRoom } from './zone';

/** One line of text of a zone, as chosen by the operator. */
export interface LineChoice {
  /** Roster column that fills it. */
  readonly column: string;
  readonly alphabet: string;
  readonly capHeight: Mm;
}

export interface LetteringSettings {
  readonly lines: readonly LineChoice[];
  readonly gap: Mm;
  readonly narrowest: Share;
  readonly smallest: Mm;
}

/** What a piece carries: its texts as set, and the room they take in the blank's frame. */
export interface PieceArt {
  /** Roster line, from 1. */
  readonly piece: Ordinal;
  readonly label: string;
  readonly set: PieceLettering;
  readonly box: Box;
  /** What it alone carries beside its lettering. */
  readonly own?: readonly LaidArt[];
  /** Moved by so much to keep clear of a defect of this piece, mm. */
  readonly shift?: Vec;
}

/** The lines and areas that are burned on one piece, in the blank's frame, mm. */
export interface PieceShapes {
  readonly filled: readonly (readonly Vec[])[];
  readonly drawn: readonly (readonly Vec[])[];
  /** What is cut through it; closed lines come back to their start. */
  readonly cut?: readonly (readonly Vec[])[];
  /** What of it is burned by other recipes than the batch’s; not in the rest. */
  readonly apart?: readonly {
    readonly recipeId: string;
    readonly filled: readonly (readonly Vec[])[];
    readonly drawn: readonly (readonly Vec[])[];
    readonly cut: readonly (readonly Vec[])[];
  }[];
  /** What of it is burned as dots. */
  readonly pictures?: readonly ZonePicture[];
}

/** Most pieces whose art is remarked on; the gate looks at all that lie on the bed. */
export const NAMED_PIECES = 200;

/** Text and shape of a piece that is wrong before anything burns. */
export interface ArtProblem {
  readonly piece: Ordinal;
  readonly message: string;
}

export interface BatchArt {
  readonly pieces: readonly PieceArt[];
  readonly lettering: Lettering;
  readonly styles: readonly LineStyle[];
  readonly problems: readonly ArtProblem[];
  /** What every piece carries beside its lettering. */
  readonly laid?: readonly LaidArt[];
  /** Everything any piece carries, blank frame; empty box when there is no art. */
  readonly box: Box;
}

const keepOutsOf = (blank: Blank, zone: Zone): { name: string; box: Box }[] => [
  ...zone.keepOuts.map((k, i) => ({
    name: `keep-out ${i + 1}`,
    box: keepOutBox(zone, k),
  })),
  ...blank.holes.map((h, i) => ({
    name: `hole ${i + 1}`,
    box: rectBox({ x: h.x, y: h.y, width: h.diameter, height: h.diameter }),
  })),
];

/**
 * Sets the roster into the zone of a blank, piece by piece.
 *
 * @param rows roster fields by column, one row a piece
 * @param alphabets by id; a line whose alphabet is absent is left out and named
 */
export const batchArt = (
  blank: Blank,
  zone: Zone,
  settings: LetteringSettings,
  rows: readonly Readonly<Record<string, string>>[],
  alphabets: Readonly<Record<string, Alphabet>>,
): BatchArt => {
  const usable = settings.lines.filter((l) => alphabets[l.alphabet]);
  const styles = usable.map((l) => ({ column: l.column, alphabet: alphabets[l.alphabet]!, capHeight: l.capHeight }));
  const room = zoneRoom(zone);
  const texts = rows.map((row) => usable.map((l) => row[l.column] ?? ''));
  const lettering = fitLettering(styles, texts, {
    ...room,
    gap: settings.gap,
    narrowest: settings.narrowest,
    smallest: settings.smallest,
    across: zone.across,
    down: zone.down,
  });
  const problems: ArtProblem[] = lettering.exceptions
    .filter((e) => e.kind === 'missing-glyph' || e.kind === 'does-not-fit')
    .map((e) => ({ piece: e.piece, message: e.message }));
  const inside = rectBox({ ...zone, width: room.width, height: room.height });
  const avoid = keepOutsOf(blank, zone);
  let all = emptyBox;
  const pieces = lettering.pieces.map((set, index): PieceArt => {
    let box = emptyBox;
    for (const l of set.lines) {
      box = boxUnion(box, {
        minX: zone.x + l.origin.x,
        maxX: zone.x + l.origin.x + l.width,
        minY: zone.y + l.bottom,
        maxY: zone.y + l.top,
      });
    }
    all = boxUnion(all, box);
    const label = texts[index]!.filter((t) => t.trim() !== '').join(' · ');
    if (set.lines.length > 0) {
      if (!boxContains(inside, box, 0.01))
        problems.push({
          piece: index + 1,
          message: `Piece ${index + 1}, “${label}”: the lettering leaves ${zone.name}.`,
        });
      for (const k of avoid)
        if (boxesMeet(box, k.box))
          problems.push({
            piece: index + 1,
            message: `Piece ${index + 1}, “${label}”: the lettering runs into ${k.name}.`,
          });
    }
    return { piece: index + 1, label, set, box };
  });
  return { pieces, lettering, styles, problems, box: all };
};

/** A contour as one line; a closed one comes back to its start. */
const lineOf = (c: Contour): readonly Vec[] => {
  const points = flatten(c);
  return c.closed && points.length > 0 ? [...points, points[0]!] : points;
};

/** What a piece carries beside its lettering. */
export const carriedOn = (art: BatchArt, piece: Pick<PieceArt, 'own'>): readonly LaidArt[] => [
  ...(art.laid ?? []),
  ...(piece.own ?? []),
];

/** The polylines of one piece, in the blank's frame. */
export const pieceShapes = (art: BatchArt, zone: Zone, piece: PieceArt): PieceShapes => {
  const filled: Vec[][] = [];
  const drawn: Vec[][] = [];
  const x = zone.x + (piece.shift?.x ?? 0);
  const y = zone.y + (piece.shift?.y ?? 0);
  for (const { points, filled: solid } of letteringLines(art.styles, piece.set)) {
    (solid ? filled : drawn).push(points.map((p) => ({ x: p.x + x, y: p.y + y })));
  }
  const carried = carriedOn(art, piece);
  if (carried.length === 0) return { filled, drawn };
  const moved = (lines: readonly Contour[]): Vec[][] => lines.map((c) => lineOf(c).map((p) => ({ x: p.x + x - zone.x, y: p.y + y - zone.y }))); // prettier-ignore
  for (const { areas, lines } of carried) {
    filled.push(...moved(areas));
    drawn.push(...moved(lines));
  }
  const pictures = carried.flatMap((l) =>
    l.picture ? [movedPicture(l.picture, { x: x - zone.x, y: y - zone.y })] : [],
  );
  const apart = carried.flatMap((l) => (l.apart ?? []).map((a) => ({ recipeId: a.recipeId, filled: moved(a.areas), drawn: moved(a.lines), cut: moved(a.cuts) }))); // prettier-ignore
  return {
    filled,
    drawn,
    cut: carried.flatMap((l) => moved(l.cuts)),
    ...(apart.length > 0 ? { apart } : {}),
    ...(pictures.length > 0 ? { pictures } : {}),
  };
};

/** All that is burned on a piece, whichever recipe it goes by. */
export const allShapes = ({ apart = [], ...shapes }: PieceShapes): PieceShapes =>
  apart.length === 0
    ? shapes
    : {
        ...shapes,
        filled: [...shapes.filled, ...apart.flatMap((a) => a.filled)],
        drawn: [...shapes.drawn, ...apart.flatMap((a) => a.drawn)],
        cut: [...(shapes.cut ?? []), ...apart.flatMap((a) => a.cut)],
      };

/** A piece in its slot, with what is burned on it. */
export interface PlacedPiece {
  readonly label: string;
  readonly shapes: PieceShapes;
  readonly slot: Slot;
}

/** Points that bound the art of a set of placed pieces, machine bed frame. */
export const artOutline = (placed: readonly PlacedPiece[], placement: Transform): Vec[] => {
  const points: Vec[] = [];
  for (const { shapes: own, slot } of placed) {
    const shapes = allShapes(own);
    const m = compose(placement, slotTransform(slot));
    for (const line of [...shapes.filled, ...shapes.drawn, ...(shapes.cut ?? [])])
      for (const p of line) points.push(apply(m, p));
    for (const p of shapes.pictures ?? []) points.push(...pictureRim(p, m));
  }
  return convexHull(points);
};

/**
 * Head moves that engrave a load. Pieces of one board row are swept together when `sweep` is
 * `row`, one at a time when it is `piece`.
 *
 * @param pictures what of pictures is in it: the whole of their areas, for times and outlines, or nothing of them
 */
export const engraveLoad = (
  moves: Moves,
  placed: readonly PlacedPiece[],
  placement: Transform,
  setting: BurnSetting,
  acceleration: number,
  sweep: 'piece' | 'row',
  pictures: 'whole' | 'none' = 'whole',
): void => {
  const groups = new Map<number, Vec[][]>();
  const strokes: Vec[][] = [];
  for (const { shapes, slot } of placed) {
    const m = compose(placement, slotTransform(slot));
    const key = sweep === 'row' ? slot.row : slot.slot;
    const group = groups.get(key) ?? [];
    for (const line of shapes.filled) group.push(line.map((p) => apply(m, p)));
    if (pictures === 'whole') for (const p of shapes.pictures ?? []) group.push(pictureRim(p, m));
    groups.set(key, group);
    for (const line of shapes.drawn) strokes.push(line.map((p) => apply(m, p)));
  }
  for (const polygons of groups.values()) addFill(moves, polygons, setting, acceleration);
  addLines(
    moves,
    strokes.map((s) => ({ closed: false, vertices: s })),
    setting,
  );
};
