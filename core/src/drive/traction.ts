import type { Mm, MmPerS, MmPerS2, Rad } from '../units';
import { degrees, fixed, percent, worked, type WorkedLine } from '../working';
import type { Drive } from './drives';
import type { Body } from './round';
import type { Seat } from './seat';

/** Standard gravity, mm/s² [CGPM 1901]. */
export const GRAVITY: MmPerS2 = 9806.65;
/** Walking the outline on a lying blank [common practice], mm/s. */
export const WALK: MmPerS = 20;
/** Share of the limit that is recommended: friction is a guess, and idle moves are what throws cups. */
export const SAFE_SHARE = 0.5;

/**
 * Largest surface acceleration by friction with both contacts loaded as at rest:
 * `μ·k·g₀/(2·cos θ)`, as the trade's rule has it; mm/s². It leaves out that the driving force
 * itself shifts the load from one roller to the other; `tractionLimit` takes that in.
 */
export const restingTraction = (friction: number, driven: 1 | 2, theta: Rad): MmPerS2 =>
  (friction * driven * GRAVITY) / (2 * Math.cos(theta));

/**
 * Traction of a cylinder on two rollers, per unit of weight, with the load shift that the driving
 * force makes. Direction +1 drives the left contact's surface to the right, −1 to the left.
 *
 * Forces: gravity, a normal force at each contact towards the axis, friction along the driven ones.
 * Solved for friction at its limit; when a roller would have to pull, the blank climbs out first.
 *
 * @returns tangential force over weight, and what ends it
 */
const forceOverWeight = (
  friction: number,
  driven: 1 | 2,
  theta: Rad,
  direction: 1 | -1,
): { force: number; ends: 'slip' | 'climb' } => {
  const s = Math.sin(theta);
  const c = Math.cos(theta);
  const mu = friction * direction;
  // Unknown N₁ (driven), N₂: balance across and up; contact 1 at the left, contact 2 at the right.
  const mu2 = driven === 2 ? mu : 0;
  const a11 = s + mu * c;
  const a12 = -s + mu2 * c;
  const a21 = c - mu * s;
  const a22 = c + mu2 * s;
  const det = a11 * a22 - a12 * a21;
  const n1 = -a12 / det;
  const n2 = a11 / det;
  if (det > 0 && n1 >= 0 && n2 >= 0) return { force: friction * (n1 + (driven === 2 ? n2 : 0)), ends: 'slip' };
  // One contact is empty: the other carries the weight with its friction below the limit.
  return { force: s, ends: 'climb' };
};

export type ThrowCause = 'slips on its rollers' | 'climbs out of its rollers' | 'handle falls' | 'the drive itself';

export interface ThrowLimit {
  /** Surface acceleration at which the blank no longer follows, mm/s². */
  readonly limit: MmPerS2;
  /** What to set: half of it, and never more than the drive can. */
  readonly recommended: MmPerS2;
  readonly cause: ThrowCause;
  /** Fastest idle turning, mm/s at the surface. */
  readonly idleSpeed: MmPerS;
  readonly walkSpeed: MmPerS;
  readonly working: readonly WorkedLine[];
}

/**
 * Largest surface acceleration at which a blank follows its drive, in its worse direction of
 * turning: traction over the mass that has to be turned, less what an unbalance (a handle) takes.
 *
 * `a = (F − m_h·g₀·r_h/r) / (I/r²)` with F the traction and I the blank's inertia.
 */
export const throwLimit = (drive: Drive, seat: Seat, body: Body, surfaceRadius: Mm): ThrowLimit => {
  const r = surfaceRadius;
  if (drive.kind === 'chuck') {
    return {
      limit: drive.axisAcceleration,
      recommended: drive.axisAcceleration,
      cause: 'the drive itself',
      idleSpeed: 200,
      walkSpeed: WALK,
      working: [
        worked(
          'held by jaws',
          'no slip; the drive’s own acceleration',
          `${fixed(drive.axisAcceleration, 0)} mm/s²`,
          `${fixed(drive.axisAcceleration, 0)} mm/s²`,
          'typed',
        ),
      ],
    };
  }
  const each = ([1, -1] as const).map((direction) =>
    forceOverWeight(drive.friction, drive.driven, seat.theta, direction),
  );
  const worse = each[0]!.force <= each[1]!.force ? each[0]! : each[1]!;
  const turning = body.inertia / (r * r);
  const weight = body.mass * GRAVITY;
  const unbalance = (body.unbalance * GRAVITY) / r;
  const limit = Math.max(0, (worse.force * weight - unbalance) / turning);
  const recommended = Math.min(SAFE_SHARE * limit, drive.axisAcceleration);
  const cause: ThrowCause =
    limit === 0 ? 'handle falls' : worse.ends === 'slip' ? 'slips on its rollers' : 'climbs out of its rollers';
  // A handle flung round unloads the rollers: keep its pull under a quarter of the weight.
  const fling = body.unbalance > 0 ? r * Math.sqrt((0.25 * weight) / body.unbalance) : Infinity;
  const idleSpeed = Math.min(200, fling);
  return {
    limit,
    recommended,
    cause,
    idleSpeed,
    walkSpeed: Math.min(WALK, idleSpeed),
    working: [
      worked(
        'traction at rest',
        'μ × k × g₀ / (2 × cos θ)',
        `${fixed(drive.friction)} × ${drive.driven} × 9.807 / (2 × cos ${degrees(seat.theta, 1)})`,
        `${fixed(restingTraction(drive.friction, drive.driven, seat.theta) / 1000, 3)} m/s²`,
        'common practice',
      ),
      worked(
        'share of it left by the load shift',
        'balance of forces in the worse direction of turning',
        `θ ${degrees(seat.theta, 1)}, μ ${fixed(drive.friction)}, ${drive.driven} driven`,
        percent(worse.force / ((drive.friction * drive.driven) / (2 * Math.cos(seat.theta)))),
        'geometry',
      ),
      worked(
        'what has to be turned',
        'I / r² over the mass',
        `${fixed(body.inertia, 1)} kg·mm² / ${fixed(r, 1)}² / ${fixed(body.mass, 3)} kg`,
        fixed(turning / body.mass, 3),
        'geometry',
      ),
      worked(
        'what the handle takes',
        'm_h × g₀ × r_h / r',
        `${fixed(body.unbalance, 2)} kg·mm × 9.807 / ${fixed(r, 1)}`,
        `${fixed(unbalance / 1000, 3)} N`,
        'geometry',
      ),
      worked(
        'largest acceleration',
        '(traction × weight − handle) / (I/r²)',
        `(${fixed((worse.force * weight) / 1000, 3)} − ${fixed(unbalance / 1000, 3)}) N / ${fixed(turning, 3)} kg`,
        `${fixed(limit, 0)} mm/s²`,
        'geometry',
      ),
      worked(
        'to be set',
        'half the limit, at most what the axis is set to',
        `min(0.5 × ${fixed(limit, 0)}, ${fixed(drive.axisAcceleration, 0)})`,
        `${fixed(recommended, 0)} mm/s²`,
        'common practice',
      ),
    ],
  };
};
