import { fail, ok, type Result } from '../result';
import type { Mm } from '../units';

/** Most dots of pictures that one file is written of. */
const MOST_FILE_DOTS = 150_000_000;

/**
 * Whether one file may be written of so many dots.
 *
 * @param dots of all its pictures
 * @param interval between them, mm
 * @param or what helps beside a coarser interval
 */
export const dotsOfFile = (dots: number, interval: Mm, or = ''): Result<number> =>
  dots > MOST_FILE_DOTS
    ? fail(
        'picture-too-fine',
        `The pictures would be ${(dots / 1e6).toFixed(0)} million dots at ${interval.toFixed(3)} mm; at most ${MOST_FILE_DOTS / 1e6} million are written. Choose a coarser interval in the recipe${or}.`,
        'recipe',
      )
    : ok(dots);
