import { axesOf, bedToFile, countedToFile, dutyOf, Moves, plansTogether, planTime, runUp, type Duty } from '../burn';
import { bedProgram, offTravel, parkOf, type Mend } from './bed-program';
import {
  apply,
  boxOf,
  compose,
  flatten,
  invert,
  transformContour,
  type Contour,
  type Transform,
  type Vec,
} from '../geometry';
import type { Pass } from '../holding';
import { NO_PICTURES, type Pictures } from '../picture';
import { fail, ok, type Problem, type Result } from '../result';
import type { Seconds } from '../units';
import { inTheWay, obstaclesOf } from './in-the-way';
import type { BatchInput } from './input';
import { linesOf, segmentBurn, type LongReckoning } from './long';
import { otherRecipes, pieceMoves, piecesBy, segmentMoves, writtenMoves, writtenSegment } from './moves';
import { linesOnBed, panelCuts, placedPieces, trueOutline } from './placed';
import type { BatchReckoning } from './reckoned';

/** Slow enough to follow with the eye and to keep light pieces still [common practice], mm/s. */
const WALK_SPEED = 20;

const OUTLINE_WALK = 'walk of the true outline, beam off';

/** A drawing, true size, mm: on a sheet of its own, or with so much rim round what is drawn. */
export interface Drawing {
  readonly title: string;
  readonly passes: readonly Pass[];
  readonly sheet: { readonly width: number; readonly height: number } | { readonly rim: number };
}

/** What differs between the files of two ways' loads. */
export interface LoadWords {
  /** Why nothing can be burned while it is not known where the work lies. */
  readonly unplaced: (r: BatchReckoning) => Problem;
  /** Lines of the file's head: which segment, stop or side it is. */
  readonly notes?: (r: BatchReckoning) => {
    readonly first?: string[];
    readonly before?: string[];
    readonly after?: string[];
  };
  /** From the bed to the file's coordinates and where the head is left, where that is not the machine's own zero. */
  readonly frame?: (
    input: BatchInput,
    r: BatchReckoning,
  ) => { readonly toFile: Transform; readonly park: { x: number; y: number } };
}

/** What is done where a load's file would leave the bed. */
const LAY_FURTHER_IN: Mend = {
  words: 'Lay the work further in; filled lines need room to run up at their ends, slower ones less.',
  field: 'place',
};

/** What the walk of the outline waits for: that it is known where the work lies. */
export const walkNeeds = (r: BatchReckoning, { unplaced }: LoadWords): readonly (Problem | null)[] => [
  r.placed || r.place.problem ? null : unplaced(r),
];

/** What burning the load that is on waits for: its place, and something loaded. */
export const loadNeeds = (r: BatchReckoning, words: LoadWords): readonly (Problem | null)[] => [
  ...walkNeeds(r, words),
  r.run.openLoad === null
    ? {
        code: 'no-load',
        message:
          'No load is on. Take the next load at the Run station; then the file burns exactly the filled pockets.',
        field: 'run',
      }
    : null,
];

const written = (
  input: BatchInput,
  r: BatchReckoning,
  title: string,
  words: LoadWords,
  moves: Moves,
  lists?: Iterable<Moves>,
): Result<Generator<string>> => {
  const { first = [], before = [], after = [] } = words.notes?.(r) ?? {};
  return bedProgram(input, moves, {
    title,
    frame: words.frame?.(input, r),
    mend: LAY_FURTHER_IN,
    around: obstaclesOf(r),
    written: lists,
    notes: [
      ...first,
      `machine ${input.machine.name}, bed ${input.machine.bed.width} x ${input.machine.bed.height} mm`,
      `board ${r.board?.name} r${r.board?.revision}, turned ${(((r.place.placement?.angle ?? 0) * 180) / Math.PI).toFixed(3)} degrees`,
      ...before,
      `slots ${r.onTheBoard.map((o) => o.slot.slot).join(' ')}`,
      ...after,
      `recipe ${[r.face.recipe, ...otherRecipes(input, placedPieces(r, r.onTheBoard))].map((one) => one?.name).join('; beside it ')}`,
    ],
  });
};

/**
 * The G-code of a load of pieces, in chunks, where it is known that the work lies: `loadNeeds` says what that waits for.
 */
export const pieceProgram = (
  input: BatchInput,
  r: BatchReckoning,
  title: string,
  words: LoadWords,
  burns: 'engrave' | 'cut' = 'engrave',
  pictures: Pictures = NO_PICTURES,
): Result<Generator<string>> => {
  const pieces = placedPieces(r, r.onTheBoard);
  if (pieces.length === 0)
    return fail('no-pieces', 'No piece is waiting. Bring in the roster at the Run station.', 'run');
  const moves = pieceMoves(input, r, pieces, burns);
  if (!moves.ok) return moves;
  const lists = writtenMoves(input, r, pieces, burns, pictures);
  return lists.ok ? written(input, r, title, words, moves.value, lists.value) : lists;
};

/** The G-code of the segment of a long piece that is on, in chunks. */
export const segmentProgram = (
  input: BatchInput,
  r: BatchReckoning,
  long: LongReckoning,
  title: string,
  words: LoadWords,
  pictures: Pictures = NO_PICTURES,
): Result<Generator<string>> => {
  if (segmentBurn(long).length === 0) return fail('no-pieces', 'There is nothing to burn on this segment.', 'run');
  const moves = segmentMoves(input, r, long);
  if (!moves.ok) return moves;
  const lists = writtenSegment(input, r, long, pictures);
  return lists.ok ? written(input, r, title, words, moves.value, lists.value) : lists;
};

/** The walk of the true outline: no line switches the beam on. */
export const walkProgram = (input: BatchInput, r: BatchReckoning, words: LoadWords): Result<string> => {
  const hull = trueOutline(r);
  if (hull.length < 2) return fail('no-art', 'There is no art to walk round yet.', 'run');
  return walkAlong(input, r, words, OUTLINE_WALK, [[...hull, hull[0]!]]);
};

/** A walk along paths on the bed, the beam off: within the travel, and clear of what stands in the head's way. */
export const walkAlong = (
  input: BatchInput,
  r: BatchReckoning,
  words: LoadWords,
  title: string,
  paths: readonly (readonly Vec[])[],
): Result<string> => {
  const off = offTravel(input.machine, boxOf(paths.flat()), LAY_FURTHER_IN);
  if (off) return { ok: false, problem: off };
  const { toFile, park } = words.frame?.(input, r) ?? { toFile: bedToFile(input.machine), park: parkOf(input) };
  const walked = new Moves();
  for (const p of paths.flat()) walked.push(p.x, p.y, WALK_SPEED, 0);
  const hit = inTheWay(input.machine, walked, apply(invert(toFile), park), obstaclesOf(r));
  if (hit) return { ok: false, problem: hit };
  return ok(pathsText(title, paths.map((path) => path.map((p) => apply(toFile, p))))); // prettier-ignore
};

/** A walk round a hull at walking speed, in the file's own numbers: no line of it switches the beam on. */
export const walkText = (hull: readonly Vec[]): string => pathsText(OUTLINE_WALK, [[...hull, hull[0]!]]);

/** Walks along paths, one after the other, in the file's own numbers: no line of it switches the beam on. */
const pathsText = (title: string, paths: readonly (readonly Vec[])[]): string => {
  const n = (v: number): string => String(Math.round(v * 1000) / 1000 || 0);
  const lines = [
    `(${title})`,
    'G21',
    'G90',
    'G17',
    'G94',
    'M5',
    'S0',
    ...paths.flatMap((points) => [
      `G0X${n(points[0]!.x)}Y${n(points[0]!.y)}`,
      ...points.slice(1).map((p) => `G1X${n(p.x)}Y${n(p.y)}F${WALK_SPEED * 60}`),
    ]),
    'M5',
    'M2',
    '',
  ];
  return lines.join('\n');
};

/** What the segment that is on burns, bed frame. */
const segmentPasses = (r: BatchReckoning, long: LongReckoning): Pass[] => {
  const burn = segmentBurn(long);
  const names = { fill: 'engrave-fill', line: 'engrave-line', cut: 'cut' } as const;
  return (['fill', 'line', 'cut'] as const).flatMap((kind) => {
    const contours = linesOf(burn, kind).map((c) => transformContour(r.boardToBed, c));
    return contours.length > 0 ? [{ name: names[kind], kind, contours }] : [];
  });
};

/** What the pieces on the board carry, engraved or cut out, bed frame. */
const piecePasses = (input: BatchInput, r: BatchReckoning, burns: 'engrave' | 'cut'): Pass[] => {
  const pieces = placedPieces(r, r.onTheBoard);
  const of = (kind: 'filled' | 'drawn' | 'cut', its = pieces): Contour[] => linesOnBed(its, kind, r.boardToBed);
  const cuts = [...of('cut'), ...panelCuts(r).map((c) => transformContour(r.boardToBed, c))];
  const passes: Pass[] = [
    { name: 'engrave-fill', kind: 'fill', contours: of('filled') },
    burns === 'cut'
      ? { name: 'cut', kind: 'cut', contours: of('drawn') }
      : { name: 'engrave-line', kind: 'line', contours: of('drawn') },
    { name: 'cut', kind: 'cut', contours: cuts },
    // What goes by another recipe has lines of its own name, so that it can be told apart.
    ...otherRecipes(input, pieces).flatMap((recipe, i): Pass[] => {
      const its = piecesBy(pieces, recipe.id);
      return [
        { name: `engrave-fill-${i + 2}`, kind: 'fill', contours: of('filled', its) },
        { name: `engrave-line-${i + 2}`, kind: 'line', contours: of('drawn', its) },
        { name: `cut-${i + 2}`, kind: 'cut', contours: of('cut', its) },
      ];
    }),
  ];
  return passes.filter((p) => p.contours.length > 0);
};

/** Lines as the machine counts them, where its own axes were measured: a drawing has no other way to be told. */
const asCounted = ({ machine }: BatchInput, passes: readonly Pass[]): readonly Pass[] => {
  if (!axesOf(machine.square).measured) return passes;
  const m = compose(invert(countedToFile(machine)), bedToFile(machine));
  const straight = (c: Contour): Contour => ({ closed: c.closed, vertices: flatten(c) });
  return passes.map((p) => ({ ...p, contours: p.contours.map((c) => transformContour(m, straight(c))) }));
};

const onBed = (input: BatchInput, title: string, passes: readonly Pass[]): Drawing => ({
  title,
  passes: asCounted(input, passes),
  sheet: { width: input.machine.bed.width, height: input.machine.bed.height },
});

/** The load as a drawing of the whole bed, art where the work really lies: it waits for what its program waits for. */
export const pieceDrawing = (
  input: BatchInput,
  r: BatchReckoning,
  title: string,
  burns: 'engrave' | 'cut' = 'engrave',
): Drawing => onBed(input, title, piecePasses(input, r, burns));

/** The segment that is on as a drawing of the whole bed. */
export const segmentDrawing = (input: BatchInput, r: BatchReckoning, long: LongReckoning, title: string): Drawing =>
  onBed(input, title, segmentPasses(r, long));

export interface TimeEstimate {
  readonly load: Seconds;
  readonly burning: Seconds;
  /** On the way from one burn to the next; the rest are run-ups, gaps and turns. */
  readonly between: Seconds;
  /** What a load asks of a gas tube; null of another source. */
  readonly duty: Duty | null;
  readonly pieces: number;
  /** Whole batch by the plan of loads, burning time only; on a feeder with its feeds. */
  readonly batch: Seconds;
  readonly runUp: number;
}

/** Time for the pieces on the board now and for the whole batch, by planning every move; `feeding` is all feeds of it. */
export const pieceTime = (
  input: BatchInput,
  r: BatchReckoning,
  burns: 'engrave' | 'cut' = 'engrave',
  feeding: Seconds = 0,
): TimeEstimate | null => {
  const pieces = placedPieces(r, r.onTheBoard);
  const moves = pieceMoves(input, r, pieces, burns);
  if (!moves.ok || pieces.length === 0) return null;
  const planned = planTime(moves.value, input.machine);
  const { total, burning, between } = planned;
  return {
    load: total,
    burning,
    between,
    duty: dutyOf(planned, input.machine),
    pieces: pieces.length,
    batch: (total / pieces.length) * input.quantity + feeding,
    runUp: runUp(r.face.recipe!.engrave, input.machine.acceleration),
  };
};

/** Time of all segments of a long piece, each as it is meant to lie; moving it is not counted, `feeding` is. */
export const segmentTime = (
  input: BatchInput,
  r: BatchReckoning,
  meant: readonly Transform[] | null = null,
  feeding: Seconds = 0,
): TimeEstimate | null => {
  const { long } = r.own;
  if (!long?.plan || !input.recipe) return null;
  const plans = long.plan.segments.map((s) => {
    const moves = segmentMoves(
      input,
      { ...r, boardToBed: meant?.[s.index - 1] ?? s.square },
      { ...long, current: s.index },
    );
    return moves.ok ? [planTime(moves.value, input.machine)] : [];
  });
  const whole = plansTogether(plans.flat());
  const { total, burning, between } = whole;
  return {
    load: total,
    burning,
    between,
    duty: dutyOf(whole, input.machine),
    pieces: 1,
    batch: (total + feeding) * input.quantity,
    runUp: runUp(input.recipe.engrave, input.machine.acceleration),
  };
};
