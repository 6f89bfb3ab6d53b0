import { blankSizes, cornerPocket, loosePocket, type Blank, type Slot } from '../holding';
import { markSpread } from '../marks';
import { testBlank } from '../test-batch';
import { combined, effectiveDof, fromUniform, radialCoverage } from './combine';
import { reckonBudget } from './budget';
import { reckonRoundBudget } from './round';
import type { RoundBudgetInput } from './round-input';
import { seeded } from './random';
import { simulatePieces, worstCorner } from './simulate';
import type { BudgetInput } from './input';

describe('combination', () => {
  it('adds as GUM example H.1 does', () => {
    // JCGM 100:2008 H.1.6: components 25, 9.7, 2.9, 16.6 nm give u_c = 32 nm with 16 degrees of
    // freedom, U₉₉ = 2.92 × 32 = 93 nm (from memory).
    const parts = [
      { u: 25, dof: 18 },
      { u: 9.7, dof: 25.6 },
      { u: 2.9, dof: 50 },
      { u: 16.6, dof: 2 },
    ];
    expect(combined(parts)).toBeCloseTo(32, 0);
    expect(Math.floor(effectiveDof(parts))).toBe(16);
  });
  it('covers a plane position as simulation does', () => {
    const r = seeded(3);
    const k = radialCoverage(0.95, Infinity);
    let inside = 0;
    for (let i = 0; i < 50_000; i += 1) if (Math.hypot(r.normal(), r.normal()) <= k * Math.SQRT2) inside += 1;
    expect(inside / 50_000).toBeCloseTo(0.95, 2);
    expect(radialCoverage(0.95, 5)).toBeGreaterThan(k);
  });
  it('takes a uniform law for what it is', () => expect(fromUniform(0.3)).toBeCloseTo(0.1732, 4));
});

const sizes = blankSizes(testBlank, 0.95, 0.95);
const slots: Slot[] = Array.from({ length: 12 }, (_, i) => ({
  slot: i + 1,
  row: Math.floor(i / 4),
  column: i % 4,
  angle: 0,
  centre: { x: 50 + 65 * (i % 4), y: 40 + 40 * Math.floor(i / 4) },
}));
const input = (change: Partial<BudgetInput> = {}): BudgetInput => ({
  tolerance: 0.6,
  art: { minX: -20, maxX: 27, minY: -8, maxY: 8 },
  lies: 'loose',
  sizes,
  pocket: loosePocket(testBlank, sizes, { school: 'loose' }),
  slots,
  marks: markSpread([
    { x: 10, y: 10 },
    { x: 300, y: 160 },
  ]),
  sigma: 0.05,
  aimingGrowth: 1,
  pointer: { status: 'measured', uncertainty: 0.05 },
  repeatability: 0.04,
  outline: 0,
  leftoverAngle: 0,
  pieces: 40_000,
  seed: 9,
  ...change,
});

describe('placement budget', () => {
  const budget = reckonBudget(input());
  it('names float as the largest source of a loose pocket and says what would halve it', () => {
    expect(budget.largest.id).toBe('float');
    expect(budget.largest.halve).toContain('clearance');
    expect(budget.ifHalved).toBeLessThan(budget.predicted);
    expect(budget.sources.reduce((s, x) => s + x.share, 0)).toBeCloseTo(1, 9);
  });
  it('lies below the worst case and not far from the sum', () => {
    expect(budget.predicted).toBeLessThan(budget.worst);
    // The sum takes float and yaw as independent and normal; a yawed piece has less room to shift.
    expect(budget.predicted / budget.expanded).toBeGreaterThan(0.6);
    expect(budget.predicted / budget.expanded).toBeLessThan(1.1);
  });
  it('is exact where the answer is known: machine return alone', () => {
    const still = { ...sizes, length: { ...sizes.length, spread: 0 }, width: { ...sizes.width, spread: 0 } };
    const only = input({
      lies: 'against',
      sizes: still,
      sigma: 0,
      pointer: { status: 'measured', uncertainty: 0 },
      repeatability: 0.1,
    });
    // Largest displacement of a uniform square ±a: P(√(x²+y²) ≤ a) = π/4.
    const sorted = simulatePieces(only, 60_000);
    expect(sorted.filter((d) => d <= 0.1).length / sorted.length).toBeCloseTo(Math.PI / 4, 2);
    expect(Math.max(...sorted)).toBeLessThanOrEqual(0.1 * Math.SQRT2);
  });
  it('gets worse with an unmeasured pointer, and better with snug pockets or a stop', () => {
    const unmeasured = reckonBudget(input({ pointer: { status: 'unmeasured', uncertainty: 0.3 / Math.sqrt(3) } }));
    expect(unmeasured.predicted).toBeGreaterThan(budget.predicted);
    expect(unmeasured.assumptions).toContain('pointer offset');
    const snug = reckonBudget(input({ pocket: loosePocket(testBlank, sizes, { school: 'snug' }) }));
    expect(snug.predicted).toBeLessThan(budget.predicted);
    const fence = reckonBudget(input({ lies: 'against', pocket: cornerPocket(testBlank, sizes, 3) }));
    expect(fence.sources.some((s) => s.id === 'float')).toBe(false);
    expect(fence.predicted).toBeLessThan(snug.predicted);
  });
  it('carries the eye that turns a round piece to its line, in pockets and in a stop corner', () => {
    const disc: Blank = {
      ...testBlank,
      shape: { kind: 'disc', diameter: 50 },
      holes: [{ x: 0, y: 20, diameter: 4 }],
      samples: { length: [], width: [], thickness: [] },
    };
    const discSizes = blankSizes(disc, 0.95, 0.95);
    const pockets = {
      loose: (blank: Blank) => loosePocket(blank, discSizes, { school: 'loose' }),
      against: (blank: Blank) => cornerPocket(blank, discSizes, 3),
    };
    for (const lies of ['loose', 'against'] as const) {
      const yawOf = (blank: Blank) =>
        reckonBudget(input({ lies, sizes: discSizes, pocket: pockets[lies](blank) })).sources.find(
          (s) => s.id === 'yaw',
        );
      // 0.2 mm at the hole, 20 mm from the middle, is 0.01 rad; the art's far corner is at √(27² + 8²) mm.
      expect(yawOf(disc)!.worst).toBeCloseTo(0.01 * Math.hypot(27, 8), 9);
      expect(yawOf(disc)!.origin).toBe('assumed');
      expect(yawOf({ ...disc, direction: { kind: 'none' } })).toBeUndefined();
    }
  });
  it('gives the same for the same seed', () => expect(reckonBudget(input()).predicted).toBe(budget.predicted));
});

it('measures the worst corner of a shifted and turned piece', () => {
  expect(worstCorner({ minX: -30, maxX: 30, minY: -10, maxY: 10 }, 0.3, 0.4, 0)).toBeCloseTo(0.5, 9);
  expect(worstCorner({ minX: -30, maxX: 30, minY: 0, maxY: 0 }, 0, 0, 0.01)).toBeCloseTo(0.3, 9);
});

describe('the budget of a round blank', () => {
  const round = (change: Partial<RoundBudgetInput> = {}): RoundBudgetInput => ({
    tolerance: 1,
    chuck: false,
    diameter: { mean: 88, spread: 0.1, dof: 9, assumed: false },
    artDiameter: 80,
    reach: Math.PI / 2,
    far: 20 * Math.PI + 25,
    number: 0,
    halfAround: 25,
    halfAlong: 20,
    calibration: null,
    repeat: 0.08,
    runOut: null,
    taper: 0,
    farEnd: 100,
    laid: { length: 300 },
    still: null,
    axes: { scale: 0.001, lean: 0.001, measured: false },
    hasFeature: true,
    pointer: { status: 'measured', uncertainty: 0.05 },
    repeatability: 0.04,
    step: 0.02,
    play: 0,
    pieces: 30_000,
    seed: 4,
    ...change,
  });
  it('names the travel of rollers before a ring, and is inside after one', () => {
    const before = reckonRoundBudget(round());
    expect([before.largest.id, before.verdict]).toEqual(['calibration', 'near']);
    expect(before.largest.halve).toContain('ring');
    const after = reckonRoundBudget(round({ calibration: 0.0006 }));
    expect(after.predicted).toBeLessThan(before.predicted / 2);
    expect(after.verdict).toBe('inside');
  });
  it('puts pieces’ diameters on rollers, and run-out on a chuck', () => {
    const ids = (b: RoundBudgetInput): string[] => reckonRoundBudget(b).sources.map((s) => s.id);
    expect(ids(round({ chuck: true }))).toContain('run-out');
    expect(ids(round())).not.toContain('run-out');
    const rollers = reckonRoundBudget(round()).sources.find((s) => s.id === 'diameter')!;
    // A piece 0.1 mm larger turns less by angle × 0.1 / 2 at its surface.
    expect(rollers.u).toBeCloseTo((Math.PI / 2) * 0.05, 9);
  });
  it('has each source by its rule: how large, at most, and what it rests on', () => {
    const told = (change: Partial<RoundBudgetInput> = {}) =>
      Object.fromEntries(reckonRoundBudget(round({ pieces: 10, ...change })).sources.map((s) => [s.id, [s.u, s.worst, s.working.basis]])); // prettier-ignore
    const near = (u: number, worst: number, basis: string) => [expect.closeTo(u, 9), expect.closeTo(worst, 9), basis];
    const anywhere = (a: number, basis: string) => near(a / Math.sqrt(3), a, basis);
    // The farthest art: a quarter of a turn at 40 mm, and half its own width.
    const far = (Math.PI / 2) * 40 + 25;
    expect(told()).toMatchObject({
      calibration: anywhere(0.01 * far, 'common practice'),
      slip: near((0.08 * far) / (Math.PI * 80), (0.24 * far) / (Math.PI * 80), 'common practice'),
      tilt: anywhere(20 * (1 - Math.cos(Math.PI / 360)), 'common practice'),
      straight: anywhere((0.2 * 100) / 300, 'common practice'),
      feature: anywhere(0.2, 'common practice'),
      rim: anywhere(0.2, 'common practice'),
      pointer: near(Math.SQRT2 * 0.05, 3 * Math.SQRT2 * 0.05, 'statistics'),
      return: anywhere(0.04, 'assumed'),
      step: near(0.02 / Math.sqrt(12), 0.01, 'geometry'),
      diameter: near((Math.PI / 2) * 0.05, (3 * Math.PI * 0.05) / 2, 'statistics'),
    });
    expect(told({ calibration: 0.0006 })['calibration']).toEqual(near(0.0006 * far, 0.0018 * far, 'statistics'));
    // ± a on both axes, unmeasured: √2 · u, at most √3 times that.
    expect(told({ pointer: { status: 'unmeasured', uncertainty: 0.05 } })['pointer']).toEqual(near(Math.SQRT2 * 0.05, Math.sqrt(6) * 0.05, 'common practice')); // prettier-ignore
    expect(told({ taper: 0.02 })['taper']).toEqual(anywhere(0.5, 'geometry'));
    expect(told({ chuck: true })).toMatchObject({
      calibration: anywhere(0.001 * far, 'common practice'),
      'run-out': near(0.1 / Math.SQRT2, 0.1, 'common practice'),
      diameter: near((25 * 0.1) / 88, (75 * 0.1) / 88, 'statistics'),
    });
    expect(told({ chuck: true, runOut: 0.4 })['run-out']).toEqual(near(0.2 / Math.SQRT2, 0.2, 'measured here')); // prettier-ignore
  });
  it('agrees with the sum where everything is small and alike', () => {
    const budget = reckonRoundBudget(round({ calibration: 0.0006, hasFeature: false }));
    expect(budget.predicted / budget.expanded).toBeGreaterThan(0.75);
    expect(budget.predicted / budget.expanded).toBeLessThan(1.15);
    expect(budget.predicted).toBeLessThan(budget.worst);
  });
  it('carries a drive laid askew by its length, and the level of the blank by its cosine', () => {
    const sources = reckonRoundBudget(round()).sources;
    const u = (id: string): number => sources.find((s) => s.id === id)!.u;
    // 0.2 mm over 300 mm of drive, at 100 mm; half a degree over 20 mm.
    expect(u('straight')).toBeCloseTo(0.2 / 3 / Math.sqrt(3), 9);
    expect(u('tilt')).toBeCloseTo((20 * (1 - Math.cos(Math.PI / 360))) / Math.sqrt(3), 12);
    expect(reckonRoundBudget(round({ laid: null })).sources.some((s) => s.id === 'straight')).toBe(false);
  });
});
