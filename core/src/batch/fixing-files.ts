import { addLines, bedToFile, Moves, ordered, type BurnSetting } from '../burn';
import {
  contoursBox,
  roundedRectangle,
  transformContour,
  translation,
  offsetContours,
  type Contour,
} from '../geometry';
import { blankOutline, pinGauge, pinsOnScrap, type Pass } from '../holding';
import { gcodeChunks, writeSvg } from '../output';
import { fail, ok, type Problem, type Result } from '../result';
import { fitGauge } from '../slotted';
import { type BatchInput, parkOf, type BatchReckoning } from '../setup';

/** Rim left round parts in a file, mm. */
const RIM = 3;

/** Passes moved so that everything lies just inside a sheet of its own, with its size. */
const onItsOwn = (passes: readonly Pass[]): { width: number; height: number; passes: Pass[] } => {
  const box = contoursBox(passes.flatMap((p) => p.contours));
  const shift = translation(RIM - box.minX, RIM - box.minY);
  return {
    width: box.maxX - box.minX + 2 * RIM,
    height: box.maxY - box.minY + 2 * RIM,
    passes: passes.map((p) => ({ ...p, contours: p.contours.map((c) => transformContour(shift, c)) })),
  };
};

const cutOf = (name: string, contours: readonly Contour[]): Pass[] => [{ name, kind: 'cut', contours }];

const missing = (what: string, field: string): Result<never> =>
  fail('not-chosen', `${what} at the Hold station first.`, field);

const problemOr = (r: BatchReckoning, fallback: Result<never>): Result<never> => {
  const known: Problem | undefined = r.fixings.problems[0] ?? r.boardProblem ?? undefined;
  return known ? { ok: false, problem: known } : fallback;
};

/** The parts that a fixture needs beside its board. */
export type FixingFile = 'card' | 'pins' | 'pin-gauge' | 'fit-gauge' | 'stand' | 'grid' | 'locator';

/** One of a fixture's parts as passes on a sheet of its own, mm. */
export const fixingPasses = (
  input: BatchInput,
  r: BatchReckoning,
  file: FixingFile,
): Result<{ readonly width: number; readonly height: number; readonly passes: readonly Pass[] }> => {
  const { kerf } = input.machine;
  const { lines, locator, pins, stand } = r.fixings;
  const { pins: pinned } = input.setup.hold;
  switch (file) {
    case 'card':
      if (!lines) return problemOr(r, missing('Choose witness lines', 'hold.method'));
      // As large as the blank itself: the cut runs half a kerf outside.
      return ok(onItsOwn(cutOf('card', offsetContours(blankOutline(input.blank, r.sizes), kerf / 2))));
    case 'pins':
      if (!pins || !pinned) return problemOr(r, missing('Choose pins', 'hold.pins'));
      if (pins.onScrap === 0)
        return fail(
          'scrap-small',
          `A pin of ${pins.length.toFixed(1)} mm does not lie on a scrap of ${pinned.scrap.width} × ${pinned.scrap.height} mm.`,
          'hold.pins.scrap',
        );
      return ok({
        width: pinned.scrap.width,
        height: pinned.scrap.height,
        passes: cutOf('pins', pinsOnScrap(pins, pinned, kerf)),
      });
    case 'pin-gauge':
      return pinned ? ok(onItsOwn(cutOf('gauge', pinGauge(pinned.cell, kerf)))) : missing('Choose pins', 'hold.pins');
    case 'fit-gauge':
      return ok(onItsOwn(cutOf('gauge', fitGauge(input.setup.hold.boardThickness, kerf))));
    case 'stand':
      return stand
        ? ok(onItsOwn(cutOf('stand', stand.contours)))
        : problemOr(r, missing('Choose a stand', 'hold.stand'));
    case 'grid':
      return locator
        ? ok({ width: input.machine.bed.width, height: input.machine.bed.height, passes: locator.passes })
        : problemOr(r, missing('Choose a locator board', 'hold.method'));
    case 'locator': {
      if (!locator) return problemOr(r, missing('Choose a locator board', 'hold.method'));
      const rectangle = (b: { minX: number; minY: number; maxX: number; maxY: number }): Contour =>
        roundedRectangle({ x: (b.minX + b.maxX) / 2, y: (b.minY + b.maxY) / 2 }, b.maxX - b.minX, b.maxY - b.minY);
      return ok(
        onItsOwn([
          ...cutOf('board', [rectangle(locator.board)]),
          { name: 'feet', kind: 'line', contours: locator.feet.map(rectangle) },
          { name: 'stops', kind: 'line', contours: locator.stops.map((s) => rectangle(s.block)) },
          ...locator.passes,
        ]),
      );
    }
  }
};

/** One of a fixture's parts as an SVG drawing, true size. */
export const fixingSvg = (input: BatchInput, r: BatchReckoning, file: FixingFile): Result<string> => {
  const made = fixingPasses(input, r, file);
  return made.ok
    ? ok(writeSvg(`${input.name}, ${file}`, made.value.width, made.value.height, made.value.passes))
    : made;
};

/** One of a fixture's parts as G-code: lines with the engraving recipe, cuts with the cutting one. */
export const fixingGcode = (input: BatchInput, r: BatchReckoning, file: FixingFile): Result<string> => {
  const made = fixingPasses(input, r, file);
  if (!made.ok) return made;
  if (!input.recipe)
    return fail('no-recipe', 'Choose a recipe at the Burn station first: power and speed come from it.', 'recipe');
  if (made.value.width > input.machine.bed.width || made.value.height > input.machine.bed.height)
    return fail(
      'off-bed',
      `It takes ${made.value.width.toFixed(0)} × ${made.value.height.toFixed(0)} mm; the bed of ${input.machine.name} has ${input.machine.bed.width} × ${input.machine.bed.height} mm.`,
      'machine.bed',
    );
  const { engrave, cut } = input.recipe;
  const line: BurnSetting = { ...engrave, passes: 1 };
  const moves = new Moves();
  for (const pass of made.value.passes)
    addLines(moves, ordered(pass.contours, { x: 0, y: 0 }), pass.kind === 'cut' ? cut : line);
  return ok(
    [
      ...gcodeChunks(moves, {
        title: `${input.name}, ${file}`,
        toFile: bedToFile(input.machine),
        dialect: input.machine.dialect,
        park: parkOf(input),
        notes: [`${made.value.width.toFixed(1)} x ${made.value.height.toFixed(1)} mm, at the bed's front left`],
      }),
    ].join(''),
  );
};

/** What is sawn and glued for a locator board, a row each. */
export const cutList = (r: BatchReckoning): Result<readonly (readonly string[])[]> => {
  const { locator } = r.fixings;
  if (!locator) return problemOr(r, missing('Choose a locator board', 'hold.method'));
  return ok([
    ['part', 'count', 'length mm', 'width mm', 'thickness mm', 'note'],
    ...locator.parts.map((p) => [
      p.name,
      String(p.count),
      p.length.toFixed(1),
      p.width.toFixed(1),
      p.thickness.toFixed(1),
      p.note,
    ]),
    ...locator.stops.map((s, i) => [
      `stop ${i + 1} is glued`,
      '1',
      (s.block.maxX - s.block.minX).toFixed(1),
      (s.block.maxY - s.block.minY).toFixed(1),
      '',
      `at the ${s.face} of the ${s.foot} foot; its front left corner ${(s.block.minX - locator.board.minX).toFixed(1)} mm from the board's left, ${(s.block.minY - locator.board.minY).toFixed(1)} mm from its front`,
    ]),
  ]);
};
