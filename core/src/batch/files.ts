import { stopwatchFactor, type Recipe, type StopwatchFactor } from '../burn';
import { boxHeight, boxOf, boxWidth, transformContour, translation } from '../geometry';
import type { Pass } from '../holding';
import { writeDxf, writeSvg } from '../output';
import { NO_PICTURES, type Pictures } from '../picture';
import { fail, ok, type Problem, type Result } from '../result';
import {
  fitGaugePart,
  obstaclesOf,
  type BatchInput,
  type BatchReckoning,
  type Drawing,
  type HeldBatch,
  type TimeEstimate,
} from '../setup';
import type { Mm, Seconds } from '../units';
import { gateOf, fileNeeds, passed } from './gate';
import { wayOf, type DrawingName, type FileKit, type ProgramName } from '../ways';

const noSuch = (input: BatchInput, what: string): Result<never> =>
  fail('no-such-file', `${input.name} is not held in a way that has ${what}.`);

const A_DRAWING: Readonly<Record<DrawingName, string>> = {
  board: 'a board to cut',
  load: 'a load',
  marks: 'marks for a camera',
  wrap: 'a wrap',
  template: 'a wrap template',
  cradle: 'a cradle',
  card: 'a trial in card',
  grid: 'a grid',
  locator: 'a locator board',
  pins: 'pins',
  'pin-gauge': 'pins',
  stand: 'a stand',
  square: 'a square to burn',
};
const A_PROGRAM: Readonly<Record<ProgramName, string>> = {
  board: A_DRAWING.board,
  load: A_DRAWING.load,
  marks: A_DRAWING.marks,
  card: A_DRAWING.card,
  grid: A_DRAWING.grid,
  pins: A_DRAWING.pins,
  square: A_DRAWING.square,
  walk: 'a walk',
  target: 'a target',
  strip: 'a strip',
  ring: 'a witness ring',
  turn: 'a turn for a pen dot',
  letter: 'an F on tape',
};

/**
 * What stands in the head's way while a drawing is burned. A drawing has no moves of its own, so they are those of the
 * program of the same name: whoever burns it goes there and runs up to its lines alike.
 */
const inItsWay = (input: BatchInput, r: BatchReckoning, name: DrawingName): Problem | null => {
  const program = name === 'load' && obstaclesOf(r).length > 0 ? wayOf(input).files.programs.load : null;
  const made = program?.(input, r, { title: input.name, pictures: NO_PICTURES });
  return made && !made.ok && made.problem.code === 'collision' ? made.problem : null;
};

/** One of a batch's drawings; refused where its way of holding has none, or with what stands against it. */
export const batchDrawing = (
  input: BatchInput,
  r: BatchReckoning,
  name: DrawingName,
  title = input.name,
): Result<Drawing> => {
  const make = wayOf(input).files.drawings[name];
  return make
    ? passed([...gateOf(input, r, name), ...fileNeeds(input, r, name)], () => {
        const problem = inItsWay(input, r, name);
        return problem ? { ok: false, problem } : make(input, r, title);
      })
    : noSuch(input, A_DRAWING[name]);
};

/** One of a batch's programs for the machine, at once or in chunks. */
export const batchProgram = (
  input: BatchInput,
  r: BatchReckoning,
  name: ProgramName,
  { title = input.name, pictures = NO_PICTURES, ...kit }: Partial<FileKit> = {},
): Result<string | Generator<string>> => {
  const make = wayOf(input).files.programs[name];
  return make
    ? passed([...gateOf(input, r, name), ...fileNeeds(input, r, `${name}.gcode`)], () =>
        make(input, r, { title, pictures, ...kit }),
      )
    : noSuch(input, A_PROGRAM[name]);
};

/** The whole of a program, however it is made. */
const whole = (made: Result<string | Generator<string>>): Result<string> =>
  made.ok ? ok(typeof made.value === 'string' ? made.value : [...made.value].join('')) : made;

/** What is sawn and glued for a batch's fixture, a row each. */
export const batchList = (
  input: BatchInput,
  r: BatchReckoning,
  name: 'locator',
): Result<readonly (readonly string[])[]> => {
  const make = wayOf(input).files.lists?.[name];
  return make ? make(r) : noSuch(input, A_DRAWING[name]);
};

/** Whether a batch has one of the papers that are laid out and printed. */
export const hasPaper = (batch: HeldBatch, name: 'print' | 'marks' | 'template'): boolean =>
  wayOf(batch).files.papers?.includes(name) ?? false;

/** Slots to try with the board that slotted parts are cut from, whichever way work is held. */
export const fitGaugeDrawing = (input: BatchInput): Drawing => {
  const part = fitGaugePart(input);
  return { title: `${input.name}, fit-gauge`, passes: part.passes, sheet: part };
};

/** A drawing on its sheet, or moved onto one with its rim round it; mm. */
export const onSheet = ({ passes, sheet }: Drawing): { width: number; height: number; passes: readonly Pass[] } => {
  if ('width' in sheet) return { width: sheet.width, height: sheet.height, passes };
  const box = boxOf(passes.flatMap((p) => p.contours.flatMap((c) => c.vertices)));
  const shift = translation(sheet.rim - box.minX, sheet.rim - box.minY);
  return {
    width: boxWidth(box) + 2 * sheet.rim,
    height: boxHeight(box) + 2 * sheet.rim,
    passes: passes.map((p) => ({ ...p, contours: p.contours.map((c) => transformContour(shift, c)) })),
  };
};

/** A drawing as SVG, true size. */
export const drawingSvg = (drawing: Drawing): string => {
  const { width, height, passes } = onSheet(drawing);
  return writeSvg(drawing.title, width, height, passes);
};

/** A drawing as DXF, in its own coordinates. */
export const drawingDxf = ({ passes }: Drawing): string => writeDxf(passes);

/** The G-code of a load, in chunks. */
export const loadGcode = (
  input: BatchInput,
  r: BatchReckoning,
  title: string,
  pictures: Pictures = NO_PICTURES,
): Result<Iterable<string>> => {
  const made = batchProgram(input, r, 'load', { title, pictures });
  return made.ok ? ok(typeof made.value === 'string' ? [made.value] : made.value) : made;
};

/** The walk of the true outline: no line switches the beam on. */
export const walkGcode = (input: BatchInput, r: BatchReckoning): Result<string> =>
  whole(batchProgram(input, r, 'walk'));

/** Time for the pieces on the board now and for the whole batch, by planning every move. */
export const estimateTime = (input: BatchInput, r: BatchReckoning): Estimate | null => {
  const made = wayOf(input).time(input, r);
  const stopwatch = stopwatchFactor(input.machine.stopwatch);
  const by = stopwatch?.factor ?? 1;
  return made && { ...made, load: made.load * by, burning: made.burning * by, between: made.between * by, batch: made.batch * by, planned: made.load, stopwatch }; // prettier-ignore
};

/** Lines to the inch that machines are commonly set to [common practice]. */
const DENSITIES = [225, 254, 300, 400, 500];

/** A time as this machine has it: planned, and put right by its own stop-watch. */
export interface Estimate extends TimeEstimate {
  /** Of a load, by the plan alone. */
  readonly planned: Seconds;
  readonly stopwatch: StopwatchFactor | null;
}

/** What the next finer common density would cost. */
export interface Finer {
  readonly linesPerInch: number;
  readonly interval: Mm;
  /** For the whole batch. */
  readonly more: Seconds;
}

/** The time that the next density would take beyond an estimate; null beyond the finest, and on a drive, whose steps say it. */
export const finerTime = (input: BatchInput, r: BatchReckoning, now: Estimate): Finer | null => {
  const { recipe } = r.face;
  if (!recipe || r.own.round) return null;
  const linesPerInch = DENSITIES.find((d) => 25.4 / d < recipe.engrave.interval * 0.99);
  if (!linesPerInch) return null;
  const interval = 25.4 / linesPerInch;
  const finer = (of: Recipe): Recipe => ({ ...of, engrave: { ...of.engrave, interval } });
  const then = estimateTime(
    { ...input, recipe: input.recipe && finer(input.recipe) },
    { ...r, face: { ...r.face, recipe: finer(recipe) } },
  );
  // Lines that are only drawn are as many at any density.
  return then && then.batch - now.batch > 0.05 ? { linesPerInch, interval, more: then.batch - now.batch } : null;
};
