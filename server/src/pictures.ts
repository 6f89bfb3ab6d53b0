import { createHash } from 'node:crypto';
import sharp, { type Sharp } from 'sharp';
import type { PictureInfo } from '@bistre/contract';
import { FEWEST_PICTURE_DOTS, MOST_PICTURE_DOTS, type Grey, type Pictures } from '@bistre/core';
import type { Db, Trx } from './db/connect';
import { refused } from './http/problem';

const millions = (n: number): string => (n / 1e6).toFixed(0);

/** A PNG made plain: laid on white, shades of grey, one byte a dot. Throws what is wrong in words. */
const plainPng = async (
  bytes: Buffer,
  name: string,
): Promise<{ png: Buffer; width: number; height: number; darkness: number }> => {
  const unreadable = (why: string): Error =>
    refused({ code: 'bad-picture', message: `${name} ${why} Nothing was changed.`, field: 'picture' });
  if (!bytes.subarray(0, 8).equals(Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])))
    throw unreadable('is not a PNG file. Save the picture as PNG.');
  const open = (): Sharp => sharp(bytes, { limitInputPixels: MOST_PICTURE_DOTS, failOn: 'warning' });
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
    return { png, width: meta.width, height: meta.height, darkness: 1 - channels[0]!.mean / 255 };
  } catch {
    throw unreadable('is damaged and cannot be read.');
  }
};

/** Takes a picture in; the same file twice is one picture. */
export const takePicture = async (db: Db | Trx, bytes: Buffer, name: string, by: string): Promise<PictureInfo> => {
  const sha256 = createHash('sha256').update(bytes).digest('hex');
  const columns = ['id', 'name', 'width', 'height', 'darkness'] as const;
  const known = await db.selectFrom('pictures').select(columns).where('sha256', '=', sha256).executeTakeFirst();
  if (known) return known;
  const plain = await plainPng(bytes, name);
  await db
    .insertInto('pictures')
    .values({ sha256, name, by, ...plain })
    .onConflict((c) => c.column('sha256').doNothing())
    .execute();
  return db.selectFrom('pictures').select(columns).where('sha256', '=', sha256).executeTakeFirstOrThrow();
};

/** The dots of pictures, for writing files on the server. */
export const loadPictures = async (trx: Db | Trx, ids: readonly string[]): Promise<Pictures> => {
  const out = new Map<string, Grey>();
  for (const id of ids) {
    const row = await trx
      .selectFrom('pictures')
      .select(['png', 'width', 'height'])
      .where('id', '=', id)
      .executeTakeFirst();
    if (!row) continue;
    const { data, info } = await sharp(row.png, { limitInputPixels: MOST_PICTURE_DOTS })
      .extractChannel(0)
      .raw()
      .toBuffer({ resolveWithObject: true });
    out.set(id, { width: info.width, height: info.height, pixels: data });
  }
  return out;
};
