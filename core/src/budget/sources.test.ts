import { blankSizes, loosePocket } from '../holding';
import { markSpread } from '../marks';
import { testBlank } from '../test-batch';
import { assembleBudget } from './budget';
import type { BudgetInput, SourceId } from './input';
import { reckonSources } from './sources';
import { simulatePieces } from './simulate';
import { sourceOf } from './source';

// What each source is said to be, and how large it can be at most, by its rule and hand-sized numbers: a standard
// uncertainty of ± a anywhere is a / √3 [JCGM 100:2008, 4.3.7]; both axes together √2 times one.
const measured = blankSizes(testBlank, 0.95, 0.95);
const size = (s: 'length' | 'width', mean: number, spread: number) => ({ ...measured[s], mean, spread, dof: 11 });
const marks = markSpread([
  { x: 0, y: 0 },
  { x: 200, y: 0 },
  { x: 200, y: 100 },
  { x: 0, y: 100 },
]);
const slot = (x: number, y: number, angle = 0) => ({ slot: 1, row: 0, column: 0, angle, centre: { x: 100 + x, y: 50 + y } }); // prettier-ignore
const input: BudgetInput = {
  tolerance: 1,
  art: { minX: -3, maxX: 3, minY: -4, maxY: 4 },
  lies: 'drawn',
  sizes: { ...measured, length: size('length', 60, 0.06), width: size('width', 25, 0.08) },
  pocket: { ...loosePocket(testBlank, measured, { school: 'loose' }), length: 60, width: 25, yaw: 0 },
  slots: [slot(30, 0), slot(-30, 40)],
  marks,
  sigma: 0.05,
  aimingGrowth: 1,
  pointer: { status: 'measured', uncertainty: 0.1 },
  repeatability: 0.06,
  outline: 0,
  laid: null,
  leftoverAngle: 0,
  pieces: 100,
  seed: 1,
};
/** The next piece beside twelve that were measured. */
const NEXT = Math.sqrt(1 + 1 / 12);
const sources = (change: Partial<BudgetInput> = {}) => reckonSources({ ...input, ...change });
const of = (id: SourceId, change: Partial<BudgetInput> = {}) => sources(change).find((s) => s.id === id)!;
const near = (source: { u: number; worst: number }, u: number, worst: number): void => {
  expect(source.u).toBeCloseTo(u, 12);
  expect(source.worst).toBeCloseTo(worst, 12);
};
/** Distances of the farthest corner of each piece’s art from the marks’ middle. */
const FAR = [Math.hypot(33, 4), Math.hypot(33, 44)] as const;
const RMS = Math.sqrt((FAR[0] ** 2 + FAR[1] ** 2) / 2);

describe('a source as it stands in the budget', () => {
  it('is there only where something can be off', () => {
    expect(sources().map((s) => s.id)).toEqual(['aiming', 'pointer', 'return']);
    expect(sources({ lies: 'against', outline: 0.1, leftoverAngle: 0.01 }).map((s) => s.id)).toEqual(['size', 'aiming', 'pointer', 'return', 'outline', 'angle']); // prettier-ignore
  });

  it('size: half of it reaches the middle, along and across', () =>
    // Twelve readings: the thirteenth piece differs from their mean by √(1 + 1/12) of their spread.
    near(of('size', { lies: 'against' }), NEXT * Math.hypot(0.03, 0.04), 0.15 * NEXT));

  it('aiming: √(2σ²/n + d²σ²/Σr²) over the pieces, three times that at the farthest', () => {
    // Σr² of four marks at 100, 50 from their middle.
    const spread = 4 * (100 ** 2 + 50 ** 2);
    const at = (d: number): number => 0.05 * Math.sqrt(2 / 4 + d ** 2 / spread);
    near(of('aiming'), at(RMS), 3 * at(FAR[1]));
    near(of('aiming', { aimingGrowth: 2 }), 2 * at(RMS), 6 * at(FAR[1]));
    // A piece that lies turned by a quarter has its art the other way round.
    near(of('aiming', { slots: [slot(30, 0, Math.PI / 2)] }), at(Math.hypot(34, 3)), 3 * at(Math.hypot(34, 3)));
  });

  it('a second source: both axes together √2 times one, three times that at most; alone, 95 % lie within √(−2 ln 0.05) of it', () => {
    near(of('second', { second: 0.05 }), Math.SQRT2 * 0.05, 3 * Math.SQRT2 * 0.05);
    const sizes = { ...input.sizes, length: size('length', 60, 0), width: size('width', 25, 0) };
    const alone = { ...input, sizes, second: 0.05, sigma: 1e-9, pointer: { status: 'measured', uncertainty: 0 }, repeatability: 0 } as const; // prettier-ignore
    const thrown = simulatePieces(alone, 20_000);
    // Normal along either axis is a Rayleigh distribution of their distance [JCGM 102:2011 has it as an example; from memory].
    expect(thrown[19_000]! / (0.05 * Math.sqrt(-2 * Math.log(0.05)))).toBeCloseTo(1, 1.5);
    expect(simulatePieces({ ...alone, second: undefined }, 100).at(-1)).toBeLessThan(1e-6);
  });

  it('pointer: measured ones three times theirs at most, unmeasured ones their bound', () => {
    near(of('pointer'), Math.SQRT2 * 0.1, 3 * Math.SQRT2 * 0.1);
    near(of('pointer', { pointer: { status: 'unmeasured', uncertainty: 0.1 } }), Math.SQRT2 * 0.1, Math.SQRT2 * Math.sqrt(3) * 0.1); // prettier-ignore
    expect(['measured', 'stale', 'unmeasured'].map((status) => of('pointer', { pointer: { status: status as never, uncertainty: 0.1 } }).origin)).toEqual(['measured', 'assumed', 'assumed']); // prettier-ignore
  });

  it('return: ± a on both axes', () => near(of('return'), (Math.SQRT2 * 0.06) / Math.sqrt(3), Math.SQRT2 * 0.06));

  it('an angle that is left: times the distance over the pieces', () =>
    near(of('angle', { leftoverAngle: -0.002 }), 0.002 * RMS, 0.002 * FAR[1]));

  it('an outline of a picture: both axes', () => near(of('outline', { outline: 0.2 }), Math.SQRT2 * 0.2, 3 * Math.SQRT2 * 0.2)); // prettier-ignore
});

describe('a blank that a camera saw', () => {
  // The art's corner is √(3² + 4²) = 5 mm from the middle.
  const seen = (shift: number, turn: number, foot?: number) => of('outline', { seen: [{ shift: 0.01, turn: 0 }, { shift, turn, ...(foot === undefined ? {} : { foot }) }] }); // prettier-ignore
  it('is off by its middle on both axes and by its turn at the corner, the worst of them', () =>
    expect(seen(0.3, 0.02).u).toBeCloseTo(Math.hypot(Math.SQRT2 * 0.3, 0.1), 12));
  it('and anywhere within what is not known of the camera’s foot, which is halved from higher up', () => {
    const tall = seen(0.1, 0, 0.6);
    expect(tall.u).toBeCloseTo(Math.hypot(Math.SQRT2 * 0.1, (Math.SQRT2 * 0.6) / Math.sqrt(3)), 12);
    expect(tall.working.substituted).toContain(`2 × ${Math.hypot(0.1, 0.6 / Math.sqrt(3)).toFixed(3)}²`);
    expect(tall.halve).toMatch(/from higher up/);
    expect(seen(0.1, 0, 0.1).halve).toMatch(/Light the bed evenly/);
  });
});

describe('a piece laid to two points and a line', () => {
  const response = [
    { x: 0.9, y: 0.1, turn: 0.004 },
    { x: 0.05, y: 0.6, turn: -0.02 },
  ];
  const points = [
    { at: { x: -30, y: 0 }, normal: { x: 1, y: 0 }, by: 'line' },
    { at: { x: -20, y: -12.5 }, normal: { x: 0, y: 1 }, by: 'pin' },
  ];
  const laid = (part: object = {}): Partial<BudgetInput> => ({
    lies: 'against',
    laid: { eye: 0.2, outline: { error: 0.3, measured: false }, returns: null, seat: { points, response }, ...part } as unknown as BudgetInput['laid'], // prettier-ignore
  });
  const CORNERS = [-3, 3].flatMap((x) => [-4, 4].map((y) => ({ x, y })));
  const move = (r: (typeof response)[number], c: { x: number; y: number }): number =>
    Math.hypot(r.x - r.turn * c.y, r.y + r.turn * c.x);
  const worst = (f: (c: { x: number; y: number }) => number): number => Math.max(...CORNERS.map(f));

  it('is off by the eye at the line alone, by the card at both', () => {
    const [a, b] = response as [(typeof response)[0], (typeof response)[0]];
    near(of('eye', laid()), (0.2 / Math.sqrt(3)) * worst((c) => move(a, c)), 0.2 * worst((c) => move(a, c)));
    near(of('card', laid()), (0.3 / Math.sqrt(3)) * worst((c) => Math.hypot(move(a, c), move(b, c))), 0.3 * worst((c) => move(a, c) + move(b, c))); // prettier-ignore
    expect(of('card', laid({ outline: { error: 0, measured: true } }))).toBeUndefined();
  });

  it('of another size: its edges lie out by what they have grown, both together before they are squared', () => {
    // Longer by s moves the first point’s edge by 30/60 of it, wider the second’s by 12.5/25.
    const along = worst((c) => move(response[0]!, c)) * 0.5 * 0.06;
    const across = worst((c) => move(response[1]!, c)) * 0.5 * 0.08;
    expect(of('size', laid()).u).toBeCloseTo(NEXT * Math.hypot(along, across), 9);
  });

  it('in a frame: root mean square over all pieces’ corners, three times the farthest at most', () => {
    const all = input.slots.flatMap(({ centre }) => CORNERS.map((c) => ({ x: centre.x + c.x, y: centre.y + c.y })));
    const squares = all.map((p) => response.reduce((s, r) => s + move(r, p) ** 2, 0));
    const u = 0.1 * Math.sqrt(squares.reduce((s, v) => s + v, 0) / squares.length);
    const returns = { u: 0.1, dof: 4, seat: { points, response } };
    near(of('stops', laid({ returns })), u, 0.3 * Math.sqrt(Math.max(...squares)));
    expect([of('stops', laid({ returns })).dof, of('stops', laid({ returns: { ...returns, dof: 0 } })).origin]).toEqual([4, 'assumed']); // prettier-ignore
  });
});

describe('what the pieces say', () => {
  const source = (id: SourceId, u: number) => sourceOf({ id, name: id, u, origin: 'measured', halve: '' }, ['', '', 'geometry']); // prettier-ignore
  const budget = (pieces: readonly number[], tolerance: number) =>
    assembleBudget([source('float', 0.3), source('yaw', 0.4)], (_, scale) => Float64Array.from(pieces, (v) => v * (scale?.factor ?? 1)), { tolerance, pieces: pieces.length, seed: 1 }); // prettier-ignore
  const hundred = Array.from({ length: 100 }, (_, i) => i + 1);

  it('95 of 100 lie within the ninety-fifth, and the share inside counts the one at the limit', () => {
    expect(budget(hundred, 50)).toMatchObject({ predicted: 95, yield: 0.5, verdict: 'over' });
    expect(budget(hundred, 50.5).yield).toBe(0.5);
    expect(budget(hundred, 95)).toMatchObject({ yield: 0.95, verdict: 'near' });
    // 0.85 of the tolerance is near.
    expect([budget(hundred, 95 / 0.85 + 0.01).verdict, budget(hundred, 95 / 0.85 - 0.01).verdict]).toEqual(['inside', 'near']); // prettier-ignore
    expect(budget(hundred, 0.5).yield).toBe(0);
    expect(budget(hundred, 100).yield).toBe(1);
    expect(budget([], 1)).toMatchObject({ predicted: 0, yield: 1 });
    expect(budget([7], 1).predicted).toBe(7);
  });

  it('the largest stands first, with its share of the squares; halved, the pieces are asked again', () => {
    const { sources: listed, combined, worst, ifHalved, largest } = budget(hundred, 50);
    expect([largest.id, ifHalved]).toEqual(['yaw', 47.5]);
    expect(combined).toBeCloseTo(0.5, 12);
    expect(listed.map((s) => s.share)).toEqual([expect.closeTo(0.64, 12), expect.closeTo(0.36, 12)]);
    // Three times each where nothing bounds it.
    expect(worst).toBeCloseTo(2.1, 12);
  });
});
