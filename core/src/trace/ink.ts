import { fail, ok, type Result } from '../result';

/**
 * How far each dot of a picture stands out from its paper, 0 to 255, with a rim of one dot of paper
 * all round: dot (x, y) is at `(y + 1) · (width + 2) + x + 1`.
 */
export interface Ink {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
}

/** Colour of the paper, one value to a channel. */
export type PaperColour = readonly [number, number, number];

/** Rows of a picture, four bytes a dot: red, green, blue, cover. */
export interface Rows {
  readonly top: number;
  readonly count: number;
  readonly rgba: Uint8Array | Uint8ClampedArray;
}

/** An empty ink for a picture of this size, to be filled by `addRows`. */
export const emptyInk = (width: number, height: number): Ink => ({
  width,
  height,
  data: new Uint8Array((width + 2) * (height + 2)),
});

/** Dots looked at along each edge to learn the paper's colour. */
const LOOKS = 4_000;

/**
 * The paper's colour: the middle value, channel by channel, of dots along the picture's own edges.
 * A print keeps its edges free; a stray dark dot does not move a median.
 */
export const paperOf = (rows: Rows, width: number): PaperColour => {
  const { rgba, count } = rows;
  const [r, g, b]: [number[], number[], number[]] = [[], [], []];
  const look = (x: number, y: number): void => {
    const at = 4 * (y * width + x);
    const cover = rgba[at + 3]!;
    // What is clear lies on white.
    const lay = (v: number): number => 255 + ((v - 255) * cover) / 255;
    r.push(lay(rgba[at]!));
    g.push(lay(rgba[at + 1]!));
    b.push(lay(rgba[at + 2]!));
  };
  const across = Math.max(1, Math.floor(width / LOOKS));
  for (let x = 0; x < width; x += across) {
    look(x, 0);
    look(x, count - 1);
  }
  for (let y = 0; y < count; y += Math.max(1, Math.floor(count / LOOKS))) {
    look(0, y);
    look(width - 1, y);
  }
  const middle = (v: number[]): number => v.sort((p, q) => p - q)[v.length >> 1]!;
  return [middle(r), middle(g), middle(b)];
};

/** Enters rows of a picture: a dot's ink is the largest difference of its channels from the paper. */
export const addRows = (ink: Ink, rows: Rows, [pr, pg, pb]: PaperColour): void => {
  const { rgba, top, count } = rows;
  const { width, data } = ink;
  for (let y = 0; y < count; y += 1) {
    let at = 4 * y * width;
    let to = (top + y + 1) * (width + 2) + 1;
    for (let x = 0; x < width; x += 1, at += 4, to += 1) {
      let r = rgba[at]!;
      let g = rgba[at + 1]!;
      let b = rgba[at + 2]!;
      const cover = rgba[at + 3]!;
      if (cover < 255) {
        r = 255 + ((r - 255) * cover) / 255;
        g = 255 + ((g - 255) * cover) / 255;
        b = 255 + ((b - 255) * cover) / 255;
      }
      const dr = r > pr ? r - pr : pr - r;
      const dg = g > pg ? g - pg : pg - g;
      const db = b > pb ? b - pb : pb - b;
      data[to] = dr > dg ? (dr > db ? dr : db) : dg > db ? dg : db;
    }
  }
};

/** Least difference from the paper that is taken for print, of 255. */
const LEAST_CONTRAST = 12;

/**
 * The level that parts print from paper: between the two groups of a picture's inks whose means lie
 * farthest apart [Otsu 1979], halfway between those means, so that an edge is found where it is half
 * covered.
 *
 * @returns a level that no dot has (…,5), or a problem when nothing stands out
 */
export const inkLevel = ({ data, width, height }: Ink): Result<{ level: number; contrast: number }> => {
  const counts = new Float64Array(256);
  for (let y = 1; y <= height; y += 1) {
    const row = y * (width + 2);
    for (let x = 1; x <= width; x += 1) counts[data[row + x]!]! += 1;
  }
  const total = width * height;
  let sum = 0;
  for (let v = 0; v < 256; v += 1) sum += v * counts[v]!;
  let below = 0;
  let belowSum = 0;
  let best = { between: -1, low: 0, high: 0 };
  for (let v = 0; v < 255; v += 1) {
    below += counts[v]!;
    belowSum += v * counts[v]!;
    if (below === 0 || below === total) continue;
    const low = belowSum / below;
    const high = (sum - belowSum) / (total - below);
    const between = below * (total - below) * (high - low) ** 2;
    if (between > best.between) best = { between, low, high };
  }
  const contrast = best.high - best.low;
  if (best.between < 0 || contrast < LEAST_CONTRAST)
    return fail(
      'no-print',
      'Nothing in the picture stands out from its paper. Is it the printed sheet, and is it more than a faint copy?',
      'picture',
    );
  return ok({ level: Math.floor((best.low + best.high) / 2) + 0.5, contrast });
};
