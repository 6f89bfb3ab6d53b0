import { batchArt } from '../../artwork';
import {
  boxCorners,
  flatten,
  apply,
  centroid,
  identity,
  rigid,
  type Box,
  type Contour,
  type Vec,
} from '../../geometry';
import {
  asymmetryProblem,
  blankOutline,
  blankSizes,
  cutFromSheet,
  fixtureBasis,
  nominalSize,
  outOfDate,
  panelCut,
  panelHolds,
  printedSizes,
  reckonBoard,
  reckonHeights,
  reckonPocket,
  slotTransform,
  tracedBox,
  turnedBoard,
  laidToLines,
  type Board,
} from '../../holding';
import { markSpread, squarePlacement } from '../../marks';
import { reckonBudget } from '../../budget';
import type { Result } from '../../result';
import { plannedLoads, plannedSheets, runSummary } from '../../runs';
import { dimensionQuestions, type Question } from '../../samples';
import {
  faceUp,
  artOnPieces,
  bowLeft,
  cardOff,
  fixingsAsThings,
  laidBy,
  linesOf,
  locatorOf,
  pinsAndStand,
  turnedOver,
  type Fixings,
  effectiveHold,
  type BatchInput,
  reckonPlace,
  type BatchReckoning,
  piecesOnBoard,
  type ReckonOptions,
} from '../../setup';
import { aimingGrowth, bleedWarning, cornersOffBed, existingPocket } from './parts';

export const questionsOf = (input: BatchInput): Question[] => {
  const nominal = nominalSize(input.blank.shape);
  const limit = Math.max(input.machine.bed.width, input.machine.bed.height);
  const { samples } = input.blank;
  return [
    ...dimensionQuestions('length', nominal.length, samples.length, limit),
    ...(input.blank.shape.kind === 'disc' ? [] : dimensionQuestions('width', nominal.width, samples.width, limit)),
    ...dimensionQuestions('thickness', input.blank.thickness, samples.thickness, limit),
  ];
};

/** Each piece's cut as closed lines; pieces that are cut alike share theirs. */
export const cutLines = (board: Board | null): readonly (readonly (readonly Vec[])[])[] => {
  const made = new Map<readonly Contour[], readonly (readonly Vec[])[]>();
  return (board?.cuts ?? []).map((cut) => {
    const known = made.get(cut);
    if (known) return known;
    const lines = cut.map((c) => {
      const points = flatten(c, 0.005);
      return [...points, points[0]!];
    });
    made.set(cut, lines);
    return lines;
  });
};

/**
 * Everything that follows for pieces on a board or a sheet.
 *
 * @param firstAlone whether one piece is burned alone until it is approved
 */
export const flatBatch = (input: BatchInput, options: ReckonOptions, firstAlone: boolean): BatchReckoning => {
  const hold = effectiveHold(input);
  const measured = blankSizes(input.blank, hold.coverage, hold.confidence);
  const sheet = hold.method === 'sheet';
  const panel = panelHolds(hold);
  const whole = cutFromSheet(hold.method);
  const sizes = whole ? printedSizes(input.blank, measured) : measured;
  const face = faceUp(input, sizes);
  const { zone } = face;
  const inHoles = panel && hold.panel.carry === 'holes';
  // A piece that turns in its own hole has a kerf to move in.
  const wanted = reckonPocket(
    input.blank,
    sizes,
    inHoles ? { ...hold, method: 'nest', clearance: { school: 'own', total: input.machine.kerf } } : hold,
  );
  const basis = fixtureBasis(input.blank, sizes, wanted);
  const cut = input.fixture;
  // A board that exists keeps its pockets, whatever the samples say since.
  const pocket = cut && !whole && !laidToLines(hold.method) ? existingPocket(input, sizes, wanted, cut.basis) : wanted;
  const labels = options.alphabets[options.labels];
  const plain = zone
    ? (options.art ?? batchArt)(face.blank, zone, face.lettering, input.roster, options.alphabets)
    : null;
  const nominal = nominalSize(input.blank.shape);
  const half = { x: nominal.length / 2, y: nominal.width / 2 };
  const traced = sheet ? hold.sheet.traced : null;
  const artBox: Box = traced
    ? tracedBox(traced)
    : whole && hold.method !== 'marked'
      ? { minX: -half.x, maxX: half.x, minY: -half.y, maxY: half.y }
      : plain && plain.box.minX <= plain.box.maxX
        ? plain.box
        : zone
          ? {
              minX: zone.x - zone.width / 2 + zone.margin,
              maxX: zone.x + zone.width / 2 - zone.margin,
              minY: zone.y - zone.height / 2 + zone.margin,
              maxY: zone.y + zone.height / 2 - zone.margin,
            }
          : { minX: -nominal.length / 2, maxX: nominal.length / 2, minY: -nominal.width / 2, maxY: nominal.width / 2 };
  const toLines = hold.method === 'lines' ? linesOf(input, hold, sizes, artBox) : null;
  const onGrid = hold.method === 'locator' && labels ? locatorOf(input, hold, sizes, labels) : null;
  const lines = toLines?.ok ? toLines.value : null;
  const locator = onGrid?.ok ? onGrid.value.locator : null;
  const made: Result<Board> = !labels
    ? { ok: false, problem: { code: 'no-labels', message: 'The alphabet for labels is still loading.' } }
    : onGrid
      ? onGrid.ok
        ? { ok: true, value: onGrid.value.board }
        : onGrid
      : toLines && !toLines.ok
        ? toLines
        : reckonBoard(
            input.blank,
            sizes,
            pocket,
            lines ? { ...hold, notches: 'none' } : hold,
            input.machine,
            cut?.revision ?? 1,
            labels,
            lines?.lines ?? null,
          );
  const first = made.ok ? made.value : null;
  const board = first && face.side === 'back' ? turnedBoard(first, hold.panel) : first;
  const art = artOnPieces(input, plain, zone, lines?.usable ?? null);
  const slots = board?.slots ?? [];
  const artCorners = slots.flatMap((s) => boxCorners(artBox).map((c) => apply(slotTransform(s), c)));
  // On its first side a panel has no marks yet: that file makes them.
  const place = reckonPlace(
    input,
    hold,
    (panel && face.side === 'front') || locator ? null : board,
    artCorners,
    options.now,
    0,
    // Focus lies on the blank; a board's marks are on the board.
    whole ? 0 : (laidToLines(hold.method) ? 0 : hold.boardThickness) - sizes.thickness.mean,
  );
  // A print may be stretched, which no turning of the work takes out.
  const work = input.setup.place.school === 'work' && !whole;
  const usedMarks =
    board && board.marks.length >= 2
      ? place.pairs.length >= 2
        ? place.pairs.map((p) => p.drawn)
        : board.marks.filter((m) => m.role === 'place').map((m) => m.at)
      : [
          { x: 0, y: 0 },
          { x: 100, y: 100 },
        ];
  const boardToBed = place.placement
    ? work
      ? squarePlacement(place.placement, centroid(place.pairs.map((p) => p.drawn)))
      : place.placement.transform
    : locator
      ? identity
      : rigid(
          0,
          (input.machine.bed.width - (board?.width ?? 0)) / 2,
          (input.machine.bed.height - (board?.height ?? 0)) / 2,
        );
  const summary = runSummary({
    quantity: input.quantity,
    spares: input.spares,
    capacity: slots.length,
    firstApproved: input.firstApproved || !firstAlone,
    pieces: input.pieces,
  });
  const on = board ? piecesOnBoard(input, board, summary) : [];
  const budget = reckonBudget({
    tolerance: input.tolerance,
    art: artBox,
    method: inHoles ? 'nest' : hold.method,
    sizes,
    pocket,
    slots: slots.length > 0 ? slots : [{ slot: 1, row: 0, column: 0, angle: 0, centre: { x: 50, y: 50 } }],
    // On a locator board one intersection is aimed at; the grid runs as the machine does.
    marks: locator ? { marks: 1, centre: locator.zero, spread: Infinity } : markSpread(usedMarks),
    // In its own hole a piece is where the machine cut it: nothing is aimed at.
    sigma: inHoles ? 0 : place.sigma,
    aimingGrowth: (sheet || (hold.method === 'marked' && hold.own.stretches)) && board ? aimingGrowth(board, place) : 1,
    pointer: inHoles ? { status: 'measured', uncertainty: 0 } : place.pointer,
    repeatability: input.machine.repeatability,
    outline: traced?.uncertainty ?? 0,
    laid: laidBy(input, hold, sizes, { lines: lines?.lines ?? null, locator }),
    leftoverAngle: work && place.placement ? place.placement.angle : 0,
    pieces: options.simulatedPieces,
    seed: 20_260,
  });
  const fixings: Fixings = {
    lines: lines?.lines ?? null,
    usable: lines?.usable ?? null,
    locator,
    ...pinsAndStand(input, hold, sizes, board, artCorners),
  };
  const heights = reckonHeights(
    sizes.thickness.mean,
    { ...hold, stand: input.setup.hold.stand, boardWarp: bowLeft(hold.boardWarp, board, fixings.pins) },
    input.machine,
    artCorners,
    fixingsAsThings(hold, board, fixings),
  );
  const turns = inHoles
    ? asymmetryProblem(
        blankOutline(input.blank, sizes),
        first?.slots[0]?.angle ?? 0,
        hold.panel.turn,
        input.machine.kerf,
      )
    : null;
  const reasons = cut ? outOfDate(cut.basis, input.blank, sizes, wanted, hold) : [];
  const warnings = [
    ...fixings.problems.map((p) => ({ station: 'hold', message: p.message })),
    ...turnedOver(input, hold, sizes),
    ...cardOff(input, hold),
    ...(fixings.pins && fixings.pins.blocked > 0
      ? [
          {
            station: 'hold',
            message: `${fixings.pins.blocked} ${fixings.pins.blocked === 1 ? 'pin has' : 'pins have'} no place clear of the head: lower heads, or tape there.`,
          },
        ]
      : []),
    ...heights.collisions
      .filter((c) => c.verdict !== 'clear')
      .slice(0, 12)
      .map((c) => ({
        station: 'hold',
        message: `${c.thing.label} stands in the head’s path: ${c.room <= 0 ? 'it would be hit' : `only ${c.room.toFixed(1)} mm of air`}.`,
      })),
    ...(heights.warpOk ? [] : [{ station: 'hold', message: 'The board’s warp takes part of the work out of focus.' }]),
    ...(art?.problems ?? []).slice(0, 200).map((p) => ({ station: 'run', message: p.message })),
    ...(art?.lettering.problem ? [{ station: 'run', message: art.lettering.problem.message }] : []),
    ...(place.placement ? cornersOffBed(on, artBox, boardToBed, input) : []),
    ...(sheet ? bleedWarning(hold.sheet, budget.predicted) : []),
    ...(traced && slots.length > input.quantity + input.spares
      ? [
          {
            station: 'hold',
            message: `The print has ${slots.length} pieces, the batch ${input.quantity}${input.spares > 0 ? ` and ${input.spares} spare` : ''}: the rest stays on the sheet. Change the quantity to cut them all.`,
          },
        ]
      : []),
    ...(inHoles && turns ? [{ station: 'hold', message: turns.message }] : []),
  ];
  return {
    sizes,
    questions: questionsOf(input),
    pocket,
    basis,
    board,
    boardProblem: made.ok ? null : made.problem,
    outOfDate: reasons,
    heights,
    zone,
    art,
    artBox,
    place,
    boardToBed,
    // The first side makes the marks; in their holes, pieces stay where they were cut.
    placed: place.placement !== null || locator !== null || (panel && (face.side === 'front' || inHoles)),
    budget,
    run: summary,
    planned: whole ? plannedSheets(input.quantity, slots.length) : plannedLoads(input.quantity, slots.length),
    onTheBoard: on,
    cutLine: sheet ? cutLines(board) : null,
    cutOut: panel ? panelCut(face.blank, sizes, input.machine.kerf) : null,
    face,
    warnings,
    marked: hold.method === 'marked',
    long: null,
    round: null,
    feed: null,
    photo: null,
    fixings,
  };
};
