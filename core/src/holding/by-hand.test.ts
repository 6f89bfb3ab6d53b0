import { testAlphabets } from '../test-alphabets';
import { maxYaw, turnedSize } from './float';
import { gaugeStrip, kerfFromGauge } from './gauge';
import { pinGauge, shankFromGauge, SHANK_STEPS } from './pins';
import { bearsOnBoth, seatSpread, seatWorst, type EdgeSeat, type SeatPoint } from './seat';

const labels = Object.values(testAlphabets).find((a) => a.kind === 'stroke')!;
const corners = (c: { readonly vertices: readonly { readonly x: number; readonly y: number }[] }) =>
  c.vertices.map(({ x, y }) => [x, y].map((v) => Number(v.toFixed(6))));
const near = (list: readonly (readonly number[])[]) => list.map((p) => p.map((v) => expect.closeTo(v, 6) as unknown));

describe('a gauge strip for the kerf, drawn by hand', () => {
  const strip = gaugeStrip(3, labels);
  const [comb, tongue] = strip.passes.find((p) => p.kind === 'cut')!.contours;

  it('has eleven slots from the tongue’s own width down, a tenth narrower each', () => {
    expect(strip.slots).toEqual(Array.from({ length: 11 }, (_, i) => expect.closeTo(10 - 0.1 * i, 9) as unknown));
    // 11 pitches of a tongue and 4 mm, and 3 mm at either end; the tongue lies 8 mm above the comb.
    expect([strip.width, strip.height, strip.tongue]).toEqual([160, 44, 10]);
    expect(gaugeStrip(6, labels).width).toBe(11 * 16 + 6);
  });
  it('has them 14 mm deep from above, the widest at the left, and a tongue of 40 by 10', () => {
    const slot = (i: number) => {
      const [middle, half] = [3 + 14 * (i + 0.5), (10 - 0.1 * i) / 2];
      return [[middle + half, 26], [middle + half, 12], [middle - half, 12], [middle - half, 26]]; // prettier-ignore
    };
    const slots = [10, 9, 8, 7, 6, 5, 4, 3, 2, 1, 0].flatMap(slot);
    expect(corners(comb!)).toEqual(near([[0, 0], [160, 0], [160, 26], ...slots, [0, 26]])); // prettier-ignore
    expect(corners(tongue!)).toEqual([[0, 34], [40, 34], [40, 44], [0, 44]]); // prettier-ignore
  });
  it('has a number under each slot, on the comb and clear of the slot', () => {
    const text = strip.passes
      .find((p) => p.kind === 'line')!
      .contours.slice(0, -1)
      .flatMap((c) => c.vertices);
    expect(Math.min(...text.map((v) => v.y))).toBeGreaterThanOrEqual(3.9);
    expect(Math.max(...text.map((v) => v.y))).toBeLessThan(12);
    expect(Math.min(...text.map((v) => v.x))).toBeGreaterThan(3);
    expect(Math.max(...text.map((v) => v.x))).toBeLessThan(160);
    // The tongue is marked in its middle.
    expect(corners(strip.passes.find((p) => p.kind === 'line')!.contours.at(-1)!)).toEqual([[4, 39], [12, 39]]); // prettier-ignore
  });
  it('gives half of what the narrowest slot is under the tongue, known to half a step', () => {
    expect(kerfFromGauge(strip, 1)!.kerf).toBeCloseTo(0, 12);
    const four = kerfFromGauge(strip, 4)!;
    expect(four.kerf).toBeCloseTo(0.15, 12);
    expect(four.uncertainty).toBeCloseTo(0.025 / Math.sqrt(3), 12);
    expect(four.working[0]).toMatchObject({ substituted: '(10.00 − 9.70) / 2', result: '0.15 mm' });
    expect([kerfFromGauge(strip, 0), kerfFromGauge(strip, 12)]).toEqual([null, null]);
  });
});

describe('a gauge of shanks, drawn by hand', () => {
  const [cell, kerf] = [8, 0.2];
  const contours = pinGauge(cell, kerf);
  const dots = contours.slice(0, -1);

  it('has a shank for each step, half a kerf larger all round, the narrowest at the left', () => {
    const n = SHANK_STEPS.length;
    const width = n * 14 + 6;
    const shank = (i: number) => {
      const [middle, half] = [3 + 14 * (i + 0.5), (8 + SHANK_STEPS[i]!) / 2 + 0.1];
      return [[middle + half, 16.1], [middle + half, 30.1], [middle - half, 30.1], [middle - half, 16.1]]; // prettier-ignore
    };
    const shanks = Array.from({ length: n }, (_, i) => n - 1 - i).flatMap(shank);
    expect(corners(contours.at(-1)!)).toEqual(near([[-0.1, 16.1], [-0.1, -0.1], [width + 0.1, -0.1], [width + 0.1, 16.1], ...shanks])); // prettier-ignore
    expect([...SHANK_STEPS].sort((a, b) => a - b)).toEqual([...SHANK_STEPS]);
  });
  it('counts them by dots in rows of four, all on the comb and under their own shank', () => {
    const middles = dots.map((d) => {
      const xs = d.vertices.map((v) => v.x);
      const ys = d.vertices.map((v) => v.y);
      return { x: (Math.min(...xs) + Math.max(...xs)) / 2, y: (Math.min(...ys) + Math.max(...ys)) / 2 };
    });
    SHANK_STEPS.forEach((step, i) => {
      const under = middles.filter((m) => Math.abs(m.x - (3 + 14 * (i + 0.5))) < 7);
      expect(under).toHaveLength(i + 1);
      expect(under.slice(0, 4).map((m) => m.x - (3 + 14 * (i + 0.5)))).toEqual([-2.7, -0.9, 0.9, 2.7].slice(0, i + 1).map((x) => expect.closeTo(x, 6) as unknown)); // prettier-ignore
      expect(under.every((m, n) => Math.abs(m.y - (9 - 2.4 * Math.floor(n / 4))) < 1e-6)).toBe(true);
      expect(shankFromGauge(cell, i + 1)).toBeCloseTo(cell + step, 12);
    });
    expect([shankFromGauge(cell, 0), shankFromGauge(cell, SHANK_STEPS.length + 1)]).toEqual([null, null]);
  });
});

describe('a rectangle in a pocket', () => {
  it('turns until two of its corners touch; the smaller of the two roots', () => {
    const psi = maxYaw(60, 30, 61, 31);
    const { length, width } = turnedSize(60, 30, psi);
    expect(Math.max(length - 61, width - 31)).toBeCloseTo(0, 9);
    expect(Math.min(61 - length, 31 - width)).toBeGreaterThanOrEqual(-1e-9);
    // As large as its pocket it cannot turn, larger it does not go in.
    expect(maxYaw(60, 30, 60, 40)).toBeCloseTo(0, 9);
    expect([maxYaw(61, 30, 60, 40), maxYaw(60, 41, 60, 40)]).toEqual([0, 0]);
    expect(maxYaw(60, 30, 70, 70)).toBe(Math.PI / 2);
  });
});

describe('a piece laid to points', () => {
  const response = [{ x: 0.9, y: 0.1, turn: 0.004 }, { x: 0.05, y: -0.6, turn: -0.02 }]; // prettier-ignore
  const seat = { response } as unknown as EdgeSeat;
  const art = { minX: -20, maxX: 30, minY: -5, maxY: 10 };
  it('is off at its worst corner by all its points, in squares or all at once', () => {
    const at = (r: (typeof response)[number], x: number, y: number) => Math.hypot(r.x - r.turn * y, r.y + r.turn * x);
    const all = [[-20, -5], [-20, 10], [30, -5], [30, 10]] as const; // prettier-ignore
    const each = (join: (a: number, b: number) => number) =>
      Math.max(...all.map(([x, y]) => join(0.2 * at(response[0]!, x, y), 0.1 * at(response[1]!, x, y))));
    expect(seatSpread(seat, [0.2, 0.1], art)).toBeCloseTo(each(Math.hypot), 12);
    expect(seatWorst(seat, [0.2, 0.1], art)).toBeCloseTo(each((a, b) => a + b), 12); // prettier-ignore
  });
  it('bears on both only when it is pushed into both', () => {
    const point = (nx: number, ny: number, x = 0, y = 0): SeatPoint =>
      ({ at: { x, y }, normal: { x: nx, y: ny } }) as unknown as SeatPoint;
    const corner = [point(1, 0, 30, 0), point(0, 1, 0, 12)] as const;
    const pushed = (x: number, y: number) => bearsOnBoth(corner[0], corner[1], { x: 0, y: 0 }, { x, y });
    expect(pushed(Math.SQRT1_2, Math.SQRT1_2)).toBe(true);
    expect(pushed(-Math.SQRT1_2, Math.SQRT1_2)).toBe(false);
    expect(pushed(0.1, 0.995)).toBe(false);
    expect(pushed(0.995, 0.1)).toBe(false);
    expect(pushed(0.2, 0.98)).toBe(true);
    // Two points of one edge: pushed between them, square to it.
    const edge = [point(0, 1, -20, 12), point(0, 1, 20, 12)] as const;
    const on = (x: number, way: { x: number; y: number }) => bearsOnBoth(edge[0], edge[1], { x, y: 0 }, way);
    expect([-15, -13, 0, 13, 15].map((x) => on(x, { x: 0, y: 1 }))).toEqual([false, true, true, true, false]);
    expect([on(0, { x: 0, y: -1 }), on(0, { x: 0.7, y: 0.7 })]).toEqual([false, false]);
  });
});
