import { reckonBudget, type Budget, type BudgetInput } from '../../budget';
import { axesLeft } from '../../burn';
import {
  apply,
  boxCorners,
  circle,
  flatten,
  identity,
  rigid,
  roundedRectangle,
  transformContour,
  translation,
  type Box,
  type Contour,
} from '../../geometry';
import {
  bareBed,
  blankOutline,
  panelCut,
  boardOfOne,
  fixtureBasis,
  reckonHeights,
  plainPlace,
  slotTransform,
  type Board,
  type Slot,
  usableArea,
} from '../../holding';
import { type MarkPlace, markSpread } from '../../marks';
import { liesOver } from '../../nest';
import {
  parallax,
  PHOTO_MARK,
  PHOTO_RING,
  photoField,
  photoMarks,
  SHEET_INSET,
  type PhotoMark,
  type PhotoFindings,
} from '../../photo';
import type { Problem } from '../../result';
import { runSummary } from '../../runs';
import { type Mm, nth } from '../../units';
import {
  headOver,
  secondInBudget,
  artOnPieces,
  noFixings,
  heldAs,
  type Held,
  type BatchInput,
  reckonPlace,
  piecesOnBoard,
  type BatchReckoning,
  type ReckonOptions,
  type Remark,
} from '../../setup';
import { aimingGrowth, begin, cornersOffBed, artWarnings, type Begun } from '../flat';

/** Discs and rings as they are burned or printed for the camera. */
export const photoMarkContours = (marks: readonly PhotoMark[]): Contour[] =>
  marks.flatMap((m) => [circle(m, PHOTO_MARK / 2), ...(m.ring ? [circle(m, PHOTO_RING / 2)] : [])]);

/** Standard uncertainty of a blank's place, per axis: before a photograph [assumed], and at best, mm. */
const UNSEEN: Mm = 0.2;
const SHARPEST: Mm = 0.05;

const slotsOf = ({ blanks }: PhotoFindings): Slot[] =>
  blanks.map((f, i) => ({ slot: i + 1, row: i, column: 0, angle: f.angle, centre: { x: f.x, y: f.y } }));

const problemOf = ({ choice, found }: Held<'photo'>): Problem | null =>
  found.blanks.length === 0
    ? {
        code: 'no-photo',
        message:
          choice.use === 'offcuts'
            ? 'Lay the offcuts on the bed between the marks, photograph all of it, and let the parts be laid into them.'
            : 'Lay the blanks on the bed between the marks, and take a photograph of all of it.',
        field: 'hold.photo',
      }
    : null;

/** Places of the photograph on which nothing was burned yet, in reading order. */
export const freePlaces = (input: Pick<BatchInput, 'pieces'>, { afterLoad, blanks }: PhotoFindings): number[] => {
  const used = new Set(input.pieces.filter((p) => p.load > afterLoad).map((p) => p.slot));
  return blanks.flatMap((_, i) => (used.has(i + 1) ? [] : [i + 1]));
};

/** Places whose parts lie over a defect of the stock. */
const overDefects = (
  { blanks, offcuts }: PhotoFindings,
  outline: readonly Contour[],
  free: readonly number[],
): number[] => {
  const shape = flatten(outline[0]!, 0.2);
  return free.filter((slot) => {
    const f = nth(blanks, slot)!;
    const m = rigid(f.angle, f.x, f.y);
    const part = shape.map((p) => apply(m, p));
    return offcuts.some((o) => o.defects.some((d) => liesOver(part, d)));
  });
};

/** Crosses of a sheet that the pointer is laid on: beside the camera's marks in three corners, the third to check. */
const aimedAt = ({ width, height }: { readonly width: Mm; readonly height: Mm }): MarkPlace[] => {
  const [x, y] = [SHEET_INSET + 28, SHEET_INSET];
  return [
    { x, y },
    { x: width - x, y: height - y },
    { x: width - x, y },
  ].map((at, i) => ({ id: i + 1, at, role: i < 2 ? 'place' : 'check', look: { kind: 'cross', size: 10 } }));
};

/** What the photograph is reckoned from: pieces as large as they are or drawn, and the art of the face that lies up. */
interface Seen extends Begun {
  readonly held: Held<'photo'>;
  /** Parts are cut out of offcuts; else blanks are engraved as they are. */
  readonly parts: boolean;
  /** The camera’s marks are on a printed sheet, which is aimed at; else the machine burned them. */
  readonly onSheet: boolean;
  readonly field: { readonly width: Mm; readonly height: Mm };
  readonly marks: readonly PhotoMark[];
  readonly slots: readonly Slot[];
  readonly outline: readonly Contour[];
  readonly artBox: Box;
}

const seenBy = (input: BatchInput, options: ReckonOptions): Seen => {
  const held = heldAs(input, 'photo');
  const { choice, found } = held;
  const parts = choice.use === 'offcuts';
  const begun = begin(input, options, parts);
  const { sizes, set } = begun;
  const { bed } = input.machine;
  const half = { x: sizes.length.mean / 2, y: sizes.width.mean / 2 };
  return {
    ...begun,
    held,
    parts,
    onSheet: choice.marksOn === 'sheet',
    field: photoField(choice, bed),
    marks: photoMarks(choice, bed),
    slots: slotsOf(found),
    outline: blankOutline(input.blank, sizes),
    artBox:
      set && set.box.minX <= set.box.maxX ? set.box : { minX: -half.x, maxX: half.x, minY: -half.y, maxY: half.y },
  };
};

/** The bed, or the sheet, with every blank that was found; null while nothing is seen and nothing aimed at. */
const boardOf = ({ held, parts, onSheet, field, marks, slots, outline }: Seen): Board | null => {
  if (slots.length === 0 && !onSheet) return null;
  const edge = roundedRectangle({ x: field.width / 2, y: field.height / 2 }, field.width, field.height);
  const pieces = slots.flatMap((s) => outline.map((c) => transformContour(slotTransform(s), c)));
  const size = { length: field.width, width: field.height };
  return {
    ...boardOfOne(size, held.choice.name, 1, onSheet ? aimedAt(field) : [], [
      { name: 'edge', kind: 'line', contours: [edge] },
      { name: 'pieces', kind: parts ? 'cut' : 'line', contours: pieces },
      { name: 'marks', kind: 'line', contours: photoMarkContours(marks) },
    ]),
    slots,
  };
};

/** How far off the middle of each blank is seen, and its turn, standard; nothing is seen better than the sharpest. */
const seenWithin = ({ held: { found } }: Seen): NonNullable<BudgetInput['seen']> =>
  found.blanks.length === 0
    ? [{ shift: UNSEEN, turn: 0 }]
    : found.blanks.map(({ doubt, turn, foot }) => ({ shift: Math.max(SHARPEST, doubt), turn, foot: foot ?? 0 }));

const budgetOf = (
  input: BatchInput,
  seen: Seen,
  { pocket, board, place }: Pick<BatchReckoning, 'pocket' | 'board' | 'place'>,
  pieces: number,
): Budget => {
  const { sizes, slots, onSheet, field, marks, artBox } = seen;
  return reckonBudget({
    tolerance: input.tolerance,
    art: artBox,
    lies: 'drawn',
    // Each piece was seen itself: what it is larger or smaller moves nothing.
    sizes: { ...sizes, length: { ...sizes.length, spread: 0 }, width: { ...sizes.width, spread: 0 } },
    pocket,
    slots: slots.length > 0 ? slots : [{ slot: 1, row: 0, column: 0, angle: 0, centre: { x: 50, y: 50 } }],
    // Marks that the machine burned itself are not aimed at; those of a sheet are.
    marks: markSpread((onSheet ? aimedAt(field).map((m) => m.at) : marks).map(({ x, y }) => ({ x, y }))),
    sigma: onSheet ? place.sigma : 0,
    aimingGrowth: onSheet && board ? aimingGrowth(board, place) : 1,
    pointer: onSheet ? place.pointer : { status: 'measured', uncertainty: 0 },
    repeatability: input.machine.repeatability,
    second: secondInBudget(input),
    outline: 0,
    seen: seenWithin(seen),
    axes: { ...axesLeft(input.machine), from: 'piece' },
    leftoverAngle: 0,
    pieces,
    seed: 20_260,
  });
};

/** What is wrong with how parts and blanks lie. */
const lyingWarnings = (over: readonly number[]): Remark[] => [
  ...(over.length > 0
    ? [
        {
          station: 'hold',
          message: `${over.length === 1 ? `Part ${over[0]} lies` : `Parts ${over.slice(0, 8).join(', ')} lie`} over a defect: lay them anew.`,
          danger: 'zone' as const,
        },
      ]
    : []),
];

/** Everything that follows where blanks lie anywhere and a photograph says where. */
export const photoBatch = (input: BatchInput, options: ReckonOptions): BatchReckoning => {
  const seen = seenBy(input, options);
  const { held, sizes, face, parts, onSheet, field, marks, slots, outline, artBox } = seen;
  const { choice, found } = held;
  const { bed, kerf } = input.machine;
  const pocket = plainPlace(sizes);
  const board = boardOf(seen);
  const free = freePlaces(input, found);
  const summary = runSummary({
    quantity: input.quantity,
    spares: input.spares,
    capacity: Math.max(free.length, 1),
    firstApproved: input.firstApproved,
    pieces: input.pieces,
  });
  // The first piece alone until it is approved; then every place that is free.
  const next = slots.filter((x) => free.includes(x.slot)).slice(0, input.firstApproved ? undefined : 1);
  const onTheBoard = board
    ? piecesOnBoard(input, { ...board, slots: summary.openLoad === null ? next : slots }, summary)
    : [];
  const asks = found.blanks.filter((f) => f.ask).length;
  const over = parts ? overDefects(found, outline, free) : [];
  const art = artOnPieces(input, seen.set, face.zone, parts ? null : usableArea(outline, 0, 0));
  const artCorners = slots.flatMap((s) => boxCorners(artBox).map((c) => apply(slotTransform(s), c)));
  // Paper lies on the bed, blanks on it: their tops are in focus.
  const place = reckonPlace(input, true, onSheet ? board : null, artCorners, options.now, 0, -sizes.thickness.mean);
  const boardToBed = !onSheet
    ? identity
    : (place.placement?.transform ?? translation((bed.width - field.width) / 2, (bed.height - field.height) / 2));
  const offBed = onSheet && !place.placement ? [] : cornersOffBed(onTheBoard, artBox, boardToBed, input);
  return {
    sizes,
    questions: [],
    pocket,
    basis: fixtureBasis(input.blank, sizes, pocket),
    board,
    boardProblem: problemOf(held),
    outOfDate: [],
    heights: reckonHeights(sizes.thickness.mean, bareBed(seen.beside), headOver(input), artCorners),
    zone: face.zone,
    art,
    artBox,
    place,
    boardToBed,
    placed: slots.length > 0 && asks === 0 && over.length === 0 && (!onSheet || place.placement !== null),
    budget: budgetOf(input, seen, { pocket, board, place }, options.simulatedPieces),
    run: summary,
    planned: [],
    onTheBoard,
    face,
    warnings: [...lyingWarnings(over), ...offBed.map((w) => ({ ...w, station: 'hold' })), ...artWarnings(art)],
    fixings: noFixings,
    own: {
      cutOut: parts ? { lines: panelCut(face.blank, sizes, kerf), when: 'at once' } : null,
      photo: {
        marks,
        field,
        onSheet,
        parts,
        asks,
        over,
        found: found.blanks.length,
        free: free.length,
        forgotten: parallax(Math.hypot(bed.width, bed.height) / 2, sizes.thickness.mean, choice.cameraHeight),
      },
    },
  };
};
