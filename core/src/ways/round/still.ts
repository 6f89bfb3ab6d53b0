import { driveOf } from './settings';
import { addFill, addLines, axesOf, burnedPlaces, Moves, shownToTrue, type BurnSetting } from '../../burn';
import { besideFor, diameterAt, pictureToFile, readingTurn, UPRIGHT, type FacePlace, type Reads } from '../../drive';
import { apply, compose, convexHull, invert, type Transform, type Vec } from '../../geometry';
import { gcodeChunks } from '../../output';
import { fail, ok, type Problem, type Result } from '../../result';
import { type BatchInput, shapesOn, NO_RECIPE, walkText } from '../../setup';
import type { TurningNeeds } from './turned';

/**
 * Moves for a round piece that lies still in a cradle, its rim to the chosen side: what lies an arc
 * away from the crest is burned r·sin(s/r) beside it, so that it has its true width on the piece.
 * Zero at the rim on the crest; x right, y away from the operator, mm.
 */
export const stillMoves = (input: BatchInput, r: TurningNeeds): Result<Moves> => {
  const { round } = r.own;
  if (!round) return fail('not-round', 'This blank is flat.', 'drive');
  if (!input.recipe) return NO_RECIPE;
  const setting: BurnSetting = input.recipe.engrave;
  const lying = pictureToFile(driveOf(input).rimFaces, 'toward', UPRIGHT);
  const put = (line: readonly Vec[], place: FacePlace, reads: Reads): Vec[] =>
    line.map((raw) => {
      const p = readingTurn(raw, reads);
      const along = place.along - p.y;
      return apply(lying, { x: besideFor(diameterAt(round.shape.profile, along) / 2, p.x), y: -along });
    });
  const filled: Vec[][] = [];
  const drawn: Vec[][] = [];
  for (const face of round.faces) {
    const shapes = shapesOn(face, r.art, r.onTheBoard[0]?.ordinal ?? 1);
    for (const place of face.places.filter((p) => Math.abs(p.angle) < 1e-6)) {
      filled.push(...shapes.filled.map((l) => put(l, place, face.choice.reads)));
      drawn.push(...shapes.drawn.map((l) => put(l, place, face.choice.reads)));
    }
  }
  if (filled.length + drawn.length === 0)
    return fail(
      'no-art',
      'Nothing lies at the crest (0°) to be engraved: say at the Drive station what goes where.',
      'drive.faces',
    );
  const moves = new Moves();
  addFill(moves, filled, setting, input.machine.acceleration);
  addLines(
    moves,
    drawn.map((vertices) => ({ closed: false, vertices })),
    setting,
  );
  return ok(moves);
};

/** What a piece in its cradle waits for. */
export const stillNeeds = (input: BatchInput): (Problem | null)[] => [
  input.pieces.some((p) => p.state === 'loaded')
    ? null
    : { code: 'no-load', message: 'No piece is in the cradle. Lay one on at the Run station.', field: 'run' },
];

/** What the walk round it waits for: the outline is that of the lines, which the recipe’s interval lays. */
export const outlineNeeds = ({ recipe }: BatchInput): (Problem | null)[] => [recipe ? null : NO_RECIPE.problem];

/** From the crest’s frame, true millimetres, to what the machine counts from where its zero was set. */
const fromCrest = ({ machine }: BatchInput): Transform =>
  compose(
    { a: 1, b: 0, c: 0, d: machine.yRuns === 'away' ? 1 : -1, e: 0, f: 0 },
    invert(shownToTrue(axesOf(machine.square).axes, { x: 0, y: 0 })),
  );

/** The walk round what is burned on a piece in its cradle, beam off. */
export const stillWalk = (input: BatchInput, r: TurningNeeds): Result<string> => {
  const moves = stillMoves(input, r);
  if (!moves.ok) return moves;
  return ok(walkText(convexHull(burnedPlaces(moves.value)).map((p) => apply(fromCrest(input), p))));
};

/** The G-code of a piece lying still in its cradle. */
export const stillGcode = (input: BatchInput, r: TurningNeeds, title: string): Result<Generator<string>> => {
  const moves = stillMoves(input, r);
  if (!moves.ok) return moves;
  return ok(
    gcodeChunks(moves.value, {
      title,
      toFile: fromCrest(input),
      dialect: input.machine.dialect,
      park: { x: 0, y: 0 },
      notes: [
        `machine ${input.machine.name}, piece lying still in a cradle`,
        `zero: edge of the rim, on the crest; rim faces ${driveOf(input).rimFaces}`,
        `piece ${r.onTheBoard[0]?.ordinal ?? 1}, recipe ${input.recipe?.name}`,
      ],
    }),
  );
};
