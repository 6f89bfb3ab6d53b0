import { blankSizes, loosePocket, type BlankSizes } from '../holding';
import { markSpread } from '../marks';
import { testBlank } from '../test-batch';
import { reckonBudget } from './budget';
import type { BudgetInput, SourceId } from './input';
import { simulatePieces } from './simulate';

// Each source alone, against what is known of its law: two equal normal errors make a Rayleigh radius, two uniform ones
// a square. Variances add, so that the mean square of the radius is their sum.
const COUNT = 60_000;
const RAYLEIGH_95 = Math.sqrt(-2 * Math.log(0.05));
/** 95 % of a square of half side 1 lie within this: πR² − 4(R² acos(1/R) − √(R² − 1)) = 0.95 · 4, solved by halving. */
const squareRadius = (): number => {
  let [low, high] = [1, Math.SQRT2];
  for (let i = 0; i < 60; i += 1) {
    const r = (low + high) / 2;
    const area = Math.PI * r * r - 4 * (r * r * Math.acos(1 / r) - Math.sqrt(r * r - 1));
    if (area < 0.95 * 4) low = r;
    else high = r;
  }
  return low;
};

const measured = blankSizes(testBlank, 0.95, 0.95);
const still = (spread: number): BlankSizes => ({
  ...measured,
  length: { ...measured.length, mean: 60, spread },
  width: { ...measured.width, mean: 25, spread },
});
const marks = markSpread([
  { x: 0, y: 0 },
  { x: 200, y: 0 },
  { x: 200, y: 100 },
  { x: 0, y: 100 },
]);
const at = (x: number, y: number, angle = 0) => [
  { slot: 1, row: 0, column: 0, angle, centre: { x: marks.centre.x + x, y: marks.centre.y + y } },
];
/** A point of art on a piece that lies in the middle of the marks, and nothing that is off. */
const quiet: BudgetInput = {
  tolerance: 1,
  art: { minX: 0, maxX: 0, minY: 0, maxY: 0 },
  lies: 'drawn',
  sizes: still(0),
  pocket: { ...loosePocket(testBlank, measured, { school: 'loose' }), length: 60, width: 25, yaw: 0 },
  slots: at(0, 0),
  marks,
  sigma: 0,
  aimingGrowth: 1,
  pointer: { status: 'measured', uncertainty: 0 },
  repeatability: 0,
  outline: 0,
  laid: null,
  leftoverAngle: 0,
  pieces: COUNT,
  seed: 11,
};
const radii = (change: Partial<BudgetInput>): Float64Array => simulatePieces({ ...quiet, ...change }, COUNT);
const within95 = (change: Partial<BudgetInput>): number => radii(change)[Math.ceil(0.95 * COUNT) - 1]!;
const meanSquare = (change: Partial<BudgetInput>): number => radii(change).reduce((s, r) => s + r * r, 0) / COUNT;
/** Within so many hundredths of what is known. */
const near = (value: number, known: number, hundredths = 2): void =>
  expect(Math.abs(value / known - 1)).toBeLessThan(hundredths / 100);

describe('a source by itself', () => {
  it('nothing off is nothing off', () => expect(within95({})).toBe(0));

  it('a measured pointer, and outlines found in a picture, are normal both ways', () => {
    near(within95({ pointer: { status: 'measured', uncertainty: 0.1 } }), 0.1 * RAYLEIGH_95);
    near(within95({ outline: 0.1 }), 0.1 * RAYLEIGH_95);
  });

  it('an unmeasured pointer, and the machine’s return, are anywhere within their bounds', () => {
    near(within95({ repeatability: 0.1 }), 0.1 * squareRadius(), 1);
    near(within95({ pointer: { status: 'unmeasured', uncertainty: 0.1 } }), 0.1 * Math.sqrt(3) * squareRadius(), 1);
    expect(radii({ repeatability: 0.1 })[COUNT - 1]!).toBeLessThanOrEqual(0.1 * Math.SQRT2);
  });

  it('aiming is σ²/n each way in the middle of the marks, and turns with the distance from it', () => {
    const sigma = 0.05;
    near(meanSquare({ sigma }), (2 * sigma ** 2) / 4);
    for (const [x, y] of [
      [300, 0],
      [0, -200],
      [150, 80],
    ] as const)
      // prettier-ignore
      near(meanSquare({ sigma, slots: at(x, y) }), sigma ** 2 * (2 / 4 + (x ** 2 + y ** 2) / marks.spread));
    // Scales that are read from the marks too weigh more.
    near(meanSquare({ sigma, aimingGrowth: 1.5 }), (1.5 ** 2 * 2 * sigma ** 2) / 4);
  });

  it('a size goes half to each side of the middle that the art is set from', () => {
    near(meanSquare({ lies: 'against', sizes: still(0.2) }), (2 * 0.2 ** 2) / 4);
  });

  it('what a loose pocket leaves is anywhere in it', () => {
    const pocket = { ...quiet.pocket, length: 61, width: 25.6, yaw: 0 };
    near(meanSquare({ lies: 'loose', pocket }), (0.5 ** 2 + 0.3 ** 2) / 3);
    expect(radii({ lies: 'loose', pocket })[COUNT - 1]!).toBeLessThanOrEqual(Math.hypot(0.5, 0.3) + 1e-9);
  });

  it('a turn in the pocket moves what is far from its middle: ψ²(x² + y²)/3', () => {
    const art = { minX: 20, maxX: 20, minY: 5, maxY: 5 };
    // So tight that the turned piece has no room to shift as well.
    const pocket = { ...quiet.pocket, yaw: 0.01 };
    near(meanSquare({ lies: 'loose', art, pocket }), (0.01 ** 2 * (20 ** 2 + 5 ** 2)) / 3);
  });

  it('a turn that is left after the work was turned moves pieces by their distance', () => {
    near(within95({ leftoverAngle: 0.001, slots: at(120, 50) }), 0.001 * 130, 0.01);
  });

  it('lies the same way on a piece that lies turned', () => {
    const turned = (angle: number) => meanSquare({ sigma: 0.05, slots: at(100, 40, angle) });
    near(turned(Math.PI / 2), turned(0), 2);
  });
});

describe('what halving a source gives', () => {
  const change: Partial<BudgetInput> = {
    sigma: 0.05,
    repeatability: 0.04,
    pointer: { status: 'measured', uncertainty: 0.1 },
    outline: 0.03,
  };
  it('is the same as reckoning with half of it, to what a smaller simulation can tell', () => {
    const { ifHalved, largest } = reckonBudget({ ...quiet, ...change });
    expect(largest.id).toBe('pointer');
    const half = reckonBudget({ ...quiet, ...change, pointer: { status: 'measured', uncertainty: 0.05 } });
    near(ifHalved, half.predicted, 1);
  });
  it.each<[SourceId, Partial<BudgetInput>]>([
    ['aiming', { sigma: 0.025 }],
    ['return', { repeatability: 0.02 }],
    ['outline', { outline: 0.015 }],
    ['pointer', { pointer: { status: 'measured', uncertainty: 0.05 } }],
  ])('of %s is what the simulation scales', (id, halved) => {
    const scaled = simulatePieces({ ...quiet, ...change }, 2_000, { id, factor: 0.5 });
    expect([...scaled]).toEqual([...simulatePieces({ ...quiet, ...change, ...halved }, 2_000)]);
  });
  it('adds in squares: shares sum to one, the sum to what is said of each', () => {
    const { sources } = reckonBudget({ ...quiet, ...change });
    const sum = Math.sqrt(sources.reduce((s, p) => s + p.u ** 2, 0));
    expect(sources.reduce((s, p) => s + p.share, 0)).toBeCloseTo(1, 9);
    for (const p of sources) expect(p.share).toBeCloseTo((p.u / sum) ** 2, 9);
    // Radial standard uncertainties: both axes together.
    const u = Object.fromEntries(sources.map((p) => [p.id, p.u]));
    expect(u['pointer']).toBeCloseTo(Math.SQRT2 * 0.1, 9);
    expect(u['return']).toBeCloseTo((Math.SQRT2 * 0.04) / Math.sqrt(3), 9);
    expect(u['outline']).toBeCloseTo(Math.SQRT2 * 0.03, 9);
    const worst = Object.fromEntries(sources.map((p) => [p.id, p.worst]));
    expect(worst['pointer']).toBeCloseTo(3 * Math.SQRT2 * 0.1, 9);
  });
});
