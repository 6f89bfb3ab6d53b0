import { addLines, countedToFile, Moves, ordered, squareFor, type BurnSetting } from '../burn';
import { contoursBox, polyline, transformContour, translation, type Contour } from '../geometry';
import { pinGauge, pinsOnScrap, type Pass } from '../holding';
import { fail, ok, type Problem, type Result } from '../result';
import { fitGauge } from '../slotted';
import type { BatchInput } from './input';
import { bedProgram, parkOf } from './bed-program';
import { NO_STOCK_RECIPE } from './moves';
import type { Drawing } from './programs';
import type { BatchReckoning } from './reckoned';

/** Rim left round parts in a file, mm. */
const RIM = 3;

/** A part that a fixture needs beside its board, on a sheet of its own, mm. */
export interface Part {
  readonly width: number;
  readonly height: number;
  readonly passes: readonly Pass[];
}

/** Passes moved so that everything lies just inside a sheet of its own, with its size. */
export const onItsOwn = (passes: readonly Pass[]): Part => {
  const box = contoursBox(passes.flatMap((p) => p.contours));
  const shift = translation(RIM - box.minX, RIM - box.minY);
  return {
    width: box.maxX - box.minX + 2 * RIM,
    height: box.maxY - box.minY + 2 * RIM,
    passes: passes.map((p) => ({ ...p, contours: p.contours.map((c) => transformContour(shift, c)) })),
  };
};

export const cutOf = (name: string, contours: readonly Contour[]): Pass[] => [{ name, kind: 'cut', contours }];

export const missing = (what: string, field: string): Result<never> =>
  fail('not-chosen', `${what} at the Hold station first.`, field);

export const problemOr = (r: BatchReckoning, fallback: Result<never>): Result<never> => {
  const known: Problem | undefined = r.fixings.problems[0] ?? r.boardProblem ?? undefined;
  return known ? { ok: false, problem: known } : fallback;
};

/** A dozen pins on their scrap. */
export const pinsPart = (input: BatchInput, r: BatchReckoning): Result<Part> => {
  const { pins } = r.fixings;
  const { pins: pinned } = input.setup.beside;
  if (!pins || !pinned) return problemOr(r, missing('Choose pins', 'hold.pins'));
  if (pins.onScrap === 0)
    return fail(
      'scrap-small',
      `A pin of ${pins.length.toFixed(1)} mm does not lie on a scrap of ${pinned.scrap.width} × ${pinned.scrap.height} mm.`,
      'hold.pins.scrap',
    );
  const { width, height } = pinned.scrap;
  return ok({ width, height, passes: cutOf('pins', pinsOnScrap(pins, pinned, input.machine.kerf)) });
};

/** Shanks of several widths, to try in the bed's cells. */
export const pinGaugePart = (input: BatchInput): Result<Part> => {
  const { pins: pinned } = input.setup.beside;
  return pinned
    ? ok(onItsOwn(cutOf('gauge', pinGauge(pinned.cell, input.machine.kerf))))
    : missing('Choose pins', 'hold.pins');
};

/** Slots of several widths, to try with the board that slotted parts are cut from. */
export const fitGaugePart = (input: BatchInput): Part =>
  onItsOwn(cutOf('gauge', fitGauge(input.setup.beside.stock.thickness, input.machine.kerf)));

/** The parts of a stand under the work. */
export const standPart = (_: BatchInput, r: BatchReckoning): Result<Part> =>
  r.fixings.stand
    ? ok(onItsOwn(cutOf('stand', r.fixings.stand.contours)))
    : problemOr(r, missing('Choose a stand', 'hold.stand'));

/** A square as large as the bed takes, to see what the machine's own axes really go: it is burned as the machine counts. */
export const squarePart = ({ machine: { bed } }: Pick<BatchInput, 'machine'>): Part => {
  const side = squareFor(bed);
  const [x, y] = [(bed.width - side) / 2, (bed.height - side) / 2];
  const corners = [
    { x, y },
    { x: x + side, y },
    { x: x + side, y: y + side },
    { x, y: y + side },
  ];
  return { width: bed.width, height: bed.height, passes: [{ name: 'square', kind: 'line', contours: [polyline(corners, true)] }] }; // prettier-ignore
};

/** A part as a drawing, true size. */
export const partDrawing = (input: BatchInput, name: string, made: Result<Part>): Result<Drawing> =>
  made.ok ? ok({ title: `${input.name}, ${name}`, passes: made.value.passes, sheet: made.value }) : made;

/**
 * A part as G-code: lines with the engraving recipe, cuts with the cutting one.
 * @param counted whether it is burned as the machine counts, its axes taken for true
 */
export const partProgram = (
  input: BatchInput,
  name: string,
  made: Result<Part>,
  counted = false,
): Result<Generator<string>> => {
  if (!made.ok) return made;
  if (!input.stockRecipe) return NO_STOCK_RECIPE;
  if (made.value.width > input.machine.bed.width || made.value.height > input.machine.bed.height)
    return fail(
      'off-bed',
      `It takes ${made.value.width.toFixed(0)} × ${made.value.height.toFixed(0)} mm; the bed of ${input.machine.name} has ${input.machine.bed.width} × ${input.machine.bed.height} mm.`,
      'machine.bed',
    );
  const { engrave, cut } = input.stockRecipe;
  const line: BurnSetting = { ...engrave, passes: 1 };
  const moves = new Moves();
  for (const pass of made.value.passes)
    addLines(moves, ordered(pass.contours, { x: 0, y: 0 }), pass.kind === 'cut' ? cut : line);
  return bedProgram(input, moves, {
    title: `${input.name}, ${name}`,
    mend: { words: 'Take a smaller sheet, or another machine.', field: 'machine.bed' },
    notes: [`${made.value.width.toFixed(1)} x ${made.value.height.toFixed(1)} mm, at the bed's front left`],
    ...(counted ? { frame: { toFile: countedToFile(input.machine), park: parkOf(input) } } : {}),
  });
};
