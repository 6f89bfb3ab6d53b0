import { MOST_PICTURE_DOTS } from '../picture';
import { fail, ok, type Result } from '../result';

/** What the head of a PNG file says [PNG specification, chunks IHDR and pHYs]. */
export interface PngHead {
  readonly width: number;
  readonly height: number;
  /** Dots to the inch; null where the file does not say, or says different ones each way. */
  readonly dotsPerInch: number | null;
}

const SIGNATURE = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];
/** Chunks looked at before the picture's own data; a file with more is not worth reading. */
const MOST_CHUNKS = 200;

/**
 * Size and resolution of a PNG, read from its first bytes, so that a picture that is too large is
 * refused before it is unpacked.
 */
export const pngHead = (bytes: Uint8Array, name: string): Result<PngHead> => {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const kind = (at: number): string => String.fromCharCode(...bytes.subarray(at + 4, at + 8));
  if (bytes.length < 33 || SIGNATURE.some((v, i) => bytes[i] !== v) || kind(8) !== 'IHDR')
    return fail('not-a-png', `${name} is not a PNG file. Save the picture as PNG.`, 'picture');
  const width = view.getUint32(16);
  const height = view.getUint32(20);
  if (width === 0 || height === 0) return fail('empty-picture', `${name} has no dots.`, 'picture');
  if (width * height > MOST_PICTURE_DOTS)
    return fail(
      'too-many-dots',
      `${name} has ${((width * height) / 1e6).toFixed(0)} million dots; at most ${MOST_PICTURE_DOTS / 1e6} million are taken. Scan it at 300 dots to the inch, or make it smaller.`,
      'picture',
    );
  let dotsPerInch: number | null = null;
  let at = 8;
  for (let n = 0; n < MOST_CHUNKS && at + 12 <= bytes.length; n += 1) {
    const length = view.getUint32(at);
    const type = kind(at);
    if (type === 'IDAT' || type === 'IEND') break;
    if (type === 'pHYs' && length === 9 && at + 17 <= bytes.length) {
      const [x, y, unit] = [view.getUint32(at + 8), view.getUint32(at + 12), bytes[at + 16]];
      if (unit === 1 && x === y && x > 0) dotsPerInch = x * 0.0254;
    }
    at += 12 + length;
  }
  return ok({ width, height, dotsPerInch });
};
