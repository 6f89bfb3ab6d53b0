import type { Mm, Rad } from '../units';
import { degrees, fixed, mm, worked, type WorkedLine } from '../working';
import type { Drive } from './drives';
import { diameterAt, type ProfilePoint } from './profile';
import { roundLength, type RoundShape } from './round';
import { leanOf, type TaperReckoning } from './taper';

/** Leans below this are level, radians. */
const LEVEL: Rad = 0.0005;

/** What brings the engraved line level from how the blank rests. */
export interface Levelling {
  readonly raise: 'rim' | 'base' | null;
  /** How far that end is raised over the blank's length, from where it rests; mm. */
  readonly lift: Mm;
  /** How far the axis falls towards the base as it rests, radians; negative towards the rim. */
  readonly rests: Rad;
  /** The place from the rim at which it then turns: the only circle still on the rollers. */
  readonly turnsOn: Mm;
  readonly working: readonly WorkedLine[];
}

/** Middle of the wall's surface along the axis, from the rim: where a hollow blank balances, mm. */
const balance = (profile: readonly ProfilePoint[]): Mm => {
  let [sum, moment] = [0, 0];
  for (let i = 1; i < profile.length; i += 1) {
    const [a, b] = [profile[i - 1]!, profile[i]!];
    const area = ((a.diameter + b.diameter) / 2) * Math.hypot(b.at - a.at, (b.diameter - a.diameter) / 2);
    sum += area;
    moment += area * ((a.at + b.at) / 2);
  }
  return moment / sum;
};

/**
 * The line that its axis lies on while it rests: over heights that it cannot go below, held up on both sides of where it
 * balances.
 */
const restingLine = (
  points: readonly { readonly at: Mm; readonly height: Mm }[],
  middle: Mm,
): readonly [{ at: Mm; height: Mm }, { at: Mm; height: Mm }] => {
  let best: readonly [{ at: Mm; height: Mm }, { at: Mm; height: Mm }] = [points[0]!, points[points.length - 1]!];
  let highest = -Infinity;
  for (const a of points.filter((p) => p.at <= middle))
    for (const b of points.filter((p) => p.at > middle)) {
      const height = a.height + ((b.height - a.height) * (middle - a.at)) / (b.at - a.at);
      if (height > highest) [best, highest] = [[a, b], height];
    }
  return best;
};

/**
 * How far an end is raised so that the engraved line comes level. On rollers a tapered blank does not lie with its axis
 * level: its thinner end sinks deeper between them, by the difference of √((R + r)² − (g/2)²) at both ends, and the
 * crest falls by that and by the difference of the radii. A chuck holds the axis level, so there the half-angle alone
 * is raised.
 *
 * @param rollers stretch of the blank, from its rim, that lies on the rollers; mm
 * @param contactAt where it turns once it is raised, from the rim
 * @example 88 at the rim, 72 at the base, 170 long, on rollers of 19.66 at 40: raise the base by 16.7 mm
 */
export const reckonLevelling = (
  shape: RoundShape,
  drive: Drive,
  rollers: { readonly from: Mm; readonly to: Mm },
  taper: Pick<TaperReckoning, 'tilt' | 'raise'>,
  contactAt: Mm,
): Levelling => {
  const length = roundLength(shape);
  const lean = leanOf(taper);
  const raised = (rests: Rad, working: readonly WorkedLine[]): Levelling => {
    const turn = lean + rests;
    const raise = Math.abs(turn) < LEVEL ? null : turn > 0 ? 'base' : 'rim';
    const lift = raise ? length * Math.sin(Math.abs(turn)) : 0;
    return {
      raise,
      lift,
      rests,
      turnsOn: contactAt,
      working: raise
        ? [
            ...working,
            worked(
              'lift over its length',
              'length × sin(half-angle + how its axis rests)',
              `${fixed(length)} × sin(${degrees(lean, 3)} + ${degrees(rests, 3)})`,
              mm(lift),
              'geometry',
            ),
          ]
        : working,
    };
  };
  if (drive.kind === 'chuck') return raised(0, []);
  const R = drive.rollerDiameter / 2;
  const half = drive.centreDistance / 2;
  const radius = (at: Mm): Mm => diameterAt(shape.profile, at) / 2 + drive.bandThickness;
  const height = (at: Mm): Mm => Math.sqrt(Math.max(0, (R + radius(at)) ** 2 - half * half));
  const places = [
    ...new Set([rollers.from, ...shape.profile.map((p) => p.at).filter((at) => at > rollers.from && at < rollers.to), rollers.to]), // prettier-ignore
  ];
  const [a, b] = restingLine(
    places.map((at) => ({ at, height: height(at) })),
    balance(shape.profile),
  );
  // What hangs over altogether rests on nothing: how it hangs is not said.
  const steep = rollers.to - rollers.from < 1 ? 0 : (a.height - b.height) / (b.at - a.at);
  const rests = Math.asin(Math.max(-1, Math.min(1, steep)));
  return raised(
    rests,
    Math.abs(rests) < LEVEL
      ? []
      : [
          worked(
            'axis as it rests',
            'asin(difference of √((R + r)² − (g/2)²) / distance)',
            `asin((${fixed(a.height)} − ${fixed(b.height)}) / ${fixed(b.at - a.at)})`,
            degrees(rests, 3),
            'geometry',
          ),
        ],
  );
};
