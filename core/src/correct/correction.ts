import type { LoadNumber } from '../units';
import type { Move } from './propose';

/** A move of the burn that somebody accepted, and what it was proposed from. */
export interface Correction extends Move {
  readonly id: string;
  readonly at: string;
  readonly by: string;
  /** The last reading of the laying that it belongs to; null where it holds for every sheet. */
  readonly laying: string | null;
  /** The last load that was burned without it. */
  readonly load: LoadNumber;
  /** Measured pieces it was proposed from. */
  readonly pieces: number;
  /** How often noise alone would have looked so. */
  readonly chance: number;
}
