import { blankSizes, loosePocket } from '../holding';
import { markSpread } from '../marks';
import { studentQuantile } from '../samples';
import { testBlank } from '../test-batch';
import { many } from '../test-many';
import type { BudgetInput } from './input';
import { seeded, studentScale } from './random';
import { simulatePieces } from './simulate';

// What few readings can promise: blanks are drawn from a spread that nobody knows, three of them are measured, the budget is
// reckoned from those alone, and one more blank is laid against the stop. As many lie inside as were promised.
const S_LENGTH = 0.3;
const SHOPS = many(4_000, 1_200);
const PIECES = 1_000;

const marks = markSpread([
  { x: 0, y: 0 },
  { x: 200, y: 0 },
]);

const covered = (n: number, width: number): number => {
  const r = seeded(70 + n);
  let inside = 0;
  for (let shop = 0; shop < SHOPS; shop += 1) {
    const take = (mean: number, s: number): number[] => Array.from({ length: n }, () => mean + s * r.normal());
    const blank = {
      ...testBlank,
      samples: { length: take(60, S_LENGTH), width: take(25, width), thickness: [1.5, 1.5, 1.5] },
    };
    const sizes = blankSizes(blank, 0.95, 0.95);
    const input: BudgetInput = {
      tolerance: 1,
      art: { minX: 0, maxX: 0, minY: 0, maxY: 0 },
      lies: 'against',
      sizes,
      pocket: { ...loosePocket(testBlank, blankSizes(testBlank, 0.95, 0.95), { school: 'loose' }), yaw: 0 },
      slots: [{ slot: 1, row: 0, column: 0, angle: 0, centre: marks.centre }],
      marks,
      sigma: 0,
      aimingGrowth: 1,
      pointer: { status: 'measured', uncertainty: 0 },
      repeatability: 0,
      outline: 0,
      laid: null,
      leftoverAngle: 0,
      pieces: PIECES,
      seed: shop,
    };
    const promised = simulatePieces(input, PIECES)[Math.ceil(0.95 * PIECES) - 1]!;
    // The stop holds two edges; the art was set for the mean of what was measured.
    const off = Math.hypot((60 + S_LENGTH * r.normal() - sizes.length.mean) / 2, (25 + width * r.normal() - sizes.width.mean) / 2); // prettier-ignore
    if (off <= promised) inside += 1;
  }
  return inside / SHOPS;
};

describe('95 % from few readings', () => {
  // 4,000 tries of a true 95 % lie within ± 0.7 % of it 19 times of 20, 1,200 within ± 1.3 % [binomial]; two spreads known by
  // few readings each have no exact radius, theirs is up to 0.8 % wide.
  it.each([
    [3, 0],
    [3, 0.1],
    [5, 0.2],
    [12, 0.2],
  ])('of %d blanks, %f beside 0.3 apart, holds 95 of 100 that come after them', (n, width) => {
    expect(Math.abs(covered(n, width) - 0.95)).toBeLessThan(0.008 + 2 * Math.sqrt((0.95 * 0.05) / SHOPS));
  });

  it('follows Student’s t: 12.706, 4.303, 2.571 and 2.228 times what 1, 2, 5 and 10 degrees of freedom showed [t tables, 97.5 %]', () => {
    const r = seeded(5);
    for (const [dof, t] of [
      [1, 12.706],
      [2, 4.303],
      [5, 2.571],
      [10, 2.228],
    ] as const) {
      const all = Array.from({ length: 200_000 }, () => Math.abs(studentScale(r, dof) * r.normal())).sort(
        (a, b) => a - b,
      );
      expect(Math.abs(all[190_000]! / t - 1)).toBeLessThan(dof === 1 ? 0.04 : 0.015);
    }
    // Between whole numbers between theirs; by the library where it is no table’s.
    const between = Array.from({ length: 200_000 }, () => Math.abs(studentScale(r, 3.4) * r.normal())).sort((a, b) => a - b); // prettier-ignore
    expect(Math.abs(between[190_000]! / studentQuantile(0.975, 3.4) - 1)).toBeLessThan(0.015);
    expect(studentScale(r, Infinity)).toBe(1);
  });
});
