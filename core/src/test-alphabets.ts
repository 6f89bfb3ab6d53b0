import { readFileSync } from 'node:fs';
import type { Alphabet } from './lettering';
import { alphabetFromFonts, alphabetFromSvgFont } from './lettering/load';

/** Alphabets for tests, read from the packages that ship them. */
const bytes = (name: string): ArrayBuffer => {
  const file = readFileSync(require.resolve(name));
  return file.buffer.slice(file.byteOffset, file.byteOffset + file.byteLength) as ArrayBuffer;
};

export const outlineAlphabet: Alphabet = alphabetFromFonts('b612-bold', 'B612 Bold', 'OFL', [
  bytes('@fontsource/b612/files/b612-latin-700-normal.woff'),
]);
export const strokeAlphabet: Alphabet = alphabetFromSvgFont(
  'readability',
  'Readability',
  'OFL',
  readFileSync(require.resolve('hersheytext/svg_fonts/EMSReadability.svg'), 'utf8'),
);
export const testAlphabets = { 'b612-bold': outlineAlphabet, readability: strokeAlphabet };
