import { engraveLoad, pictureDots, pictureMoves, type PlacedPiece } from '../artwork';
import { dotsOfFile, type Pictures } from '../picture';
import { addFill, addLines, engravings, Moves, ordered, type BurnSetting, type Recipe } from '../burn';
import { flatten, transformContour, type Contour } from '../geometry';
import type { LongKind } from '../long';
import { fail, ok, type Failed, type Result } from '../result';
import type { BatchInput } from './input';
import { linesOnBed, panelCuts } from './placed';
import { segmentBurn, segmentPictures, type LongReckoning } from './long';
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

/**
 * Head moves for the segment of a long piece that lies on the bed.
 *
 * @param part what of pictures is in it, as of pieces
 */
export const segmentMoves = (
  { recipe, machine, artRecipes = [] }: BatchInput,
  r: BatchReckoning,
  long: LongReckoning,
  part: 'whole' | 'none' = 'whole',
): Result<Moves> => {
  if (!recipe) return NO_RECIPE;
  const moves = new Moves();
  const burned = segmentBurn(long).filter((s) => part === 'whole' || !s.picture);
  const put = (kind: LongKind, by: string | undefined): Contour[] =>
    burned.filter((s) => s.kind === kind && s.recipeId === by).map((s) => transformContour(r.boardToBed, s.contour));
  const all = [{ by: undefined, recipe }, ...artRecipes.map((one) => ({ by: one.id, recipe: one }))];
  for (const { by, recipe: its } of all) {
    const fill = put('fill', by).map((c) => flatten(c));
    const lines = ordered(put('line', by), { x: 0, y: 0 });
    for (const setting of engravings(its)) {
      if (fill.length > 0) addFill(moves, fill, setting, machine.acceleration);
      addLines(moves, lines, setting);
    }
  }
  for (const { by, recipe: its } of all) addLines(moves, ordered(put('cut', by), { x: 0, y: 0 }), its.cut);
  return ok(moves);
};

/** What of some pieces goes by another recipe. */
export const piecesBy = (pieces: readonly PlacedPiece[], recipeId: string): PlacedPiece[] =>
  pieces.flatMap(({ shapes, ...piece }) => {
    const its = (shapes.apart ?? []).filter((a) => a.recipeId === recipeId);
    return its.length === 0
      ? []
      : [{ ...piece, shapes: { filled: its.flatMap((a) => a.filled), drawn: its.flatMap((a) => a.drawn), cut: its.flatMap((a) => a.cut) } }];
  }); // prettier-ignore

/** Recipes that something on some pieces goes by beside the batch’s, in the order of the batch; one that is not there is left out and held back by the gate. */
export const otherRecipes = ({ artRecipes = [] }: Pick<BatchInput, 'artRecipes'>, pieces: readonly PlacedPiece[]): readonly Recipe[] => {
  const ids = new Set(pieces.flatMap(({ shapes }) => (shapes.apart ?? []).map((a) => a.recipeId)));
  return artRecipes.filter((recipe) => ids.has(recipe.id));
}; // prettier-ignore

/**
 * What is written of pieces that carry pictures, in lists that are used again: the pictures' dots first, then all else.
 *
 * @returns nothing where none of them carries a picture: their moves are written as they are; or why it cannot be
 */
export const writtenMoves = (
  input: BatchInput,
  r: BatchReckoning,
  pieces: readonly PlacedPiece[],
  burns: 'engrave' | 'cut',
  pictures: Pictures,
): Result<Iterable<Moves> | undefined> =>
  dotsFirst(input, r, pieces, r.face.recipe?.[burns], pictures, () => pieceMoves(input, r, pieces, burns, 'none'));

/** What is written of the segment of a long piece that is on, as of pieces. */
export const writtenSegment = (
  input: BatchInput,
  r: BatchReckoning,
  long: LongReckoning,
  pictures: Pictures,
): Result<Iterable<Moves> | undefined> =>
  dotsFirst(input, r, segmentPictures(long), input.recipe?.engrave, pictures, () =>
    segmentMoves(input, r, long, 'none'),
  );

const dotsFirst = (
  input: BatchInput,
  r: BatchReckoning,
  pieces: readonly PlacedPiece[],
  setting: BurnSetting | undefined,
  pictures: Pictures,
  beside: () => Result<Moves>,
): Result<Iterable<Moves> | undefined> => {
  const ids = new Set(pieces.flatMap(({ shapes }) => (shapes.pictures ?? []).map((p) => p.pictureId)));
  if (!setting || ids.size === 0) return ok(undefined);
  if ([...ids].some((id) => !pictures.has(id)))
    return fail('no-picture', 'A picture of this setup is not at hand. Choose it again.', 'run');
  const { interval } = setting;
  const dots = dotsOfFile(pictureDots(pieces, r.boardToBed, interval), interval, ', or load fewer pieces at once');
  if (!dots.ok) return dots;
  const rest = beside();
  if (!rest.ok) return rest;
  const lists = function* (): Generator<Moves> {
    yield* pictureMoves(pieces, r.boardToBed, setting, input.machine.acceleration, input.setup.burn.sweep, pictures);
    yield rest.value;
  };
  return ok(lists());
};

/**
 * Head moves for the pieces on the board now: engraved, or cut out of their print.
 *
 * @param part what of pictures is in it: the whole of their areas, for times and outlines, or nothing of them
 */
export const pieceMoves = (
  input: BatchInput,
  r: BatchReckoning,
  pieces: readonly PlacedPiece[],
  burns: 'engrave' | 'cut',
  part: 'whole' | 'none' = 'whole',
): Result<Moves> => {
  const { recipe: own } = r.face;
  if (!own) return NO_RECIPE;
  const moves = new Moves();
  const { acceleration } = input.machine;
  const { sweep } = input.setup.burn;
  for (const setting of burns === 'engrave' ? engravings(own) : [own.cut])
    engraveLoad(moves, pieces, r.boardToBed, setting, acceleration, sweep, part);
  const others = otherRecipes(input, pieces).map((recipe) => ({ recipe, its: piecesBy(pieces, recipe.id) }));
  for (const { recipe, its } of others)
    for (const setting of engravings(recipe)) engraveLoad(moves, its, r.boardToBed, setting, acceleration, sweep);
  // What is inside is cut before what it is cut out of lets it go.
  addLines(moves, linesOnBed(pieces, 'cut', r.boardToBed), own.cut);
  for (const { recipe, its } of others) addLines(moves, linesOnBed(its, 'cut', r.boardToBed), recipe.cut);
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
