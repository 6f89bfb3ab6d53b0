import type { Mm, Rad } from '../units';
import { degrees } from '../working';
import { inTurn } from './one-turn';
import { diameterAt, type ProfilePoint } from './profile';

/** Something that is on a round blank before it is engraved. */
export interface RoundFeature {
  readonly kind: 'handle' | 'existing logo' | 'seam weld';
  /** How far it stands out of the surface, mm; nought for a print or a weld. */
  readonly reach: Mm;
  /** Where it begins and ends, from the rim, mm. */
  readonly from: Mm;
  readonly to: Mm;
  /** Its share of the blank's mass, kg. */
  readonly mass: number;
  /** How wide it is round the blank, along the surface, mm; nothing where nobody measured it: a line. */
  readonly width?: Mm | null;
}

/** What every angle on a round blank is counted from, with all else that is on it. */
export interface MainFeature extends RoundFeature {
  readonly others?: readonly OtherFeature[] | null;
}

/** Another one: its middle lies at an angle to the right of the main one, rad. */
export interface OtherFeature extends RoundFeature {
  readonly angle: Rad;
}

/**
 * All that is on a blank: the one that angles are counted from, at nought, and the others; each from its nearer end on,
 * whichever was typed first.
 */
export const featuresOf = ({ feature }: { readonly feature: MainFeature | null }): readonly OtherFeature[] =>
  (feature ? [{ ...feature, angle: 0 }, ...(feature.others ?? [])] : []).map((f) => ({
    ...f,
    from: Math.min(f.from, f.to),
    to: Math.max(f.from, f.to),
  }));

/**
 * A feature as a sentence names it: where there are several, with its place.
 *
 * @example featureName({ kind: 'handle', angle: Math.PI / 2 }) // 'handle at 90°'
 */
export const featureName = ({ kind, angle }: Pick<OtherFeature, 'kind' | 'angle'>): string => angle === 0 ? kind : `${kind} at ${degrees(angle, 0)}`; // prettier-ignore

/** The edge of a feature on the blank's surface: angles from the main one, rad, and places from the rim, mm. */
export const featureOutline = (
  { from, to, angle, width }: OtherFeature,
  { profile }: { readonly profile: readonly ProfilePoint[] },
): readonly { readonly angle: Rad; readonly along: Mm }[] => {
  const edge = (along: Mm, side: 1 | -1) =>
    [-1, -0.5, 0, 0.5, 1].map((s) => ({
      angle: angle + (side * s * (width ?? 0)) / diameterAt(profile, along),
      along,
    }));
  return [...edge(from, 1), ...edge(to, -1)];
};

/** Part of a blank's surface: along it from the rim, mm; round it by its middle and half of it, rad from the main feature. */
export interface Patch {
  readonly from: Mm;
  readonly to: Mm;
  readonly angle: Rad;
  readonly half: Rad;
}

/**
 * What lies under a patch of a blank's surface: a feature whose stretch along and round it shares some of it.
 *
 * @example featuresUnder(featuresOf(shape), { from: 20, to: 60, angle: 0, half: 0.2 }, shape.profile)
 */
export const featuresUnder = (
  features: readonly OtherFeature[],
  { from, to, angle, half }: Patch,
  profile: readonly ProfilePoint[],
): readonly OtherFeature[] =>
  features.filter((f) => {
    if (f.from >= to || f.to <= from) return false;
    const own = (f.width ?? 0) / diameterAt(profile, (f.from + f.to) / 2);
    const apart = Math.abs(inTurn(f.angle - angle, -Math.PI));
    return apart < half + own;
  });
