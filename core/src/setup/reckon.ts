import { batchArt } from '../artwork';
import { boxCorners, flatten, apply, centroid, identity, rigid, type Box, type Contour, type Vec } from '../geometry';
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
  type HoldMethod,
  type Slot,
} from '../holding';
import { aimingError, markSpread, pointerDoubt, squarePlacement } from '../marks';
import { aimingOf } from '../burn';
import { reckonBudget } from '../budget';
import type { Result } from '../result';
import { plannedLoads, plannedSheets, runSummary } from '../runs';
import { dimensionQuestions, type Question } from '../samples';
import { faceUp } from './face';
import {
  artOnPieces,
  bowLeft,
  cardOff,
  fixingsAsThings,
  laidBy,
  linesOf,
  locatorOf,
  noFixings,
  pinsAndStand,
  turnedOver,
  type Fixings,
} from './fixings';
import { feedBatch } from './feed';
import { effectiveHold, feedsLong, isFed, type Held } from './held';
import type { BatchInput } from './input';
import { longArt, longBox, longBudget, reckonLong, segmentNow } from './long';
import { aimingGrowth, bleedWarning, cornersOffBed, existingPocket } from './flat';
import { reckonPlace } from './place';
import { photoBatch } from './photo';
import { reckonRound, roundLettering, type RoundReckoning } from './round';
import { type BatchReckoning, piecesOnBoard, type ReckonOptions } from './reckoned';

const questionsOf = (input: BatchInput): Question[] => {
  const nominal = nominalSize(input.blank.shape);
  const limit = Math.max(input.machine.bed.width, input.machine.bed.height);
  const { samples } = input.blank;
  return [
    ...dimensionQuestions('length', nominal.length, samples.length, limit),
    ...(input.blank.shape.kind === 'disc' ? [] : dimensionQuestions('width', nominal.width, samples.width, limit)),
    ...dimensionQuestions('thickness', input.blank.thickness, samples.thickness, limit),
  ];
};

/**
 * Everything that follows from a batch's setup, in one pure computation: the browser's worker, the
 * server's files, the setup sheet and the tests all read this.
 */
export const reckonBatch = (input: BatchInput, options: ReckonOptions): BatchReckoning => {
  const round = reckonRound(input, options.now, options.simulatedPieces);
  if (round) return roundBatch(input, options, round);
  if (isFed(input)) return feedBatch(input, options);
  if (effectiveHold(input).method === 'photo') return photoBatch(input, options);
  return effectiveHold(input).method === 'long' ? longBatch(input, options) : flatBatch(input, options);
};

/** The one place of a drive, so that a turned piece counts as a load of one. */
const ON_THE_DRIVE: Slot = { slot: 1, row: 0, column: 0, angle: 0, centre: { x: 0, y: 0 } };

const roundBatch = (input: BatchInput, options: ReckonOptions, round: RoundReckoning): BatchReckoning => {
  const hold = effectiveHold(input);
  const sizes = blankSizes(input.blank, hold.coverage, hold.confidence);
  const pocket = reckonPocket(input.blank, sizes, hold);
  const face = round.faces.find((f) => f.choice.content.kind === 'lettering');
  const art = face ? roundLettering(input, face, options.alphabets, options.art) : null;
  const summary = runSummary({
    quantity: input.quantity,
    spares: input.spares,
    capacity: 1,
    firstApproved: input.firstApproved,
    pieces: input.pieces,
  });
  const next = input.pieces.find((p) => p.state === 'loaded')?.ordinal ?? summary.waiting[0];
  return {
    sizes,
    questions: [...round.questions],
    pocket,
    basis: fixtureBasis(input.blank, sizes, pocket),
    board: null,
    boardProblem: null,
    outOfDate: [],
    heights: reckonHeights(sizes.thickness.mean, hold, input.machine, []),
    zone: face?.zone ?? null,
    art,
    artBox: art && art.box.minX <= art.box.maxX ? art.box : { minX: -1, maxX: 1, minY: -1, maxY: 1 },
    place: reckonPlace(input, hold, null, [], options.now),
    cutLine: null,
    cutOut: null,
    face: {
      side: 'front',
      blank: input.blank,
      lettering: input.setup.lettering,
      zone: face?.zone ?? null,
      recipe: input.recipe,
    },
    boardToBed: identity,
    placed: input.drive ? round.on !== null && input.setup.drive.found !== null : true,
    budget: round.budget,
    run: summary,
    planned: plannedLoads(input.quantity, 1),
    onTheBoard: next === undefined ? [] : [{ slot: ON_THE_DRIVE, ordinal: next }],
    warnings: [
      ...round.warnings,
      ...(round.problem ? [{ station: 'drive', message: round.problem.message }] : []),
      ...(art?.problems ?? []).slice(0, 200).map((p) => ({ station: 'run', message: p.message })),
      ...(art?.lettering.problem ? [{ station: 'run', message: art.lettering.problem.message }] : []),
    ],
    round,
    feed: null,
    photo: null,
    marked: false,
    long: null,
    fixings: noFixings,
  };
};

/** One long piece at a time, laid, aimed at and burned segment by segment. */
const longBatch = (input: BatchInput, options: ReckonOptions): BatchReckoning => {
  const hold = effectiveHold(input);
  const sizes = printedSizes(input.blank, blankSizes(input.blank, hold.coverage, hold.confidence));
  const pocket = reckonPocket(input.blank, sizes, hold);
  const face = faceUp(input, sizes);
  const { zone } = face;
  const art = longArt(input, zone, options.alphabets, options.art);
  const summary = runSummary({
    quantity: input.quantity,
    spares: input.spares,
    capacity: 1,
    firstApproved: true,
    pieces: input.pieces,
  });
  const ordinal = input.pieces.find((p) => p.state === 'loaded')?.ordinal ?? summary.waiting[0];
  const { sigma } = aimingError(aimingOf(input.machine));
  const pointer = pointerDoubt(input.machine.pointerOffset, sigma, options.now);
  const { board, chain, ...long } = reckonLong(input, hold, { art, zone, ordinal: ordinal ?? 1 }, { sigma, pointer });
  const segment = segmentNow(long);
  const place = reckonPlace(
    input,
    hold,
    board && board.marks.length > 0 ? board : null,
    segment ? boxCorners(segment.box) : [],
    options.now,
    segment?.angle,
  );
  const rules = { tolerance: input.tolerance, pieces: options.simulatedPieces, seed: 20_260 };
  return {
    sizes,
    questions: [],
    pocket,
    basis: fixtureBasis(input.blank, sizes, pocket),
    board,
    boardProblem: long.problem,
    outOfDate: [],
    heights: reckonHeights(sizes.thickness.mean, hold, input.machine, []),
    zone,
    art,
    artBox: longBox(long, { length: sizes.length.mean, width: sizes.width.mean }),
    place,
    boardToBed: place.placement?.transform ?? segment?.square ?? identity,
    // The first segment makes the first marks.
    placed: board !== null && (long.current === 1 || place.placement !== null),
    budget: longBudget(
      chain ?? {
        boxes: [{ minX: 0, maxX: 1, minY: 0, maxY: 1 }],
        marks: [],
        turned: [0],
        errors: { aim: 0, pointer: 0, back: 0 },
      },
      pointer,
      rules,
    ),
    run: summary,
    planned: plannedLoads(input.quantity, 1),
    onTheBoard: ordinal === undefined || !board ? [] : [{ slot: board.slots[0]!, ordinal }],
    cutLine: null,
    cutOut: null,
    face,
    warnings: [
      ...(long.plan?.warnings ?? []).map((message) => ({ station: 'hold', message })),
      ...(art?.problems ?? []).slice(0, 200).map((p) => ({ station: 'run', message: p.message })),
      ...(art?.lettering.problem ? [{ station: 'run', message: art.lettering.problem.message }] : []),
    ],
    marked: false,
    long,
    round: null,
    feed: null,
    photo: null,
    fixings: noFixings,
  };
};

/** Each piece's cut as closed lines; pieces that are cut alike share theirs. */
const cutLines = (board: Board | null): readonly (readonly (readonly Vec[])[])[] => {
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

const flatBatch = (input: BatchInput, options: ReckonOptions): BatchReckoning => {
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
    firstApproved: firstIsApproved(input),
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

/** Ways to hold that are burned as a whole do not wait for a first piece; these do. */
const ONE_BY_ONE: readonly HoldMethod[] = ['marked', 'photo'];

/** Whether pieces may be laid on without limit: the first is approved, or all lie on one sheet, burned as a whole. */
export const firstIsApproved = (batch: Held & { readonly firstApproved: boolean }): boolean =>
  batch.firstApproved ||
  (isFed(batch)
    ? feedsLong(batch)
    : cutFromSheet(effectiveHold(batch).method) && !ONE_BY_ONE.includes(effectiveHold(batch).method));
