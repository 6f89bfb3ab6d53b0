import type { Mm } from '../units';

/** Least air between a tall thing and the nozzle, mm [assumed]. */
export const LEAST_AIR: Mm = 1;

/** What too little room under the nozzle comes to, in words. */
export const airWords = (room: Mm): string =>
  room <= 0 ? 'it would be hit' : `only ${room.toFixed(1)} mm of air; ${LEAST_AIR} mm is the least`;

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
  /** By how much the lens is brought below its focus on purpose, and the nozzle with it; nought where it is not. */
  readonly lowered?: Mm;
  /** Height over which the spot stays usable, mm in total. */
  readonly focusRange: Mm;
}
