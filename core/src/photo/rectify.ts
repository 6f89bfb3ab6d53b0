import type { Box } from '../geometry';
import type { Mm } from '../units';
import { raised, type CameraFit, type CameraPlace } from './camera';
import type { GreyPicture } from './grey';

/** A photograph as it would be from straight above: dots of one size over a field of the bed, top row first. */
export interface Rectified extends GreyPicture {
  /** Bed place of the lower left corner, mm. */
  readonly x: Mm;
  readonly y: Mm;
  /** Size of a dot, mm. */
  readonly dot: Mm;
}

/**
 * Redraws a field of the bed from a photograph: every dot is looked up where the camera saw it, in
 * the plane of the work's upper side.
 *
 * @param camera where the camera stands; null when its height is not known, then the bed's plane is drawn
 * @param above height of the wanted plane over the calibrated one, mm
 * @param progress is told the share done
 */
export const rectify = (
  picture: GreyPicture,
  fit: CameraFit,
  field: Box,
  dot: Mm,
  camera: CameraPlace | null,
  above: Mm,
  progress: (share: number) => void = () => undefined,
): Rectified => {
  const width = Math.max(1, Math.round((field.maxX - field.minX) / dot));
  const height = Math.max(1, Math.round((field.maxY - field.minY) / dot));
  const out = new Uint8Array(width * height);
  const [h0, h1, h2, h3, h4, h5, h6, h7, h8] = fit.toPicture;
  const { k1, k2 } = fit;
  const { data } = picture;
  const w = picture.width;
  const cx = w / 2;
  const cy = picture.height / 2;
  const inv = 1 / (cx * cx + cy * cy);
  // Raising a plane is a scaling about the point under the camera.
  const one = camera && above !== 0 ? raised({ x: camera.x + 1, y: camera.y }, camera, above).x - camera.x : 1;
  const ox = camera ? camera.x * (1 - one) : 0;
  const oy = camera ? camera.y * (1 - one) : 0;
  for (let row = 0; row < height; row += 1) {
    // Counted from the lower edge, as its dots are read: a field is seldom a whole number of dots high.
    const by = (field.minY + (height - row - 0.5) * dot) * one + oy;
    for (let column = 0; column < width; column += 1) {
      const bx = (field.minX + (column + 0.5) * dot) * one + ox;
      const z = 1 / (h6 * bx + h7 * by + h8);
      const px = (h0 * bx + h1 * by + h2) * z - cx;
      const py = (h3 * bx + h4 * by + h5) * z - cy;
      const r2 = (px * px + py * py) * inv;
      const k = 1 + k1 * r2 + k2 * r2 * r2;
      const ux = cx + px * k - 0.5;
      const uy = cy + py * k - 0.5;
      const ix = Math.floor(ux);
      const iy = Math.floor(uy);
      if (ix < 0 || iy < 0 || ix + 1 >= w || iy + 1 >= picture.height) continue;
      const fx = ux - ix;
      const fy = uy - iy;
      const at = iy * w + ix;
      const top = data[at]! + fx * (data[at + 1]! - data[at]!);
      const bottom = data[at + w]! + fx * (data[at + w + 1]! - data[at + w]!);
      out[row * width + column] = top + fy * (bottom - top) + 0.5;
    }
    if ((row & 63) === 0) progress(row / height);
  }
  return { width, height, data: out, x: field.minX, y: field.minY, dot };
};
