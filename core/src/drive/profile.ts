import { fail, ok, type Result } from '../result';
import type { Mm, Rad } from '../units';

/** A diameter measured at a place along a round blank; `at` is counted from its rim, along the axis. */
export interface ProfilePoint {
  readonly at: Mm;
  readonly diameter: Mm;
}

/** Most points of a profile, and least distance between two, mm. */
export const MOST_POINTS = 40;

/** Whether a profile can be one: it runs from the rim to the base, never back, with real diameters. */
export const checkProfile = (profile: readonly ProfilePoint[]): Result<readonly ProfilePoint[]> => {
  if (profile.length < 2)
    return fail('profile-short', 'A profile needs the diameter at the rim and at the base.', 'shape.profile');
  for (const [i, p] of profile.entries()) {
    if (!(p.diameter > 0) || !Number.isFinite(p.at))
      return fail('profile-diameter', `Profile line ${i + 1}: a diameter must be more than nought.`, 'shape.profile');
    const before = profile[i - 1];
    if (before && p.at <= before.at)
      return fail(
        'profile-crossing',
        `Profile line ${i + 1} lies at ${p.at} mm, not beyond line ${i} at ${before.at} mm. Give the places in order, from the rim to the base.`,
        'shape.profile',
      );
  }
  return ok(profile);
};

/** Diameter at a distance from the rim, straight between measured places, mm. */
export const diameterAt = (profile: readonly ProfilePoint[], at: Mm): Mm => {
  const first = profile[0]!;
  if (at <= first.at) return first.diameter;
  for (let i = 1; i < profile.length; i += 1) {
    const a = profile[i - 1]!;
    const b = profile[i]!;
    if (at <= b.at) return a.diameter + ((b.diameter - a.diameter) * (at - a.at)) / (b.at - a.at);
  }
  return profile[profile.length - 1]!.diameter;
};

/** A profile as if every diameter were larger by `by`, mm: what samples say of pieces like it. */
export const grownProfile = (profile: readonly ProfilePoint[], by: Mm): ProfilePoint[] =>
  profile.map((p) => ({ at: p.at, diameter: p.diameter + by }));

/** The steepest lean of the surface between two places, radians; positive when it widens towards the rim. */
export const halfAngle = (profile: readonly ProfilePoint[], from: Mm, to: Mm): Rad =>
  to === from ? 0 : Math.atan((diameterAt(profile, from) - diameterAt(profile, to)) / (2 * (to - from)));
