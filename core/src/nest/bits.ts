import { boxOf, type Vec } from '../geometry';
import type { Mm } from '../units';

/** Cells of a field or of a part, a bit each, 32 to a word, row by row. */
export class Bits {
  readonly words: number;
  readonly data: Uint32Array;
  constructor(
    readonly width: number,
    readonly height: number,
  ) {
    this.words = Math.ceil(width / 32) + 1;
    this.data = new Uint32Array(this.words * height);
  }
  set(x: number, y: number): void {
    this.data[y * this.words + (x >> 5)]! |= 1 << (x & 31);
  }
  has(x: number, y: number): boolean {
    return ((this.data[y * this.words + (x >> 5)]! >>> (x & 31)) & 1) === 1;
  }
  copy(): Bits {
    const out = new Bits(this.width, this.height);
    out.data.set(this.data);
    return out;
  }
  /** Whether a part's cells, moved by (x, y), meet any of these. */
  meets(part: Bits, x: number, y: number): boolean {
    const shift = x & 31;
    const word = x >> 5;
    const { data, words } = this;
    for (let row = 0; row < part.height; row += 1) {
      const from = row * part.words;
      const at = (y + row) * words + word;
      if (shift === 0) {
        for (let k = 0; k < part.words - 1; k += 1) if ((data[at + k]! & part.data[from + k]!) !== 0) return true;
      } else {
        let carry = 0;
        for (let k = 0; k < part.words; k += 1) {
          const w = part.data[from + k]!;
          if ((data[at + k]! & ((w << shift) | carry)) !== 0) return true;
          carry = w >>> (32 - shift);
        }
      }
    }
    return false;
  }
  /** Sets a part's cells, moved by (x, y); cells beyond the field are left out. */
  stamp(part: Bits, x: number, y: number): void {
    for (let row = 0; row < part.height; row += 1) {
      const to = y + row;
      if (to < 0 || to >= this.height) continue;
      for (let column = 0; column < part.width; column += 1)
        if (part.has(column, row)) {
          const cx = x + column;
          if (cx >= 0 && cx < this.width) this.set(cx, to);
        }
    }
  }
}

/** Cells of a polygon: those whose middle lies in it; its frame begins at (x, y), in cells. */
export interface Mask {
  readonly bits: Bits;
  readonly x: number;
  readonly y: number;
}

/** @param cell size of a cell, mm; @param polygons whole areas, one in another counting as a hole */
export const maskOf = (polygons: readonly (readonly Vec[])[], cell: Mm): Mask => {
  const box = boxOf(polygons.flat());
  const x0 = Math.floor(box.minX / cell);
  const y0 = Math.floor(box.minY / cell);
  const width = Math.ceil(box.maxX / cell) - x0;
  const height = Math.ceil(box.maxY / cell) - y0;
  const bits = new Bits(Math.max(1, width), Math.max(1, height));
  for (let y = 0; y < height; y += 1) {
    const cy = (y0 + y + 0.5) * cell;
    // Where the row of middles crosses the lines: in between are the cells inside.
    const crossings: number[] = [];
    for (const p of polygons)
      for (let i = 0, j = p.length - 1; i < p.length; j = i, i += 1) {
        const a = p[j]!;
        const b = p[i]!;
        if (a.y > cy !== b.y > cy) crossings.push(a.x + ((cy - a.y) / (b.y - a.y)) * (b.x - a.x));
      }
    crossings.sort((a, b) => a - b);
    for (let k = 0; k + 1 < crossings.length; k += 2)
      for (
        let x = Math.max(0, Math.ceil(crossings[k]! / cell - 0.5) - x0);
        x < width && (x0 + x + 0.5) * cell < crossings[k + 1]!;
        x += 1
      )
        bits.set(x, y);
  }
  return { bits, x: x0, y: y0 };
};
