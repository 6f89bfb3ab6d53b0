const ZERO = 48;
const MINUS = 45;
const POINT = 46;
const NEWLINE = 10;
/** Largest number of units that is written from the tables of digits. */
const LARGEST = 99_999_999;
/** Numbers below this are looked up; their four digits stand one after the other. */
const GROUP = 10_000;
const SCALES = Int32Array.from({ length: 10 }, (_, i) => 10 ** i);
const DIGITS = Uint8Array.from(
  { length: 4 * GROUP + 4 },
  (_, i) => ZERO + (Math.floor(i / 4 / 10 ** (3 - (i % 4))) % 10),
);
/** Noughts before a number of four digits, at most three, and behind it. */
const LEADING = Uint8Array.from({ length: GROUP }, (_, v) => (v >= 1000 ? 0 : v >= 100 ? 1 : v >= 10 ? 2 : 3));
const TRAILING = Uint8Array.from({ length: GROUP }, (_, v) =>
  v % 10 > 0 ? 0 : v % 100 > 0 ? 1 : v % 1000 > 0 ? 2 : 3,
);
/** Room kept for the line being written, bytes. */
const LONGEST = 512;

/** Lines one after the other, to be copied from: line `n` stands from `ends[n]` to `ends[n + 1]`. */
export interface Lines {
  readonly text: DataView;
  readonly ends: Int32Array;
  readonly longest: number;
}

/** Writes `count` lines once, so that they can be copied often. */
export const linesOf = (count: number, write: (out: LineBuffer, n: number) => void): Lines => {
  const out = new LineBuffer();
  const ends = new Int32Array(count + 1);
  let longest = 0;
  for (let n = 0; n < count; n += 1) {
    write(out, n);
    ends[n + 1] = out.length;
    longest = Math.max(longest, ends[n + 1]! - ends[n]!);
  }
  return { text: new DataView(out.copy().buffer), ends, longest };
};

/**
 * ASCII text as bytes, for files of millions of lines: numbers are written digit by digit, and no
 * string exists until a piece is taken.
 */
export class LineBuffer {
  private bytes: Uint8Array<ArrayBuffer>;
  private at = 0;
  private readonly decoder = new TextDecoder();

  constructor(private readonly size = 1 << 18) {
    this.bytes = new Uint8Array(size + LONGEST);
  }

  get length(): number {
    return this.at;
  }

  /** What was written so far, with a few bytes to spare. */
  copy(): Uint8Array<ArrayBuffer> {
    return this.bytes.slice(0, this.at + 4);
  }

  get full(): boolean {
    return this.at >= this.size;
  }

  text(words: string): void {
    if (words.length > LONGEST / 2) this.grow(this.bytes.length + 2 * words.length);
    for (let i = 0; i < words.length; i += 1) this.bytes[this.at++] = words.charCodeAt(i);
  }

  end(): void {
    this.bytes[this.at++] = NEWLINE;
    if (this.at + LONGEST > this.bytes.length) this.grow(2 * this.bytes.length);
  }

  private grow(size: number): void {
    const longer = new Uint8Array(size);
    longer.set(this.bytes);
    this.bytes = longer;
  }

  line(words: string): void {
    this.text(words);
    this.end();
  }

  /**
   * A letter and a number in its shortest form: `word(88, 12500, 3)` writes `X12.5`.
   * @param letter its character code
   * @param units whole number of units of the last decimal
   * @param decimals 0 to 9
   */
  word(letter: number, units: number, decimals: number): void {
    const { bytes } = this;
    let { at } = this;
    bytes[at++] = letter;
    if (units < 0) bytes[at++] = MINUS;
    const size = Math.abs(units);
    if (size > LARGEST || decimals > 4) {
      this.at = at;
      this.text((size / SCALES[decimals]!).toFixed(decimals).replace(/\.0+$|(\.\d*?)0+$/, '$1'));
      return;
    }
    const left = size | 0;
    const scale = SCALES[decimals]!;
    let whole = (left / scale) | 0;
    const fraction = left - whole * scale;
    if (whole >= GROUP) {
      const high = (whole / GROUP) | 0;
      at = this.digits(at, high, LEADING[high]!);
      at = this.digits(at, whole - high * GROUP, 0);
      whole = -1;
    }
    if (whole >= 0) at = this.digits(at, whole, LEADING[whole]!);
    if (fraction > 0) {
      bytes[at] = POINT;
      this.digits(at + 1, fraction, 4 - decimals);
      at += 1 + decimals - TRAILING[fraction]!;
    }
    this.at = at;
  }

  /** Copies lines that were written before: those numbered in `which`, from two lists by turns. */
  copied(which: Int32Array, count: number, lists: readonly [Lines, Lines]): void {
    const most = count * Math.max(lists[0].longest, lists[1].longest);
    if (this.at + most + LONGEST > this.bytes.length) this.grow(2 * (this.bytes.length + most));
    const to = new DataView(this.bytes.buffer);
    let { at } = this;
    const [even, odd] = lists;
    for (let i = 0; i < count; i += 1) {
      const { text, ends } = (i & 1) === 0 ? even : odd;
      const n = which[i]!;
      const from = ends[n]!;
      const length = ends[n + 1]! - from;
      // Four bytes at a time; those too many are written over by the next line.
      for (let k = 0; k < length; k += 4) to.setInt32(at + k, text.getInt32(from + k));
      at += length;
    }
    this.at = at;
  }

  /** Four digits from the `skip`-th on; what is written behind them is written over by what follows. */
  private digits(at: number, value: number, skip: number): number {
    const { bytes } = this;
    const from = 4 * value + skip;
    bytes[at] = DIGITS[from]!;
    bytes[at + 1] = DIGITS[from + 1]!;
    bytes[at + 2] = DIGITS[from + 2]!;
    bytes[at + 3] = DIGITS[from + 3]!;
    return at + 4 - skip;
  }

  /** Everything written since the last time, and a fresh start. */
  take(): string {
    const out = this.decoder.decode(this.bytes.subarray(0, this.at));
    this.at = 0;
    return out;
  }
}
