import { engraveLoad, type PlacedPiece } from '../artwork';
import { addFill, addLines, Moves, ordered, type BurnSetting } from '../burn';
import { compose, flatten, polyline, transformContour, type Contour } from '../geometry';
import { slotTransform } from '../holding';
import type { LongKind } from '../long';
import { fail, ok, type Failed, type Result } from '../result';
import type { BatchInput } from './input';
import { panelCuts } from './placed';
import { segmentBurn, type LongReckoning } from './long';
import type { BatchReckoning } from './reckoned';

/** Boards, gauges, pins, cradles and camera marks are of another material than the pieces. */
export const NO_STOCK_RECIPE: Failed = fail(
  'no-stock-recipe',
  'Choose a recipe for the material that this is cut from, at the Burn station: it is another than the pieces’.',
  'burn',
);

export const NO_RECIPE: Failed = fail(
  'no-recipe',
  'Choose a recipe at the Burn station first: power and speed come from it.',
  'burn',
);

/** Head moves for the segment of a long piece that lies on the bed. */
export const segmentMoves = (
  { recipe, machine }: BatchInput,
  r: BatchReckoning,
  long: LongReckoning,
): Result<Moves> => {
  if (!recipe) return NO_RECIPE;
  const moves = new Moves();
  const put = (kind: LongKind): Contour[] =>
    segmentBurn(long)
      .filter((s) => s.kind === kind)
      .map((s) => transformContour(r.boardToBed, s.contour));
  const fill = put('fill');
  if (fill.length > 0)
    addFill(
      moves,
      fill.map((c) => flatten(c)),
      recipe.engrave,
      machine.acceleration,
    );
  addLines(moves, ordered(put('line'), { x: 0, y: 0 }), recipe.engrave);
  addLines(moves, ordered(put('cut'), { x: 0, y: 0 }), recipe.cut);
  return ok(moves);
};

/** Head moves for the pieces on the board now: engraved, or cut out of their print. */
export const pieceMoves = (
  input: BatchInput,
  r: BatchReckoning,
  pieces: readonly PlacedPiece[],
  burns: 'engrave' | 'cut',
): Result<Moves> => {
  const setting: BurnSetting | undefined = r.face.recipe?.[burns];
  if (!setting) return NO_RECIPE;
  const moves = new Moves();
  engraveLoad(moves, pieces, r.boardToBed, setting, input.machine.acceleration, input.setup.burn.sweep);
  const through = pieces.flatMap(({ shapes, slot }) => (shapes.cut ?? []).map((line) => transformContour(compose(r.boardToBed, slotTransform(slot)), polyline(line)))); // prettier-ignore
  // What is inside is cut before what it is cut out of lets it go.
  if (through.length > 0 && r.face.recipe) addLines(moves, through, r.face.recipe.cut);
  const cuts = panelCuts(r);
  // Through the same sheet from either side: always by the recipe that the sheet was chosen with.
  if (cuts.length > 0 && input.recipe)
    addLines(
      moves,
      cuts.map((c) => transformContour(r.boardToBed, c)),
      input.recipe.cut,
    );
  return ok(moves);
};
