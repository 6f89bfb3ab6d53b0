import type { BatchRow } from '@bistre/contract';

/** Whether a batch will be in time: when it would be done if its machine were worked at without a pause, and what that says. */
export interface InTime {
  readonly minutes: number;
  /** Burning is not counted: it cannot be reckoned yet. */
  readonly atLeast: boolean;
  /** Done at, ms since 1970. */
  readonly at: number;
  readonly state: 'in time' | 'close' | 'late' | 'no time set';
}

const MINUTE = 60_000;
/** Less than this share of the time that is left to spare: close. A shop does not work all hours [common practice]. */
const SPARE = 2 / 3;

/**
 * Every batch of one machine by when it is due, each after those that are due before it; those without a time last.
 * @param now ms since 1970
 */
export const inTimeOf = (rows: readonly BatchRow[], now: number): ReadonlyMap<string, InTime> => {
  const due = (row: BatchRow): number => (row.dueAt ? new Date(row.dueAt).getTime() : Infinity);
  const out = new Map<string, InTime>();
  let at = now;
  for (const row of [...rows].sort((a, b) => due(a) - due(b))) {
    const minutes = row.work.hands + (row.work.burning ?? 0);
    at += minutes * MINUTE;
    const left = due(row) - now;
    const state =
      left === Infinity ? 'no time set' : at > due(row) ? 'late' : at - now > (1 - SPARE) * left ? 'close' : 'in time';
    out.set(row.id, { minutes, atLeast: row.work.burning === null, at, state });
  }
  return out;
};
