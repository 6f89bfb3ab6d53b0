import sharp from 'sharp';
import type { PictureInfo } from '@bistre/contract';
import { MOST_PICTURE_DOTS, type Grey, type Pictures } from '@bistre/core';
import type { Db, Trx } from './db/connect';
import type { PlainPicture } from './plain-png';

/** Keeps a picture that was made plain; the same file twice is one picture. */
export const keepPicture = async (
  db: Db | Trx,
  { sha256, png, ...plain }: PlainPicture,
  name: string,
  by: string,
): Promise<PictureInfo> => {
  await db
    .insertInto('pictures')
    .values({ sha256, name, by, ...plain, png: Buffer.from(png) })
    .onConflict((c) => c.column('sha256').doNothing())
    .execute();
  return db
    .selectFrom('pictures')
    .select(['id', 'name', 'width', 'height', 'darkness'])
    .where('sha256', '=', sha256)
    .executeTakeFirstOrThrow();
};

/** The dots of a picture that was made plain. */
export const greyOf = async (png: Uint8Array): Promise<Grey> => {
  const { data, info } = await sharp(png, { limitInputPixels: MOST_PICTURE_DOTS })
    .extractChannel(0)
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, pixels: data };
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
    out.set(id, await greyOf(row.png));
  }
  return out;
};
