import type { Mm } from '../units';
import { KERF_STEP } from './gauge';

/** How truly what holds pieces is made, and how a piece comes to lie against it; all ±, mm. */
export interface Made {
  /** Its kerf against the one that was allowed for. */
  readonly kerf: Mm;
  readonly kerfMeasured: boolean;
  /** Each wall, contact and line against where it was drawn. */
  readonly place: Mm;
  /** A piece that is pushed home: dust, a burr, too light a push. */
  readonly seating: Mm;
  /** Where in the width of a burned line an edge is laid. */
  readonly line: Mm;
}

/** How far off a kerf may be that nobody measured, mm [assumed]. */
const UNMEASURED_KERF: Mm = 0.1;
/** How closely a piece that is pushed home bears on its stop, mm [assumed]. */
const SEATING: Mm = 0.05;

/**
 * How truly a machine makes what holds pieces. A measured kerf is known to half a step of its gauge; walls and lines are
 * where the head returns to; a burned line is as wide as a cut.
 *
 * @example madeOf({ kerf: 0.15, kerfMeasuredAt: null, repeatability: 0.04 }) // kerf ± 0.1, place ± 0.04, line ± 0.075
 */
export const madeOf = ({
  kerf,
  kerfMeasuredAt,
  repeatability,
}: {
  readonly kerf: Mm;
  readonly kerfMeasuredAt: string | null;
  readonly repeatability: Mm;
}): Made => ({
  kerf: kerfMeasuredAt === null ? UNMEASURED_KERF : KERF_STEP / 2,
  kerfMeasured: kerfMeasuredAt !== null,
  place: repeatability,
  seating: SEATING,
  line: kerf / 2,
});
