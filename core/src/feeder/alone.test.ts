import { seeded } from '../budget';
import { apply, boxCorners, type Box } from '../geometry';
import { calibrateFeed, checkFeedReading, commandFor, guideAngle, reckonSkew, TAPE_READING } from './calibrate';
import { stripToBed } from './feeders';
import { chainOf, feedStep, cornerUncertainty, proposeAiming, scaleFeedErrors, simulateFeed, stopError, type FeedErrors } from './errors'; // prettier-ignore
import { CutProfile, freePatch, layStrip, placeBox, type StripPlace, type StripRules } from './strip';

const NONE: FeedErrors = { factor: 0, repeat: 0, skew: 0, guide: 0, aim: 0, pointer: 0, back: 0, laid: 0, spread: { along: 0, across: 0 }, dof: { feeds: Infinity, along: Infinity, across: Infinity } }; // prettier-ignore
const BOX: Box = { minX: 10, maxX: 40, minY: -25, maxY: 5 };
/** Aimed at once, then fed twice; burned at the second stop after it. */
const CHAINS = chainOf(
  [
    { fed: 100, boxes: [] },
    { fed: 250, boxes: [] },
    { fed: 400, boxes: [BOX] },
  ],
  0,
);
const meanSquare = (e: Partial<FeedErrors>, worst = false): number => {
  const out = simulateFeed(CHAINS, { ...NONE, ...e }, 40_000, 5, worst);
  return out.reduce((s, v) => s + v * v, 0) / out.length;
};

describe('feeds since the last aim', () => {
  const stops = [100, 250, 400, 550, 700].map((fed) => ({ fed, boxes: [] }));
  const told = (every: number) => chainOf(stops, every).map(({ feeds, fed }) => [feeds, fed]);
  it('are counted from the first stop where it is aimed at once', () =>
    expect(told(0)).toEqual([[0, 0], [1, 150], [2, 300], [3, 450], [4, 600]])); // prettier-ignore
  it('and from every second where it is aimed at every second', () =>
    expect(told(2)).toEqual([[0, 0], [1, 150], [0, 0], [1, 150], [0, 0]])); // prettier-ignore
});

// Each source alone has a mean square in closed form: 2σ² for a normal in the plane, 2·a²/3 for ± a both ways, and the
// lever of the farthest corner for a turn. 40,000 pieces know it within about 1 %; two in a hundred are asked for.
describe('each source of a fed strip alone', () => {
  const lever = Math.max(
    ...[BOX.minX, BOX.maxX].flatMap((x) => [BOX.minY, BOX.maxY].map((y) => (300 + x) ** 2 + y ** 2)),
  );
  it.each<[string, Partial<FeedErrors>, number]>([
    ['aiming', { aim: 0.1 }, 2 * 0.1 ** 2],
    ['pointer', { pointer: 0.1 }, 2 * 0.1 ** 2],
    ['return', { back: 0.1 }, (2 * 0.1 ** 2) / 3],
    ['laid', { laid: 0.3 }, (2 * 0.3 ** 2) / 3],
    ['size', { spread: { along: 0.2, across: 0.1 } }, 0.1 ** 2 + 0.05 ** 2],
    ['feed', { factor: 0.001 }, (0.001 * 300) ** 2],
    ['feed-repeat', { repeat: 0.1 }, 2 * 0.1 ** 2],
    ['skew', { skew: 0.001 }, 0.001 ** 2 * lever],
    // Fed along the guide, only what lies in the window leans on its angle.
    ['guide', { guide: 0.001 }, 0.001 ** 2 * Math.max(...boxCorners(BOX).map((c) => c.x ** 2 + c.y ** 2))],
  ])('%s', (id, e, expected) => {
    expect(meanSquare(e) / expected).toBeCloseTo(1, 1.4);
    // Twice the source is four times the square, of this source and of no other.
    const all = { ...NONE, ...e };
    expect(meanSquare(scaleFeedErrors(all, id, 2)) / meanSquare(e)).toBeCloseTo(4, 6);
    for (const other of ['aiming', 'pointer', 'return', 'laid', 'size', 'feed', 'feed-repeat', 'skew', 'guide'])
      if (other !== id) expect(scaleFeedErrors(all, other, 2)).toEqual(all);
  });

  it('goes the way it should: a turn moves what is ahead across, and what is across back', () => {
    const { along, across } = cornerUncertainty(CHAINS[2]!, { ...NONE, skew: 0.001 });
    expect(along).toBeCloseTo(0.001 * 25, 12);
    expect(across).toBeCloseTo(0.001 * (300 + 40), 12);
    const sizes = cornerUncertainty(CHAINS[2]!, {
      ...NONE,
      spread: { along: 0.2, across: 0.1 },
      aim: 0.03,
      pointer: 0.04,
    });
    expect(sizes.along).toBeCloseTo(Math.hypot(0.05, 0.1), 12);
    expect(sizes.across).toBeCloseTo(Math.hypot(0.05, 0.05), 12);
    const fed = cornerUncertainty(CHAINS[2]!, { ...NONE, factor: 0.001, repeat: 0.1, back: 0.3 });
    expect(fed.along).toBeCloseTo(Math.hypot(0.3, 0.1 * Math.SQRT2, 0.3 / Math.sqrt(3)), 12);
    expect(fed.across).toBeCloseTo(0.3 / Math.sqrt(3), 12);
    expect(cornerUncertainty({ feeds: 0, fed: 0, boxes: [] }, { ...NONE, skew: 1 })).toEqual({ along: 0, across: 0 });
  });

  it('all together add in squares; of one work the worst piece counts', () => {
    const e = { ...NONE, aim: 0.05, pointer: 0.04, factor: 0.0005, repeat: 0.06 };
    expect(meanSquare(e) / (2 * 0.05 ** 2 + 2 * 0.04 ** 2 + 0.15 ** 2 + 2 * 0.06 ** 2)).toBeCloseTo(1, 1.4);
    const two = chainOf([{ fed: 0, boxes: [BOX] }, { fed: 500, boxes: [BOX, BOX] }], 0); // prettier-ignore
    const square = (worst: boolean): number => simulateFeed(two, { ...NONE, factor: 0.001 }, 40_000, 5, worst).reduce((s, v) => s + v * v, 0) / 40_000; // prettier-ignore
    // Two of three pieces lie where 500 mm were fed.
    expect(square(true) / 0.5 ** 2).toBeCloseTo(1, 1.4);
    expect(square(false) / ((2 / 3) * 0.5 ** 2)).toBeCloseTo(1, 1.4);
    expect([...simulateFeed([], NONE, 3, 1, true)]).toEqual([0, 0, 0]);
  });
});

describe('how often it is aimed', () => {
  const stops = Array.from({ length: 6 }, (_, i) => ({ fed: 100 * i, boxes: [] }));
  // Along one way only a normal stays within 1.960σ in 95 of 100: after 200 mm, 0.392 mm.
  const e = { ...NONE, factor: 0.001 };
  it.each([
    [1, 0],
    [0.98, 0],
    [0.79, 5],
    [0.45, 3],
    [0.39, 2],
    [0.19, 1],
  ])('for a tolerance of %d mm: every %d', (tolerance, every) =>
    expect(proposeAiming(stops, e, tolerance)).toBe(every),
  );
  it('is never enough where aiming itself is worse', () => {
    expect(proposeAiming(stops, { ...e, aim: 0.2 }, 0.3)).toBeNull();
    // √(−2 ln 0.05) = 2.448.
    expect(stopError({ feeds: 0, fed: 0, boxes: [] }, { ...NONE, aim: 0.2 })).toBeCloseTo(0.2 * 2.4477, 3);
  });
});

describe('a feed that was read with a tape', () => {
  const refused = (commanded: number, measured: number, missed: number | null = null): string | null => {
    const r = checkFeedReading({ commanded, measured, missed });
    return r.ok ? null : r.problem.code;
  };
  it.each([
    [50, 50, null, null],
    [49.9, 50, null, 'feed-short'],
    [100, 0, null, 'feed-zero'],
    [100, -99, null, 'feed-backwards'],
    [500, 549, null, null],
    [500, 551, null, 'feed-doubtful'],
    [500, 451, null, null],
    [500, 449, null, 'feed-doubtful'],
    [500, 500, 125, null],
    [500, 500, -125.1, 'missed-far'],
  ])('%d commanded, %d measured, %s missed: %s', (commanded, measured, missed, code) =>
    expect(refused(commanded, measured, missed)).toBe(code),
  );

  const feeder = { repeats: 0.1, feedPerStep: 0.01 };
  it('gives a factor by length squared, and what to command', () => {
    // (500·502 + 1000·1002) / (500² + 1000²) = 1.0024.
    const two = calibrateFeed([{ commanded: 500, measured: 502, missed: 0.2 }, { commanded: 1000, measured: 1002, missed: -0.4 }], feeder); // prettier-ignore
    expect(two.factor).toBeCloseTo(1.0024, 12);
    expect(two.feedPerStep).toBeCloseTo(0.010024, 12);
    expect(commandFor(two, 1002.4)).toBeCloseTo(1000, 9);
    expect(two.slip).toBeCloseTo(-0.1, 12);
    // The tape ± 0.5 and the maker's ± 0.1, each over √3, over the root of Σc².
    expect(two.uncertainty).toBeCloseTo(Math.hypot(0.5, 0.1) / Math.sqrt(3) / Math.sqrt(1_250_000), 12);
    expect(two.working.map((w) => [w.substituted, w.result])).toEqual([
      ['502.0 / 500.0, 1002.0 / 1000.0', '1.00240'],
      ['0.294 / 1118', '0.000263'],
      ['± 0.10 / √3', '0.058 mm'],
      ['0.20, −0.40', '−0.10 mm'],
    ]);
  });
  it('is nothing but what is assumed before, and shows the last four of many', () => {
    const none = calibrateFeed([], feeder);
    expect([none.factor, none.readings, none.slip]).toEqual([1, 0, null]);
    // ± 0.5 % either way [assumed].
    expect(none.uncertainty).toBeCloseTo(0.005 / Math.sqrt(3), 12);
    const five = calibrateFeed([1, 2, 3, 4, 5].map((i) => ({ commanded: 500, measured: 500 + i, missed: null })), feeder); // prettier-ignore
    expect(five.working[0]!.substituted).toBe('502.0 / 500.0, 503.0 / 500.0, 504.0 / 500.0, 505.0 / 500.0');
    // s = √2.5 about the mean 503; less the tape's 0.289.
    expect(five.repeatability).toBeCloseTo(Math.sqrt(2.5 - 0.7 * (0.25 / 3)), 9);
    expect(five.repeatabilityFrom).toBe('repeats');
  });
  it('stands by its guide at the angle that it is laid out with, along either axis, whichever end is read first', () => {
    for (const along of ['x', 'y'] as const)
      for (const angle of [-0.012, -0.001, 0, 0.0005, 0.015])
        for (const [p, q] of [
          [10, 590],
          [590, 10],
        ] as const) {
          const edge = stripToBed({ along, window: { from: 150, to: 750 }, guideAt: 80 }, 37, angle);
          const ends = { a: apply(edge, { x: p, y: 0 }), b: apply(edge, { x: q, y: 0 }) };
          const read = guideAngle(ends, along, 0.05);
          expect([read.angle, read.measured, read.doubt]).toEqual([expect.closeTo(angle, 12), true, null]);
          // Two aims of 0.05 over 580 mm; the cosine of so small an angle is 1.
          expect(read.uncertainty).toBeCloseTo((Math.SQRT2 * 0.05) / 580, 7);
        }
  });
  it('is not believed by places too near together, or that lie off its edge', () => {
    const at = (x: number, y: number) => guideAngle({ a: { x: 150, y: 80 }, b: { x, y } }, 'x', 0.05);
    // ± 1 mm a metre is carried then, as before it was read.
    const open = { angle: 0, measured: false, uncertainty: expect.closeTo(0.001 / Math.sqrt(3), 12) };
    expect(at(150, 80)).toMatchObject({ ...open, doubt: expect.stringMatching(/^The guide was read at two places 0\.0 mm apart/) }); // prettier-ignore
    expect(at(199, 80)).toMatchObject({ ...open, doubt: expect.stringContaining('Read them at least 50 mm apart') });
    expect(at(650, 95)).toMatchObject({ ...open, doubt: expect.stringMatching(/stands 30 mm a metre off the axis/) });
    expect(guideAngle(null, 'x', 0.05)).toMatchObject({ ...open, doubt: null });
  });
  it('lies askew by two offsets, and drifts over its length', () => {
    const skew = reckonSkew({ apart: 300, first: 1, second: 1.6 }, 1500, 0.5);
    expect(skew.angle).toBeCloseTo(0.002, 8);
    expect(skew.drift).toBeCloseTo(3, 9);
    expect(skew.longest).toBeCloseTo(250, 9);
    expect(skew.uncertainty).toBeCloseTo((Math.SQRT2 * 0.1) / Math.sqrt(3) / 300, 12);
    expect(reckonSkew({ apart: 300, first: 1, second: 1 }, 1500, 0.5).longest).toBe(Infinity);
    expect(reckonSkew(null, 1500, 0.5).uncertainty).toBeCloseTo(0.5 / Math.sqrt(3) / 300, 12);
  });
});

describe('cut lines over bars', () => {
  const profile = new CutProfile(
    [[{ x: 10, y: 0 }, { x: 20, y: 0 }], [{ x: 15.5, y: 0 }, { x: 15.5, y: 7 }, { x: 12.5, y: 7 }]], // prettier-ignore
    100,
  );
  it.each([
    [10, 20, 20],
    [0, 100, 20],
    [15, 16, 8.5],
    [12, 13, 1.5],
    [13, 15, 4],
    [15.4, 15.5, 7 + 0.2],
    [15.5, 15.6, 7 + 0.1],
    [15.51, 15.61, 0.1],
    [10.25, 10.75, 0.5],
    [20, 100, 0],
    [16, 15, 0],
    [-5, 500, 20],
  ])('from %d to %d: %d mm', (from, to, length) => expect(profile.between(from, to)).toBeCloseTo(length, 9));
  it('leave out what lies beyond the strip', () =>
    expect(new CutProfile([[{ x: -5, y: 0 }, { x: 5, y: 0 }]], 100).between(0, 100)).toBeCloseTo(5, 9)); // prettier-ignore
});

describe('room on a strip', () => {
  const strip = { length: 200, width: 60 };
  const patch = (taken: Box[], from = 0, to = 200) => freePatch(strip, taken, { width: 20, height: 30 }, from, to);
  it('for a patch is the nearest to its beginning, then to its edge', () => {
    expect(patch([])).toEqual({ minX: 0, maxX: 20, minY: 0, maxY: 30 });
    expect(patch([{ minX: 0, maxX: 50, minY: 0, maxY: 30 }])).toEqual({ minX: 0, maxX: 20, minY: 30, maxY: 60 });
    expect(patch([{ minX: 0, maxX: 50, minY: 0, maxY: 31 }])).toEqual({ minX: 50, maxX: 70, minY: 0, maxY: 30 });
    expect(patch([], 180)).toEqual({ minX: 180, maxX: 200, minY: 0, maxY: 30 });
    expect(patch([], 181)).toBeNull();
    expect(patch([], 0, 19)).toBeNull();
    expect(freePatch(strip, [], { width: 20, height: 61 }, 0, 200)).toBeNull();
  });
  it('that a piece takes lies about its middle', () =>
    expect(placeBox({ centre: { x: 100, y: 30 } } as StripPlace, 60, 25)).toEqual({ minX: 70, maxX: 130, minY: 17.5, maxY: 42.5 })); // prettier-ignore
});

describe('a strip laid by hand', () => {
  const rules = { strip: { length: 500, width: 60 }, piece: { length: 60, width: 25 }, turned: false, pitch: null, gap: 15, rows: null, deadFront: 30, deadBack: 20, used: [] } as StripRules; // prettier-ignore
  const laid = (change: Partial<StripRules> = {}) => {
    const made = layStrip({ ...rules, ...change });
    if (!made.ok) throw new Error(made.problem.message);
    return made.value;
  };
  it('has columns a pitch apart between its dead bands, rows in its middle, and says what is lost', () => {
    const { places, pitch, rows, lostFront, lostBack, filled } = laid();
    // 30, 105, … while 60 more end by 480; one row of 25 with 15 between: (60 + 15) / 40.
    expect([pitch, rows, lostFront, lostBack]).toEqual([75, 1, 30, 500 - 465]);
    expect(places.map((p) => p.centre.x)).toEqual([60, 135, 210, 285, 360, 435]);
    expect(places.every((p) => p.centre.y === 30)).toBe(true);
    expect(filled).toBeCloseTo((6 * 60 * 25) / (500 * 60), 12);
    // Two rows where the gap is 10: (60 − 2 · 25 − 10) / 2 from the edge.
    expect([...new Set(laid({ gap: 10 }).places.map((p) => p.centre.y))]).toEqual([12.5, 47.5]);
  });
  it('says the mean of two steps that take turns', () => {
    const steps = [{ pitch: 70, half: false }, { pitch: 66, half: true }]; // prettier-ignore
    const { places, pitch } = laid({ steps });
    expect(pitch).toBe(68);
    expect(places.map((p) => [p.centre.x, p.half]).slice(0, 4)).toEqual([[60, false], [130, true], [196, false], [266, true]]); // prettier-ignore
  });
  it('goes on right behind a used place, and the row beside it does not wait', () => {
    const used = [{ minX: 90, maxX: 140, minY: 0, maxY: 60 }];
    expect(laid({ used }).places.map((p) => p.centre.x).slice(0, 2)).toEqual([60, 170]); // prettier-ignore
    const half = laid({ gap: 10, used: [{ minX: 30, maxX: 40, minY: 0, maxY: 20 }] });
    expect(half.places.slice(0, 3).map((p) => [p.centre.x, p.centre.y])).toEqual([[60, 47.5], [70, 12.5], [130, 47.5]]); // prettier-ignore
    // 30, then 160, 230, 300 and 370: five of six in each of two rows.
    expect([half.skipped, laid({ gap: 10, used: [{ ...used[0]!, maxX: 160 }] }).skipped]).toEqual([0, 2]);
  });
});

describe('where two stops of one piece meet', () => {
  const e = { ...NONE, factor: 0.001, repeat: 0.1, guide: 0.0004, back: 0.05, aim: 0.3, pointer: 0.2, skew: 0.002 };
  it('misses by the feed between them, not by what is the same on both sides: thrown, as the strip goes', () => {
    const r = seeded(31);
    const [fed, y] = [400, 120];
    const steps = Array.from({ length: 60_000 }, () => {
      // A point of the strip near the seam, burned at both stops: what each misses it by.
      const [aim, point, skew, guide, factor] = [e.aim * r.normal(), e.pointer * r.normal(), e.skew * r.normal(), e.guide * r.normal(), e.factor * r.normal()]; // prettier-ignore
      const back = (): number => e.back * (2 * r.uniform() - 1);
      const at = (gone: number, slips: number) => {
        const reach = fed - gone;
        return { x: aim + point + back() + factor * gone + slips - (skew + guide) * y, y: aim + point + back() + skew * (gone + reach) + guide * reach }; // prettier-ignore
      };
      const [before, after] = [at(0, 0), at(fed, e.repeat * r.normal())];
      return Math.hypot(after.x - before.x, after.y - before.y);
    }).sort((a, b) => a - b);
    expect(feedStep(fed, e) / steps[57_000]!).toBeCloseTo(1, 1);
    expect(Math.abs(feedStep(fed, e) / steps[57_000]! - 1)).toBeLessThan(0.015);
  });
  it('is told by few feeds so much worse: Student’s t of two degrees of freedom, 4.303 for 1.960 [t tables, 97.5 %]', () => {
    const few = { ...NONE, repeat: 0.1, dof: { ...NONE.dof, feeds: 2 } };
    expect(feedStep(500, few)).toBeCloseTo(0.1 * 4.303, 3);
    expect(feedStep(500, { ...few, dof: NONE.dof })).toBeCloseTo(0.1 * 1.95996, 4);
  });
});

describe('feeds that were read a few times', () => {
  // The feeder itself, without Bistre's formulas: a factor nobody knows, feeds that repeat with some spread, three of them
  // read; the strip is aimed at, fed once by the factor that follows, and looked at.
  const covered = (n: number, repeat: number): number => {
    const r = seeded(90 + n);
    const tries = 6_000;
    let inside = 0;
    for (let i = 0; i < tries; i += 1) {
      const truth = 1 + 0.01 * r.normal();
      const read = (c: number): number => c * truth + repeat * r.normal();
      const tape = (): number => TAPE_READING * (2 * r.uniform() - 1);
      const readings = Array.from({ length: n }, () => ({
        commanded: 600,
        measured: read(600) + tape(),
        missed: null,
      }));
      const calibration = calibrateFeed(readings, { repeats: 0.1, feedPerStep: 0.01 });
      const errors = { ...NONE, factor: calibration.uncertainty, repeat: calibration.repeatability, dof: { ...NONE.dof, feeds: calibration.dof } }; // prettier-ignore
      const box = { minX: 0, maxX: 0, minY: 0, maxY: 0 };
      const [, chain] = chainOf([{ fed: 0, boxes: [box] }, { fed: 600, boxes: [box] }], 0); // prettier-ignore
      if (Math.abs(read(commandFor(calibration, 600)) - 600) <= stopError(chain!, errors)) inside += 1;
    }
    return inside / tries;
  };
  it.each([
    [3, 0.3],
    [3, 0.5],
    [5, 0.3],
    [5, 0.5],
    [10, 0.3],
    [10, 0.5],
  ])('%d times, repeating to %f mm: 95 of 100 stops lie inside what is promised', (n, repeat) => {
    // Three readings are on the safe side: they tell least of feeder and tape apart.
    const share = covered(n, repeat);
    expect(share).toBeGreaterThan(0.93);
    expect(share).toBeLessThan(n === 3 ? 0.995 : 0.965);
  });
});

describe('a row that is aimed at by one of its blanks', () => {
  const e = { ...NONE, laid: 0.4, dof: NONE.dof };
  const box = { minX: 0, maxX: 0, minY: 0, maxY: 0 };
  const chains = (byBlanks: boolean) => chainOf([{ fed: 0, boxes: [box, box, box, box] }], 0, byBlanks);
  /** The radius that holds 95 of 100 of two equal blanks' difference, each laid anywhere within a square of ± 0.4: by throwing them. */
  const thrown = (): number => {
    const r = seeded(3);
    const one = (): number => 0.4 * (2 * r.uniform() - 1);
    return Array.from({ length: 200_000 }, () => Math.hypot(one() - one(), one() - one())).sort(
      (a, b) => a - b,
    )[190_000]!;
  };
  it('carries the laying of that blank in all others: 0.79 for ± 0.4, not 0.56', () => {
    const known = thrown();
    expect(known).toBeCloseTo(0.78, 1);
    // Three of the four blanks are such; the first lies where it was aimed at.
    const all = simulateFeed(chains(true), e, 60_000, 4, false);
    expect(all.filter((v) => v === 0).length / 60_000).toBeCloseTo(0.25, 1);
    const others = all.slice(all.findIndex((v) => v > 0));
    expect(Math.abs(others[Math.ceil(0.95 * others.length) - 1]! / known - 1)).toBeLessThan(0.02);
    expect(stopError(chains(true)[0]!, e) / stopError(chains(false)[0]!, e)).toBeCloseTo(Math.SQRT2, 6);
  });
  it('a blank that is aimed at by itself carries none', () => {
    expect(stopError(chainOf([{ fed: 0, boxes: [box] }], 1, true)[0]!, e)).toBeCloseTo(0, 9);
  });
});
