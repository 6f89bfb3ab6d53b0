/** A photograph in shades of grey, row by row from the top. */
export interface GreyPicture {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
}

/** Grey of rows of colour dots, four bytes each, written into a picture [Rec. 709 weights]. */
export const addGreyRows = (
  into: GreyPicture,
  top: number,
  count: number,
  rgba: Uint8Array | Uint8ClampedArray,
): void => {
  const { width, data } = into;
  let at = 0;
  let to = top * width;
  for (let i = 0; i < count * width; i += 1, at += 4, to += 1)
    data[to] = (54 * rgba[at]! + 183 * rgba[at + 1]! + 19 * rgba[at + 2]!) >> 8;
};

/** The picture made smaller by a whole factor, each dot the mean of its square. */
export const shrunk = ({ width, height, data }: GreyPicture, by: number): GreyPicture => {
  if (by <= 1) return { width, height, data };
  const w = Math.floor(width / by);
  const h = Math.floor(height / by);
  const out = new Uint8Array(w * h);
  const sums = new Uint32Array(w);
  for (let y = 0; y < h; y += 1) {
    sums.fill(0);
    for (let k = 0; k < by; k += 1) {
      const row = (y * by + k) * width;
      for (let x = 0, at = row; x < w; x += 1) {
        let s = 0;
        for (let i = 0; i < by; i += 1, at += 1) s += data[at]!;
        sums[x]! += s;
      }
    }
    const n = by * by;
    for (let x = 0; x < w; x += 1) out[y * w + x] = (sums[x]! / n + 0.5) | 0;
  }
  return { width: w, height: h, data: out };
};

/** Mean of a square about each dot, by sums of all above and left of it. */
export const localMean = ({ width, height, data }: GreyPicture, radius: number): Float32Array => {
  const sums = new Float64Array((width + 1) * (height + 1));
  for (let y = 0; y < height; y += 1) {
    let row = 0;
    for (let x = 0; x < width; x += 1) {
      row += data[y * width + x]!;
      sums[(y + 1) * (width + 1) + x + 1] = sums[y * (width + 1) + x + 1]! + row;
    }
  }
  const out = new Float32Array(width * height);
  for (let y = 0; y < height; y += 1) {
    const y0 = Math.max(0, y - radius);
    const y1 = Math.min(height, y + radius + 1);
    for (let x = 0; x < width; x += 1) {
      const x0 = Math.max(0, x - radius);
      const x1 = Math.min(width, x + radius + 1);
      const s =
        sums[y1 * (width + 1) + x1]! -
        sums[y0 * (width + 1) + x1]! -
        sums[y1 * (width + 1) + x0]! +
        sums[y0 * (width + 1) + x0]!;
      out[y * width + x] = s / ((y1 - y0) * (x1 - x0));
    }
  }
  return out;
};
