import type { Budget } from '../budget';
import type { BurnSetting } from '../burn';
import type {
  Body,
  ControlNumber,
  Drive,
  HeightStack,
  RingResult,
  RoundShape,
  Levelling,
  Seat,
  Spacings,
  LyingSide,
  Sweep,
  TaperReckoning,
  ThrowLimit,
  Travel,
  Unrolling,
} from '../drive';
import type { Problem } from '../result';
import type { GoverningSize, Question } from '../samples';
import type { Mm, Rad, Share } from '../units';
import type { WorkedLine } from '../working';
import type { PlacedFace } from './round-faces';
import type { Remark } from './finding';

/** Everything that follows once a blank lies on a drive. */
export interface OnDrive {
  readonly drive: Drive;
  readonly seat: Seat;
  readonly body: Body;
  readonly rings: RingResult;
  readonly travel: Travel;
  readonly control: ControlNumber;
  readonly taper: TaperReckoning;
  readonly level: Levelling;
  readonly throwing: ThrowLimit;
  /** The axis must be set lower than it is. */
  readonly mustSlow: boolean;
  readonly heights: HeightStack;
  readonly standing: { readonly name: string; readonly left: Mm };
  readonly sweep: Sweep;
  readonly unrolling: Unrolling;
  /** Interval of the recipe in steps, what is offered, and what is used. */
  readonly interval: {
    readonly wanted: Mm;
    readonly steps: number;
    readonly offered: readonly { steps: number; interval: Mm }[];
    readonly used: Mm;
    /** The recipe at that interval, with as much energy on the surface. */
    readonly burned: BurnSetting;
  } | null;
  /** Length that the witness ring is commanded at the contact circle, mm. */
  readonly circumference: Mm;
  /** Where the ring lies, from the rim, and how far it is round there; mm. */
  readonly ring: {
    readonly at: Mm;
    readonly circumference: Mm;
    /** The part of a turn that it goes: less than one where a feature is in the way. */
    readonly part: Share;
  };
  /** How far it may be turned from where it is zeroed, angles from the feature; null where it cannot be zeroed there. */
  readonly reach: { readonly from: Rad; readonly to: Rad } | null;
  /** Predicted gap (positive) or overlap at a seam, mm, with its 95 %. */
  readonly seam: { readonly gap: Mm; readonly spread: Mm; readonly working: readonly WorkedLine[] };
  /** How far the surface leaves the focus over the art, mm, against the range. */
  readonly focusFall: { readonly fall: Mm; readonly ok: boolean; readonly working: readonly WorkedLine[] };
}

export interface RoundReckoning {
  /** The blank as the samples say, its profile grown or shrunk to their mean. */
  readonly shape: RoundShape;
  /** Its places along, where it lies with its engraved line level; lying still, as it is. */
  readonly side: LyingSide;
  readonly diameter: GoverningSize;
  readonly tapeWorking: readonly WorkedLine[];
  readonly questions: readonly Question[];
  readonly faces: readonly PlacedFace[];
  readonly problem: Problem | null;
  /** Distances that the drive's rollers can be set to, for this blank; null where they stand as they stand. */
  readonly spacings: Spacings | null;
  readonly on: OnDrive | null;
  /** Stretch of the blank that carries art, from the rim, mm. */
  readonly artFrom: Mm;
  readonly artTo: Mm;
  readonly budget: Budget;
  readonly warnings: readonly Remark[];
}
