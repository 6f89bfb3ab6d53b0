import type { Mm, Rad } from '../units';
import type { ProfilePoint } from './profile';

/**
 * A round blank as it lies with its engraved line level: the head goes along its side, so places along are counted
 * there. `lying` has the same points as `profile`, each at its place along the level side, from the rim.
 */
export interface LyingSide {
  readonly profile: readonly ProfilePoint[];
  readonly lying: readonly ProfilePoint[];
}

/**
 * Lays a blank down, leaning by `lean` so that its engraved line is level: what lies `h` down the axis at radius r comes
 * to `h·cos β + (r₀ − r)·sin β` from the rim's edge, along the level line.
 *
 * @param lean half-angle of the engraved stretch, positive where it widens to the rim; nought for one lying as it is
 * @example layDown([{ at: 0, diameter: 95 }, { at: 180, diameter: 60 }], halfAngle).lying[1].at // 180.849
 */
export const layDown = (profile: readonly ProfilePoint[], lean: Rad): LyingSide => {
  const first = profile[0]!;
  return {
    profile,
    lying: profile.map(({ at, diameter }) => ({
      at: first.at + (at - first.at) * Math.cos(lean) + ((first.diameter - diameter) / 2) * Math.sin(lean),
      diameter,
    })),
  };
};

/** A place carried from one list of points to the other, straight between them and on beyond their ends. */
const carried = (at: Mm, from: readonly ProfilePoint[], to: readonly ProfilePoint[]): Mm => {
  const after = from.findIndex((p, i) => i > 0 && at <= p.at);
  const i = after === -1 ? from.length - 1 : after;
  const [a, b] = [from[i - 1]!, from[i]!];
  const [c, d] = [to[i - 1]!, to[i]!];
  return c.at + ((d.at - c.at) * (at - a.at)) / (b.at - a.at);
};

/** A place on the axis, from the rim, as a place along the level side; mm. */
export const alongSide = (at: Mm, { profile, lying }: LyingSide): Mm => carried(at, profile, lying);

/** A place along the level side as a place on the axis; mm. */
export const downAxis = (at: Mm, { profile, lying }: LyingSide): Mm => carried(at, lying, profile);
