import { compose, invert, type Transform } from '../geometry';
import type { ZeroCorner } from '../holding';
import type { Aiming, PointerOffset } from '../marks';
import type { KeptCamera } from '../photo';
import type { Mm, MmPerS, MmPerS2, Rad, Share, Watt } from '../units';
import type { Optics } from './optics';
import type { TimedLoad } from './stopwatch';
import { axesOf, shownToTrue, type BurnedSquare } from './axes';

/** How a machine wants its G-code (RS-274) written. */
export interface Dialect {
  /** Spindle word carries power; its value at full power. */
  readonly powerMax: number;
  /** M3: constant power. M4: power follows the speed. */
  readonly laserOn: 'M3' | 'M4';
  /** Arcs as G2/G3, or as short lines. */
  readonly arcs: boolean;
  readonly decimals: 2 | 3 | 4;
}

/** A second source that sits beside the first on the same head, and is chosen by T2 and M6. */
export interface SecondSource {
  readonly source: Machine['source'];
  readonly power: Watt;
  readonly leastPower: Share;
  /** Where its beam meets the work, from where the first one's would, bed frame, mm. */
  readonly offset: { readonly x: Mm; readonly y: Mm };
}

/** A machine profile. Lengths mm, speeds mm/s. */
export interface Machine {
  readonly id: string;
  readonly name: string;
  readonly source: 'gas tube' | 'diode' | 'fibre';
  readonly power: Watt;
  /** Share of full power below which the source does not fire, or not evenly; nought where nobody said. */
  readonly leastPower: Share;
  /** A second source on the same head; nothing where it has one alone. */
  readonly second?: SecondSource | null | undefined;
  readonly bed: { readonly width: Mm; readonly height: Mm };
  readonly zeroCorner: ZeroCorner;
  /** Which way y grows in this machine's files and on its display. */
  readonly yRuns: 'away' | 'toward';
  readonly kerf: Mm;
  readonly kerfMeasuredAt: string | null;
  readonly pointerOffset: PointerOffset | null;
  /** A square that it burned, by the rule; absent while nobody measured one. */
  readonly square?: BurnedSquare | null | undefined;
  /** Coarse, fine and finest jog, mm. */
  readonly jogSteps: readonly [Mm, Mm, Mm];
  readonly eye: Mm;
  readonly spot: Mm;
  /** ± at which the head returns to a place, mm. */
  readonly repeatability: Mm;
  readonly nozzleGap: Mm;
  readonly headRadius: Mm;
  /** Nozzle to the bed at its lowest, and to the floor when the bed can be taken out, mm. */
  readonly bedLowest: Mm;
  readonly withoutBed: Mm | null;
  readonly focusRange: Mm;
  /** How its beam is focused; nothing where nobody said. */
  readonly optics?: Optics | null | undefined;
  /** For how many days a proof on it holds, by the shop's own rule; until something is changed where nobody said. */
  readonly proofDays?: number | null | undefined;
  /** A camera that is fixed over the bed, as it was calibrated; null for none. */
  readonly camera: KeptCamera | null;
  readonly acceleration: MmPerS2;
  readonly rapidSpeed: MmPerS;
  /** Loads that were timed on it, the latest last. */
  readonly stopwatch?: readonly TimedLoad[] | null | undefined;
  readonly dialect: Dialect;
}

/** A profile to begin with: a small gas tube bench, nothing measured. Every value is to be replaced. */
export const freshMachine: Omit<Machine, 'id' | 'name'> = {
  source: 'gas tube',
  power: 40,
  // A gas tube does not fire below about 13 % [common practice].
  leastPower: 0.13,
  bed: { width: 400, height: 300 },
  zeroCorner: 'front-left',
  yRuns: 'away',
  kerf: 0.15,
  kerfMeasuredAt: null,
  pointerOffset: null,
  jogSteps: [10, 1, 0.1],
  eye: 0.03,
  spot: 0.03,
  repeatability: 0.05,
  nozzleGap: 6,
  headRadius: 18,
  bedLowest: 160,
  withoutBed: null,
  focusRange: 2,
  camera: null,
  acceleration: 3000,
  rapidSpeed: 300,
  dialect: { powerMax: 1000, laserOn: 'M4', arcs: true, decimals: 3 },
};

/** One kind of burn. */
export interface BurnSetting {
  /** Share of full power. */
  readonly power: Share;
  readonly speed: MmPerS;
  /** Distance between lines, for filling; mm. */
  readonly interval: Mm;
  readonly passes: number;
  /** Which way filled lines run, anticlockwise from the machine's x; along x where nobody said. */
  readonly angle?: Rad | null | undefined;
  /** By how much every further pass turns them. */
  readonly turn?: Rad | null | undefined;
  /** Filled lines all the same way, and not there and back. */
  readonly oneWay?: boolean | null | undefined;
  /** Lens above its focus; below where negative. */
  readonly focus?: Mm | null | undefined;
  /** Air over the place that is burned; as it stands where nobody said. */
  readonly air?: 'on' | 'off' | null | undefined;
  /** The first where nobody said. */
  readonly source?: 'second' | null | undefined;
}

/** Whether a recipe is for what a blank is said to be made of; nobody said, and nothing is known against it. */
export const isFor = ({ material }: Pick<Recipe, 'material'>, of: string | null | undefined): boolean =>
  !of?.trim() || material.trim().toLowerCase() === of.trim().toLowerCase();

/** Burn settings for a material on a machine, with the trial that proved them. */
export interface Recipe {
  readonly id: string;
  readonly name: string;
  readonly material: string;
  readonly machineId: string;
  readonly engrave: BurnSetting;
  /** Burns that follow the engraving over the same areas, in their order: a second direction, a polish. */
  readonly after?: readonly BurnSetting[] | undefined;
  readonly cut: BurnSetting;
  /** The trial that proved it, and why that does not stand any more; null for a recipe that no trial proved. */
  readonly proof: { readonly trial: string; readonly stale: string | null } | null;
}

/** What limits aiming at this machine. */
export const aimingOf = (machine: Machine): Aiming => ({
  step: machine.jogSteps[2],
  eye: machine.eye,
  spot: machine.spot,
  back: machine.repeatability,
});

type Coordinates = Pick<Machine, 'bed' | 'zeroCorner' | 'yRuns'>;

/** The corner of the bed that a machine counts from; bed frame. */
const zeroOf = ({ zeroCorner, bed }: Coordinates): { x: Mm; y: Mm } => ({
  x: zeroCorner.endsWith('left') ? 0 : bed.width,
  y: zeroCorner.startsWith('front') ? 0 : bed.height,
});

/**
 * From the bed as a machine counts it (origin front left, x right, y away from the operator, its own axes taken for square
 * and true) to the coordinates it shows and reads: zero in its corner, y running its way. x always grows to the right.
 */
export const countedToFile = (machine: Coordinates): Transform => {
  const { x, y } = zeroOf(machine);
  const d = machine.yRuns === 'away' ? 1 : -1;
  return { a: 1, b: 0, c: 0, d, e: -x, f: -y * d };
};

/**
 * From the bed's frame, true millimetres at right angles, to the coordinates the machine shows and reads. What its own
 * axes really go, where that was measured, is in it: what it shows is turned back to what is, what is burned is asked for
 * as it counts. Both agree in the corner of its zero.
 */
export const bedToFile = (machine: Coordinates & Pick<Machine, 'square'>): Transform => {
  const { axes, measured } = axesOf(machine.square);
  const plain = countedToFile(machine);
  return measured ? compose(plain, invert(shownToTrue(axes, zeroOf(machine)))) : plain;
};

/** Fluence of one pass of a filled burn, J/mm²: P / (speed × interval). */
export const fluence = (power: Watt, setting: BurnSetting): number =>
  (power * setting.power) / (setting.speed * setting.interval);

/**
 * A setting at another distance between lines that leaves as much energy on the surface: power follows the interval; where
 * the source cannot give it, the speed does.
 *
 * @param least share of full power below which the source does not fire
 * @example atInterval({ power: 0.45, speed: 250, interval: 0.085, passes: 1 }, 0.06185, 0.1) // power 0.3274
 */
export const atInterval = (setting: BurnSetting, interval: Mm, least: Share): BurnSetting => {
  const wanted = (setting.power * interval) / setting.interval;
  // What is below the least as it stands is refused elsewhere: it is not made right by going faster.
  const power = setting.power < least ? wanted : Math.min(1, Math.max(least, wanted));
  return { ...setting, interval, power, speed: wanted === 0 ? setting.speed : (setting.speed * power) / wanted };
};
