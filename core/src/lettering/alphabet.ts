import type { Vec } from '../geometry';

/**
 * An engraving alphabet with every measure in cap heights: a capital H is 1 high, the baseline is
 * at 0, y runs up. `outline` glyphs are closed and filled, `stroke` glyphs are open lines.
 */
export interface Alphabet {
  readonly id: string;
  readonly name: string;
  readonly kind: 'outline' | 'stroke';
  readonly licence: string;
  readonly glyphs: Readonly<Record<string, Glyph>>;
  /** Extra advance for a pair of characters, cap heights; key is the two characters together. */
  readonly kern: Readonly<Record<string, number>>;
}

export interface Glyph {
  readonly advance: number;
  /** Polylines as flat lists x, y, x, y, … */
  readonly lines: readonly (readonly number[])[];
}

/** Characters of a text as they are set: composed form, white space as plain spaces. */
export const characters = (text: string): string[] => [...text.normalize('NFC').replace(/\s+/g, ' ').trim()];

/** Characters an alphabet cannot set, each once, in order of appearance. */
export const missingGlyphs = (alphabet: Alphabet, text: string): string[] =>
  [...new Set(characters(text))].filter((c) => !Object.hasOwn(alphabet.glyphs, c));

/** Width of a set line in cap heights: from the first glyph's origin to the last one's advance. */
export const setWidth = (alphabet: Alphabet, text: string): number => {
  let width = 0;
  let before = '';
  for (const c of characters(text)) {
    const glyph = alphabet.glyphs[c];
    if (!glyph) continue;
    width += glyph.advance + (alphabet.kern[before + c] ?? 0);
    before = c;
  }
  return width;
};

const extents = new WeakMap<Glyph, { top: number; bottom: number }>();

const glyphExtent = (glyph: Glyph): { top: number; bottom: number } => {
  const known = extents.get(glyph);
  if (known) return known;
  let top = 0;
  let bottom = 0;
  for (const line of glyph.lines) {
    for (let i = 1; i < line.length; i += 2) {
      top = Math.max(top, line[i]!);
      bottom = Math.min(bottom, line[i]!);
    }
  }
  const extent = { top, bottom };
  extents.set(glyph, extent);
  return extent;
};

/** Highest and lowest point of the ink of a text in cap heights; zeros for an empty text. */
export const inkExtent = (alphabet: Alphabet, text: string): { top: number; bottom: number } => {
  let top = 0;
  let bottom = 0;
  for (const c of characters(text)) {
    const glyph = alphabet.glyphs[c];
    if (!glyph) continue;
    const extent = glyphExtent(glyph);
    top = Math.max(top, extent.top);
    bottom = Math.min(bottom, extent.bottom);
  }
  return { top, bottom };
};

/**
 * The polylines of a line of text.
 * @param origin left end of the baseline, mm
 * @param capHeight mm
 * @param squeeze horizontal factor, 1 for the natural width
 */
export const setText = (alphabet: Alphabet, text: string, origin: Vec, capHeight: number, squeeze = 1): Vec[][] => {
  const out: Vec[][] = [];
  const kx = capHeight * squeeze;
  let pen = 0;
  let before = '';
  for (const c of characters(text)) {
    const glyph = alphabet.glyphs[c];
    if (!glyph) continue;
    pen += alphabet.kern[before + c] ?? 0;
    for (const line of glyph.lines) {
      const points: Vec[] = [];
      for (let i = 0; i + 1 < line.length; i += 2) {
        points.push({ x: origin.x + (pen + line[i]!) * kx, y: origin.y + line[i + 1]! * capHeight });
      }
      out.push(points);
    }
    pen += glyph.advance;
    before = c;
  }
  return out;
};
