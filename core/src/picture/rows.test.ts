import fc from 'fast-check';
import { compose, rotation, translation, type Transform } from '../geometry';
import type { Grey } from './grey';
import { densities, Halftone, FRESH_TREATMENT } from './halftone';
import { pictureBox, pictureGrid, PictureRows } from './rows';

const grey = (width: number, height: number, shade: (x: number, y: number) => number): Grey => ({ width, height, pixels: Uint8Array.from({ length: width * height }, (_, i) => shade(i % width, Math.floor(i / width))) }); // prettier-ignore
const scaled = (k: number): Transform => ({ a: k, b: 0, c: 0, d: k, e: 0, f: 0 });
/** Every burned stretch: line, from, to (exclusive). */
const spansOf = (rows: PictureRows): number[][] => {
  const out: number[][] = [];
  for (let k = rows.grid.lines[0]; k <= rows.grid.lines[1]; k += 1) {
    const spans = rows.line(k);
    for (let i = 0; i < spans.length; i += 2) out.push([k, spans[i]!, spans[i + 1]!]);
  }
  return out;
};
const burned = (rows: PictureRows): number => spansOf(rows).reduce((n, [, a, b]) => n + b! - a!, 0);
const half = { ...FRESH_TREATMENT, kernel: 'half' as const };

describe('a picture as rows of dots', () => {
  it('has its dots on the grid of the machine, lines from its foot on', () => {
    // Four by two dots, the lower left one black, each a millimetre.
    const corner = grey(4, 2, (x, y) => (x === 0 && y === 1 ? 0 : 255));
    const rows = new PictureRows(corner, compose(translation(10, 20.05), scaled(1)), half, 0.1);
    expect(rows.grid).toEqual({ lines: [201, 220], dots: [100, 139] });
    // Between two dots the shade goes over: it is dark as far as their middle.
    const all = spansOf(rows);
    expect([all[0], all.at(-1)]).toEqual([[201, 100, 110], [210, 100, expect.any(Number)]]); // prettier-ignore
    expect(Math.max(...all.map((s) => s[0]!))).toBeLessThanOrEqual(211);
  });
  it('gives the dots of the bare kernel where each dot of it is one of the grid', () => {
    const photo = grey(97, 64, (x, y) => (x * 31 + y * 17) % 251);
    const rows = new PictureRows(photo, compose(translation(0, 0.05), scaled(0.1)), FRESH_TREATMENT, 0.1);
    const tone = new Halftone(FRESH_TREATMENT.kernel, 97);
    const wanted = densities(FRESH_TREATMENT);
    const dots = new Uint8Array(97);
    const bare = Array.from({ length: 64 }, (_, j) => {
      const y = 63 - j;
      tone.row(
        Float32Array.from({ length: 97 }, (__, x) => wanted[photo.pixels[y * 97 + x]!]!),
        dots,
      );
      return dots.reduce((a, b) => a + b, 0);
    });
    const mine = new Map<number, number>();
    for (const [k, a, b] of spansOf(rows)) mine.set(k!, (mine.get(k!) ?? 0) + b! - a!);
    expect(rows.grid.lines).toEqual([1, 64]);
    expect(bare.map((_, j) => mine.get(j + 1) ?? 0)).toEqual(bare);
  });
  it('keeps the mean tone within half a percent, however it is turned and however large it is made', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.15, max: 0.85, noNaN: true }), fc.double({ min: 0, max: 6.28, noNaN: true }), fc.double({ min: 0.08, max: 0.2, noNaN: true }), (share, turn, size) => {
        const shade = Math.round(255 * (1 - share));
        const place = compose(translation(100, 100), compose(rotation(turn), scaled(size)));
        const rows = new PictureRows(grey(500, 400, () => shade), place, FRESH_TREATMENT, 0.1);
        const area = 500 * 400 * size * size;
        expect(Math.abs((burned(rows) * 0.01) / area - (1 - shade / 255))).toBeLessThan(0.005);
      }),
      { numRuns: 25 },
    ); // prettier-ignore
  });
  it('turns with its place, a quarter at a time and mirrored', () => {
    // Its upper right quarter is black.
    const quarter = grey(40, 20, (x, y) => (x >= 20 && y < 10 ? 0 : 255));
    const middleOf = (m: Transform): number[] => {
      const all = spansOf(new PictureRows(quarter, m, half, 0.1));
      const n = all.reduce((s, [, a, b]) => s + b! - a!, 0);
      return [all.reduce((s, [, a, b]) => s + ((a! + b!) / 2) * (b! - a!), 0) / n / 10, all.reduce((s, [k, a, b]) => s + k! * (b! - a!), 0) / n / 10].map((v) => Math.round(v * 10) / 10); // prettier-ignore
    };
    const middle = translation(-20, -10);
    expect(middleOf(middle)).toEqual([10, 5]);
    expect(middleOf(compose(rotation(Math.PI / 2), middle))).toEqual([-5, 10]);
    expect(middleOf(compose(rotation(Math.PI), middle))).toEqual([-10, -5]);
    expect(middleOf(compose({ a: -1, b: 0, c: 0, d: 1, e: 0, f: 0 }, middle))).toEqual([-10, 5]);
  });
  it('reaches over no more than its box', () => {
    expect(pictureBox({ width: 40, height: 20 }, rotation(Math.PI / 2))).toMatchObject({ minX: expect.closeTo(-20, 9), maxY: expect.closeTo(40, 9) }); // prettier-ignore
    expect(pictureGrid({ minX: 0.05, maxX: 0.95, minY: 0, maxY: 1 }, 0.1)).toEqual({ lines: [0, 9], dots: [0, 8] });
    expect(pictureGrid({ minX: 0.01, maxX: 0.02, minY: 0.01, maxY: 0.02 }, 0.1).lines).toEqual([1, 0]);
    // Between two lines of the grid, nothing of it is burned.
    const speck = new PictureRows(grey(20, 20, () => 0), compose(translation(0.01, 0.01), scaled(0.001)), half, 0.1);
    expect(burned(speck)).toBe(0);
  }); // prettier-ignore
});
