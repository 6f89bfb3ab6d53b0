import { boxCorners, identity } from '../../geometry';
import { bareBed, blankSizes, fixtureBasis, printedSizes, plainPlace, reckonHeights } from '../../holding';
import { aimingError, pointerDoubt } from '../../marks';
import { aimingOf } from '../../burn';
import { plannedLoads, runSummary } from '../../runs';
import {
  headOver,
  artOf,
  frontFace,
  noFixings,
  besideNow,
  heldAs,
  type BatchInput,
  longBox,
  longBudget,
  planRemarks,
  reckonLong,
  segmentNow,
  reckonPlace,
  type BatchReckoning,
  type ReckonOptions,
} from '../../setup';
import { artWarnings } from '../flat';

/** One long piece at a time, laid, aimed at and burned segment by segment. */
export const longBatch = (input: BatchInput, options: ReckonOptions): BatchReckoning => {
  const beside = besideNow(input);
  const sizes = printedSizes(input.blank, blankSizes(input.blank, beside.coverage, beside.confidence));
  const pocket = plainPlace(sizes);
  const face = frontFace(input);
  const { zone } = face;
  const art = artOf(input, face, sizes, options);
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
  const { board, chain, ...long } = reckonLong(
    input,
    heldAs(input, 'long').choice,
    { art, zone, ordinal: ordinal ?? 1 },
    { sigma, pointer },
  );
  const segment = segmentNow(long);
  const place = reckonPlace(
    input,
    false,
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
    heights: reckonHeights(sizes.thickness.mean, bareBed(beside), headOver(input), []),
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
    face,
    warnings: [...planRemarks(long.plan, 'hold'), ...artWarnings(art)],
    own: { long },
    fixings: noFixings,
  };
};
