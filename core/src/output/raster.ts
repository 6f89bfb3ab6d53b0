import { scanFill, type Vec } from '../geometry';
import type { Mm } from '../units';

/** A picture at exact resolution: one byte a dot, 0 is engraved, 255 is not, first row at the top. */
export interface Raster {
  readonly width: number;
  readonly height: number;
  readonly pixels: Uint8Array;
  /** Dots per metre, the same both ways. */
  readonly dotsPerMetre: number;
}

/** Largest picture, dots. */
export const MOST_DOTS = 200_000_000;

/**
 * Filled polygons as dots. A dot is engraved when its centre is inside.
 * @param size of the picture, mm
 * @param interval between dots, mm
 */
export const rasterize = (
  polygons: readonly (readonly Vec[])[],
  size: { width: Mm; height: Mm },
  interval: Mm,
): Raster => {
  const width = Math.max(1, Math.round(size.width / interval));
  const height = Math.max(1, Math.round(size.height / interval));
  if (width * height > MOST_DOTS) throw new RangeError('the picture would be too large');
  const pixels = new Uint8Array(width * height).fill(255);
  const half = interval / 2;
  const shifted = polygons.map((p) => p.map((v) => ({ x: v.x, y: v.y - half })));
  for (const { y, spans } of scanFill(shifted, interval)) {
    const row = height - 1 - Math.round(y / interval);
    if (row < 0 || row >= height) continue;
    for (let i = 0; i < spans.length; i += 2) {
      const from = Math.max(0, Math.ceil((spans[i]! - half) / interval));
      const to = Math.min(width - 1, Math.floor((spans[i + 1]! - half) / interval));
      if (to >= from) pixels.fill(0, row * width + from, row * width + to + 1);
    }
  }
  return { width, height, pixels, dotsPerMetre: Math.round(1000 / interval) };
};
