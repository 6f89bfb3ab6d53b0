import { bedToFile, countedToFile, headMoves, Moves, reachOf, type Machine } from '../burn';
import { apply, boxCorners, boxOf, invert, type Box, type Transform, type Vec } from '../geometry';
import { gcodeChunks, type GcodeJob, type Pause } from '../output';
import { ok, type Problem, type Result } from '../result';
import { inTheWay, type Obstacle } from './in-the-way';
import type { BatchInput } from './input';

/** Rounding of a file's numbers, mm. */
const ROUNDED = 1e-3;

/** Where the head is left: at the corner of the machine's zero, in the file's coordinates. */
export const parkOf = (input: Pick<BatchInput, 'machine'>): Vec => {
  const corner = {
    x: input.machine.zeroCorner.endsWith('left') ? 0 : input.machine.bed.width,
    y: input.machine.zeroCorner.startsWith('front') ? 0 : input.machine.bed.height,
  };
  return apply(bedToFile(input.machine), corner);
};

/** What is done about a head that would leave its bed, and where. */
export interface Mend {
  readonly words: string;
  readonly field: string;
}

const place = (v: number): string =>
  v
    .toFixed(1)
    .replace(/^-(?=0\.0$)/, '')
    .replace('-', '−');

/**
 * What stands against a head going everywhere in a box: a place outside the travel, told in the machine's own numbers.
 *
 * @param reach all that the head passes, beam on or off, bed frame (origin front left, y away from the operator), mm
 * @returns null where all of it lies on the bed
 * @example offTravel(machine, { minX: -6.35, … }, mend) // “The head would go to x −6.4; Bench A goes from 0.0 to 900.0. …”
 */
export const offTravel = (machine: Machine, reach: Box, { words, field }: Mend): Problem | null => {
  const { width, height } = machine.bed;
  const told = (b: Box, m: Transform): Box => boxOf(boxCorners(b).map((p) => apply(m, p)));
  // The machine has its travel by its own count.
  const goes = told(reach, bedToFile(machine));
  const may = told({ minX: 0, minY: 0, maxX: width, maxY: height }, countedToFile(machine));
  if (
    goes.minX >= may.minX - ROUNDED &&
    goes.minY >= may.minY - ROUNDED &&
    goes.maxX <= may.maxX + ROUNDED &&
    goes.maxY <= may.maxY + ROUNDED
  )
    return null;
  const beyond = (['x', 'y'] as const).flatMap((axis) => {
    const [low, high] = axis === 'x' ? (['minX', 'maxX'] as const) : (['minY', 'maxY'] as const);
    const ends = [
      ...(goes[low] < may[low] - ROUNDED ? [place(goes[low])] : []),
      ...(goes[high] > may[high] + ROUNDED ? [place(goes[high])] : []),
    ];
    return ends.length > 0
      ? [`${axis} ${ends.join(' and ')} (${machine.name} goes from ${place(may[low])} to ${place(may[high])})`]
      : [];
  });
  return { code: 'off-travel', message: `The head would have to go to ${beyond.join(', and to ')}. ${words}`, field };
};

/** What a program over the bed is written from: moves in the bed's frame. */
export type BedJob = Omit<GcodeJob, 'toFile' | 'dialect' | 'park'> & {
  readonly mend: Mend;
  /** From the bed to the file's coordinates and where the head is left, where that is not the machine's own zero. */
  readonly frame?: { readonly toFile: Transform; readonly park: Vec } | undefined;
  /** What stands round the work, too tall to be passed over. */
  readonly around?: readonly Obstacle[];
  /** What is written in the place of the moves, a list after the other, none of which goes beyond them. */
  readonly written?: Iterable<Moves | Pause> | undefined;
};

/**
 * A program of moves over the bed, in chunks. The only way such a file is written: refused when any move, beam on or
 * off, approach and run-out included, would leave the bed's travel, or hit what stands round the work.
 *
 * @param beams where the beam goes; the head goes beside it where a second source burns
 */
export const bedProgram = (
  input: BatchInput,
  beams: Moves,
  { mend, frame = { toFile: bedToFile(input.machine), park: parkOf(input) }, around = [], written, ...job }: BedJob,
): Result<Generator<string>> => {
  const { machine } = input;
  const moves = headMoves(beams, machine);
  const lists = written && mapped(written, (list) => (list instanceof Moves ? headMoves(list, machine) : list));
  const problem =
    moves.count === 0
      ? null
      : (offTravel(machine, reachOf(moves), mend) ??
        inTheWay(machine, moves, apply(invert(frame.toFile), frame.park), around));
  return problem
    ? { ok: false, problem }
    : ok(gcodeChunks(lists ?? moves, { ...job, ...frame, dialect: input.machine.dialect }));
};

function* mapped<T>(all: Iterable<T>, to: (one: T) => T): Generator<T> {
  for (const one of all) yield to(one);
}
