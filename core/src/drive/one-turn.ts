import type { Rad } from '../units';

/** What lies round a blank: its middle and half of it, rad from the feature. */
export interface Stretch {
  readonly angle: Rad;
  readonly half: Rad;
}

const TURN = 2 * Math.PI;
/** An angle as it is met in the turn that begins at `from`, rad. */
export const inTurn = (angle: Rad, from: Rad): Rad => from + ((((angle - from) % TURN) + TURN) % TURN);
/** Stretches that meet, within rounding. */
const MEETS = 1e-9;

/**
 * Where a turn is begun so that all art comes to the top within it, none of it cut: the middle of the widest free
 * stretch.
 *
 * @returns null where it is one turn at most from the first to the last as they stand, or nothing is free
 * @example turnBegins([{ angle: 170°, half: 30° }, { angle: −150°, half: 20° }]) // 5°, the middle of what is free from −130° to 140°
 */
export const turnBegins = (stretches: readonly Stretch[]): Rad | null => {
  if (stretches.length === 0) return null;
  const first = Math.min(...stretches.map((s) => s.angle - s.half));
  const last = Math.max(...stretches.map((s) => s.angle + s.half));
  if (last - first <= TURN + MEETS) return null;
  const order = stretches
    .map((s) => ({ from: inTurn(s.angle - s.half, first), length: 2 * s.half }))
    .sort((a, b) => a.from - b.from);
  // What reaches over the end of the turn takes some of its beginning.
  let end = Math.max(order[0]!.from, ...order.map((s) => s.from + s.length - TURN));
  let widest = { from: 0, length: MEETS };
  for (const { from, length } of [...order, { from: order[0]!.from + TURN, length: 0 }]) {
    if (from - end > widest.length) widest = { from: end, length: from - end };
    end = Math.max(end, from + length);
  }
  return widest.length > MEETS ? widest.from + widest.length / 2 : null;
};

/**
 * Where a stretch is met in one turn: at its own angle, a turn on or a turn back. What reaches over the end of the turn
 * goes on at its other side, so it is met twice.
 *
 * @returns its middles, rad
 * @example metWithin({ angle: π, half: 0.3 }, −π) // [π, −π]
 */
export const metWithin = ({ angle, half }: Stretch, begin: Rad): Rad[] => {
  const middle = inTurn(angle, begin);
  return [middle, middle - TURN, middle + TURN].filter(
    (m) => m + half > begin + MEETS && m - half < begin + TURN - MEETS,
  );
};
