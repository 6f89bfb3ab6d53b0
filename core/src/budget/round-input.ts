import type { Mm, Rad } from '../units';
import type { AxesInput } from './input';

/** How a piece lies still in its cradle. */
export interface StillInput {
  /** Length of the crest along which the dot is watched, mm. */
  readonly length: Mm;
  /** How closely each piece lies where the one before lay, mm either way. */
  readonly seating: Mm;
}

/** What a round blank's position error follows from. Lengths mm. */
export interface RoundBudgetInput {
  readonly tolerance: Mm;
  readonly chuck: boolean;
  readonly diameter: { readonly mean: Mm; readonly spread: Mm; readonly dof: number; readonly assumed: boolean };
  /** Diameter at the art's middle. */
  readonly artDiameter: Mm;
  /** Largest angle at which a length of surface must end, from where the turn begins: a face's middle, half a turn for art that closes; radians. */
  readonly reach: Rad;
  /** Farthest travel of any art from there, mm of surface. */
  readonly far: Mm;
  /** Half the widest face around, and half the tallest along. */
  readonly halfAround: Mm;
  readonly halfAlong: Mm;
  /** Standard uncertainty of the calibration as a share; null while no ring was read. */
  readonly calibration: number | null;
  /** How well a turn repeats, standard. */
  readonly repeat: Mm;
  /** Total indicator reading; null while no dial was put to it. */
  readonly runOut: Mm | null;
  /** Stretch left at the art's ends, as a share; nought with row scaling. */
  readonly taper: number;
  /** Far end of the art from the rim, where the zero is. */
  readonly farEnd: Mm;
  /** The drive’s length by which it was laid straight; null off a drive. */
  readonly laid: { readonly length: Mm } | null;
  /** A piece that lies still in its cradle; null on a drive. */
  readonly still: StillInput | null;
  readonly hasFeature: boolean;
  readonly pointer: { readonly status: 'measured' | 'stale' | 'unmeasured'; readonly uncertainty: Mm };
  readonly repeatability: Mm;
  /** What the machine’s own axes leave, ±. */
  readonly axes: Omit<AxesInput, 'from'>;
  readonly step: Mm;
  /** Play of the turn that strokes feel, which turn to and fro; nought where all is burned on a growing value, mm. */
  readonly play: Mm;
  /** What the number in the machine may be off by, as a share either way; nought where the file carries it. */
  readonly number: number;
  readonly pieces: number;
  readonly seed: number;
}
