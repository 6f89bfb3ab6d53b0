import { execFileSync } from 'node:child_process';
import sharp, { type Sharp } from 'sharp';

/** How pages of papers are rendered to be measured. */
export const DPI = 300;
/** Millimetres as pixels of such a page. */
export const px = (mm: number): number => (mm / 25.4) * DPI;

/** Darkness of every pixel, 0 to 1, row by row. */
export interface Picture {
  readonly width: number;
  readonly height: number;
  readonly dark: Float32Array;
}

export const picture = async (image: Sharp): Promise<Picture> => {
  const { data, info } = await image
    .flatten({ background: '#fff' })
    .greyscale()
    .raw()
    .toBuffer({ resolveWithObject: true });
  // The file's ink is not quite black; what it makes of a full pixel counts as full.
  let least = 255;
  for (let i = 0; i < data.length; i += 1) if (data[i]! < least) least = data[i]!;
  const dark = new Float32Array(data.length);
  for (let i = 0; i < data.length; i += 1) dark[i] = (255 - data[i]!) / (255 - least);
  return { width: info.width, height: info.height, dark };
};

/** Middles of the dark runs in a row of a picture, px. */
export const runs = (p: Picture, row: number): number[] => {
  const found: number[] = [];
  let sum = 0;
  let weight = 0;
  for (let x = 0; x <= p.width; x += 1) {
    const d = x < p.width ? p.dark[row * p.width + x]! : 0;
    if (d > 0.1) {
      sum += d * (x + 0.5);
      weight += d;
    } else if (weight > 0) {
      found.push(sum / weight);
      sum = 0;
      weight = 0;
    }
  }
  return found;
};

/** A page of a PDF as poppler renders it. */
export const pageOf = (pdf: Buffer, n = 1): Promise<Picture> =>
  picture(
    sharp(
      execFileSync('pdftoppm', ['-r', String(DPI), '-f', String(n), '-l', String(n), '-gray', '-png', '-'], {
        input: pdf,
        maxBuffer: 1e8,
      }),
    ),
  );

/** The text of a PDF as poppler reads it. */
export const textOf = (pdf: Buffer): string =>
  execFileSync('pdftotext', ['-layout', '-', '-'], { input: pdf, maxBuffer: 1e8 }).toString();
