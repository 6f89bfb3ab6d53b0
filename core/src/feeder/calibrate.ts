import { combined, fromUniform } from '../budget';
import type { Vec } from '../geometry';
import { fail, ok, type Result } from '../result';
import type { Mm, Rad } from '../units';
import { fixed, mm, worked, type WorkedLine } from '../working';

/** A long feed read with a tape, and where a return move came back to. */
export interface FeedReading {
  readonly commanded: Mm;
  readonly measured: Mm;
  /** How far the start line was missed after feeding back, mm; null when it was not fed back. */
  readonly missed: Mm | null;
}

/** ± at which a tape is read over a length of work [common practice], mm. */
export const TAPE_READING: Mm = 0.5;
/** Trusted of a feeder nobody measured [assumed], either way. */
export const UNMEASURED_FEED = 0.005;
/** Beyond this share a reading is a slip of the pen or the wrong unit. */
const DOUBTFUL = 0.1;

/**
 * How much of the tape's own part is taken off what repeats showed, as a share of its variance. Few readings do not tell
 * feeder and tape apart: with all of it taken off, one feeder in ten misses what is promised at 95 %; with so much, one in
 * twenty [found by simulation, `alone.test.ts`].
 */
const TAPE_TAKEN = 0.7;

/** A reading that can be kept, or what is wrong with it. */
export const checkFeedReading = ({ commanded, measured, missed }: FeedReading): Result<FeedReading> => {
  if (!(commanded >= 50))
    return fail('feed-short', 'Command at least 50 mm; the longer the feed, the less the tape matters.', 'commanded');
  if (measured === 0)
    return fail(
      'feed-zero',
      'The work did not move: are the rollers pressed down and is the feeder’s motor plugged in? Nothing was kept.',
      'measured',
    );
  if (measured < 0)
    return fail(
      'feed-backwards',
      'The work went the other way: the feeder’s direction is reversed. Nothing was kept.',
      'measured',
    );
  if (Math.abs(measured / commanded - 1) > DOUBTFUL)
    return fail(
      'feed-doubtful',
      `${mm(measured, 1)} for ${mm(commanded, 1)} commanded is ${fixed((measured / commanded) * 100, 0)} %. Look at the unit and at the steps to the millimetre first.`,
      'measured',
    );
  if (missed !== null && Math.abs(missed) > commanded / 4)
    return fail(
      'missed-far',
      'Fed back, it missed its line by more than a quarter of the way. Did the work slip out?',
      'missed',
    );
  return ok({ commanded, measured, missed });
};

/** What a feeder really feeds. */
export interface FeedCalibration {
  readonly readings: number;
  /** True feed over commanded feed. */
  readonly factor: number;
  /** Standard uncertainty of the factor. */
  readonly uncertainty: number;
  /** Standard deviation of one feed, mm. */
  readonly repeatability: Mm;
  readonly repeatabilityFrom: 'repeats' | 'profile';
  /** Readings beyond the one that a factor takes; Infinity where the profile stands for them. */
  readonly dof: number;
  /** Mean miss of a return move, mm; null when none was made. */
  readonly slip: Mm | null;
  /** Feed per step that would make the command true, mm. */
  readonly feedPerStep: Mm;
  readonly working: readonly WorkedLine[];
}

/**
 * Factor of a feeder by least squares through the origin, each reading weighing by its length
 * squared; its uncertainty from the tape and from the repeats.
 *
 * With three readings or more the spread about the line, less most of the tape's own part, is the
 * repeatability; with fewer the profile's stands.
 */
export const calibrateFeed = (
  readings: readonly FeedReading[],
  feeder: { readonly repeats: Mm; readonly feedPerStep: Mm },
): FeedCalibration => {
  const tape = fromUniform(TAPE_READING);
  const profile = fromUniform(feeder.repeats);
  const n = readings.length;
  const cc = readings.reduce((s, r) => s + r.commanded ** 2, 0);
  const factor = n === 0 ? 1 : readings.reduce((s, r) => s + r.commanded * r.measured, 0) / cc;
  const left = readings.reduce((s, r) => s + (r.measured - factor * r.commanded) ** 2, 0);
  const spread = n >= 3 ? Math.sqrt(left / (n - 1)) : null;
  const repeatability =
    spread === null
      ? profile
      : Math.max(Math.sqrt(Math.max(spread ** 2 - TAPE_TAKEN * tape ** 2, spread ** 2 / 3)), profile / 3);
  const one = Math.max(
    spread ?? 0,
    combined([
      { u: tape, dof: Infinity },
      { u: repeatability, dof: Infinity },
    ]),
  );
  const uncertainty = n === 0 ? fromUniform(UNMEASURED_FEED) : one / Math.sqrt(cc);
  const back = readings.flatMap((r) => (r.missed === null ? [] : [r.missed]));
  const slip = back.length === 0 ? null : back.reduce((s, v) => s + v, 0) / back.length;
  return {
    readings: n,
    factor,
    uncertainty,
    repeatability,
    repeatabilityFrom: spread === null ? 'profile' : 'repeats',
    dof: spread === null ? Infinity : n - 1,
    slip,
    feedPerStep: feeder.feedPerStep * factor,
    working: [
      worked(
        'feed factor',
        'Σ c·m / Σ c²',
        n === 0
          ? 'not measured'
          : readings
              .slice(-4)
              .map((r) => `${fixed(r.measured, 1)} / ${fixed(r.commanded, 1)}`)
              .join(', '),
        fixed(factor, 5),
        n === 0 ? 'assumed' : 'statistics',
      ),
      worked(
        'its uncertainty',
        n === 0 ? '± 0.5 % / √3' : 'u / √Σ c²',
        n === 0 ? 'until a long feed is measured' : `${fixed(one, 3)} / ${fixed(Math.sqrt(cc), 0)}`,
        fixed(uncertainty, 6),
        n === 0 ? 'assumed' : 'statistics',
      ),
      worked(
        'repeatability of one feed',
        spread === null ? '± r / √3' : `√(s² − ${TAPE_TAKEN} × tape²)`,
        spread === null
          ? `± ${fixed(feeder.repeats)} / √3`
          : `√(${fixed(spread, 3)}² − ${TAPE_TAKEN} × ${fixed(tape, 3)}²), not under s / √3 or a third of the maker’s`,
        mm(repeatability, 3),
        spread === null ? 'assumed' : 'statistics',
      ),
      ...(slip === null
        ? []
        : [
            worked(
              'missed on the way back',
              'mean of the return moves',
              back.map((v) => fixed(v, 2)).join(', '),
              mm(slip),
              'statistics' as const,
            ),
          ]),
    ],
  };
};

/** What the feeder is told for a wanted feed: wanted over factor. */
export const commandFor = ({ factor }: Pick<FeedCalibration, 'factor'>, wanted: Mm): Mm => wanted / factor;

/** The work's edge measured from the guide at two stations along the feed, mm. */
export interface Squaring {
  /** Distance of the stations, mm. */
  readonly apart: Mm;
  /** At the leading station, and at the one behind it. */
  readonly first: Mm;
  readonly second: Mm;
}

/** ± at which an offset from the guide is read with a caliper or feeler [common practice], mm. */
export const GUIDE_READING: Mm = 0.1;
/** Left open against the guide by hand and eye, until it is measured [assumed], mm over a station apart. */
const UNSQUARED: Mm = 0.5;
const UNSQUARED_OVER: Mm = 300;

export interface Skew {
  /** Turn of the work against the feed, rad; anticlockwise seen from above. */
  readonly angle: Rad;
  readonly uncertainty: Rad;
  readonly measured: boolean;
  /** Sideways drift over the whole work if nothing were corrected, mm. */
  readonly drift: Mm;
  /** Longest work whose drift stays in the tolerance without correction, mm. */
  readonly longest: Mm;
  readonly working: readonly WorkedLine[];
}

/**
 * Skew from two offsets: `tan φ = (second − first) / apart`; what it does over the work's length.
 * @param length of the work, mm
 */
export const reckonSkew = (squaring: Squaring | null, length: Mm, tolerance: Mm): Skew => {
  const angle = squaring ? Math.atan2(squaring.second - squaring.first, squaring.apart) : 0;
  const uncertainty = squaring
    ? (Math.SQRT2 * fromUniform(GUIDE_READING)) / squaring.apart
    : fromUniform(UNSQUARED) / UNSQUARED_OVER;
  const drift = length * Math.tan(angle);
  const longest = angle === 0 ? Infinity : tolerance / Math.abs(Math.tan(angle));
  return {
    angle,
    uncertainty,
    measured: squaring !== null,
    drift,
    longest,
    working: squaring
      ? [
          worked(
            'skew',
            'atan((second − first) / apart)',
            `atan((${fixed(squaring.second)} − ${fixed(squaring.first)}) / ${fixed(squaring.apart, 0)})`,
            `${fixed(angle * 1000, 2)} mm per metre`,
            'geometry',
          ),
          worked(
            'drift over the work',
            'length × tan φ',
            `${fixed(length, 0)} × ${fixed(Math.tan(angle), 5)}`,
            mm(drift),
            'geometry',
          ),
          worked(
            'longest work inside the tolerance',
            'tolerance / tan φ',
            `${fixed(tolerance)} / ${fixed(Math.abs(Math.tan(angle)), 5)}`,
            Number.isFinite(longest) ? mm(longest, 0) : 'any',
            'geometry',
          ),
          worked(
            'uncertainty of the skew',
            '√2 · u / apart',
            `√2 × ${fixed(GUIDE_READING)}/√3 / ${fixed(squaring.apart, 0)}`,
            `${fixed(uncertainty * 1000, 2)} mm per metre`,
            'common practice',
          ),
        ]
      : [
          worked(
            'skew',
            '± 0.5 mm over 300 mm until it is measured',
            'not measured',
            `± ${fixed((UNSQUARED / UNSQUARED_OVER) * 1000, 2)} mm per metre`,
            'assumed',
          ),
        ],
  };
};

/** The guide's edge under the pointer at two places, far apart, as the machine shows them, mm. */
export interface GuideEnds {
  readonly a: Vec;
  readonly b: Vec;
}

/** A feeder is stood along an axis by eye so well, either way, until its guide is read [assumed], rad. */
const UNGUIDED: Rad = 0.001;
/** Places of the guide nearer together than this tell too little of its angle, mm. */
const GUIDE_APART: Mm = 50;
/** No feeder is stood so far askew; something else was read [assumed], rad. */
const GUIDE_FAR: Rad = 0.02;

export interface GuideAngle {
  /** Turn of the guide against the axis it should lie along, rad; anticlockwise seen from above. */
  readonly angle: Rad;
  readonly uncertainty: Rad;
  readonly measured: boolean;
  /** Why its readings are not to be believed; null where they are, or none was taken. */
  readonly doubt: string | null;
  readonly working: readonly WorkedLine[];
}

const unguided = (doubt: string | null): GuideAngle => ({
  angle: 0,
  uncertainty: fromUniform(UNGUIDED),
  measured: false,
  doubt,
  working: [
    worked(
      'guide against the axis',
      '± 1 mm a metre / √3',
      'until its edge is read at two places',
      `${fixed(1000 * fromUniform(UNGUIDED), 2)} mm per metre`,
      'assumed',
    ),
  ],
});

/**
 * The guide's angle by two places of its edge. The pointer's offset is the same at both and falls out.
 *
 * @param ends in the bed's frame, mm; null while nobody read them
 * @param along the axis that the work is fed along
 * @param sigma of aiming at one place, per axis, mm
 * @example guideAngle({ a: { x: 150, y: 80 }, b: { x: 750, y: 80.6 } }, 'x', 0.05) // 0.001 rad
 */
export const guideAngle = (ends: GuideEnds | null, along: 'x' | 'y', sigma: Mm): GuideAngle => {
  if (!ends) return unguided(null);
  const [dx, dy] = [ends.b.x - ends.a.x, ends.b.y - ends.a.y];
  const [run, rise] = along === 'x' ? [dx, dy] : [dy, -dx];
  if (Math.abs(run) < GUIDE_APART)
    return unguided(
      `The guide was read at two places ${mm(Math.abs(run), 1)} apart along the feed. Read them at least ${GUIDE_APART} mm apart, the farther the better.`,
    );
  const angle = Math.atan(rise / run);
  if (Math.abs(angle) > GUIDE_FAR)
    return unguided(
      `By its two places the guide stands ${mm(1000 * Math.abs(angle), 0)} a metre off the axis. Were both read on its edge, and typed as the machine shows them?`,
    );
  const uncertainty = (Math.SQRT2 * sigma) / Math.abs(run);
  return {
    angle,
    uncertainty,
    measured: true,
    doubt: null,
    working: [
      worked(
        'guide against the axis',
        'atan(across / along)',
        `atan(${fixed(rise, 2)} / ${fixed(run, 1)})`,
        `${fixed(angle * 1000, 2)} mm per metre`,
        'geometry',
      ),
      worked(
        'uncertainty of its angle',
        '√2 · σ / apart',
        `√2 × ${fixed(sigma, 3)} / ${fixed(Math.abs(run), 0)}`,
        `${fixed(uncertainty * 1000, 2)} mm per metre`,
        'statistics',
      ),
    ],
  };
};
