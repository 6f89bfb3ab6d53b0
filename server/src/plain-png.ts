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

/** What pictures begin with, by their kind. */
const BEGINS: readonly (readonly [string, (b: Buffer) => boolean])[] = [
  ['PNG', (b) => b.subarray(0, 8).equals(Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]))],
  ['JPEG', (b) => b[0] === 0xff && b[1] === 0xd8 && b[2] === 0xff],
  ['WebP', (b) => b.subarray(0, 4).toString('latin1') === 'RIFF' && b.subarray(8, 12).toString('latin1') === 'WEBP'],
];

/** Whether bytes are those of a picture that is taken in. */
export const isPicture = (bytes: Buffer): boolean => BEGINS.some(([, begins]) => begins(bytes));

/** What programs write that were told no size: it says nothing. */
const UNSAID = [72, 96];

/** Dots to the inch as a picture says; nothing where it does not. */
export const dotsPerInch = async (bytes: Buffer): Promise<number | null> => {
  const { density } = await sharp(bytes).metadata();
  return density === undefined || density < 1 || UNSAID.includes(Math.round(density)) ? null : density;
};

/** A picture that was looked at before it is unpacked. */
export interface OpenPicture {
  /** Unpacks it, upright as its camera says and laid on white. */
  readonly upright: () => Sharp;
  /** What is thrown where it turns out to be damaged after all. */
  readonly damaged: () => Error;
}

/** Opens a PNG, JPEG or WebP; throws what is wrong with it in words. */
export const openPicture = async (bytes: Buffer, name: string): Promise<OpenPicture> => {
  const unreadable = (why: string): Error =>
    refused({ code: 'bad-picture', message: `${name} ${why} Nothing was changed.`, field: 'picture' });
  if (!isPicture(bytes)) throw unreadable('is no PNG, JPEG or WebP. Save the picture as one of them.');
  const open = (): Sharp =>
    sharp(bytes, { limitInputPixels: MOST_PICTURE_DOTS, failOn: 'warning' }).timeout({ seconds: LONGEST });
  const meta = await open()
    .metadata()
    .catch((error: unknown) => {
      if (/exceeds pixel limit/i.test(String(error)))
        throw unreadable(`has more than ${millions(MOST_PICTURE_DOTS)} million dots. Make it smaller first.`);
      throw unreadable('is damaged and cannot be read.');
    });
  if ((meta.pages ?? 1) > 1) throw unreadable(`moves: it has ${meta.pages} pictures. Save the one that is burned by itself.`); // prettier-ignore
  if (meta.width * meta.height > MOST_PICTURE_DOTS)
    throw unreadable(
      `has ${millions(meta.width * meta.height)} million dots; at most ${millions(MOST_PICTURE_DOTS)} million are taken. Make it smaller first.`,
    );
  if (Math.min(meta.width, meta.height) < FEWEST_PICTURE_DOTS)
    throw unreadable(`is only ${meta.width} × ${meta.height} dots: too few for a picture.`);
  return {
    upright: () => open().autoOrient().flatten({ background: '#ffffff' }),
    damaged: () => unreadable('is damaged and cannot be read.'),
  };
};

/** Of a file as it came: the same file twice is one picture. */
export const hashOf = (bytes: Buffer): string => createHash('sha256').update(bytes).digest('hex');

/**
 * A picture made plain: PNG, JPEG or WebP, upright as its camera says, laid on white, shades of grey, one byte a dot; inks and
 * deeper shades are brought down to that. Throws what is wrong in words.
 */
export const plainPng = async (bytes: Buffer, name: string): Promise<PlainPicture> => {
  const { upright, damaged } = await openPicture(bytes, name);
  try {
    const png = await upright().toColourspace('b-w').png({ compressionLevel: 6, palette: false }).toBuffer();
    const plain = sharp(png, { limitInputPixels: MOST_PICTURE_DOTS });
    const { width, height } = await plain.metadata();
    const { channels } = await plain.stats();
    return { sha256: hashOf(bytes), png, width, height, darkness: 1 - channels[0]!.mean / 255 };
  } catch {
    throw damaged();
  }
};
