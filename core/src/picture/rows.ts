import { apply, boxOf, invert, type Box, type Transform } from '../geometry';
import type { Mm } from '../units';
import { levelFor, shadeAt, type Grey } from './grey';
import { densities, Halftone, type Treatment } from './halftone';

/** Where a picture of some dots comes to lie: from its own dots (y up, from its lower left corner on) to millimetres. */
export type PicturePlace = Transform;

/** Lines and dots of a grid, counted in its steps, that a picture reaches over. */
export interface PictureGrid {
  /** First and last line. */
  readonly lines: readonly [number, number];
  /** First and last dot of every line: each is a step wide from its number on. */
  readonly dots: readonly [number, number];
}

/** The box that a picture takes. */
export const pictureBox = (dots: { readonly width: number; readonly height: number }, place: PicturePlace): Box =>
  boxOf([[0, 0], [dots.width, 0], [dots.width, dots.height], [0, dots.height]].map(([x, y]) => apply(place, { x: x!, y: y! }))); // prettier-ignore

/** Which lines and dots of a grid a picture reaches over; the last are before the first where it lies between two. */
export const pictureGrid = ({ minX, maxX, minY, maxY }: Box, interval: Mm): PictureGrid => {
  // Those whose middles lie in it: a picture has as many as it is wide, wherever it lies.
  const from = (v: Mm, middle: number): number => Math.ceil(v / interval - middle - 1e-9) || 0;
  return { lines: [from(minY, 0), from(maxY, 0) - 1], dots: [from(minX, 0.5), from(maxX, 0.5) - 1] };
};

/** Which steps from a place on stay between nought and an end, that not counted: from the first on, to the one after the last. */
const within = (start: number, step: number, end: number, count: number): readonly [number, number] => {
  if (step === 0) return start >= 0 && start < end ? [0, count] : [0, 0];
  const [a, b] = [-start / step, (end - start) / step];
  const from = Math.max(0, step > 0 ? Math.ceil(a) : Math.floor(b) + 1);
  const to = Math.min(count, step > 0 ? Math.ceil(b) : Math.floor(a) + 1);
  return from < to ? [from, to] : [0, 0];
};

/**
 * A picture as burned stretches, line by line along x from its lowest line on. Each dot of the grid looks back to the place of
 * the picture that it lies on, however the picture is turned, so that dots are as far apart as the machine burns them. Keeps
 * a few lines only.
 *
 * @param place from the picture's dots to millimetres on the grid
 * @param interval between lines and between dots, mm
 */
export class PictureRows {
  readonly grid: PictureGrid;
  private readonly source: Grey;
  private readonly back: Transform;
  private readonly wanted: Float32Array;
  private readonly tone: Halftone;
  private readonly row: Float32Array;
  private readonly burned: Uint8Array;
  private readonly ends: Int32Array;

  constructor(
    picture: Grey,
    place: PicturePlace,
    treatment: Treatment,
    private readonly interval: Mm,
  ) {
    const perMm = Math.sqrt(Math.abs(invert(place).a * invert(place).d - invert(place).b * invert(place).c));
    this.source = levelFor(picture, perMm * interval);
    const shrink = this.source.width / picture.width;
    // To the source's own dots, rows from the top, a dot's centre at a whole number.
    const to = invert(place);
    this.back = {
      a: shrink * to.a,
      c: shrink * to.c,
      e: shrink * to.e - 0.5,
      b: -shrink * to.b,
      d: -shrink * to.d,
      f: this.source.height - shrink * to.f - 0.5,
    };
    this.grid = pictureGrid(pictureBox(picture, place), interval);
    const count = Math.max(0, this.grid.dots[1] - this.grid.dots[0] + 1);
    this.wanted = densities(treatment);
    this.tone = new Halftone(treatment.kernel, count);
    this.row = new Float32Array(count);
    this.burned = new Uint8Array(count);
    this.ends = new Int32Array(count + 2);
  }

  /** What each dot of line `k` is wanted to be. */
  private look(k: number): void {
    const { row, interval, back, source } = this;
    const x = (this.grid.dots[0] + 0.5) * interval;
    const y = k * interval;
    const u = back.a * x + back.c * y + back.e;
    const v = back.b * x + back.d * y + back.f;
    const [stepU, stepV] = [back.a * interval, back.b * interval];
    // Those that lie between four dots of the picture; the few beside them at its rim and beyond are looked at one by one.
    const across = within(u, stepU, source.width - 1, row.length);
    const down = within(v, stepV, source.height - 1, row.length);
    const from = Math.max(across[0], down[0]);
    const to = Math.max(from, Math.min(across[1], down[1]));
    this.rim(0, from, u, v, stepU, stepV);
    this.inside(from, to, u, v, stepU, stepV);
    this.rim(to, row.length, u, v, stepU, stepV);
  }

  /** Dots that lie between four of the picture: by the shares of the place between them. */
  private inside(from: number, to: number, u: number, v: number, stepU: number, stepV: number): void {
    const { row, wanted } = this;
    const { pixels, width } = this.source;
    for (let i = from; i < to; i += 1) {
      const pu = u + i * stepU;
      const pv = v + i * stepV;
      const u0 = pu | 0;
      const v0 = pv | 0;
      const at = v0 * width + u0;
      const fu = pu - u0;
      const near = pixels[at]!;
      const foot = pixels[at + width]!;
      const top = near + (pixels[at + 1]! - near) * fu;
      row[i] = wanted[(top + (foot + (pixels[at + width + 1]! - foot) * fu - top) * (pv - v0) + 0.5) | 0]!;
    }
  }

  /** Dots at the picture's rim, which its outermost dots go on for, and beyond it, which nothing is burned of. */
  private rim(from: number, to: number, u: number, v: number, stepU: number, stepV: number): void {
    const { row, wanted, source } = this;
    for (let i = from; i < to; i += 1) {
      const pu = u + i * stepU;
      const pv = v + i * stepV;
      const beyond = pu < -0.5 || pv < -0.5 || pu > source.width - 0.5 || pv > source.height - 0.5;
      row[i] = beyond ? 0 : wanted[(shadeAt(source, pu + 0.5, pv + 0.5) + 0.5) | 0]!;
    }
  }

  /**
   * The burned stretches of line `k` as pairs of dot numbers from, to (exclusive). Lines are asked for in order; what is given
   * is used again for the next.
   */
  line(k: number): Int32Array {
    const { burned, row, ends } = this;
    this.look(k);
    this.tone.row(row, burned);
    const first = this.grid.dots[0];
    const count = burned.length;
    let was = 0;
    let n = 0;
    for (let i = 0; i < count; i += 1) {
      // Written whether it changes here or not, and kept where it does: no guess to be wrong about.
      const is = burned[i]!;
      ends[n] = first + i;
      n += is ^ was;
      was = is;
    }
    if (was === 1) {
      ends[n] = first + count;
      n += 1;
    }
    return ends.subarray(0, n);
  }
}
