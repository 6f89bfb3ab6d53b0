import { polyline, type Contour, type Vec } from '../geometry';
import type { Mm, Rad } from '../units';
import { degrees, fixed, mm, percent, worked, type WorkedLine } from '../working';
import { diameterAt, halfAngle, type ProfilePoint } from './profile';
import { type RoundShape } from './round';

/** Leans below this are level, radians. */
const LEVEL = 0.0005;

/** The flat pattern of a cone's side: a ring sector. Lengths mm. */
export interface ConePattern {
  readonly halfAngle: Rad;
  readonly slant: Mm;
  readonly outerRadius: Mm;
  readonly innerRadius: Mm;
  readonly sector: Rad;
}

/**
 * Unrolls the side of a truncated cone.
 * @returns null for a cylinder, whose pattern is a rectangle
 * @example conePattern(88, 68, 150) // half-angle 3.814°, radii 661.465 and 511.132, sector 23.947°
 */
export const conePattern = (large: Mm, small: Mm, height: Mm): ConePattern | null => {
  if (Math.abs(large - small) < 1e-6) return null;
  const half = Math.atan((large - small) / (2 * height));
  const slant = Math.hypot(height, (large - small) / 2);
  const outerRadius = large / 2 / Math.sin(half);
  return {
    halfAngle: half,
    slant,
    outerRadius,
    innerRadius: outerRadius - slant,
    sector: (Math.PI * large) / outerRadius,
  };
};

/**
 * The outline of the pattern between two places of a profile, for paper, tape or decals; rim up,
 * seam at both sides, middle of its upper edge at the origin.
 */
export const wrapTemplate = (profile: readonly ProfilePoint[], from: Mm, to: Mm): Contour => {
  const top = diameterAt(profile, from);
  const bottom = diameterAt(profile, to);
  const cone = conePattern(Math.max(top, bottom), Math.min(top, bottom), to - from);
  if (!cone) {
    const w = Math.PI * top;
    return polyline(
      [
        { x: -w / 2, y: 0 },
        { x: w / 2, y: 0 },
        { x: w / 2, y: from - to },
        { x: -w / 2, y: from - to },
      ],
      true,
    );
  }
  // The apex lies below for a cup that widens to its rim, above for one that narrows.
  const widens = top > bottom;
  const rimRadius = widens ? cone.outerRadius : cone.innerRadius;
  const baseRadius = widens ? cone.innerRadius : cone.outerRadius;
  const apex = widens ? -rimRadius : rimRadius;
  const turn = widens ? 1 : -1;
  const at = (radius: Mm, angle: Rad): { x: Mm; y: Mm } => ({
    x: radius * Math.sin(angle),
    y: apex + turn * radius * Math.cos(angle),
  });
  const half = cone.sector / 2;
  const bulge = Math.tan(cone.sector / 4);
  return {
    closed: true,
    vertices: [
      { ...at(rimRadius, -half), bulge: -turn * bulge },
      at(rimRadius, half),
      { ...at(baseRadius, half), bulge: turn * bulge },
      at(baseRadius, -half),
    ],
  };
};

/**
 * Lays the side of a blank flat without stretching it, about one of its stretches: angles and places
 * from the rim become points, mm, the rim's middle at the origin, rim up. A cylinder becomes a
 * rectangle, a cone the sector of a ring; beyond the stretch the cone is carried on.
 *
 * @returns a map from (angle, place from the rim)
 */
export const developed = (profile: readonly ProfilePoint[], from: Mm, to: Mm): ((angle: Rad, along: Mm) => Vec) => {
  const lean = halfAngle(profile, from, to);
  const d0 = diameterAt(profile, from);
  if (Math.abs(lean) < LEVEL) return (angle, along) => ({ x: (angle * d0) / 2, y: -along });
  const sine = Math.sin(Math.abs(lean));
  const radius = (along: Mm): Mm => (d0 / 2 - (along - from) * Math.tan(lean)) / sine;
  const rim = radius(0);
  const up = lean > 0 ? 1 : -1;
  return (angle, along) => {
    const rho = radius(along);
    return { x: rho * Math.sin(angle * sine), y: up * (rho * Math.cos(angle * sine) - rim) };
  };
};

export interface TaperReckoning {
  /** Tilt that makes the engraved line level: this end is raised. */
  readonly tilt: Rad;
  readonly raise: 'rim' | 'base' | null;
  readonly middleDiameter: Mm;
  /** Stretch at the art's ends while it is scaled for its middle, as a share either way. */
  readonly residual: number;
  /** Bow of the surface from a straight line between the art's ends, mm. */
  readonly bow: Mm;
  readonly working: readonly WorkedLine[];
}

/** A tilt with its sense: positive where the blank widens to the rim, radians. */
export const leanOf = ({ tilt, raise }: Pick<TaperReckoning, 'tilt' | 'raise'>): Rad =>
  raise === 'rim' ? -tilt : tilt;

/** Tilt, scale and what remains for art between two places of a profile. */
export const reckonTaper = (profile: readonly ProfilePoint[], from: Mm, to: Mm): TaperReckoning => {
  const d1 = diameterAt(profile, from);
  const d2 = diameterAt(profile, to);
  const middleDiameter = diameterAt(profile, (from + to) / 2);
  const lean = halfAngle(profile, from, to);
  const inside = profile.filter((p) => p.at > from && p.at < to);
  const bow = inside.reduce((most, p) => {
    const straight = d1 + ((d2 - d1) * (p.at - from)) / (to - from);
    return Math.max(most, Math.abs(p.diameter - straight) / 2);
  }, 0);
  const residual = Math.max(Math.abs(d1 / middleDiameter - 1), Math.abs(d2 / middleDiameter - 1));
  return {
    tilt: Math.abs(lean) < LEVEL ? 0 : Math.abs(lean),
    raise: Math.abs(lean) < LEVEL ? null : lean > 0 ? 'base' : 'rim',
    middleDiameter,
    residual,
    bow,
    working: [
      worked(
        'tilt',
        'atan((D₁ − D₂) / 2h)',
        `atan((${fixed(d1)} − ${fixed(d2)}) / (2 × ${fixed(to - from)}))`,
        degrees(Math.abs(lean), 3),
        'geometry',
      ),
      worked(
        'stretch at the art’s ends',
        'D / D middle − 1',
        `${fixed(Math.max(d1, d2))} / ${fixed(middleDiameter)} − 1`,
        percent(residual, 2),
        'geometry',
      ),
      worked(
        'length along the side',
        '√(h² + ((D₁ − D₂)/2)²)',
        `√(${fixed(to - from)}² + ${fixed((d1 - d2) / 2)}²)`,
        mm(Math.hypot(to - from, (d1 - d2) / 2)),
        'geometry',
      ),
    ],
  };
};

/**
 * Travel at the contact circle for an arc on the surface: art at diameter D is D/D_k as long as
 * what the rollers turn.
 *
 * @param rowScaling each place along the blank by its own diameter; otherwise all by the middle's
 */
export const travelFor = (
  arc: Mm,
  at: Mm,
  profile: readonly ProfilePoint[],
  contactDiameter: Mm,
  middleDiameter: Mm,
  rowScaling: boolean,
): Mm => (arc * contactDiameter) / (rowScaling ? diameterAt(profile, at) : middleDiameter);

/** The whole side of a blank laid flat: its outline, half a turn either way from the feature; mm. */
export const flatOutline = (shape: RoundShape, from: Mm, to: Mm): Vec[] => {
  const flat = developed(shape.profile, from, to);
  const first = shape.profile[0]!.at;
  const last = shape.profile[shape.profile.length - 1]!.at;
  const arc = (along: Mm, turn: 1 | -1): Vec[] =>
    Array.from({ length: 33 }, (_, i) => flat(turn * Math.PI * (i / 16 - 1), along));
  return [...arc(first, 1), ...arc(last, -1)];
};
