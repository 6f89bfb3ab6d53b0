import type { Mm } from '../units';

/** Something that stands above the bed and may meet the head. Board frame, mm. */
export interface TallThing {
  readonly label: string;
  readonly x: Mm;
  readonly y: Mm;
  readonly radius: Mm;
  /** Above the bed. */
  readonly height: Mm;
}

export interface HeadClearance {
  /** From focus surface to the lowest part of the head, mm. */
  readonly nozzleGap: Mm;
  readonly headRadius: Mm;
  /** Height over which the spot stays usable, mm in total. */
  readonly focusRange: Mm;
}
