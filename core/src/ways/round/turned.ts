import { driveOf } from './settings';
import type { BatchArt } from '../../artwork';
import { addLines, addRow, atInterval, Moves, runUp, type BurnSetting, type FilledRow } from '../../burn';
import { lineToTravel, metWithin, takeUpAt, type Unrolling } from '../../drive';
import { apply, scanFill, type Vec } from '../../geometry';
import { fail, ok, type Problem, type Result } from '../../result';
import { type BatchInput, shapesOn, type PlacedFace, type OnDrive, type RoundReckoning, NO_RECIPE } from '../../setup';
import { dotsOfFile, NO_PICTURES, type Pictures } from '../../picture';
import { laidPictures, PictureLines } from './pictures';
import type { Mm, Ordinal, Rad } from '../../units';

/** What a file for a drive needs of a batch's reckoning. */
export interface TurningNeeds {
  readonly own: { readonly round?: RoundReckoning };
  readonly art: BatchArt | null;
  readonly onTheBoard: readonly { readonly ordinal: Ordinal }[];
}

export const needDrive = (r: TurningNeeds): Result<{ round: RoundReckoning; on: OnDrive }> => {
  const { round } = r.own;
  if (!round?.on)
    return fail('no-drive', round?.problem?.message ?? 'Choose a drive at the Drive station first.', 'drive');
  return ok({ round, on: round.on });
};

/** What everything on a drive waits for. */
export const driveNeeds = (r: TurningNeeds): (Problem | null)[] => {
  const needed = needDrive(r);
  return [needed.ok ? null : needed.problem];
};

/** The burns of the recipe as they are on this drive: at whole steps, each with the energy that it wants on the surface. */
const needRecipe = ({ recipe, machine }: BatchInput, on: OnDrive): Result<readonly [BurnSetting, ...BurnSetting[]]> => {
  if (!recipe || !on.interval) return NO_RECIPE;
  const { burned, used } = on.interval;
  return ok([burned, ...(recipe.after ?? []).map((s) => atInterval(s, used, machine.leastPower))]);
};

/** A face's lines in the file's axes, at each of its places. */
const faceLines = (
  face: PlacedFace,
  art: BatchArt | null,
  ordinal: Ordinal,
  u: Unrolling,
): { filled: Vec[][]; drawn: Vec[][] } => {
  const shapes = shapesOn(face, art, ordinal);
  const { reads } = face.choice;
  const all = (lines: readonly (readonly Vec[])[], closed: boolean): Vec[][] =>
    face.places.flatMap((place) => lines.map((line) => lineToTravel(line, place, reads, u, closed)));
  return { filled: all(shapes.filled, true), drawn: all(shapes.drawn, false) };
};

/** One turn of the blank in the file's axes, travel of the drive, mm. */
interface OneTurn {
  readonly from: Mm;
  readonly to: Mm;
}

/** A line's place in a turn: it belongs where its middle is. */
const middleWithin = (line: readonly Vec[], turn: OneTurn | null): boolean => {
  if (!turn) return true;
  const ys = line.map((p) => p.y);
  const middle = (Math.min(...ys) + Math.max(...ys)) / 2;
  return middle >= turn.from && middle < turn.to;
};

/**
 * Faces as they are met in one turn. Beside a band that closes, what reaches over its seam goes on at the other side of
 * it: it is met twice, and each time only what lies within the turn is burned.
 *
 * @returns the faces with their places, and the turn; no turn where all is met within one as it stands
 */
const withinOneTurn = (
  faces: readonly PlacedFace[],
  u: Unrolling,
): { readonly faces: readonly PlacedFace[]; readonly turn: OneTurn | null } => {
  const band = faces.find((f) => f.choice.wraps);
  const at = (angle: Rad): Vec => apply(u.toFile, { x: ((angle - u.zeroAt) * u.contactDiameter) / 2, y: 0 });
  // Axes that a machine has exchanged have no rows along the blank to leave out.
  if (!band || Math.abs(at(Math.PI).y - at(0).y) < 1) return { faces, turn: null };
  const begin = band.places[0]!.angle - Math.PI;
  const over = faces.some((f) => f.places.some((p) => p.angle - f.half < begin - 1e-9 || p.angle + f.half > begin + 2 * Math.PI + 1e-9)); // prettier-ignore
  if (!over) return { faces, turn: null };
  const ends = [at(begin).y, at(begin + 2 * Math.PI).y];
  return {
    faces: faces.map((f) => ({ ...f, places: f.places.flatMap((p) => metWithin({ ...p, half: f.half }, begin).map((angle) => ({ ...p, angle }))) })), // prettier-ignore
    turn: { from: Math.min(...ends), to: Math.max(...ends) },
  };
};

/** Joins stretches that overlap or touch; pairs from, to. */
const joined = (spans: readonly number[]): number[] => {
  const order = Array.from({ length: spans.length / 2 }, (_, i) => 2 * i).sort((a, b) => spans[a]! - spans[b]!);
  const out: number[] = [];
  for (const i of order) {
    const end = out.length - 1;
    if (end > 0 && spans[i]! <= out[end]!) out[end] = Math.max(out[end]!, spans[i + 1]!);
    else out.push(spans[i]!, spans[i + 1]!);
  }
  return out;
};

/** Everything on the piece, ready to be written line by line. */
export interface Turned {
  readonly on: OnDrive;
  /** Block by block: the lines, then the strokes; a line's stretches are reused for the next. */
  readonly blocks: (pictures: Pictures) => Generator<Moves | FilledRow>;
  /** How many lines there are, for progress. */
  readonly lines: number;
}

/** The piece on the drive: one turn in all, lines along the axis, the turn by whole steps; each line is burned as often as the recipe says before the blank turns on, and burns that follow go round anew. */
export const turned = (input: BatchInput, r: TurningNeeds): Result<Turned> => {
  const needed = needDrive(r);
  if (!needed.ok) return needed;
  const { round, on } = needed.value;
  const recipe = needRecipe(input, on);
  if (!recipe.ok) return recipe;
  const settings = recipe.value;
  const { interval } = settings[0];
  const ordinal = r.onTheBoard[0]?.ordinal ?? 1;
  const filled: Vec[][] = [];
  const drawn: Vec[][] = [];
  const { faces, turn } = withinOneTurn(round.faces, on.unrolling);
  for (const face of faces) {
    const lines = faceLines(face, r.art, ordinal, on.unrolling);
    filled.push(...lines.filled);
    drawn.push(...lines.drawn.filter((line) => middleWithin(line, turn)));
  }
  const laid = laidPictures(faces, on.unrolling, interval, turn);
  if (filled.length + drawn.length + laid.length === 0)
    return fail('no-art', 'There is nothing to engrave yet: say at the Drive station what goes where.', 'drive.faces');
  const dots = dotsOfFile(
    laid.reduce((n, p) => n + (p.lines[1] - p.lines[0] + 1) * (p.dots[1] - p.dots[0] + 1), 0),
    interval,
  );
  if (!dots.ok) return dots;
  const rows = new Map(
    scanFill(filled, interval)
      .filter(({ y }) => !turn || (y >= turn.from && y < turn.to))
      .map((row) => [Math.round(row.y / interval), row.spans]),
  );
  const all = [...rows.keys(), ...laid.flatMap((p) => p.lines)];
  const first = all.reduce((a, b) => Math.min(a, b), Infinity);
  const end = all.reduce((a, b) => Math.max(a, b), -Infinity);
  // Art that closes: a line within half a line of the first one, a turn on, is the first one again. Burned once.
  const closes = round.faces.some((face) => face.choice.wraps);
  const last = closes && (end - first) * interval > on.circumference - interval / 2 ? end - 1 : end;
  const back = takeUpAt(on.drive, on.seat.contactDiameter);
  /** Turns back beyond a place by the play and a little, so that it is come to as all is burned: on a growing value. */
  const takenUp = (y: Mm): Moves => {
    const moves = new Moves();
    moves.rapid(0, y - back);
    return moves;
  };
  const blocks = function* (pictures: Pictures): Generator<Moves | FilledRow> {
    const made = laid.map((p) => {
      const grey = pictures.get(p.face.picture!.content.pictureId);
      return { laid: p, lines: grey ? new PictureLines(p, grey, on.unrolling, interval) : null };
    });
    // A picture that is not at hand stands as the whole of its area.
    const whole = new Map(
      scanFill(
        made.filter((p) => !p.lines).map((p) => [...p.laid.rim]),
        interval,
      ).map((row) => [Math.round(row.y / interval), row.spans]),
    );
    const ends = laid.flatMap((p) => p.dots);
    const grid = { pitch: interval, first: Math.min(...ends), last: Math.max(...ends) + 1 };
    const found: number[] = [];
    for (const setting of settings) yield* rowsOf(setting, made, whole, grid, found);
    // Strokes in the order in which they come to the top, so that the blank turns once.
    const start = (line: readonly Vec[]): number => Math.min(...line.map((p) => p.y));
    drawn.sort((a, b) => start(a) - start(b));
    for (const setting of settings) {
      const moves = new Moves();
      addLines(moves, drawn.map((vertices) => ({ closed: false, vertices })), setting); // prettier-ignore
      if (moves.count === 0) return;
      if (back > 0) yield takenUp(Math.min(...drawn.map(start)));
      yield moves;
    }
  };
  /** One whole turn of filled lines by one burn; the blank turns back for the next. */
  const rowsOf = function* (
    setting: BurnSetting,
    made: readonly { readonly laid: (typeof laid)[number]; readonly lines: PictureLines | null }[],
    whole: ReadonlyMap<number, readonly number[]>,
    grid: NonNullable<FilledRow['grid']>,
    found: number[],
  ): Generator<Moves | FilledRow> {
    const lead = runUp(setting, input.machine.acceleration);
    let forward = true;
    let begun = false;
    for (let k = first; k <= last; k += 1) {
      found.length = 0;
      let sources = 0;
      for (const p of made) {
        if (!p.lines || k < p.laid.lines[0] || k > p.laid.lines[1]) continue;
        const before = found.length;
        p.lines.line(k, found);
        if (found.length > before) sources += 1;
      }
      const others = [rows.get(k), whole.get(k)].filter((spans) => spans !== undefined);
      if (sources + others.length === 0) continue;
      // Pictures stay on their grid, where lines are written fastest, unless something else shares the line.
      const onGrid = others.length === 0;
      const gathered = onGrid ? found : [...found.map((n) => n * interval), ...others.flat()];
      const spans = sources + others.length > 1 ? joined(gathered) : gathered;
      if (back > 0 && !begun) yield takenUp(k * interval);
      begun = true;
      for (let pass = 0; pass < setting.passes; pass += 1) {
        yield { spans, grid: onGrid ? grid : null, y: k * interval, setting, lead, forward };
        if (driveOf(input).bothWays) forward = !forward;
      }
    }
  };
  return ok({ on, blocks, lines: Math.max(0, last - first + 1) * settings.length });
};

/** Moves of the piece on the drive in one list, each picture as the whole of its area: for times and outlines. */
export const turnedMoves = (input: BatchInput, r: TurningNeeds): Result<{ moves: Moves; on: OnDrive }> => {
  const made = turned(input, r);
  if (!made.ok) return made;
  const moves = new Moves();
  for (const block of made.value.blocks(NO_PICTURES)) {
    if (block instanceof Moves) moves.append(block);
    else addRow(moves, block);
  }
  return ok({ moves, on: made.value.on });
};
