import type { Mm } from '../units';
import { fixed, mm, worked, type WorkedLine } from '../working';
import { stepsPerDriveTurn, type Control, type Drive } from './drives';

export interface Travel {
  /** Surface travel of one drive turn, mm: rollers turn the blank by their own rim, whatever its size. */
  readonly perTurn: Mm;
  readonly stepsPerMm: number;
  /** Drive steps for one turn of the blank. */
  readonly stepsPerBlankTurn: number;
  /** Surface travel of one step, mm. */
  readonly step: Mm;
  readonly working: readonly WorkedLine[];
}

/**
 * Steps to a millimetre of surface by the drive's own dimensions, before any ring: those of rollers and
 * wheels do not depend on what lies on them; a chuck's do, so there is no such number. Steps/mm.
 */
export const ownStepsPerMm = (drive: Drive): number | null =>
  drive.kind === 'chuck' ? null : stepsPerDriveTurn(drive) / (Math.PI * drive.rollerDiameter);

/**
 * What a ring's correction is multiplied by when the drive was measured anew since: the ring tells the true
 * steps to a millimetre, which stay; only the number that they are counted against has changed.
 *
 * @param then steps to the millimetre by the drive's dimensions when the ring was read
 */
export const carriedOver = (drive: Drive, then: number): number => {
  const now = ownStepsPerMm(drive);
  return now === null ? 1 : then / now;
};

/**
 * Surface travel and steps. Rollers and wheels: π × roller diameter. Chuck: π × blank diameter.
 *
 * @param contact diameter of the circle that the rollers touch (bands included), or the chucked
 *   blank's reference diameter; mm
 * @param correction factor on steps found by witness rings, 1 without
 */
export const reckonTravel = (drive: Drive, contact: Mm, correction = 1): Travel => {
  const steps = stepsPerDriveTurn(drive);
  const turning = drive.kind === 'chuck' ? contact : drive.rollerDiameter;
  const nominal = Math.PI * turning;
  const stepsPerMm = (steps / nominal) * correction;
  const perTurn = steps / stepsPerMm;
  const stepsPerBlankTurn = stepsPerMm * Math.PI * contact;
  return {
    perTurn,
    stepsPerMm,
    stepsPerBlankTurn,
    step: 1 / stepsPerMm,
    working: [
      worked(
        'travel of one drive turn',
        drive.kind === 'chuck' ? 'π × blank diameter' : 'π × roller diameter, whatever the blank',
        `π × ${fixed(turning, 3)}`,
        mm(nominal, 3),
        'geometry',
      ),
      worked(
        'steps to the millimetre',
        correction === 1 ? 'steps / travel' : 'steps / travel × ring correction',
        `${steps} / ${fixed(nominal, 3)}${correction === 1 ? '' : ` × ${fixed(correction, 5)}`}`,
        fixed(stepsPerMm, 3),
        'geometry',
      ),
      worked(
        'steps of one blank turn',
        'steps per mm × π × D',
        `${fixed(stepsPerMm, 3)} × π × ${fixed(contact, 2)}`,
        fixed(stepsPerBlankTurn, 0),
        'geometry',
      ),
      worked(
        'one step at the surface',
        '1 / steps per mm',
        `1 / ${fixed(stepsPerMm, 3)}`,
        mm(1 / stepsPerMm, 5),
        'geometry',
      ),
    ],
  };
};

export interface ControlNumber {
  /** What is typed into the machine; null when nothing is. */
  readonly value: number | null;
  readonly unit: string;
  readonly where: string;
  readonly was: number | null;
  /** What its dialogue asks for beside it, where it works with a diameter: which one is typed, mm, and in words. */
  readonly diameter: { readonly value: Mm; readonly words: string } | null;
  /** Factor on the file's turning coordinate. */
  readonly artScale: number;
  /** What its last place leaves out, at most, as a share either way; nought where the file carries it. */
  readonly rounding: number;
  readonly working: readonly WorkedLine[];
}

/** The setting of the bed's own axis, which a drive that takes the place of the y motor needs changed. */
export const BED_AXIS = 'y axis, steps/mm';

/** Where the steps of a drive's axis are set: in the y axis where it takes the place of the y motor, else in its own. */
const axisSteps = ({ axis }: Drive): string => (axis.letter === 'Y' ? BED_AXIS : PLACES['axis-steps'].where);

/** The setting by which a drive is slowed down. */
export const accelerationSetting = ({ axis }: Pick<Drive, 'axis'>): string =>
  `${axis.letter === 'Y' ? 'y' : 'rotary'} axis, acceleration`;

const PLACES: Readonly<Record<Control['kind'], { where: string; unit: string }>> = {
  'travel-per-turn': { where: 'rotary, travel of a turn', unit: 'mm' },
  'steps-per-turn': { where: 'rotary, steps of a turn', unit: 'steps' },
  'steps-per-blank-turn': { where: 'rotary, steps of a workpiece turn', unit: 'steps' },
  'axis-steps': { where: 'rotary axis, steps/mm', unit: 'steps/mm' },
  'scale-art': { where: 'nowhere: the file carries it', unit: '' },
};

/**
 * The diameter that stands beside the number, where the machine divides by one: the roller's where it counts turns of the
 * drive, the blank's where the drive bears on it where it counts turns of the workpiece. Another one, the blank's widest
 * for instance, stretches the art by their ratio.
 */
const typedDiameter = (drive: Drive, travel: Travel): ControlNumber['diameter'] => {
  const { kind } = drive.control;
  if (kind !== 'steps-per-turn' && kind !== 'steps-per-blank-turn') return null;
  if (kind === 'steps-per-turn' && drive.kind !== 'chuck')
    return { value: drive.rollerDiameter, words: 'the roller’s own' };
  const contact = travel.stepsPerBlankTurn / (travel.stepsPerMm * Math.PI);
  return { value: Number(contact.toFixed(2)), words: drive.kind === 'chuck' ? 'the blank’s, where art is true' : 'the blank’s, where it bears on the drive' }; // prettier-ignore
};

/** The number that this machine's control chain asks for, and where it is typed. */
export const controlNumber = (drive: Drive, travel: Travel): ControlNumber => {
  if (drive.axis.unit === 'degrees') {
    const artScale = 360 / travel.perTurn;
    return {
      value: null,
      unit: '',
      where: PLACES['scale-art'].where,
      was: null,
      diameter: null,
      artScale,
      rounding: 0,
      working: [
        ...travel.working,
        worked(
          'degrees to the millimetre',
          '360 / travel of one drive turn',
          `360 / ${fixed(travel.perTurn, 3)}`,
          `${fixed(artScale, 4)}°`,
          'geometry',
        ),
      ],
    };
  }
  const { control } = drive;
  const place = PLACES[control.kind];
  const steps = stepsPerDriveTurn(drive);
  const typed = (value: number, digits: number): ControlNumber => {
    const rounded = Number(value.toFixed(digits));
    return {
      value: rounded,
      unit: place.unit,
      where: control.kind === 'axis-steps' ? axisSteps(drive) : place.where,
      was: control.kind === 'scale-art' ? null : control.was,
      diameter: typedDiameter(drive, travel),
      artScale: 1,
      rounding: (0.5 * 10 ** -digits) / value,
      working: travel.working,
    };
  };
  switch (control.kind) {
    case 'travel-per-turn':
      return typed(travel.perTurn, 3);
    case 'steps-per-turn':
      // The controller divides by the roller's own rim, or by the blank's in a chuck, so the correction goes into the steps.
      return typed(
        drive.kind === 'chuck' ? travel.stepsPerBlankTurn : travel.stepsPerMm * Math.PI * drive.rollerDiameter,
        0,
      );
    case 'steps-per-blank-turn':
      return typed(travel.stepsPerBlankTurn, 0);
    case 'axis-steps':
      return typed(travel.stepsPerMm, 3);
    case 'scale-art': {
      const artScale = travel.stepsPerMm / control.stepsPerMm;
      return {
        value: null,
        unit: place.unit,
        where: place.where,
        was: null,
        diameter: null,
        artScale,
        rounding: 0,
        working: [
          ...travel.working,
          worked(
            'the axis believes one turn is',
            'steps / its steps per mm',
            `${steps} / ${fixed(control.stepsPerMm, 3)}`,
            mm(steps / control.stepsPerMm),
            'geometry',
          ),
          worked(
            'art scaled around by',
            'steps per mm / its steps per mm',
            `${fixed(travel.stepsPerMm, 3)} / ${fixed(control.stepsPerMm, 3)}`,
            fixed(artScale, 5),
            'geometry',
          ),
        ],
      };
    }
  }
};

/**
 * Steps that are sent for one unit of the file's turning word while `value` stands in the machine:
 * what really happens after somebody typed it, or did not.
 */
export const stepsForOneUnit = (drive: Drive, value: number, blankDiameter: Mm): number => {
  const steps = stepsPerDriveTurn(drive);
  if (drive.axis.unit === 'degrees') return steps / 360;
  switch (drive.control.kind) {
    case 'travel-per-turn':
      return steps / value;
    case 'steps-per-turn':
      return value / (Math.PI * (drive.kind === 'chuck' ? blankDiameter : drive.rollerDiameter));
    case 'steps-per-blank-turn':
      return value / (Math.PI * blankDiameter);
    case 'axis-steps':
      return value;
    case 'scale-art':
      return drive.control.stepsPerMm;
  }
};

/**
 * The correction on steps that is in force while `value` stands in the machine and the file carries
 * `artScale`: what a ring burned now was burned with.
 */
export const correctionInForce = (drive: Drive, contact: Mm, value: number, artScale: number): number =>
  (stepsForOneUnit(drive, value, contact) * artScale) / reckonTravel(drive, contact).stepsPerMm;

/** Line intervals near a wanted one that are whole steps, so that rows do not band. */
export const wholeStepIntervals = (
  wanted: Mm,
  step: Mm,
): { readonly steps: number; readonly offered: readonly { readonly steps: number; readonly interval: Mm }[] } => {
  const steps = wanted / step;
  const below = Math.max(1, Math.floor(steps + 1e-9));
  const offered = [below, below + 1].map((n) => ({ steps: n, interval: n * step }));
  return {
    steps,
    offered: Math.abs(steps - Math.round(steps)) < 1e-6 ? [offered[Math.round(steps) - below]!] : offered,
  };
};

/** The nearest interval that is a whole number of steps. */
export const nearestInterval = (wanted: Mm, step: Mm): { readonly steps: number; readonly interval: Mm } => {
  const steps = Math.max(1, Math.round(wanted / step));
  return { steps, interval: steps * step };
};

/** Turned back beyond the play, so that it is taken up for certain, mm of surface. */
const TAKEN_UP: Mm = 0.5;

/** How far a drive is turned back before it burns, so that all is come to on a growing value; nought without play, mm. */
export const takeUpAt = (drive: Pick<Drive, 'backlash'>, diameter: Mm): Mm =>
  drive.backlash > 0 ? playAt(drive, diameter) + TAKEN_UP : 0;

/** Play of a turn where it reverses, mm of surface at a diameter. @example playAt({ backlash: 1 }, 75) // 0.654 */
export const playAt = ({ backlash }: Pick<Drive, 'backlash'>, diameter: Mm): Mm =>
  (((backlash * Math.PI) / 180) * diameter) / 2;
