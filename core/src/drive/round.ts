import { fail, ok, type Result } from '../result';
import type { Mm, Rad } from '../units';

/** A diameter measured at a place along a round blank; `at` is counted from its rim, along the axis. */
export interface ProfilePoint {
  readonly at: Mm;
  readonly diameter: Mm;
}

/** What an angle on a round blank is counted from. */
export interface RoundFeature {
  readonly kind: 'handle' | 'existing logo' | 'seam weld';
  /** How far it stands out of the surface, mm; nought for a print or a weld. */
  readonly reach: Mm;
  /** Where it begins and ends, from the rim, mm. */
  readonly from: Mm;
  readonly to: Mm;
  /** Its share of the blank's mass, kg. */
  readonly mass: number;
}

export const MATERIALS = {
  steel: 7900,
  aluminium: 2700,
  glass: 2500,
  wood: 700,
  plastic: 1200,
} as const;
export type RoundMaterial = keyof typeof MATERIALS;

/** A cup, glass, flask or bar. Straight, tapered or stepped: its profile says. */
export interface RoundShape {
  readonly kind: 'round';
  /** At least two points, from the rim (0) to the base. */
  readonly profile: readonly ProfilePoint[];
  /** Thickness of its wall, mm; at or above the radius it is solid. */
  readonly wall: Mm;
  readonly material: RoundMaterial;
  readonly filled: boolean;
  readonly lid: boolean;
  readonly feature: RoundFeature | null;
  /** Stated capacity, litres. */
  readonly capacity: number | null;
}

/** A straight steel cup to begin with. Every value is to be replaced. */
export const freshCup: RoundShape = {
  kind: 'round',
  profile: [
    { at: 0, diameter: 75 },
    { at: 150, diameter: 75 },
  ],
  wall: 1,
  material: 'steel',
  filled: false,
  lid: false,
  feature: null,
  capacity: null,
};

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

export const roundLength = (shape: RoundShape): Mm =>
  shape.profile[shape.profile.length - 1]!.at - shape.profile[0]!.at;

export const greatestDiameter = (shape: RoundShape): Mm => Math.max(...shape.profile.map((p) => p.diameter));

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

/** Volume inside the outer surface, mm³: a sum of frusta, πh(r₁² + r₁r₂ + r₂²)/3. */
export const outsideVolume = (profile: readonly ProfilePoint[]): number =>
  profile.slice(1).reduce((sum, b, i) => {
    const a = profile[i]!;
    const [r1, r2] = [a.diameter / 2, b.diameter / 2];
    return sum + (Math.PI * (b.at - a.at) * (r1 * r1 + r1 * r2 + r2 * r2)) / 3;
  }, 0);

/** Moment of inertia of a solid of revolution of unit density about its axis: ½π∫r⁴, mm⁵. */
const secondMoment = (profile: readonly ProfilePoint[]): number =>
  profile.slice(1).reduce((sum, b, i) => {
    const a = profile[i]!;
    const [p, q] = [a.diameter / 2, b.diameter / 2];
    // ∫ of a linear r to the fourth power.
    const quartic = (p ** 4 + p ** 3 * q + p * p * q * q + p * q ** 3 + q ** 4) / 5;
    return sum + (Math.PI / 2) * (b.at - a.at) * quartic;
  }, 0);

export interface Body {
  /** kg */
  readonly mass: number;
  /** About the blank's axis, kg·mm². */
  readonly inertia: number;
  /** Mass of what sticks out × its distance from the axis, kg·mm. */
  readonly unbalance: number;
}

const KG_PER_MM3 = 1e-9;

/**
 * Mass, inertia and unbalance of a blank from its walls, its filling (taken to turn with it) and
 * its handle.
 */
export const bodyOf = (shape: RoundShape): Body => {
  const outer = shape.profile;
  const inner = outer.map((p) => ({ at: p.at, diameter: Math.max(0, p.diameter - 2 * shape.wall) }));
  const density = MATERIALS[shape.material] * KG_PER_MM3;
  const base = outer[outer.length - 1]!.diameter / 2;
  const baseMass = Math.PI * base * base * Math.min(shape.wall, base) * density;
  const liquid = shape.filled ? 1000 * KG_PER_MM3 : 0;
  const wallMass = (outsideVolume(outer) - outsideVolume(inner)) * density;
  const handle = shape.feature?.mass ?? 0;
  const reach = shape.feature
    ? diameterAt(outer, (shape.feature.from + shape.feature.to) / 2) / 2 + shape.feature.reach / 2
    : 0;
  return {
    mass: wallMass + baseMass + outsideVolume(inner) * liquid + handle,
    inertia:
      (secondMoment(outer) - secondMoment(inner)) * density +
      (baseMass * base * base) / 2 +
      secondMoment(inner) * liquid +
      handle * reach * reach,
    unbalance: handle * reach,
  };
};

/** The steepest lean of the surface between two places, radians; positive when it widens towards the rim. */
export const halfAngle = (profile: readonly ProfilePoint[], from: Mm, to: Mm): Rad =>
  to === from ? 0 : Math.atan((diameterAt(profile, from) - diameterAt(profile, to)) / (2 * (to - from)));
