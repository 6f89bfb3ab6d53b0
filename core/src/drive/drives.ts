import type { Mm, MmPerS2 } from '../units';

/**
 * How the machine is told about its rotary. `was` is what stands there without the rotary and must
 * be put back.
 */
export type Control =
  /** Asks for the surface travel of one drive turn, mm. */
  | { readonly kind: 'travel-per-turn'; readonly was: number }
  /** Asks for the steps of one drive turn, and works with the roller's diameter. */
  | { readonly kind: 'steps-per-turn'; readonly was: number }
  /** Asks for the steps of one turn of the blank, and works with the blank's diameter. */
  | { readonly kind: 'steps-per-blank-turn'; readonly was: number }
  /** The replaced axis is set to the drive's steps to the millimetre, and back after the job. */
  | { readonly kind: 'axis-steps'; readonly was: number }
  /** The axis keeps its steps to the millimetre; the artwork is scaled instead. */
  | { readonly kind: 'scale-art'; readonly stepsPerMm: number };

/** The word that turns the blank in a file. */
export interface DriveAxis {
  readonly letter: 'Y' | 'A' | 'B' | 'C';
  readonly unit: 'mm' | 'degrees';
}

/** What a drive may stand on, or other feet that it may have. */
export interface Riser {
  readonly name: string;
  /** By how much it stands higher; below nought for lower feet. */
  readonly height: Mm;
}

interface DriveCommon {
  readonly id: string;
  readonly name: string;
  /** Motor steps for one turn of the motor, microsteps counted. */
  readonly stepsPerTurn: number;
  /** Motor turns for one turn of the roller, wheel or chuck. */
  readonly reduction: number;
  readonly motorSide: 'left' | 'right';
  /** Height of the roller's, wheel's or chuck's axis over the feet, mm. */
  readonly height: Mm;
  /** Outer length that a blank may have on it, mm. */
  readonly room: Mm;
  readonly axis: DriveAxis;
  readonly control: Control;
  /** Which way the top of the blank moves on a growing command. */
  readonly topMoves: 'toward' | 'away';
  /** Blocks that may be put under its feet, and other feet. */
  readonly risers: readonly Riser[];
  /** Acceleration that the machine uses for this axis, mm/s² at the surface. */
  readonly axisAcceleration: MmPerS2;
  /** Play when the turn reverses, degrees at the blank. */
  readonly backlash: number;
}

/** Two rollers side by side; the blank lies on both. */
export interface RollerDrive extends DriveCommon {
  readonly kind: 'roller';
  readonly rollerDiameter: Mm;
  /** Distance of the rollers' axes, mm. */
  readonly centreDistance: Mm;
  /** Other distances that they can be set to; absent where they stand as they stand. */
  readonly spacings?: readonly { readonly apart: Mm }[] | null | undefined;
  readonly driven: 1 | 2;
  readonly friction: number;
  /** Thickness of traction bands on the blank, mm; nought without. */
  readonly bandThickness: Mm;
}

/** Driven wheels under the blank and a stop behind its base. */
export interface WheelDrive extends DriveCommon {
  readonly kind: 'wheel';
  readonly rollerDiameter: Mm;
  readonly centreDistance: Mm;
  /** See `RollerDrive`. */
  readonly spacings?: RollerDrive['spacings'];
  readonly driven: 2;
  readonly friction: number;
  readonly bandThickness: 0;
}

/** Jaws or a cone that hold the blank by its end. */
export interface ChuckDrive extends DriveCommon {
  readonly kind: 'chuck';
  /** Largest diameter the jaws take, mm. */
  readonly jaws: Mm;
}

export type Drive = RollerDrive | WheelDrive | ChuckDrive;

/** Motor steps for one turn of the roller, wheel or chuck. */
export const stepsPerDriveTurn = (drive: Drive): number => drive.stepsPerTurn * drive.reduction;

/** Profile to begin with: small rollers, one driven. Every value is to be replaced by the drive's own. */
export const freshDrive: Omit<RollerDrive, 'id' | 'name'> = {
  kind: 'roller',
  stepsPerTurn: 3200,
  reduction: 1,
  motorSide: 'left',
  height: 30,
  room: 300,
  axis: { letter: 'Y', unit: 'mm' },
  control: { kind: 'axis-steps', was: 80 },
  topMoves: 'toward',
  risers: [],
  axisAcceleration: 1000,
  backlash: 0,
  rollerDiameter: 20,
  centreDistance: 40,
  driven: 1,
  friction: 0.5,
  bandThickness: 0,
};
