import { compose, type BatchInput, type Pictures, type Transform, type ZonePicture } from '@bistre/core';
import sharp from 'sharp';
import type { Doc } from './paper';

/** Pictures as they go into a paper, PNG, by what {@link keyOf} says of them. */
export type Shades = ReadonlyMap<string, Buffer>;

/** Opens an image once for all its places; its types leave out what its handbook shows. */
type Opener = Doc & { openImage(png: Buffer): Buffer };

const keyOf = (pictureId: string, negative: boolean): string => `${pictureId}${negative ? ' negative' : ''}`;

/** The shades of a picture, its light and dark changed over where what is light is burned. */
const shadesPng = ({ width, height, pixels }: NonNullable<ReturnType<Pictures['get']>>, negative: boolean): Promise<Buffer> => {
  const shades = sharp(pixels, { raw: { width, height, channels: 1 } });
  return (negative ? shades.negate() : shades).toColourspace('b-w').png().toBuffer();
}; // prettier-ignore

/** One of them as it lies on a piece; nothing where it is not at hand. */
export const pngOf = (
  pictures: Shades,
  { pictureId, treatment }: Pick<ZonePicture, 'pictureId' | 'treatment'>,
): Buffer | undefined => pictures.get(keyOf(pictureId, treatment.negative));

/** The pictures of a batch's zones as they go into its papers; those of a round blank's faces are not on them. */
export const shadesOf = async (pictures: Pictures, { setup }: Pick<BatchInput, 'setup'>): Promise<Shades> => {
  const out = new Map<string, Buffer>();
  for (const content of setup.contents ?? []) {
    const picture = content.kind === 'picture' ? pictures.get(content.pictureId) : undefined;
    if (content.kind !== 'picture' || !picture) continue;
    const { negative } = content.treatment;
    const key = keyOf(content.pictureId, negative);
    if (!out.has(key)) out.set(key, await shadesPng(picture, negative));
  }
  return out;
};

/**
 * Lays pictures on a page where their dots lie on the piece; one that is not there leaves its place empty.
 *
 * @returns a function that lays one; what many pieces carry is in the paper once
 */
export const shadesOn = (doc: Doc, pictures: Shades): ((picture: ZonePicture, place: Transform) => void) => {
  const opened = new Map([...pictures].map(([key, png]) => [key, (doc as Opener).openImage(png)]));
  return ({ pictureId, treatment, place: lies, width, height }, place) => {
    const image = opened.get(keyOf(pictureId, treatment.negative));
    if (!image) return;
    const { a, b, c, d, e, f } = compose(place, compose(lies, { a: 1, b: 0, c: 0, d: -1, e: 0, f: height }));
    doc.save().transform(a, b, c, d, e, f).image(image, 0, 0, { width, height }).restore();
  };
};
