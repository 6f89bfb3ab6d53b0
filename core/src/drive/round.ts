import type { Mm } from '../units';
import { featuresOf, type MainFeature } from './features';
import { diameterAt, type ProfilePoint } from './profile';

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
  readonly feature: MainFeature | null;
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

export const roundLength = (shape: RoundShape): Mm =>
  shape.profile[shape.profile.length - 1]!.at - shape.profile[0]!.at;

export const greatestDiameter = (shape: RoundShape): Mm => Math.max(...shape.profile.map((p) => p.diameter));

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
  /** Mass of what sticks out × its distance from the axis, all of it as vectors, kg·mm. */
  readonly unbalance: number;
}

const KG_PER_MM3 = 1e-9;

/**
 * Mass, inertia and unbalance of a blank from its walls, its filling (taken to turn with it) and
 * its handles: two alike and opposite balance each other.
 */
export const bodyOf = (shape: RoundShape): Body => {
  const outer = shape.profile;
  const inner = outer.map((p) => ({ at: p.at, diameter: Math.max(0, p.diameter - 2 * shape.wall) }));
  const density = MATERIALS[shape.material] * KG_PER_MM3;
  const base = outer[outer.length - 1]!.diameter / 2;
  const baseMass = Math.PI * base * base * Math.min(shape.wall, base) * density;
  const liquid = shape.filled ? 1000 * KG_PER_MM3 : 0;
  const wallMass = (outsideVolume(outer) - outsideVolume(inner)) * density;
  const stuck = featuresOf(shape).map(({ mass, from, to, reach, angle }) => {
    const out = diameterAt(outer, (from + to) / 2) / 2 + reach / 2;
    return { mass, out, x: mass * out * Math.cos(angle), y: mass * out * Math.sin(angle) };
  });
  const sum = (of: (s: (typeof stuck)[number]) => number): number => stuck.reduce((all, s) => all + of(s), 0);
  return {
    mass: wallMass + baseMass + outsideVolume(inner) * liquid + sum((s) => s.mass),
    inertia:
      (secondMoment(outer) - secondMoment(inner)) * density +
      (baseMass * base * base) / 2 +
      secondMoment(inner) * liquid +
      sum((s) => s.mass * s.out * s.out),
    unbalance: Math.hypot(
      sum((s) => s.x),
      sum((s) => s.y),
    ),
  };
};
