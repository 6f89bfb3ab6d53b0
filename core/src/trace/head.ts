import { MOST_PICTURE_DOTS } from '../picture';
import { fail, ok, type Result } from '../result';

/** What the head of a picture's file says. */
export interface PictureHead {
  readonly width: number;
  readonly height: number;
  /** Dots to the inch; null where the file does not say, or says different ones each way. */
  readonly dotsPerInch: number | null;
}

const SIGNATURE = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];
/** Chunks looked at before the picture's own data; a file with more is not worth reading. */
const MOST_CHUNKS = 200;

const letters = (bytes: Uint8Array, at: number): string => String.fromCharCode(...bytes.subarray(at, at + 4));

/** Chunks IHDR and pHYs [PNG specification 11.2.1, 11.3.4.3]. */
const ofPng = (bytes: Uint8Array, view: DataView): PictureHead | null => {
  const kind = (at: number): string => letters(bytes, at + 4);
  if (bytes.length < 33 || SIGNATURE.some((v, i) => bytes[i] !== v) || kind(8) !== 'IHDR') return null;
  const width = view.getUint32(16);
  const height = view.getUint32(20);
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
  return { width, height, dotsPerInch };
};

/** Density of a JPEG by its unit: dots to the inch, or to the centimetre [ITU-T T.871, 10.1]. */
const PER_INCH: Readonly<Record<number, number>> = { 1: 1, 2: 2.54 };
/** What programs write that were told no density. */
const UNSAID: readonly number[] = [72, 96];

/** Density that a camera’s or scanner’s note says: XResolution and its unit [CIPA DC-008 (Exif), 4.6.4; TIFF 6.0]. */
const ofExif = (bytes: Uint8Array, from: number): number => {
  const little = letters(bytes, from).startsWith('II');
  const view = new DataView(bytes.buffer, bytes.byteOffset + from, bytes.length - from);
  const fits = (at: number, count: number): boolean => at + count <= view.byteLength;
  if (!fits(0, 10)) return 0;
  const first = view.getUint32(4, little);
  if (!fits(first, 2)) return 0;
  let [per, unit] = [0, 2];
  for (let i = 0, at = first + 2; i < view.getUint16(first, little) && fits(at, 12); i += 1, at += 12) {
    const tag = view.getUint16(at, little);
    const place = view.getUint32(at + 8, little);
    if (tag === 0x011a && fits(place, 8)) per = view.getUint32(place, little) / view.getUint32(place + 4, little);
    if (tag === 0x0128) unit = view.getUint16(at + 8, little);
  }
  return unit === 3 ? 2.54 * per : per;
};

/** The JFIF and Exif segments and the frame’s header of a JPEG [ITU-T T.871; ITU-T T.81, B.2.2]. */
const ofJpeg = (bytes: Uint8Array, view: DataView): PictureHead | null => {
  if (bytes[0] !== 0xff || bytes[1] !== 0xd8) return null;
  let dotsPerInch: number | null = null;
  let at = 2;
  while (at + 9 < bytes.length && bytes[at] === 0xff) {
    const marker = bytes[at + 1]!;
    if (marker === 0xe0 && letters(bytes, at + 4) === 'JFIF' && at + 16 < bytes.length) {
      const [x, y] = [view.getUint16(at + 12), view.getUint16(at + 14)];
      const said = x === y && x > 1 && !UNSAID.includes(x) ? (PER_INCH[bytes[at + 11]!] ?? 0) * x : 0;
      if (said > 0) dotsPerInch = said;
    }
    if (marker === 0xe1 && letters(bytes, at + 4) === 'Exif') {
      const said = ofExif(bytes, at + 10);
      if (said > 1 && Number.isFinite(said) && !UNSAID.includes(Math.round(said))) dotsPerInch = said;
    }
    // SOF0 to SOF15, but for the tables DHT, JPG and DAC that lie between them.
    if (marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker))
      return { width: view.getUint16(at + 7), height: view.getUint16(at + 5), dotsPerInch };
    at += marker === 0xff ? 1 : 2 + view.getUint16(at + 2);
  }
  return null;
};

const below = (bytes: Uint8Array, at: number, count: number): number =>
  Array.from({ length: count }, (_, i) => bytes[at + i]! << (8 * i)).reduce((a, b) => a | b, 0);

/** The first chunk of a WebP: VP8X, VP8L or VP8 [RFC 9649, 2.5 to 2.7]. */
const ofWebp = (bytes: Uint8Array): PictureHead | null => {
  if (bytes.length < 30 || letters(bytes, 0) !== 'RIFF' || letters(bytes, 8) !== 'WEBP') return null;
  switch (letters(bytes, 12)) {
    case 'VP8X':
      return { width: 1 + below(bytes, 24, 3), height: 1 + below(bytes, 27, 3), dotsPerInch: null };
    case 'VP8L': {
      const bits = below(bytes, 21, 4);
      return { width: 1 + (bits & 0x3fff), height: 1 + ((bits >>> 14) & 0x3fff), dotsPerInch: null };
    }
    default:
      return { width: below(bytes, 26, 2) & 0x3fff, height: below(bytes, 28, 2) & 0x3fff, dotsPerInch: null };
  }
};

/**
 * Size and resolution of a picture, PNG, JPEG or WebP, read from its first bytes, so that one that is too large is
 * refused before it is unpacked. As it lies in the file: a camera's note of how it was held may turn it.
 */
export const pictureHead = (bytes: Uint8Array, name: string): Result<PictureHead> => {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const head = ofPng(bytes, view) ?? ofJpeg(bytes, view) ?? ofWebp(bytes);
  if (!head)
    return fail('not-a-picture', `${name} is no PNG, JPEG or WebP. Save the picture as one of them.`, 'picture');
  const { width, height } = head;
  if (!(width > 0) || !(height > 0)) return fail('empty-picture', `${name} has no dots.`, 'picture');
  if (width * height > MOST_PICTURE_DOTS)
    return fail(
      'too-many-dots',
      `${name} has ${((width * height) / 1e6).toFixed(0)} million dots; at most ${MOST_PICTURE_DOTS / 1e6} million are taken. Scan it at 300 dots to the inch, or make it smaller.`,
      'picture',
    );
  return ok(head);
};
