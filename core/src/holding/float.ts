import type { Mm, Rad } from '../units';

/**
 * Greatest yaw of an l × w rectangle with corners of radius r in an L × W pocket whose corners are as much rounder as it
 * is larger: the smaller root of `(l−2r)·cosψ + (w−2r)·sinψ + 2r = L` and `(l−2r)·sinψ + (w−2r)·cosψ + 2r = W`.
 *
 * @returns radians; 0 when the piece does not fit, π/2 when nothing stops it
 * @example maxYaw(60, 30, 61, 31) // 0.01674 rad = 0.959°
 * @example maxYaw(30, 30, 31, 31, 5) // 0.0513 rad = 2.94°: round corners let it turn further
 */
export const maxYaw = (l: Mm, w: Mm, L: Mm, W: Mm, r: Mm = 0): Rad => {
  if (l > L || w > W) return 0;
  // What is rounded off turns on the spot: the rest is a sharp rectangle in a pocket as much smaller.
  const [a, b] = [Math.max(0, l - 2 * r), Math.max(0, w - 2 * r)];
  const diagonal = Math.hypot(a, b);
  const root = (lean: number, room: number): number =>
    room >= diagonal ? Math.PI / 2 : lean - Math.acos(room / diagonal);
  return Math.min(root(Math.atan2(b, a), L - l + a), root(Math.atan2(a, b), W - w + b));
};

/** Bounding box of an l × w rectangle with corners of radius r, turned by ψ radians. */
export const turnedSize = (l: Mm, w: Mm, yaw: Rad, r: Mm = 0): { length: Mm; width: Mm } => {
  const c = Math.abs(Math.cos(yaw));
  const s = Math.abs(Math.sin(yaw));
  const [a, b] = [Math.max(0, l - 2 * r), Math.max(0, w - 2 * r)];
  return { length: a * c + b * s + (l - a), width: a * s + b * c + (w - b) };
};
