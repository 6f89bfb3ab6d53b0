import { GRAVITY } from './traction';
import type { Body } from './round';

/**
 * A cylinder on two rollers, stepped through time as free bodies with springs at the contacts:
 * nothing of the throw limit's algebra is in it. For tests and the simulated drive.
 *
 * The driven rollers' surfaces accelerate; friction follows Coulomb's law, smoothed over a slow
 * slip. Lengths mm, seconds, kg.
 *
 * @returns whether the blank left its rollers or fell behind the drive
 */
export const simulateThrow = (what: {
  readonly body: Body;
  readonly radius: number;
  readonly theta: number;
  readonly friction: number;
  readonly driven: 1 | 2;
  readonly acceleration: number;
  readonly direction: 1 | -1;
  readonly seconds?: number;
}): boolean => {
  const { body, radius: r, theta, friction, driven, acceleration, direction } = what;
  const m = body.mass;
  const sin = Math.sin(theta);
  const cos = Math.cos(theta);
  // Contact springs stiff enough to sink a hundredth of a millimetre, critically damped.
  const stiffness = (m * GRAVITY) / 0.01;
  const damping = 2 * Math.sqrt(stiffness * m);
  const dt = 0.04 / Math.sqrt(stiffness / m);
  const seconds = what.seconds ?? 0.4;
  const slow = 2;
  let x = 0;
  let y = -0.01 / (2 * cos * cos);
  let vx = 0;
  let vy = 0;
  let spin = 0;
  let drive = 0;
  let behind = 0;
  for (let t = 0; t < seconds; t += dt) {
    // Settle first, then accelerate the rollers' surface.
    if (t > 0.02) drive += direction * acceleration * dt;
    let fx = 0;
    let fy = -m * GRAVITY;
    let torque = 0;
    for (const side of [-1, 1] as const) {
      // Unit vector from the contact to the axis, and along the surface in the sense of turning.
      const nx = -side * sin;
      const ny = cos;
      const tx = cos;
      const ty = side * sin;
      const sunk = -(x * nx + y * ny);
      if (sunk <= 0) continue;
      const n = Math.max(0, stiffness * sunk - damping * (vx * nx + vy * ny));
      fx += n * nx;
      fy += n * ny;
      const isDriven = side === -1 || driven === 2;
      if (!isDriven) continue;
      const slip = drive - (spin * r + vx * tx + vy * ty);
      const f = friction * n * Math.max(-1, Math.min(1, slip / slow));
      fx += f * tx;
      fy += f * ty;
      torque += f * r;
    }
    vx += (fx / m) * dt;
    vy += (fy / m) * dt;
    spin += (torque / body.inertia) * dt;
    x += vx * dt;
    y += vy * dt;
    behind = Math.abs(drive - spin * r);
    if (Math.hypot(x, y) > 0.25 * r || behind > 2.5 * slow) return true;
  }
  return false;
};
