import { chainErrors, simulateChain, type Chain } from './chain';

const NONE = { aim: 0, pointer: 0, back: 0 };
const point = (x: number, y: number) => ({ minX: x, maxX: x, minY: y, maxY: y });
const SEAMS = [
  [{ x: 100, y: 20 }, { x: 110, y: 180 }], // prettier-ignore
  [{ x: 300, y: 30 }, { x: 290, y: 170 }], // prettier-ignore
] as const;
const chain = (boxes: Chain['boxes'], errors: Partial<Chain['errors']>, turned = boxes.map(() => 0)): Chain => ({
  boxes,
  marks: SEAMS.slice(0, boxes.length - 1),
  turned,
  errors: { ...NONE, ...errors },
});
const COUNT = 60_000;
const meanSquare = (c: Chain): number => simulateChain(c, COUNT, 3).reduce((s, r) => s + r * r, 0) / COUNT;
/** Within two hundredths: what 60,000 chains can tell. */
const near = (value: number, known: number): void => expect(Math.abs(value / known - 1)).toBeLessThan(0.02);

// Two marks read with σ each way: a shift of σ²/2 each way, a turn of 2σ²/L² about their middle.
describe('one carrying over from segment to segment', () => {
  const [a, b] = SEAMS[0];
  const middle = { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 };
  const long = Math.hypot(a.x - b.x, a.y - b.y);
  it.each([
    [middle.x, middle.y],
    [300, 100],
    [105, 250],
    [180, 20],
  ])('aimed at two marks, at %d, %d', (x, y) => {
    const square = 0.05 ** 2 * (1 + (2 * ((x - middle.x) ** 2 + (y - middle.y) ** 2)) / long ** 2);
    near(meanSquare(chain([point(0, 0), point(x, y)], { aim: 0.05 })), square);
    const to = chain([point(0, 0), point(x, y)], { aim: 0.05 });
    const { fromStart, u, step } = chainErrors(to)[1]!;
    expect(u).toBeCloseTo(Math.sqrt(square), 9);
    // A turn moves it across the way to it only: 95 of 100 by throwing it, within what 60,000 throws can tell.
    const thrown = simulateChain(to, COUNT, 5)[Math.floor(0.95 * COUNT)]!;
    expect(Math.abs(fromStart / thrown - 1)).toBeLessThan(0.012);
    // Never less than the circle's factor says, √(−ln 0.05) of the radial uncertainty.
    expect(fromStart).toBeGreaterThan(Math.sqrt(-Math.log(0.05)) * u - 1e-9);
    expect(step).not.toBeNull();
  });
  it('a head that goes back to its places is off at marks and burn alike', () => {
    near(meanSquare(chain([point(0, 0)], { back: 0.1 })), 2 * 0.1 ** 2);
    // The first segment stands where its own return left it: the farther of two.
    const both = meanSquare(chain([point(0, 0), point(middle.x, middle.y)], { back: 0.1 }));
    expect(both).toBeGreaterThan(2 * 0.1 ** 2 + 0.1 ** 2);
    expect(both).toBeLessThan(2 * 0.1 ** 2 + 0.1 ** 2 + 2 * 0.1 ** 2);
  });
  it('nothing before the first', () => expect(chainErrors(chain([point(0, 0)], { aim: 0.05 }))[0]).toEqual({ fromStart: 0, u: 0, step: null })); // prettier-ignore
});

describe('a pointer that shows the same way beside at every seam', () => {
  const three = [point(0, 0), point(0, 0), point(0, 0)];
  const square = (turned: number[]) => meanSquare(chain(three, { pointer: 0.1 }, turned)) / (2 * 0.1 ** 2);
  it.each([
    ['adds up along the work', [0, 0, 0], 4],
    ['is taken out again where the work was turned round', [0, 0, Math.PI], 1],
    ['is square to itself where it was turned by a quarter', [0, Math.PI / 2, 0], 2],
    ['and so the other way', [0, 0, -Math.PI / 2], 2],
  ])('%s', (_words, turned, times) => {
    near(square(turned), times);
    const last = chainErrors(chain(three, { pointer: 0.1 }, turned)).map((e) => e.fromStart);
    expect(last[1]).toBeCloseTo(0.1 * Math.sqrt(-2 * Math.log(0.05)), 6);
  });
});
