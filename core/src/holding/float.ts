import type { Mm, Rad } from '../units';

/**
 * Greatest yaw of an l × w rectangle in an L × W pocket: the smaller root of
 * `l·cosψ + w·sinψ = L` and `l·sinψ + w·cosψ = W`.
 *
 * @returns radians; 0 when the piece does not fit, π/2 when nothing stops it
 * @example maxYaw(60, 30, 61, 31) // 0.01674 rad = 0.959°
 */
export const maxYaw = (l: Mm, w: Mm, L: Mm, W: Mm): Rad => {
  if (l > L || w > W) return 0;
  const diagonal = Math.hypot(l, w);
  const root = (lean: number, room: number): number =>
    room >= diagonal ? Math.PI / 2 : lean - Math.acos(room / diagonal);
  return Math.min(root(Math.atan2(w, l), L), root(Math.atan2(l, w), W));
};

/** Bounding box of an l × w rectangle turned by ψ radians. */
export const turnedSize = (l: Mm, w: Mm, yaw: Rad): { length: Mm; width: Mm } => {
  const c = Math.abs(Math.cos(yaw));
  const s = Math.abs(Math.sin(yaw));
  return { length: l * c + w * s, width: l * s + w * c };
};
