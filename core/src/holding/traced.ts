import {
  boxCentre,
  boxHeight,
  boxOf,
  boxWidth,
  contourBox,
  flatten,
  offsetContours,
  polyline,
  roundedRectangle,
  transformContour,
  translation,
  type Contour,
  type Vec,
} from '../geometry';
import { fail, ok, type Result } from '../result';
import type { Mm } from '../units';
import type { Board, Slot } from './places';
import { MOST_MARKS, type MarkPlace } from '../marks';
import { markContours } from '../marks';
import type { SheetSettings } from './sheet-settings';
import type { TracedShape, TracedSheet } from '../trace';

const spread = (marks: readonly TracedShape[]): [TracedShape, TracedShape] | null => {
  let best: [TracedShape, TracedShape] | null = null;
  let most = 0;
  for (const a of marks)
    for (const b of marks) {
      const d = Math.hypot(a.at.x - b.at.x, a.at.y - b.at.y);
      // The first is the lower left one of the two.
      if (d > most && a.at.x + a.at.y <= b.at.x + b.at.y) {
        most = d;
        best = [a, b];
      }
    }
  return best;
};

/** A traced sheet's marks: the two farthest apart first, then the others in reading order. */
export const tracedMarks = ({ shapes }: TracedSheet): MarkPlace[] => {
  const marks = shapes.filter((s) => s.role === 'mark');
  const pair = spread(marks);
  if (!pair) return [];
  return [...pair, ...marks.filter((m) => !pair.includes(m))].map((m, i) => ({
    id: i + 1,
    at: m.at,
    role: i < 2 ? 'place' : 'check',
    look: m.look ?? { kind: 'dot', size: Math.max(boxWidth(contourBox(m.outline)), 1) },
  }));
};

/** The pieces that are to be cut out. */
export const tracedPieces = ({ shapes }: TracedSheet): readonly TracedShape[] =>
  shapes.filter((s) => s.role === 'piece');

const aboutItself = (shape: TracedShape): { centre: Vec; put: (c: Contour) => Contour } => {
  const centre = boxCentre(contourBox(shape.outline));
  return { centre, put: (c) => transformContour(translation(-centre.x, -centre.y), c) };
};

/** The printed outline of a traced piece and its holes, its own frame (about the middle of its box). */
export const tracedOutline = (shape: TracedShape): Contour[] => {
  const { put } = aboutItself(shape);
  return [put(shape.outline), ...shape.holes.map(put)];
};

/** Largest width and height of the pieces, mm. */
export const tracedSize = (traced: TracedSheet): { length: Mm; width: Mm } =>
  tracedPieces(traced).reduce(
    (s, p) => {
      const box = contourBox(p.outline);
      return { length: Math.max(s.length, boxWidth(box)), width: Math.max(s.width, boxHeight(box)) };
    },
    { length: 0, width: 0 },
  );

/**
 * A traced sheet as a board whose places are its pieces: each is cut along its own outline, inwards by
 * the inset, outwards by half the kerf so that it keeps its size; its holes the other way round.
 */
export const tracedBoard = (
  { name, inset, inner }: Pick<SheetSettings, 'inset' | 'inner'> & { readonly name: string },
  traced: TracedSheet,
  kerf: Mm,
  revision: number,
  bed: { width: Mm; height: Mm },
): Result<Board> => {
  const { width, height } = traced;
  const pieces = tracedPieces(traced);
  const marks = tracedMarks(traced);
  // Laid along or across; only the sheet's own edges decide whether it lies on the bed at all.
  if (
    Math.max(width, height) > Math.max(bed.width, bed.height) ||
    Math.min(width, height) > Math.min(bed.width, bed.height)
  )
    return fail(
      'board-too-large',
      `By its dots the sheet is ${width.toFixed(0)} × ${height.toFixed(0)} mm; the bed is ${bed.width} × ${bed.height} mm. Is its resolution right?`,
      'hold.sheet.traced',
    );
  if (pieces.length === 0)
    return fail('no-pieces', 'No shape of the sheet is to be cut out. Say which ones are pieces.', 'hold.sheet.traced');
  if (marks.length < 2)
    return fail(
      'too-few-marks',
      'A printed sheet is placed by two marks or more. Say which of its shapes are marks: anything with a middle that can be aimed at, far apart.',
      'hold.sheet.traced',
    );
  if (marks.length > MOST_MARKS)
    return fail(
      'too-many-marks',
      `${marks.length} shapes are marks; at most ${MOST_MARKS} are read. Leave some of them out.`,
      'hold.sheet.traced',
    );
  const by = kerf / 2 - inset;
  const grow = (c: Contour, d: Mm): Contour[] => (Math.abs(d) < 1e-9 ? [c] : offsetContours([c], d));
  const slots: Slot[] = [];
  const cuts: Contour[][] = [];
  for (const [i, piece] of pieces.entries()) {
    const { centre, put } = aboutItself(piece);
    const cut = grow(piece.outline, by);
    if (cut.length === 0)
      return fail(
        'nothing-left',
        `Piece ${i + 1} at ${centre.x.toFixed(0)}, ${centre.y.toFixed(0)} mm is too narrow for an inset of ${inset} mm: nothing of it is left.`,
        'hold.sheet.inset',
      );
    slots.push({ slot: i + 1, row: 0, column: i, angle: 0, centre });
    const holes = inner ? piece.holes.flatMap((h) => grow(h, -by)) : [];
    cuts.push([...holes, ...cut].map(put));
  }
  const size = tracedSize(traced);
  return ok({
    name,
    revision,
    thickness: 0,
    pocket: size,
    kerf,
    width,
    height,
    columns: pieces.length,
    rows: 1,
    turned: false,
    wall: 0,
    slots,
    marks,
    cuts,
    passes: [
      { name: 'marks', kind: 'line', contours: marks.flatMap(markContours) },
      { name: 'edge', kind: 'line', contours: [roundedRectangle({ x: width / 2, y: height / 2 }, width, height)] },
      {
        name: 'print',
        kind: 'fill',
        contours: pieces.flatMap((p) => [p.outline, ...p.holes]).map((c) => polyline(flatten(c), true)),
      },
      {
        name: 'pieces',
        kind: 'cut',
        contours: slots.flatMap((s, i) =>
          cuts[i]!.map((c) => transformContour(translation(s.centre.x, s.centre.y), c)),
        ),
      },
    ],
  });
};

/** Box about the middle of the largest piece, for the budget's lever. */
export const tracedBox = (traced: TracedSheet): ReturnType<typeof boxOf> => {
  const { length, width } = tracedSize(traced);
  return { minX: -length / 2, maxX: length / 2, minY: -width / 2, maxY: width / 2 };
};
