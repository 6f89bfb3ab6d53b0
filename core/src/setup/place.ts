import { PLANE_95 } from '../samples';
import { aimingOf, bedToFile } from '../burn';
import { apply, distance, invert, type Vec } from '../geometry';
import { markReach, NEAR_MARKS, type Board } from '../holding';
import {
  aimingError,
  bestFurtherMark,
  checkConsistency,
  errorMap,
  sheetErrorMap,
  type ErrorMap,
  chooseModel,
  findMistake,
  LARGEST_STRETCH,
  MODEL_WORDS,
  placementOf,
  pointerAt,
  markFromReading,
  pointerDoubt,
  solvePlacement,
  stretchOf,
  turnTheWork,
  type Consistency,
  type MarkPair,
  type Placement,
  type PointerDoubt,
  type ModelChoice,
  type Tested,
  type TurnInstruction,
  type WorkModel,
} from '../marks';
import type { Problem } from '../result';
import type { Mm, Rad, Share } from '../units';
import { listed, type WorkedLine } from '../working';
import type { BatchInput } from './input';

export interface PlaceReckoning {
  readonly pairs: readonly MarkPair[];
  readonly sigma: Mm;
  readonly sigmaWorking: readonly WorkedLine[];
  readonly placement: Placement | null;
  readonly problem: Problem | null;
  readonly consistency: Consistency | null;
  readonly turn: TurnInstruction | null;
  /** Distance between the first reading of mark 1 and its second look, mm. */
  readonly reread: Mm | null;
  readonly rereadOk: boolean | null;
  /** The unread mark that would help most, and the error at the worst corner of the art without and with it, mm. */
  readonly gain: { readonly mark: number; readonly now: Mm; readonly then: Mm } | null;
  /** For a print: which change of the sheet its marks tell, and why; null for boards, which cannot stretch. */
  readonly choice: ModelChoice | null;
  /** What must be answered before a file may trust the marks. */
  readonly question: Problem | null;
  readonly pointer: PointerDoubt;
  /** Height of the marks over the surface in focus, mm; negative below. */
  readonly marksAt: Mm;
}

/**
 * Readings as they count: the latest of each mark, in bed coordinates for the beam.
 * @param marksAt height of the marks over the surface in focus, mm
 */
export const markPairs = (input: BatchInput, board: Board, marksAt: Mm = 0): MarkPair[] => {
  const toBed = invert(bedToFile(input.machine));
  const { pointerOffset } = input.machine;
  const offset = pointerOffset && pointerAt(pointerOffset, marksAt);
  return board.marks.flatMap((mark) => {
    const last = input.readings.filter((r) => r.mark === mark.id && r.purpose === 'place').at(-1);
    if (!last) return [];
    return [{ id: mark.id, drawn: mark.at, read: markFromReading(apply(toBed, last), offset) }];
  });
};

/**
 * How well a placement knows where things are.
 * @param drawn marks that are read, or would be; @param stretches whether what carries them may be stretched
 */
export const placeErrors = (
  { choice, placement, sigma }: Pick<PlaceReckoning, 'choice' | 'placement' | 'sigma'>,
  drawn: readonly Vec[],
  stretches = choice !== null,
): ErrorMap | null =>
  stretches
    ? sheetErrorMap({ tested: choice?.tested ?? [], chosen: placement?.model ?? null }, drawn, sigma)
    : errorMap('rigid', drawn, sigma);

/** How far a mark may be from its first reading when it is read again, mm: twice what aiming may miss, and a jog step. */
const rereadLimit = (input: BatchInput, sigma: Mm): Mm => Math.max(2 * Math.SQRT2 * sigma, input.machine.jogSteps[2]);

/**
 * Work that has moved since marks were read: one of them was found elsewhere when it was read again, and readings from
 * before that are still used.
 */
const askOfMoved = ({ readings, ...input }: BatchInput, pairs: readonly MarkPair[], sigma: Mm): Problem | null => {
  const last = (mark: number, before = readings.length): number =>
    readings.findLastIndex((r, i) => i < before && r.mark === mark && r.purpose === 'place');
  for (const [i, again] of [...readings.entries()].reverse()) {
    if (again.purpose !== 'reread') continue;
    const first = readings[last(again.mark, i)];
    if (!first) continue;
    const by = distance(again, first);
    if (by <= rereadLimit({ readings, ...input }, sigma)) return null;
    const old = pairs.map((p) => p.id).filter((id) => last(id) < i);
    return old.length === 0
      ? null
      : {
          code: 'work-moved',
          message: `Mark ${again.mark} was found ${by.toFixed(2)} mm from where it was read: the work or the head has moved since. Read ${old.length === 1 ? 'mark' : 'marks'} ${listed(old)} again.`,
          field: 'place.readings',
        };
  }
  return null;
};

/** Beyond this a board is asked about: two marks read in each other's place look just so. */
const LARGEST_TURN = Math.PI / 4;

/** Two marks cannot tell a board that lies far round from two readings exchanged; a third can. */
const askOfAngle = (placement: Placement, square: Rad, marks: number): Problem | null =>
  Math.cos(placement.angle - square) >= Math.cos(LARGEST_TURN) || marks > 2
    ? null
    : {
        code: 'turned-far',
        message: `By its two marks the board lies turned by ${(((placement.angle - square) * 180) / Math.PI).toFixed(0)}°. Were they read in each other’s place? If it really lies so, read a third mark: that tells.`,
        field: 'place.readings',
      };

/** A reading that no head can have shown: off the bed by more than an offset explains. */
const readOffBed = (input: BatchInput, pairs: readonly MarkPair[]): Problem | null => {
  const { width, height } = input.machine.bed;
  const slack = 5;
  const off = pairs.find(({ read: p }) => p.x < -slack || p.y < -slack || p.x > width + slack || p.y > height + slack);
  return off
    ? {
        code: 'read-off-bed',
        message: `Mark ${off.id} was read off the bed of ${width} × ${height} mm. Look at the sign and the unit, and at which corner ${input.machine.name} has its zero (${input.machine.zeroCorner.replace('-', ' ')}).`,
        field: `place.reading.${off.id}`,
      }
    : null;
};

/** Which of the board's unread marks would bring the worst corner of the art down most. */
const furtherMark = (
  board: Board,
  model: WorkModel,
  pairs: readonly MarkPair[],
  sigma: Mm,
  artCorners: readonly Vec[],
): PlaceReckoning['gain'] => {
  const unread = board.marks.filter((m) => !pairs.some((p) => p.id === m.id));
  const best = bestFurtherMark(
    model,
    pairs.map((p) => p.drawn),
    sigma,
    unread.map((m) => m.at),
    artCorners,
  );
  const mark = best && unread.find((m) => m.at === best.at);
  return best && mark ? { mark: mark.id, now: best.now, then: best.then } : null;
};

/** Marks so near together that aiming at them says too little of an angle. */
const askOfReach = (pairs: readonly MarkPair[], sigma: Mm, farthest: Mm): Problem | null => {
  const reach = markReach(pairs.map((p) => p.drawn));
  return reach >= NEAR_MARKS
    ? null
    : {
        code: 'marks-near',
        message: `The marks read lie only ${reach.toFixed(1)} mm apart: what aiming may miss by turns the work enough to move its far corner by ± ${((PLANE_95 * Math.SQRT2 * sigma * farthest) / Math.max(1, reach)).toFixed(1)} mm. Read marks at least ${NEAR_MARKS} mm apart, the farther the better.`,
        field: 'place.readings',
      };
};

/** What paper and printer make of a sheet [common practice: about 0.3 %]; with no mark left over, more may as well be one misread. */
const PAPER_STRETCH: Share = 0.003;

/** Paper and printer do not stretch further than this; something else is wrong. */
const askOfStretch = ({ fit, freedom }: Tested): Problem | null => {
  const most = stretchOf(fit);
  if (freedom === 0 && most > PAPER_STRETCH)
    return {
      code: 'stretch-or-misread',
      message: `By its ${fit.residuals.length} marks the sheet is ${(100 * most).toFixed(2)} % off its size; paper and printer explain about ${100 * PAPER_STRETCH} %. So few marks cannot tell a stretched sheet from a mark misread: read one more, or aim at each again.`,
      field: 'place.readings',
    };
  return most <= LARGEST_STRETCH
    ? null
    : {
        code: 'stretched-far',
        message: `By its marks the sheet is ${(100 * most).toFixed(1)} % off its size; paper and printer explain ${100 * LARGEST_STRETCH} %. Was it printed at 100 %, is it the right sheet, and were the marks read in the order of their numbers?`,
        field: 'place.readings',
      };
};

/** A print by its marks: the smallest model that agrees, or the one that was chosen over it. */
const placePrint = (
  input: BatchInput,
  pairs: readonly MarkPair[],
  sigma: Mm,
): { placement: Placement; choice: ModelChoice; chosen: Tested; consistency: Consistency } | null => {
  const choice = chooseModel(pairs, sigma);
  if (!choice) return null;
  const wanted = input.setup.place.model;
  const overruled = choice.tested.find((t) => t.fit.model === wanted);
  const chosen = overruled ?? choice.proposed;
  const mistake = chosen.agrees ? null : findMistake(pairs, sigma, ['rigid', 'similarity', 'two-scales']);
  return {
    choice,
    chosen,
    placement: placementOf(chosen.fit, pairs),
    consistency: {
      // What has to be asked about is not called good, though nothing is left over to disagree.
      verdict: chosen.agrees && askOfStretch(chosen) === null ? 'agrees' : 'disagrees',
      chiSquare: chosen.chiSquare,
      limit: chosen.limit,
      freedom: chosen.freedom,
      chance: chosen.chance,
      suspect: mistake?.kind === 'misread' ? mistake.mark : null,
      message:
        mistake?.message ??
        (overruled && overruled !== choice.proposed
          ? `Chosen by hand: ${MODEL_WORDS[chosen.fit.model]}. Bistre would take: ${MODEL_WORDS[choice.proposed.fit.model]}. ${choice.reason}`
          : choice.reason),
      working: choice.working,
    },
  };
};

/**
 * Where the board lies by its marks, with every doubt about it.
 * @param stretches whether what carries the marks may be stretched: a print, cloth, leather
 * @param square angle at which it is meant to lie, rad
 * @param marksAt height of the marks over the surface in focus, mm
 */
export const reckonPlace = (
  input: BatchInput,
  stretches: boolean,
  board: Board | null,
  artCorners: readonly Vec[],
  now: Date,
  square: Rad = 0,
  marksAt: Mm = 0,
): PlaceReckoning => {
  const { sigma, working } = aimingError(aimingOf(input.machine));
  const pointer = pointerDoubt(input.machine.pointerOffset, sigma, now, marksAt);
  const pairs = board ? markPairs(input, board, marksAt) : [];
  const bare = {
    pairs,
    sigma,
    sigmaWorking: working,
    pointer,
    marksAt,
    turn: null,
    reread: null,
    rereadOk: null,
    gain: null,
    question: null,
    choice: null,
  };
  if (!board || pairs.length < 2) return { ...bare, placement: null, problem: null, consistency: null };
  const off = readOffBed(input, pairs);
  if (off) return { ...bare, placement: null, problem: off, consistency: null };
  const solved = solvePlacement(pairs, 'rigid');
  if (!solved.ok) return { ...bare, placement: null, problem: solved.problem, consistency: null };
  const printed = stretches ? placePrint(input, pairs, sigma) : null;
  const placement = printed?.placement ?? solved.value;
  const first = board.marks[0]!;
  const farthest = Math.max(1, ...artCorners.map((c) => distance(c, first.at)));
  const again = input.readings.filter((r) => r.purpose === 'reread' && board.marks.some((m) => m.id === r.mark)).at(-1);
  const original = input.readings.filter((r) => r.mark === again?.mark && r.purpose === 'place').at(-1);
  const reread = again && original && again.at >= original.at ? distance(again, original) : null;
  return {
    ...bare,
    placement,
    problem: null,
    consistency: printed ? printed.consistency : checkConsistency(pairs, sigma),
    choice: printed?.choice ?? null,
    gain: furtherMark(board, placement.model, pairs, sigma, artCorners),
    question:
      askOfMoved(input, pairs, sigma) ??
      askOfReach(pairs, sigma, farthest) ??
      (printed?.chosen.agrees ? askOfStretch(printed.chosen) : null) ??
      askOfAngle(placement, square, pairs.length),
    turn: turnTheWork(
      placement,
      board.marks.filter((m) => pairs.some((p) => p.id === m.id)).map((m) => ({ id: m.id, drawn: m.at })),
      farthest,
      Math.max(sigma * 2, input.tolerance / 5),
    ),
    reread,
    rereadOk: reread === null ? null : reread <= rereadLimit(input, sigma),
  };
};
