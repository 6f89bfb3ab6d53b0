import type { Share } from '../units';

export const KERNELS = ['floyd-steinberg', 'jarvis-judice-ninke', 'stucki', 'bayer', 'half'] as const;
/** How shades become dots; `bayer` is an ordered screen, `half` burns what is darker than middle grey. */
export type Kernel = (typeof KERNELS)[number];

/** How a picture is turned into dots. */
export interface Treatment {
  readonly kernel: Kernel;
  /** Share of dots burned where the picture calls for most. */
  readonly densest: Share;
  /** Exponent on the darkness: above 1 lightens the middle tones. */
  readonly gamma: number;
  /** Burns the light parts: for materials that turn light where they are burned. */
  readonly negative: boolean;
}

/** To begin with on dark or marked metal, and on glass: light where it is burned, 70 % grey (common practice). */
export const FRESH_TREATMENT: Treatment = { kernel: 'jarvis-judice-ninke', densest: 1, gamma: 1, negative: false };
export const GLASS_TREATMENT: Treatment = { kernel: 'jarvis-judice-ninke', densest: 0.7, gamma: 1, negative: true };

/**
 * Shares of the error: one and two dots ahead, then on the next row and the one after it from two
 * dots behind to two ahead.
 */
const SHARES: Readonly<Record<Exclude<Kernel, 'half' | 'bayer'>, { divisor: number; shares: readonly number[] }>> = {
  // Floyd and Steinberg 1976.
  'floyd-steinberg': { divisor: 16, shares: [7, 0, 0, 3, 5, 1, 0, 0, 0, 0, 0, 0] },
  // Jarvis, Judice and Ninke 1976.
  'jarvis-judice-ninke': { divisor: 48, shares: [7, 5, 3, 5, 7, 5, 3, 1, 3, 5, 3, 1] },
  // Stucki 1981.
  stucki: { divisor: 42, shares: [8, 4, 2, 4, 8, 4, 2, 1, 2, 4, 2, 1] },
};

/**
 * The order in which the dots of a square of `n` a side (a power of two) are burned as it grows darker, row by row from 0:
 * each next one as far from all before as can be (Bayer 1973, “An optimum method for two-level rendition of
 * continuous-tone pictures”).
 *
 * @example bayerOrder(2) // [[0, 2], [3, 1]]
 */
export const bayerOrder = (n: number): readonly (readonly number[])[] => {
  if (n === 1) return [[0]];
  const half = bayerOrder(n / 2);
  const row = (y: number, left: number, right: number): number[] => [
    ...half[y]!.map((v) => 4 * v + left),
    ...half[y]!.map((v) => 4 * v + right),
  ];
  return [...half.map((_, y) => row(y, 0, 2)), ...half.map((_, y) => row(y, 3, 1))];
};

/** Dots a side of the ordered screen: 256 shades, so that a mean is off by a fifth of a percent at most. */
const SCREEN = 16;
/** Densities from which each dot of the screen is burned. */
const THRESHOLDS = Float32Array.from(bayerOrder(SCREEN).flat(), (order) => (order + 0.5) / SCREEN ** 2);

/** Density wanted for each shade, 0 to 1. */
export const densities = (t: Treatment): Float32Array =>
  Float32Array.from({ length: 256 }, (_, shade) => {
    const dark = t.negative ? shade / 255 : 1 - shade / 255;
    return t.densest * dark ** t.gamma;
  });

/** Columns of room beside a row, so that no tap needs a check. */
const MARGIN = 2;

/**
 * Error diffusion row by row, there and back, or an ordered screen: each row of wanted densities gives one of dots, and
 * what it was wrong by is handed to the dots not yet made. Keeps three rows, whatever the picture's size.
 *
 * @example const tone = new Halftone('stucki', 4000); tone.row(wanted, dots)
 */
export class Halftone {
  private readonly shares: readonly number[];
  /** What the dots of this line, of the one before and of the one before that were wrong by. */
  private now: Float64Array;
  private before: Float64Array;
  private earlier: Float64Array;
  private back = false;
  /** Lines that were screened; an ordered screen hands no error on. */
  private screened = 0;

  constructor(
    private readonly kernel: Kernel,
    private readonly width: number,
  ) {
    const line = (): Float64Array => new Float64Array(width + 2 * MARGIN);
    [this.now, this.before, this.earlier] = [line(), line(), line()];
    const { shares, divisor } =
      kernel === 'half' || kernel === 'bayer' ? { shares: new Array<number>(12).fill(0), divisor: 1 } : SHARES[kernel];
    this.shares = shares.map((share) => share / divisor);
  }

  /** @param wanted densities 0 to 1; @param dots set to 1 where a dot is burned */
  row(wanted: Float32Array, dots: Uint8Array): void {
    if (this.kernel === 'bayer') {
      const at = (this.screened++ % SCREEN) * SCREEN;
      for (let x = 0; x < this.width; x += 1) dots[x] = wanted[x]! >= THRESHOLDS[at + (x % SCREEN)]! ? 1 : 0;
      return;
    }
    const { width, now, before, earlier, back } = this;
    const [a1, a2, b0, b1, b2, b3, b4, c0, c1, c2, c3, c4] = this.shares as unknown as readonly [
      ...[number, number, number, number, number, number],
      ...[number, number, number, number, number, number],
    ];
    const s = back ? -1 : 1;
    let at = (back ? width - 1 : 0) + MARGIN;
    // Errors in reach, in the sense of this line; the line before ran the other way.
    let [e1, e2] = [0, 0];
    let [p0, p1, p2, p3] = [0, 0, before[at]!, before[at + s]!];
    let [q0, q1, q2, q3] = [0, 0, earlier[at]!, earlier[at + s]!];
    for (let n = 0; n < width; n += 1, at += s) {
      const p4 = before[at + s + s]!;
      const q4 = earlier[at + s + s]!;
      // Summed so that only the last step waits for the dot before.
      const known =
        wanted[at - MARGIN]! +
        e2 * a2 +
        (p0 * b0 + p1 * b1 + (p2 * b2 + p3 * b3) + p4 * b4) +
        (q4 * c0 + q3 * c1 + (q2 * c2 + q1 * c3) + q0 * c4);
      const value = known + e1 * a1;
      const dot = value >= 0.5 ? 1 : 0;
      dots[at - MARGIN] = dot;
      e2 = e1;
      e1 = value - dot;
      now[at] = e1;
      p0 = p1;
      p1 = p2;
      p2 = p3;
      p3 = p4;
      q0 = q1;
      q1 = q2;
      q2 = q3;
      q3 = q4;
    }
    this.now = earlier;
    this.before = now;
    this.earlier = before;
    this.back = !back;
  }
}
