/** A picture in shades of grey: one byte a dot, 0 black to 255 white, rows from the top. */
export interface Grey {
  readonly width: number;
  readonly height: number;
  readonly pixels: Uint8Array;
}

/** The dots of pictures by their id: kept apart, fetched when a file is written. */
export type Pictures = ReadonlyMap<string, Grey>;

/** Where a picture’s dots are absent, its whole area stands for it. */
export const NO_PICTURES: Pictures = new Map();

/** Fewest dots of a picture each way. */
export const FEWEST_PICTURE_DOTS = 16;

/** Most dots of a picture that is taken in. */
export const MOST_PICTURE_DOTS = 60_000_000;

/** Half the size, each dot the mean of four; an odd last row or column is left out. */
export const halved = (from: Grey): Grey => {
  const width = Math.max(1, from.width >> 1);
  const height = Math.max(1, from.height >> 1);
  const pixels = new Uint8Array(width * height);
  const right = from.width > 1 ? 1 : 0;
  const below = from.height > 1 ? from.width : 0;
  for (let y = 0; y < height; y += 1) {
    let at = 2 * y * from.width;
    for (let x = 0; x < width; x += 1, at += 2)
      pixels[y * width + x] =
        (from.pixels[at]! +
          from.pixels[at + right]! +
          from.pixels[at + below]! +
          from.pixels[at + below + right]! +
          2) >>
        2;
  }
  return { width, height, pixels };
};

/** Halves a picture until it has fewer than two dots to one dot wanted, so that none falls between. */
export const levelFor = (picture: Grey, dotsPerDot: number): Grey => {
  let level = picture;
  for (let ratio = dotsPerDot; ratio >= 2 && Math.min(level.width, level.height) >= FEWEST_PICTURE_DOTS; ratio /= 2)
    level = halved(level);
  return level;
};

/**
 * Shade between four dots (bilinear), the picture's edge repeated outside.
 * @param x across, @param y down, both in dots from the picture's corner: a dot's centre is at its half
 * @returns 0 to 255
 */
export const shadeAt = ({ width, height, pixels }: Grey, x: number, y: number): number => {
  const cx = x < 0.5 ? 0 : x > width - 0.5 ? width - 1 : x - 0.5;
  const cy = y < 0.5 ? 0 : y > height - 0.5 ? height - 1 : y - 0.5;
  const x0 = cx | 0;
  const y0 = cy | 0;
  const fx = cx - x0;
  const fy = cy - y0;
  const at = y0 * width + x0;
  const right = x0 + 1 < width ? 1 : 0;
  const below = y0 + 1 < height ? width : 0;
  const top = pixels[at]! + (pixels[at + right]! - pixels[at]!) * fx;
  const low = pixels[at + below]! + (pixels[at + below + right]! - pixels[at + below]!) * fx;
  return top + (low - top) * fy;
};

/** Side of the blocks that are turned at once, so that both pictures stay in the processor's cache. */
const BLOCK = 64;

/** Rows for columns: what was at (x, y) is at (y, x). */
export const transposed = ({ width, height, pixels }: Grey): Grey => {
  const out = new Uint8Array(pixels.length);
  for (let top = 0; top < height; top += BLOCK)
    for (let left = 0; left < width; left += BLOCK) {
      const bottom = Math.min(height, top + BLOCK);
      const right = Math.min(width, left + BLOCK);
      for (let y = top; y < bottom; y += 1)
        for (let x = left; x < right; x += 1) out[x * height + y] = pixels[y * width + x]!;
    }
  return { width: height, height: width, pixels: out };
};
