import { fixed, worked, type WorkedLine } from '../working';
import type { Seconds } from '../units';

/** A load that somebody timed: by the plan, and by the stop-watch from the first move to the last, loading not counted. */
export interface TimedLoad {
  readonly planned: Seconds;
  readonly took: Seconds;
  readonly at: string;
}

/** Loads that are remembered of a machine, the latest last. */
export const REMEMBERED = 9;
/** Beyond this, either way, it was another load that was timed, or a person was waited for. */
const BELIEVED = 4;

/** Whether a time can be that of a load which was planned so long. */
export const believable = (planned: Seconds, took: Seconds): boolean =>
  planned > 0 && took > planned / BELIEVED && took < planned * BELIEVED;

/** How much longer a machine takes than it is planned. */
export interface StopwatchFactor {
  readonly factor: number;
  /** Loads it rests on. */
  readonly loads: number;
  /** Largest distance of one of them from it, as a share; nought where there is one alone. */
  readonly apart: number;
  readonly working: readonly WorkedLine[];
}

/**
 * What a machine's own times say of the plan: the median of took / planned, which one load that was interrupted does not
 * move. Null where nobody timed one.
 */
export const stopwatchFactor = (timed: readonly TimedLoad[] | null | undefined): StopwatchFactor | null => {
  const ratios = (timed ?? [])
    .filter((t) => believable(t.planned, t.took))
    .slice(-REMEMBERED)
    .map((t) => t.took / t.planned)
    .sort((a, b) => a - b);
  if (ratios.length === 0) return null;
  const middle = (ratios.length - 1) / 2;
  const factor = (ratios[Math.floor(middle)]! + ratios[Math.ceil(middle)]!) / 2;
  const apart = Math.max(...ratios.map((q) => Math.abs(q / factor - 1)));
  return {
    factor,
    loads: ratios.length,
    apart,
    working: [
      worked('by the stop-watch', 'median of took / planned', ratios.map((q) => fixed(q, 3)).join(', '), fixed(factor, 3), 'typed'), // prettier-ignore
    ],
  };
};
