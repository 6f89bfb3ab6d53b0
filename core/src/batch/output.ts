import { addFill, addLines, bedToFile, Moves, ordered, planTime, runUp } from '../burn';
import { apply, compose, flatten, polyline, rigid, transformContour, type Contour, type Transform } from '../geometry';
import { slotTransform, type Board, type Pass } from '../holding';
import { gcodeChunks, writeSvg } from '../output';
import { fail, ok, type Result } from '../result';
import type { Seconds } from '../units';
import {
  bedToLoad,
  type BatchInput,
  type FeedReckoning,
  panelCuts,
  placedPieces,
  trueOutline,
  segmentBurn,
  type BatchReckoning,
  parkOf,
  segmentMoves,
  loadMoves,
} from '../setup';
import { feedMarkWords } from '../ways/feed';
import { photoMarkContours } from '../ways/photo';
import { turnedTime } from '../ways/round';

/** Slow enough to follow with the eye and to keep light pieces still [common practice], mm/s. */
const WALK_SPEED = 20;

/** Blanks that no photograph showed, or that wait for an answer. */
const notSeen = ({ photo }: BatchReckoning): Result<never> =>
  fail(
    'not-seen',
    photo && photo.over.length > 0
      ? `${photo.over.length === 1 ? 'A part lies' : `${photo.over.length} parts lie`} over a defect that was marked: lay the parts anew.`
      : photo && photo.asks > 0
        ? `${photo.asks} of the blanks in the photograph wait for an answer.`
        : photo?.onSheet && photo.found > 0
          ? 'Aim at the sheet’s crosses at the Place station first: the file would not know where the sheet lies.'
          : 'Take a photograph of the bed first: the file would not know where the blanks lie.',
    'hold.photo',
  );

/** A strip that nobody aimed at since it was laid. */
const notAimed = (feed: FeedReckoning): Result<never> =>
  fail(
    'not-aimed',
    `The file would not know where the strip lies: aim at ${feed.unread.map((m) => feedMarkWords(feed, m)).join(' and ') || 'its corner'} first.`,
    'feed',
  );

/**
 * The G-code of a load, in chunks. Refused while the board is not placed: an engraved file must
 * know where the board lies.
 */
export const loadGcode = (input: BatchInput, r: BatchReckoning, title: string): Result<Generator<string>> => {
  if (!r.placed)
    return r.photo
      ? notSeen(r)
      : r.feed
        ? notAimed(r.feed)
        : fail(
            'not-placed',
            'The marks are not read yet, so the file would not know where the board lies. Read two marks at the Place station.',
            'place',
          );
  if (r.place.question) return { ok: false, problem: r.place.question };
  if (r.place.consistency?.verdict === 'disagrees') return fail('marks-disagree', r.place.consistency.message, 'place');
  if (r.run.openLoad === null)
    return fail(
      'no-load',
      'Nothing is loaded. Start the next load at the Run station; then the file burns exactly the filled pockets.',
      'run',
    );
  const pieces = r.long ? [] : placedPieces(r, r.onTheBoard);
  if (r.long ? segmentBurn(r.long).length === 0 : pieces.length === 0)
    return fail(
      'no-pieces',
      r.long
        ? 'There is nothing to burn on this segment.'
        : 'No piece is waiting. Bring in the roster at the Run station.',
      'run',
    );
  const moves = loadMoves(input, r, pieces);
  if (!moves.ok) return moves;
  return ok(
    gcodeChunks(moves.value, {
      title,
      toFile: bedToLoad(input, r),
      dialect: input.machine.dialect,
      // On a locator board the head goes back to where zero was set.
      park: r.fixings.locator ? { x: 0, y: 0 } : parkOf(input),
      notes: [
        ...(r.fixings.locator
          ? [`zero: pointer over the grid's ${r.fixings.locator.zero.x}, ${r.fixings.locator.zero.y}`]
          : []),
        `machine ${input.machine.name}, bed ${input.machine.bed.width} x ${input.machine.bed.height} mm`,
        `board ${r.board?.name} r${r.board?.revision}, turned ${(((r.place.placement?.angle ?? 0) * 180) / Math.PI).toFixed(3)} degrees`,
        ...(r.long && !r.feed ? [`segment ${r.long.current} of ${r.long.plan?.segments.length ?? 1}`] : []),
        `slots ${r.onTheBoard.map((o) => o.slot.slot).join(' ')}`,
        ...(r.feed ? [`stop ${r.feed.current} of ${r.feed.stops.length}, strip ${r.feed.strip}`] : []),
        ...(r.cutOut && !r.feed ? [`side ${r.face.side === 'front' ? 'one' : 'two'}`] : []),
        `recipe ${r.face.recipe?.name}`,
      ],
    }),
  );
};

/** The walk of the true outline: no line switches the beam on. */
export const walkGcode = (input: BatchInput, r: BatchReckoning): Result<string> => {
  if (!r.placed)
    return r.photo
      ? notSeen(r)
      : r.feed
        ? notAimed(r.feed)
        : fail('not-placed', 'Read two marks first; then the outline is where the board lies.', 'place');
  const hull = trueOutline(r);
  if (hull.length < 2) return fail('no-art', 'There is no art to walk round yet.', 'run');
  const toFile = bedToLoad(input, r);
  const n = (v: number): string => String(Math.round(v * 1000) / 1000 || 0);
  const points = [...hull, hull[0]!].map((p) => apply(toFile, p));
  const lines = [
    '(walk of the true outline, beam off)',
    'G21',
    'G90',
    'G17',
    'G94',
    'M5',
    'S0',
    `G0X${n(points[0]!.x)}Y${n(points[0]!.y)}`,
    ...points.slice(1).map((p) => `G1X${n(p.x)}Y${n(p.y)}F${WALK_SPEED * 60}`),
    'M5',
    'M2',
    '',
  ];
  return ok(lines.join('\n'));
};

/** The passes of a load in the bed's frame. */
export const loadPasses = (r: BatchReckoning): Pass[] => {
  if (r.long) {
    const burn = segmentBurn(r.long);
    const names = { fill: 'engrave-fill', line: 'engrave-line', cut: 'cut' } as const;
    return (['fill', 'line', 'cut'] as const).flatMap((kind) => {
      const contours = burn.filter((s) => s.kind === kind).map((s) => transformContour(r.boardToBed, s.contour));
      return contours.length > 0 ? [{ name: names[kind], kind, contours }] : [];
    });
  }
  const pieces = placedPieces(r, r.onTheBoard);
  const filled: Contour[] = [];
  const drawn: Contour[] = [];
  for (const { shapes, slot } of pieces) {
    const m = compose(r.boardToBed, slotTransform(slot));
    filled.push(...shapes.filled.map((p) => transformContour(m, polyline(p, true))));
    drawn.push(...shapes.drawn.map((p) => transformContour(m, polyline(p))));
  }
  const cuts = panelCuts(r);
  return [
    ...(filled.length > 0 ? [{ name: 'engrave-fill', kind: 'fill' as const, contours: filled }] : []),
    ...(drawn.length > 0
      ? [
          r.cutLine
            ? { name: 'cut', kind: 'cut' as const, contours: drawn }
            : { name: 'engrave-line', kind: 'line' as const, contours: drawn },
        ]
      : []),
    ...(cuts.length > 0
      ? [{ name: 'cut', kind: 'cut' as const, contours: cuts.map((c) => transformContour(r.boardToBed, c)) }]
      : []),
  ];
};

/** The load as a drawing of the whole bed, art where the board really lies. */
export const loadSvg = (input: BatchInput, r: BatchReckoning, title: string): string =>
  writeSvg(title, input.machine.bed.width, input.machine.bed.height, loadPasses(r));

/** The camera's marks, filled, where the machine's own coordinates say they are. */
export const photoMarksGcode = (input: BatchInput, r: BatchReckoning): Result<string> => {
  if (!r.photo) return fail('no-camera', 'This batch is not placed by a photograph.', 'hold');
  if (input.setup.hold.photo.marksOn !== 'bed')
    return fail(
      'not-burned',
      'These marks are not burned: they are printed, or on the bed already.',
      'hold.photo.marksOn',
    );
  if (!input.recipe)
    return fail('no-recipe', 'Choose a recipe at the Burn station first: power and speed come from it.', 'recipe');
  const moves = new Moves();
  for (const mark of r.photo.marks)
    addFill(
      moves,
      photoMarkContours([mark]).map((c) => flatten(c)),
      input.recipe.engrave,
      input.machine.acceleration,
    );
  return ok(
    [
      ...gcodeChunks(moves, {
        title: `camera marks of ${input.machine.name}`,
        toFile: bedToFile(input.machine),
        dialect: input.machine.dialect,
        park: parkOf(input),
        notes: [
          `${r.photo.marks.length} marks, ${input.setup.hold.photo.inset} mm from the bed's edges, on white paper`,
        ],
      }),
    ].join(''),
  );
};

/** The camera's marks as a drawing of the whole bed. */
export const photoMarksSvg = (input: BatchInput, r: BatchReckoning): Result<string> =>
  r.photo
    ? ok(
        writeSvg(`camera marks of ${input.machine.name}`, input.machine.bed.width, input.machine.bed.height, [
          { name: 'marks', kind: 'fill', contours: photoMarkContours(r.photo.marks) },
        ]),
      )
    : fail('no-camera', 'This batch is not placed by a photograph.', 'hold');

/** The board's cut file as G-code: marks, code and labels first, pockets next, outline last. */
export const boardGcode = (input: BatchInput, board: Board): Result<string> => {
  if (!input.recipe)
    return fail('no-recipe', 'Choose a recipe at the Burn station first: power and speed come from it.', 'recipe');
  const { engrave, cut } = input.recipe;
  // The board is cut with a small rim to the bed's zero.
  const place: Transform = rigid(
    0,
    (input.machine.bed.width - board.width) / 2,
    (input.machine.bed.height - board.height) / 2,
  );
  const moves = new Moves();
  for (const pass of board.passes) {
    const contours = pass.contours.map((c) => transformContour(place, c));
    if (pass.kind === 'fill')
      addFill(
        moves,
        contours.map((c) => flatten(c)),
        engrave,
        input.machine.acceleration,
      );
    else addLines(moves, ordered(contours, { x: 0, y: 0 }), pass.kind === 'cut' ? cut : { ...engrave, passes: 1 });
  }
  return ok(
    [
      ...gcodeChunks(moves, {
        title: `${board.name} r${board.revision}`,
        toFile: bedToFile(input.machine),
        dialect: input.machine.dialect,
        park: parkOf(input),
        notes: [`board ${board.width} x ${board.height} mm`],
      }),
    ].join(''),
  );
};

export interface TimeEstimate {
  readonly load: Seconds;
  readonly burning: Seconds;
  readonly pieces: number;
  /** Whole batch by the plan of loads, burning time only; on a feeder with its feeds. */
  readonly batch: Seconds;
  readonly runUp: number;
}

/** Time of all segments of a long piece; moving it is not counted. */
const longTime = (input: BatchInput, r: BatchReckoning): TimeEstimate | null => {
  const { long } = r;
  if (!long?.plan || !input.recipe) return null;
  const plans = long.plan.segments.map((s) => {
    const moves = segmentMoves(
      input,
      { ...r, boardToBed: r.feed?.meant[s.index - 1] ?? s.square },
      { ...long, current: s.index },
    );
    return moves.ok ? planTime(moves.value, input.machine) : { total: 0, burning: 0 };
  });
  const total = plans.reduce((s, p) => s + p.total, 0);
  return {
    load: total,
    burning: plans.reduce((s, p) => s + p.burning, 0),
    pieces: 1,
    batch: (total + (r.feed?.feeding ?? 0)) * input.quantity,
    runUp: runUp(input.recipe.engrave, input.machine.acceleration),
  };
};

/** Time for the pieces on the board now and for the whole batch, by planning every move. */
export const estimateTime = (input: BatchInput, r: BatchReckoning): TimeEstimate | null => {
  if (r.round) return turnedTime(input, r);
  if (r.long) return longTime(input, r);
  const pieces = placedPieces(r, r.onTheBoard);
  const moves = loadMoves(input, r, pieces);
  if (!moves.ok || pieces.length === 0) return null;
  const { total, burning } = planTime(moves.value, input.machine);
  return {
    load: total,
    burning,
    pieces: pieces.length,
    batch: (total / pieces.length) * input.quantity + (r.feed?.feeding ?? 0),
    runUp: runUp(r.face.recipe!.engrave, input.machine.acceleration),
  };
};
