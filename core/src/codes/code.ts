import { datamatrix, qrcode, type RenderOptions } from 'bwip-js/generic';
import { polyline, type Contour } from '../geometry';
import { fail, ok, type Result } from '../result';
import { CODE_NAMES, type Symbology } from './names';

/** Light modules that must stay clear all round [ISO/IEC 18004, 9.1: four; ISO/IEC 16022, 5.1: one]. */
export const QUIET: Readonly<Record<Symbology, number>> = { qr: 4, datamatrix: 1 };

/** Materials that a beam makes lighter than they are [common practice]. */
const LIGHTENED = /slate|anodi[sz]ed|glass|granite|black|dark/i;

/** Whether what is burned comes out lighter than the rest, so that a code is to be burned where it is light. */
export const burnsLight = (material: string): boolean => LIGHTENED.test(material);

/** A code as it is drawn: one unit a module, y up, from its lower left dark corner on; even-odd rule. */
export interface CodeDrawing {
  /** Modules across and down, without the quiet zone. */
  readonly modules: number;
  /** Round all that is dark, counter-clockwise, and clockwise round what is light in it: the same by either rule. */
  readonly dark: readonly Contour[];
}

type Point = readonly [number, number];

/** Takes the outlines that the writer of a code traces round its dark modules. */
const tracer = () => {
  const contours: Contour[] = [];
  let across = 0;
  const nothing = (): void => {};
  return {
    scale: (): [number, number] => [1, 1],
    measure: () => ({ width: 0, ascent: 0, descent: 0 }),
    init(width: number) {
      across = width;
    },
    polygon(points: readonly Point[]) {
      contours.push(polyline(points.map(([x, y]) => ({ x, y: across - y })), true)); // prettier-ignore
    },
    line: nothing,
    hexagon: nothing,
    ellipse: nothing,
    fill: nothing,
    text: nothing,
    clip: nothing,
    unclip: nothing,
    end: (): CodeDrawing => ({ modules: across, dark: contours }),
  };
};

/** Codes written lately, oldest first: the same are drawn again and again as a batch is changed. */
const written = new Map<string, Result<CodeDrawing>>();
const KEPT = 4_000;

/** Letters of ISO/IEC 8859-1, which every reader takes the bytes of a Data Matrix for. */
const LATIN = /^[\x20-\x7e\xa0-\xff]*$/;

/**
 * What a text is written as. Data Matrix: bytes of Latin letters, since many readers do not look at a mark for others. QR:
 * letters beyond ASCII are marked as UTF-8 [AIM ITS/04-023: ECI 26].
 */
const encoded = (symbology: Symbology, text: string): { text: string; binarytext?: boolean; parsefnc?: boolean } =>
  symbology === 'datamatrix'
    ? { text, binarytext: true }
    : /^[\x20-\x7e]*$/.test(text)
      ? { text }
      : { text: `^ECI000026${text.replaceAll('^', '^^')}`, parsefnc: true };

/** Options that a single symbology has are not in its types. */
const options = (o: RenderOptions & Readonly<Record<string, unknown>>): RenderOptions => ({ ...o, scale: 1 });

const writeAnew = (symbology: Symbology, text: string): Result<CodeDrawing> => {
  if (text.trim() === '') return fail('empty-code', `A ${CODE_NAMES[symbology]} of no text says nothing.`, 'contents');
  if (symbology === 'datamatrix' && !LATIN.test(text))
    return fail('not-latin', `“${text.slice(0, 40)}” has letters that readers of a Data Matrix take for others. Use a QR code.`, 'contents'); // prettier-ignore
  try {
    // A fifth of the code may be lost to scratches and wear; Data Matrix always mends so much by itself.
    return ok(
      symbology === 'qr'
        ? qrcode<CodeDrawing>(options({ bcid: 'qrcode', eclevel: 'M', ...encoded(symbology, text) }), tracer())
        : datamatrix<CodeDrawing>(options({ bcid: 'datamatrix', ...encoded(symbology, text) }), tracer()),
    );
  } catch (error) {
    // So its own complaints of a text begin; anything else is a fault of ours.
    if (!String(error).includes('bwipp.')) throw error;
    return fail(
      'code-too-long',
      `“${text.slice(0, 40)}…” is too long for a ${CODE_NAMES[symbology]}: ${text.length} characters. Shorten it.`,
      'contents',
    );
  }
};

/**
 * Draws a code of a text, as outlines round what is dark.
 *
 * @returns the drawing in modules, or why the text cannot be one: it is empty, too long, or of letters it cannot carry
 * @example writeCode('datamatrix', 'TG-0042') // 12 × 12 modules
 */
export const writeCode = (symbology: Symbology, text: string): Result<CodeDrawing> => {
  const key = `${symbology} ${text}`;
  const found = written.get(key);
  if (found) return found;
  const made = writeAnew(symbology, text);
  if (written.size >= KEPT) written.delete(written.keys().next().value!);
  written.set(key, made);
  return made;
};
