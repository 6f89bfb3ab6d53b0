import { duration, type Seconds, type Share } from '../units';
import { fixed, percent, worked, type WorkedLine } from '../working';
import type { Machine } from './machine';
import type { PlannedTime } from './moves';

/** Half of full scale is what a gas tube bears for hours; at 70 % it fires half of the time [common practice]. */
const CONTINUOUS: Share = 0.5;
const HALF_OF_THE_TIME: Share = 0.7;

/**
 * Share of the time that a gas tube may fire at a power: all of it up to half of full scale, and half as much again for each
 * fifth of full scale beyond, which passes through both values of common practice and never comes to nought.
 * @example dutyAllowed(0.7) // 0.5
 */
export const dutyAllowed = (power: Share): Share =>
  power <= CONTINUOUS ? 1 : 2 ** (-(power - CONTINUOUS) / (HALF_OF_THE_TIME - CONTINUOUS));

/** What a load asks of a gas tube. */
export interface Duty {
  /** Share of the load's time in which it fires. */
  readonly fires: Share;
  /** Mean power while it fires, as a share of full scale. */
  readonly power: Share;
  /** By how long it has to rest after each load beside what the load leaves it, before the next. */
  readonly rest: Seconds;
  readonly working: readonly WorkedLine[];
}

/**
 * The duty of a gas tube over one load; null for another source, which is rated for what it is sold as, or where nothing
 * is fired by it. Times at several powers add up by the share of its own limit that each takes.
 */
export const dutyOf = ({ total, fired }: PlannedTime, { source }: Pick<Machine, 'source'>): Duty | null => {
  const on = [...fired.values()].reduce((s, t) => s + t, 0);
  if (source !== 'gas tube' || on === 0 || total === 0) return null;
  const power = [...fired].reduce((s, [p, t]) => s + p * t, 0) / on;
  // As long as the load would have to last for the tube to bear it.
  const borne = [...fired].reduce((s, [p, t]) => s + t / dutyAllowed(p), 0);
  const rest = Math.max(0, borne - total);
  return {
    fires: on / total,
    power,
    rest,
    working: [
      worked('fires', 'time with its beam on / time of the load', `${duration(on)} / ${duration(total)}`, percent(on / total, 0), 'geometry'), // prettier-ignore
      ...[...fired].filter(([p]) => p > CONTINUOUS).map(([p, t]) =>
        worked(`${percent(p, 0)} of full scale`, 'may fire ½^((P − 50 %) / 20 %) of the time', `½^(${fixed((p - CONTINUOUS) / (HALF_OF_THE_TIME - CONTINUOUS), 2)})`, `${percent(dutyAllowed(p), 0)}: ${duration(t)} take ${duration(t / dutyAllowed(p))}`, 'common practice')), // prettier-ignore
      worked('rest', 'what its fire takes − the load', `${duration(borne)} − ${duration(total)}`, duration(rest), 'common practice'), // prettier-ignore
    ],
  };
};
