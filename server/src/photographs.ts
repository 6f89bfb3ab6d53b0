import type { PhotographInfo } from '@bistre/contract';
import type { Db, Trx } from './db/connect';
import { hashOf, openPicture } from './plain-png';

/** Longest side that is kept of a photograph, dots: as large as it is shown at the bench, twice over. */
const LONGEST_SIDE = 1600;

export interface Photograph {
  readonly sha256: string;
  readonly jpeg: Uint8Array;
  readonly width: number;
  readonly height: number;
}

/**
 * A photograph as it is kept: upright, no longer than 1600 dots, JPEG, without what a camera writes beside it (where and
 * when). Throws what is wrong with the file in words.
 */
export const smallPhotograph = async (bytes: Buffer, name: string): Promise<Photograph> => {
  const { upright, damaged } = await openPicture(bytes, name);
  try {
    const { data, info } = await upright()
      .resize({ width: LONGEST_SIDE, height: LONGEST_SIDE, fit: 'inside', withoutEnlargement: true })
      .toColourspace('srgb')
      .jpeg({ quality: 82 })
      .toBuffer({ resolveWithObject: true });
    return { sha256: hashOf(bytes), jpeg: data, width: info.width, height: info.height };
  } catch {
    throw damaged();
  }
};

/** Keeps a photograph; the same file twice is one. */
export const keepPhotograph = async (
  db: Db | Trx,
  { sha256, jpeg, width, height }: Photograph,
  by: string,
): Promise<PhotographInfo> => {
  await db
    .insertInto('photographs')
    .values({ sha256, by, width, height, jpeg: Buffer.from(jpeg) })
    .onConflict((c) => c.column('sha256').doNothing())
    .execute();
  return db
    .selectFrom('photographs')
    .select(['id', 'width', 'height'])
    .where('sha256', '=', sha256)
    .executeTakeFirstOrThrow();
};
