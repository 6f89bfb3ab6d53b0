import { createHash } from 'node:crypto';
import sharp from 'sharp';
import type { PictureInfo } from '@bistre/contract';
import { MOST_PICTURE_DOTS, type Grey, type Pictures } from '@bistre/core';
import type { Db, Trx } from './db/connect';
import type { PlainPicture } from './plain-png';

/** Takes a picture in; the same file twice is one picture. */
export const takePicture = async (
  db: Db | Trx,
  bytes: Buffer,
  name: string,
  by: string,
  makePlain: (bytes: Buffer, name: string) => Promise<PlainPicture>,
): Promise<PictureInfo> => {
  const sha256 = createHash('sha256').update(bytes).digest('hex');
  const columns = ['id', 'name', 'width', 'height', 'darkness'] as const;
  const known = await db.selectFrom('pictures').select(columns).where('sha256', '=', sha256).executeTakeFirst();
  if (known) return known;
  const { png, ...plain } = await makePlain(bytes, name);
  await db
    .insertInto('pictures')
    .values({ sha256, name, by, ...plain, png: Buffer.from(png) })
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
