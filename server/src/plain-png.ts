import { createHash } from 'node:crypto';
import sharp, { type Sharp } from 'sharp';
import { FEWEST_PICTURE_DOTS, MOST_PICTURE_DOTS } from '@bistre/core';
import { refused } from './http/problem';

/** Longest that a picture may take to unpack, s. */
const LONGEST = 20;

const millions = (n: number): string => (n / 1e6).toFixed(0);

export interface PlainPicture {
  /** Of the file as it came: the same file twice is one picture. */
  readonly sha256: string;
  readonly png: Uint8Array;
  readonly width: number;
  readonly height: number;
  /** Mean darkness, 0 white to 1 black. */
  readonly darkness: number;
}

/** A PNG made plain: laid on white, shades of grey, one byte a dot. Throws what is wrong in words. */
export const plainPng = async (bytes: Buffer, name: string): Promise<PlainPicture> => {
  const unreadable = (why: string): Error =>
    refused({ code: 'bad-picture', message: `${name} ${why} Nothing was changed.`, field: 'picture' });
  if (!bytes.subarray(0, 8).equals(Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])))
    throw unreadable('is not a PNG file. Save the picture as PNG.');
  const open = (): Sharp =>
    sharp(bytes, { limitInputPixels: MOST_PICTURE_DOTS, failOn: 'warning' }).timeout({ seconds: LONGEST });
  const meta = await open()
    .metadata()
    .catch((error: unknown) => {
      if (/exceeds pixel limit/i.test(String(error)))
        throw unreadable(`has more than ${millions(MOST_PICTURE_DOTS)} million dots. Make it smaller first.`);
      throw unreadable('is damaged and cannot be read.');
    });
  if (meta.width * meta.height > MOST_PICTURE_DOTS)
    throw unreadable(
      `has ${millions(meta.width * meta.height)} million dots; at most ${millions(MOST_PICTURE_DOTS)} million are taken. Make it smaller first.`,
    );
  if (Math.min(meta.width, meta.height) < FEWEST_PICTURE_DOTS)
    throw unreadable(`is only ${meta.width} × ${meta.height} dots: too few for a picture.`);
  const image = open().flatten({ background: '#ffffff' }).toColourspace('b-w');
  try {
    const png = await image.png({ compressionLevel: 6, palette: false }).toBuffer();
    const { channels } = await sharp(png, { limitInputPixels: MOST_PICTURE_DOTS }).stats();
    return {
      sha256: createHash('sha256').update(bytes).digest('hex'),
      png,
      width: meta.width,
      height: meta.height,
      darkness: 1 - channels[0]!.mean / 255,
    };
  } catch {
    throw unreadable('is damaged and cannot be read.');
  }
};
