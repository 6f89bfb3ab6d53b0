import fc from 'fast-check';
import { bayerOrder, densities, Halftone, type Kernel } from './halftone';
import { halved, levelFor, shadeAt, transposed, type Grey } from './grey';
import { seenCloseUp } from './seen';

const grey = (width: number, height: number, shade: (x: number, y: number) => number): Grey => ({
  width,
  height,
  pixels: Uint8Array.from({ length: width * height }, (_, i) => shade(i % width, Math.floor(i / width))),
});

/** The textbook way: every dot scatters what it was wrong by over the whole picture, there and back. */
const scattered = (kernel: Exclude<Kernel, 'half' | 'bayer'>, wanted: number[][]): number[][] => {
  // Weights of the published kernels by [ahead, below], from memory.
  const taps: Record<typeof kernel, [number, number, number][]> = {
    'floyd-steinberg': [
      [1, 0, 7 / 16],
      [-1, 1, 3 / 16],
      [0, 1, 5 / 16],
      [1, 1, 1 / 16],
    ],
    'jarvis-judice-ninke': [
      ...[7, 5].map((w, i): [number, number, number] => [i + 1, 0, w / 48]),
      ...[3, 5, 7, 5, 3].map((w, i): [number, number, number] => [i - 2, 1, w / 48]),
      ...[1, 3, 5, 3, 1].map((w, i): [number, number, number] => [i - 2, 2, w / 48]),
    ],
    stucki: [
      ...[8, 4].map((w, i): [number, number, number] => [i + 1, 0, w / 42]),
      ...[2, 4, 8, 4, 2].map((w, i): [number, number, number] => [i - 2, 1, w / 42]),
      ...[1, 2, 4, 2, 1].map((w, i): [number, number, number] => [i - 2, 2, w / 42]),
    ],
  };
  const left = wanted.map((row) => [...row]);
  return left.map((row, y) => {
    const s = y % 2 === 0 ? 1 : -1;
    const out = new Array<number>(row.length).fill(0);
    for (let n = 0; n < row.length; n += 1) {
      const x = s > 0 ? n : row.length - 1 - n;
      out[x] = row[x]! >= 0.5 ? 1 : 0;
      for (const [ahead, below, share] of taps[kernel])
        if (left[y + below]?.[x + s * ahead] !== undefined)
          left[y + below]![x + s * ahead]! += (row[x]! - out[x]!) * share;
    }
    return out;
  });
};

describe('halftone', () => {
  it.each(['floyd-steinberg', 'jarvis-judice-ninke', 'stucki'] as const)(
    '%s gives the dots of scattering over the whole picture',
    (kernel) => {
      // Shades of a 97th keep clear of ties at a half, where rounding would decide.
      const wanted = Array.from({ length: 40 }, (_, y) =>
        Array.from({ length: 61 }, (_, x) => Math.fround(((x * 31 + y * 17) % 97) / 97)),
      );
      const tone = new Halftone(kernel, 61);
      const dots = new Uint8Array(61);
      const mine = wanted.map((row) => {
        tone.row(Float32Array.from(row), dots);
        return [...dots];
      });
      expect(mine).toEqual(scattered(kernel, wanted));
    },
  );

  it('keeps the mean density of any even shade within one in a hundred', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.02, max: 0.98, noNaN: true }), (share) => {
        const tone = new Halftone('stucki', 120);
        const dots = new Uint8Array(120);
        const row = new Float32Array(120).fill(share);
        let burned = 0;
        for (let y = 0; y < 120; y += 1) {
          tone.row(row, dots);
          burned += dots.reduce((a, b) => a + b, 0);
        }
        expect(Math.abs(burned / 120 ** 2 - share)).toBeLessThan(0.01);
      }),
      { numRuns: 40 },
    );
  });

  // The matrices as Bayer printed them in 1973; from memory.
  it('has an ordered screen, each next dot as far from all before as can be', () => {
    expect(bayerOrder(2)).toEqual([[0, 2], [3, 1]]); // prettier-ignore
    expect(bayerOrder(4)).toEqual([[0, 8, 2, 10], [12, 4, 14, 6], [3, 11, 1, 9], [15, 7, 13, 5]]); // prettier-ignore
    const all = bayerOrder(16).flat();
    expect(new Set(all).size).toBe(256);
    // After a quarter of them every fourth place is burned, one a square of two.
    const quarter = bayerOrder(16).map((row) => row.map((v) => (v < 64 ? 1 : 0)));
    for (let y = 0; y < 16; y += 2) for (let x = 0; x < 16; x += 2) expect(quarter[y]![x]! + quarter[y]![x + 1]! + quarter[y + 1]![x]! + quarter[y + 1]![x + 1]!).toBe(1); // prettier-ignore
  });
  it('whose mean is right within half of a percent at any shade, and whose pattern comes again', () => {
    for (let share = 0; share <= 1; share += 0.013) {
      const tone = new Halftone('bayer', 64);
      const row = new Float32Array(64).fill(share);
      const lines = Array.from({ length: 64 }, () => {
        const dots = new Uint8Array(64);
        tone.row(row, dots);
        return [...dots];
      });
      const mean = lines.flat().reduce((a, b) => a + b, 0) / 64 ** 2;
      expect(Math.abs(mean - share)).toBeLessThan(0.005);
      expect(lines[17]).toEqual(lines[1]);
      expect(lines[5]!.slice(0, 16)).toEqual(lines[5]!.slice(32, 48));
    }
  });

  it('burns the share asked for: 70 % at most on glass, and the light parts when it is negative', () => {
    const glass = densities({ kernel: 'half', densest: 0.7, gamma: 1, negative: true });
    expect(glass[0]).toBe(0);
    expect(glass[255]).toBeCloseTo(0.7, 6);
    expect(densities({ kernel: 'half', densest: 1, gamma: 2, negative: false })[128]!).toBeCloseTo(
      (1 - 128 / 255) ** 2,
      6,
    );
  });
});

describe('shades', () => {
  it('lie between the four dots round a place', () => {
    const g = grey(2, 2, (x, y) => 100 * x + 40 * y);
    expect(shadeAt(g, 0.5, 0.5)).toBe(0);
    expect(shadeAt(g, 1, 1)).toBe(70);
    expect(shadeAt(g, 1.25, 0.5)).toBe(75);
    expect(shadeAt(g, -5, 9)).toBe(40);
  });
  it('keep their mean when a picture is halved, and stop halving when little is left', () => {
    expect([...halved(grey(4, 2, (x) => 10 * x)).pixels]).toEqual([5, 25]);
    const level = levelFor(
      grey(256, 64, () => 7),
      1000,
    );
    expect(Math.min(level.width, level.height)).toBeGreaterThanOrEqual(8);
    expect(level.pixels.every((p) => p === 7)).toBe(true);
  });
  it('come back when rows and columns change places twice', () => {
    const g = grey(150, 71, (x, y) => (x * 7 + y * 13) % 256);
    expect(transposed(g).pixels[3 * 71 + 5]).toBe(g.pixels[5 * 150 + 3]);
    expect(transposed(transposed(g))).toEqual(g);
  });
});

it('shows the tone that the spot makes: a spot wider than the interval darkens it', () => {
  const half = grey(64, 64, () => 128);
  const seen = (spot: number): number => {
    const { pixels } = seenCloseUp(
      half,
      { x: 0, y: 0, width: 64, height: 64 },
      6.4,
      0.1,
      spot,
      { kernel: 'floyd-steinberg', densest: 1, gamma: 1, negative: false },
      400,
    );
    return pixels.reduce((a, b) => a + b, 0) / pixels.length;
  };
  expect(seen(0.2)).toBeLessThan(seen(0.1) - 20);
});
