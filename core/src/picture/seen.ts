import type { Mm } from '../units';
import { densities, Halftone, type Treatment } from './halftone';
import { levelFor, shadeAt, type Grey } from './grey';

/**
 * What a part of a picture will look like: its dots, each burned as wide as the spot, seen close up.
 *
 * @param region of the picture in dots of the picture: left, top, width, height
 * @param across millimetres that the region is wide on the work
 * @param interval between dots and lines, mm; @param spot diameter, mm
 * @param width of the result in dots; its height follows from the region
 * @returns shades: 0 burned through, 255 untouched
 */
export const seenCloseUp = (
  picture: Grey,
  region: { x: number; y: number; width: number; height: number },
  across: Mm,
  interval: Mm,
  spot: Mm,
  treatment: Treatment,
  width: number,
): Grey => {
  const perDot = (region.width / across) * interval;
  const level = levelFor(picture, perDot);
  const shrink = level.width / picture.width;
  const columns = Math.max(1, Math.round(across / interval));
  const lines = Math.max(1, Math.round((columns * region.height) / region.width));
  const tone = new Halftone(treatment.kernel, columns);
  const wanted = densities(treatment);
  const row = new Float32Array(columns);
  const dots = new Uint8Array(columns);
  const k = width / columns;
  const height = Math.round(lines * k);
  const burned = new Float32Array(width * height);
  const reach = (Math.max(spot, interval / 2) / interval / 2) * k;
  for (let j = 0; j < lines; j += 1) {
    for (let i = 0; i < columns; i += 1)
      row[i] =
        wanted[
          Math.round(shadeAt(level, (region.x + (i + 0.5) * perDot) * shrink, (region.y + (j + 0.5) * perDot) * shrink))
        ]!;
    tone.row(row, dots);
    for (let i = 0; i < columns; i += 1) {
      if (!dots[i]) continue;
      const cx = (i + 0.5) * k;
      const cy = (j + 0.5) * k;
      for (let y = Math.max(0, Math.floor(cy - reach)); y <= Math.min(height - 1, Math.ceil(cy + reach)); y += 1)
        for (let x = Math.max(0, Math.floor(cx - reach)); x <= Math.min(width - 1, Math.ceil(cx + reach)); x += 1) {
          // Soft at the rim over one dot of the result, so that round spots look round.
          const cover = Math.min(1, Math.max(0, reach - Math.hypot(x + 0.5 - cx, y + 0.5 - cy) + 0.5));
          if (cover > burned[y * width + x]!) burned[y * width + x] = cover;
        }
    }
  }
  return { width, height, pixels: Uint8Array.from(burned, (b) => Math.round(255 * (1 - b))) };
};
