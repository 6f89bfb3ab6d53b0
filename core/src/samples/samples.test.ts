import jStat from 'jstat';
import { chanceBelow, governingSize } from './size';
import { AXIS_95, PLANE_95, RADIAL_95 } from './coverage';
import { dimensionQuestions } from './plausibility';
import { noncentralTCdf, normalCdf } from './distributions';
import { sampleStats } from './stats';
import { toleranceFactor } from './tolerance';
import { seeded } from '../budget';

describe('tolerance factor', () => {
  // NBS Handbook 91, one-sided factors for p = γ = 0.95; values from memory.
  it.each([
    [5, 4.203],
    [10, 2.911],
    [20, 2.396],
    [30, 2.22],
  ])('k₁(%d, 0.95, 0.95) = %d', (n, k) => {
    expect(toleranceFactor(n, 0.95, 0.95)).toBeCloseTo(k, 3);
  });
  it('covers the share with the confidence it claims, by simulation', () => {
    const r = seeded(11);
    const k = toleranceFactor(8, 0.9, 0.9);
    let held = 0;
    const tries = 20_000;
    for (let i = 0; i < tries; i += 1) {
      const { mean, s } = sampleStats(Array.from({ length: 8 }, () => r.normal()))!;
      if (normalCdf(mean + k * s!) >= 0.9) held += 1;
    }
    expect(held / tries).toBeGreaterThan(0.893);
    expect(held / tries).toBeLessThan(0.907);
  });
  it('integrates the noncentral t as another algorithm does (jStat, AS 243 series)', () => {
    for (const [t, dof, delta] of [
      [1.2, 4, 0.7],
      [5, 9, 3],
      [-0.5, 12, 0.2],
      [9.4, 4, 3.678],
    ] as const) {
      expect(noncentralTCdf(t, dof, delta)).toBeCloseTo(jStat.noncentralt.cdf(t, dof, delta), 5);
    }
  });
  it('refuses a single sample', () => expect(() => toleranceFactor(1, 0.95, 0.95)).toThrow(RangeError));
});

describe('coverage factors', () => {
  it('hold 95 of 100, by the distributions of another library', () => {
    expect(jStat.normal.cdf(AXIS_95, 0, 1) - jStat.normal.cdf(-AXIS_95, 0, 1)).toBeCloseTo(0.95, 6);
    // The square of a plane normal's radius, in standard deviations of an axis, is χ² with two degrees of freedom.
    expect(jStat.chisquare.cdf(PLANE_95 ** 2, 2)).toBeCloseTo(0.95, 9);
  });

  it('are those of handbooks, and agree with each other', () => {
    // 1.960 [JCGM 100:2008, table G.1]; 2.448 and 1.731 from their closed forms.
    expect([AXIS_95, PLANE_95, RADIAL_95].map((k) => k.toFixed(3))).toEqual(['1.960', '2.448', '1.731']);
    // Equal axes of σ have the radial uncertainty σ√2: both ways give one radius.
    expect(RADIAL_95 * Math.hypot(0.3, 0.3)).toBeCloseTo(PLANE_95 * 0.3, 12);
  });
});

describe('governing size', () => {
  const base = { label: 'length', nominal: 60, catalogueTolerance: 0.3, coverage: 0.95, confidence: 0.95 };
  it('takes the largest where every piece was measured: no piece is larger, and each of them goes in', () => {
    const pieces = [101.2, 101.6, 101.9, 102.2, 101.4];
    const all = governingSize({ ...base, samples: pieces, coverage: 1 });
    expect(all.upper).toBe(102.2);
    expect([102.2, 102.1].map((limit) => chanceBelow(all, limit) === 1)).toEqual([true, false]);
    // 95 % of others with 95 % confidence: 101.66 + 4.203 · 0.3975 [k₁ of 5, NBS Handbook 91; mem], 1.1 mm more.
    expect(governingSize({ ...base, samples: pieces }).upper).toBeCloseTo(103.33, 2);
    // Fewer than three tell nothing of a spread: the catalogue speaks.
    expect(governingSize({ ...base, samples: [60.1], coverage: 1 }).assumed).toBe(true);
  });
  it('is mean + k₁·s from three samples on, with its working', () => {
    const size = governingSize({ ...base, samples: [60, 60.1, 59.9, 60.05, 59.95] });
    expect(size.assumed).toBe(false);
    expect(size.upper).toBeCloseTo(60 + 4.2027 * Math.sqrt(0.025 / 4), 3);
    expect(size.working.at(-1)!.result).toBe(`${size.upper.toFixed(3)} mm`);
  });
  it('says what was done in every line of its working', () => {
    // Σ(x − 60)² = 0.02, so that s = √(0.02 / 2) = 0.1; k₁(3, 0.95, 0.95) is 7.656 (NBS Handbook 91, from memory).
    const size = governingSize({ ...base, samples: [60, 60.1, 59.9] });
    expect(size.assumed).toBe(false);
    expect(size.working.map((w) => [w.label, w.substituted, w.result])).toEqual([
      ['length: mean of 3', '3 readings, 59.90 to 60.10', '60.000 mm'],
      ['spread', 'n = 3', '0.100 mm'],
      ['factor', 'k₁(3, 0.95, 0.95)', '7.656'],
      ['size 95 % stay below', '60.000 + 7.656 × 0.100', '60.766 mm'],
    ]);
    expect(governingSize({ ...base, samples: [] }).working.map((w) => [w.label, w.substituted, w.result])).toEqual([
      ['length: largest expected', '60.00 + 0.30', '60.30 mm'],
      ['spread', '0.30 / √3', '0.173 mm'],
    ]);
  });
  it('gives the chance of the next piece by Student’s t with the spread of a prediction', () => {
    const size = governingSize({ ...base, samples: [60, 60.1, 59.9] });
    for (const t of [-3, -1, 0.4, 2, 5])
      expect(chanceBelow(size, 60 + t * 0.1 * Math.sqrt(1 + 1 / 3))).toBeCloseTo(jStat.studentt.cdf(t, 2), 9);
    const alike = governingSize({ ...base, samples: [60, 60, 60] });
    expect([59.9, 60, 60.1].map((limit) => chanceBelow(alike, limit))).toEqual([0, 1, 1]);
  });
  it.each([[[]], [[60.02]], [[60, 60.1]]])('is an assumption with samples %j', (samples) => {
    const size = governingSize({ ...base, samples });
    expect(size.assumed).toBe(true);
    expect(size.upper).toBeCloseTo(60.3, 9);
  });
  it('takes a piece larger than the catalogue says', () =>
    expect(governingSize({ ...base, samples: [61] }).upper).toBe(61));
  it('gives chances that rise with the limit and end at certainty', () => {
    const size = governingSize({ ...base, samples: [60, 60.1, 59.9, 60.05, 59.95] });
    expect(chanceBelow(size, 60)).toBeCloseTo(0.5, 6);
    expect(chanceBelow(size, 61)).toBeGreaterThan(0.999);
    const assumed = governingSize({ ...base, samples: [] });
    expect(chanceBelow(assumed, 60.3)).toBeCloseTo(1, 9);
    expect([59, 59.7, 60.15, 62].map((limit) => chanceBelow(assumed, limit))).toEqual(
      [0, 0, 0.75, 1].map((c) => expect.closeTo(c, 9)),
    );
  });
});

describe('plausibility', () => {
  it('asks about millimetres typed as inches and the other way round', () => {
    expect(dimensionQuestions('length', 60, [60 * 25.4], 900)[0]!.message).toContain('typed as inches');
    expect(dimensionQuestions('length', 60, [2.362], 900)[0]!.message).toContain('looks like inches');
  });
  it('asks about a decimal point in the wrong place at the first reading', () => {
    for (const [typed, fits] of [[10.16, '101.60'], [1016, '101.60'], [1.016, '101.60'], [10160, '101.60']] as const) // prettier-ignore
      expect(dimensionQuestions('length', 101.6, [typed], 900)[0]!.message).toBe(`length reading 1 (${typed.toFixed(2)} mm) looks like a decimal point in the wrong place: ${fits} mm would fit.`); // prettier-ignore
    expect(dimensionQuestions('length', 101.6, [101.6], 900)).toEqual([]);
    // A reading that is neither is not asked about by itself.
    expect(dimensionQuestions('length', 101.6, [60], 900)).toEqual([]);
    expect(dimensionQuestions('length', 5080, [], 900)[0]!.message).toContain('200.00 mm');
  });
  it('points at a reading that stands apart', () => {
    expect(dimensionQuestions('width', 25, [25, 25.02, 24.98, 25.01, 26.4], 900)[0]!.message).toContain('reading 5');
  });
  it.each([
    // The other four: mean 10, s = √(0.02 / 3) = 0.0816, six of which are 0.49.
    [[10, 10.1, 9.9, 10], 10.48, 10.5],
    // All alike at 100: two parts in a thousand.
    [[100, 100, 100, 100], 100.19, 100.21],
    // All alike at 2: what a caliper is off by.
    [[2, 2, 2, 2], 2.019, 2.021],
  ])('has room for what is usual among %j: %d is silent, %d is not', (others, near, far) => {
    const about = (last: number) =>
      dimensionQuestions('width', others[0]!, [...others, last], 900).map((q) => q.message);
    expect(about(near)).toEqual([]);
    expect(about(far)).toHaveLength(1);
    expect(about(far)[0]).toMatch(/^width reading 5 .* stands apart/);
  });
  it('says that the catalogue is off by more than a twentieth, once three pieces say so', () => {
    expect(dimensionQuestions('width', 20, [21.1, 21.1], 900)).toEqual([]);
    expect(dimensionQuestions('width', 20, [20.9, 20.9, 20.9], 900)).toEqual([]);
    expect(dimensionQuestions('width', 20, [21.1, 21.1, 21.1], 900)[0]!.message).toBe(
      'The pieces measure 21.10 mm but the catalogue says 20.00 mm. Bistre uses the measured size.',
    );
  });
  it('is silent about sound readings', () =>
    expect(dimensionQuestions('width', 25, [25, 25.02, 24.98, 25.01], 900)).toEqual([]));
});
