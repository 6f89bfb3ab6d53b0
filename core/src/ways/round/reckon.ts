import { accelerationIn } from './in-machine';
import { driveOf } from './settings';
import { aimingOf, atInterval, axesLeft } from '../../burn';
import { reckonRoundBudget } from '../../budget';
import {
  alongSide,
  bodyOf,
  capacityCheck,
  checkProfile,
  combineRings,
  controlNumber,
  diameterAt,
  grownProfile,
  halfAngle,
  freeFrom,
  handleSweep,
  inTurn,
  heightStack,
  layDown,
  nearestInterval,
  pictureToFile,
  reckonLevelling,
  reckonSeat,
  reckonTaper,
  reckonTravel,
  RING_REPEAT,
  roundLength,
  diameterFromTape,
  tapeCheck,
  throwLimit,
  UPRIGHT,
  widestPlace,
  wholeStepIntervals,
  type Drive,
  type RoundShape,
  type LyingSide,
  playAt,
  reckonSpacings,
} from '../../drive';
import { aimingError, pointerDoubt, type PointerDoubt } from '../../marks';
import { madeOf } from '../../holding';
import type { Problem } from '../../result';
import { dimensionQuestions, governingSize, nextPiece, type GoverningSize } from '../../samples';
import type { Mm, Rad } from '../../units';
import { fixed, mm, worked } from '../../working';
import {
  type BatchInput,
  contentsOn,
  placeFaces,
  type DriveSettings,
  type OnDrive,
  type PlacedFace,
  type RoundReckoning,
  heldNow,
  type ReckonOptions,
} from '../../setup';
import { numberError, seamOf } from './seam';
import { spacingWarnings, warningsOf } from './warnings';

const meanOf = (values: readonly number[]): number | null =>
  values.length === 0 ? null : values.reduce((a, b) => a + b, 0) / values.length;

const measuredShape = (
  input: BatchInput,
  shape: RoundShape,
): Pick<RoundReckoning, 'shape' | 'diameter' | 'questions' | 'tapeWorking'> => {
  const widest = diameterAt(shape.profile, widestPlace(shape.profile));
  const caliper = input.blank.samples.diameter ?? [];
  const tapes = input.blank.samples.tape ?? [];
  const round = meanOf(tapes);
  // Where no caliper was used the tape says how wide it is.
  const byTape = caliper.length === 0 && round !== null;
  const samples = byTape ? tapes.map(diameterFromTape) : caliper;
  const diameter = governingSize({
    label: byTape ? 'diameter by tape' : 'diameter',
    nominal: byTape ? diameterFromTape(round) : widest,
    catalogueTolerance: input.blank.catalogueTolerance,
    samples,
    coverage: 0.95,
    confidence: 0.95,
  });
  // Against what it is said to be where it governs itself, against the caliper where that does.
  const tape = tapeCheck(byTape ? widest : diameter.mean, round);
  const capacity = capacityCheck(shape);
  return {
    shape: { ...shape, profile: grownProfile(shape.profile, diameter.mean - widest) },
    diameter,
    tapeWorking: tape.working,
    questions: [
      ...dimensionQuestions('diameter', widest, samples, Math.max(input.machine.bed.width, input.machine.bed.height)),
      ...(tape.question && !byTape ? [tape.question] : []),
      ...(capacity ? [capacity] : []),
    ],
  };
};

/** Standing of the pointer offset of a machine, for the budget. */
const pointerOf = (input: BatchInput, now: Date): PointerDoubt =>
  pointerDoubt(input.machine.pointerOffset, aimingError(aimingOf(input.machine)).sigma, now);

/** The row interval that was asked for, and the nearest that the axis can step; null without a recipe. */
const intervalOf = ({ recipe, machine }: BatchInput, step: Mm): OnDrive['interval'] => {
  if (!recipe) return null;
  const wanted = recipe.engrave.interval;
  const used = nearestInterval(wanted, step).interval;
  const burned = atInterval(recipe.engrave, used, machine.leastPower);
  return { wanted, ...wholeStepIntervals(wanted, step), used, burned };
};

/** How far the surface leaves a level line as it turns. */
const focusFallOf = ({ machine }: BatchInput, bow: Mm, runOut: Mm): OnDrive['focusFall'] => {
  const fall = bow + runOut;
  const half = machine.focusRange / 2;
  return {
    fall,
    ok: fall <= half,
    working: [
      worked(
        'surface off a level line',
        'bow of the profile + run-out / 2',
        `${fixed(bow)} + ${fixed(runOut)}`,
        mm(fall),
        'geometry',
      ),
      worked('focus range', 'half of it either way', `${fixed(machine.focusRange)} / 2`, mm(half), 'typed'),
    ],
  };
};

/** The drive as it is set up under the head, of all ways that it could stand. */
const standingOf = ({ bed, riser }: DriveSettings['stand'], lift: Mm, { options }: OnDrive['heights']) => {
  const name = `${bed === 'out' ? 'bed taken out' : 'on the bed'}${lift > 0 ? `, on ${riser}` : ''}`;
  return options.find((o) => o.name === name) ?? options[0]!;
};

/** Kept free of a feature at the ends of a part of a ring, rad. */
const RING_MARGIN = 0.05;

/** The part of a turn that a ring may go whichever way the drive turns: nobody knows that before the F was burned. */
const ringPart = (zeroAt: Rad, reach: OnDrive['reach']): number => {
  if (!reach) return 1;
  const half = Math.min(reach.to - zeroAt, zeroAt - reach.from);
  return half >= Math.PI - 1e-6 ? 1 : Math.max(0, half - RING_MARGIN) / (2 * Math.PI);
};

/** Faces as they come to the top without turning through what is in the way. */
const withinReach = (faces: readonly PlacedFace[], on: OnDrive | null): readonly PlacedFace[] => {
  if (!on?.reach || on.sweep.radius === 0) return faces;
  const { from } = on.reach;
  return faces.map((f) => ({
    ...f,
    places: f.places.map((p) => (p.closes ? p : { ...p, angle: inTurn(p.angle, from) })),
  }));
};

const layOn = (
  input: BatchInput,
  shape: RoundShape,
  { side, diameter }: { readonly side: LyingSide; readonly diameter: GoverningSize },
  drive: Drive,
  { from, to }: { readonly from: Mm; readonly to: Mm },
): { on: OnDrive | null; problem: Problem | null } => {
  const settings = driveOf(input);
  const { nozzleGap } = input.machine;
  const lies = reckonSeat(shape, drive, settings.contactAt);
  if (!lies.ok) return { on: null, problem: lies.problem };
  const seat = lies.value;
  const circumference = Math.PI * seat.contactDiameter;
  const pieces = drive.kind === 'chuck' ? null : { mean: diameter.mean, u: nextPiece(diameter) };
  const rings = combineRings(input.rings, circumference, RING_REPEAT, pieces);
  const travel = reckonTravel(drive, seat.contactDiameter, rings.correction);
  const control = controlNumber(drive, travel);
  const number = numberError(control, settings.numberSet);
  const taper = reckonTaper(shape.profile, from, to);
  const body = bodyOf(shape);
  const throwing = throwLimit(drive, seat, body, seat.contactDiameter / 2);
  const heights = heightStack(shape, drive, seat, taper, input.machine);
  const riser = drive.risers.find((r) => r.name === settings.stand.riser)?.height ?? 0;
  const free = { from: settings.overhang, to: roundLength(shape) };
  const set = accelerationIn(input, drive);
  const middle = (from + to) / 2;
  const sweep = handleSweep(shape, drive, seat, riser, free, { from, to }, nozzleGap);
  const zeroAt = shape.feature ? (settings.zeroAt ?? 0) : 0;
  const reach = freeFrom(sweep, zeroAt);
  return {
    problem: null,
    on: {
      drive,
      seat,
      body,
      rings,
      travel,
      control,
      taper,
      level: reckonLevelling(shape, drive, free, taper, seat.contactAt),
      throwing,
      mustSlow: set > throwing.recommended + 0.5,
      heights,
      standing: standingOf(settings.stand, riser, heights),
      sweep,
      reach,
      unrolling: {
        ...side,
        contactDiameter: seat.contactDiameter,
        rowScaling: settings.rowScaling,
        zeroAt,
        toFile: pictureToFile(settings.rimFaces, drive.topMoves, settings.letter ?? UPRIGHT),
      },
      interval: intervalOf(input, travel.step),
      circumference,
      ring: { at: middle, circumference: Math.PI * diameterAt(shape.profile, middle), part: ringPart(zeroAt, reach) },
      seam: seamOf(settings.seam, drive, rings, diameter, circumference, number),
      focusFall: focusFallOf(input, taper.bow, drive.kind === 'chuck' ? (settings.runOut ?? 0.2) / 2 : 0),
    },
  };
};

/** Whether a face carries strokes beside what is filled. */
const hasStrokes = (input: BatchInput, face: PlacedFace, alphabets: ReckonOptions['alphabets']): boolean => {
  const { content } = face.choice;
  const isStroke = (alphabet: string): boolean => alphabets[alphabet]?.kind === 'stroke';
  switch (content.kind) {
    case 'art':
      return content.contours.some((c) => !c.closed);
    case 'lettering':
      return (
        input.setup.lettering.lines.some((l) => isStroke(l.alphabet)) ||
        contentsOn(input, face).some((c) => (c.kind === 'serial' ? isStroke(c.alphabet) : c.kind !== 'code'))
      );
    case 'picture':
      return false;
  }
};

/** What a round blank and its drive make of a batch. */
export const reckonRound = (
  input: BatchInput,
  drawn: RoundShape,
  { now, simulatedPieces, alphabets }: Pick<ReckonOptions, 'now' | 'simulatedPieces' | 'alphabets'>,
): RoundReckoning => {
  const checked = checkProfile(drawn.profile);
  const measured = checked.ok
    ? measuredShape(input, drawn)
    : {
        ...measuredShape(input, {
          ...drawn,
          profile: [
            { at: 0, diameter: 50 },
            { at: 100, diameter: 50 },
          ],
        }),
      };
  const { shape } = measured;
  const settings = driveOf(input);
  const zeroAt = shape.feature ? (settings.zeroAt ?? 0) : 0;
  const placed = placeFaces(input, shape, settings.seam, zeroAt);
  const zones = placed.length > 0 ? placed.map((f) => f.zone) : input.blank.zones;
  const artFrom = Math.max(0, Math.min(roundLength(shape), ...zones.map((z) => z.x - z.width / 2)));
  const artTo = Math.min(roundLength(shape), Math.max(artFrom + 1, ...zones.map((z) => z.x + z.width / 2)));
  // On a drive it is raised until its line is level; lying still its cradle holds it as it is.
  const side = layDown(shape.profile, input.drive ? halfAngle(shape.profile, artFrom, artTo) : 0);
  const laid = !checked.ok
    ? { on: null, problem: checked.problem }
    : input.drive
      ? layOn(input, shape, { side, diameter: measured.diameter }, input.drive, { from: artFrom, to: artTo })
      : { on: null, problem: null };
  const { on } = laid;
  const spacings = checked.ok && input.drive ? reckonSpacings(shape, input.drive, driveOf(input).contactAt) : null;
  const faces = withinReach(placed, on);
  const artDiameter = diameterAt(shape.profile, (artFrom + artTo) / 2);
  const halfAround = Math.max(1, ...faces.map((f) => f.around / 2));
  const angles = faces.flatMap((f) => (f.choice.wraps ? [0] : f.places.map((p) => Math.abs(p.angle - zeroAt))));
  const far = Math.max(
    1,
    ...faces.flatMap((f) =>
      f.choice.wraps
        ? [f.around / 2]
        : f.places.map((p) => (Math.abs(p.angle - zeroAt) * artDiameter) / 2 + f.around / 2),
    ),
  );
  const budget = reckonRoundBudget({
    tolerance: input.tolerance,
    chuck: input.drive?.kind === 'chuck',
    diameter: { ...measured.diameter, spread: nextPiece(measured.diameter) },
    artDiameter,
    // Art that closes meets itself half a turn from where it begins.
    reach: Math.max(0, ...angles, faces.some((f) => f.choice.wraps) ? Math.PI : 0),
    far,
    halfAround,
    halfAlong: (artTo - artFrom) / 2,
    calibration: on && on.rings.rings > 0 ? on.rings.uncertainty : null,
    repeat: RING_REPEAT,
    runOut: driveOf(input).runOut,
    taper: on && !driveOf(input).rowScaling ? on.taper.residual : 0,
    farEnd: alongSide(artTo, side),
    laid: on ? { length: on.drive.room } : null,
    still: heldNow(input).way === 'cradle' ? { length: roundLength(shape), seating: madeOf(input.machine).seating } : null, // prettier-ignore
    hasFeature: shape.feature !== null,
    pointer: pointerOf(input, now),
    repeatability: input.machine.repeatability,
    axes: axesLeft(input.machine),
    step: on?.travel.step ?? 0,
    play: on && faces.some((f) => hasStrokes(input, f, alphabets)) ? playAt(on.drive, on.seat.contactDiameter) : 0,
    number: on ? numberError(on.control, driveOf(input).numberSet) : 0,
    pieces: simulatedPieces,
    seed: 20_261,
  });
  return {
    ...measured,
    side,
    faces,
    problem: laid.problem,
    spacings,
    on,
    artFrom,
    artTo,
    budget,
    warnings: [...warningsOf(input, faces, shape, on), ...spacingWarnings(spacings, input.drive)],
  };
};
