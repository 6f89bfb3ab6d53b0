import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Alphabet } from '@bistre/core';
import { alphabetFromFonts, alphabetFromSvgFont } from '@bistre/core/load';

const resolver = createRequire(import.meta.url);
const OFL = 'SIL Open Font License 1.1';

/** File of an installed package, as bytes of its own. */
const packageFile = (name: string): ArrayBuffer => {
  const bytes = readFileSync(resolver.resolve(name));
  return bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer;
};
const packageText = (name: string): string => readFileSync(resolver.resolve(name), 'utf8');

interface Shipped {
  readonly id: string;
  readonly name: string;
  readonly load: () => Alphabet;
}

const outline = (id: string, name: string, ...files: string[]): Shipped => ({
  id,
  name,
  load: () => alphabetFromFonts(id, name, OFL, files.map(packageFile)),
});
const stroke = (id: string, name: string, licence: string, file: string): Shipped => ({
  id,
  name,
  load: () => alphabetFromSvgFont(id, name, licence, packageText(`hersheytext/svg_fonts/${file}.svg`)),
});

/** Alphabet that labels boards: one stroke, wide language cover. */
export const LABELS = 'readability';

const shipped: readonly Shipped[] = [
  outline('b612-bold', 'B612 Bold', '@fontsource/b612/files/b612-latin-700-normal.woff'),
  outline('b612', 'B612', '@fontsource/b612/files/b612-latin-400-normal.woff'),
  outline(
    'garamond',
    'EB Garamond Medium',
    '@fontsource/eb-garamond/files/eb-garamond-latin-500-normal.woff',
    '@fontsource/eb-garamond/files/eb-garamond-latin-ext-500-normal.woff',
  ),
  outline(
    'barlow',
    'Barlow Condensed Medium',
    '@fontsource/barlow-condensed/files/barlow-condensed-latin-500-normal.woff',
    '@fontsource/barlow-condensed/files/barlow-condensed-latin-ext-500-normal.woff',
  ),
  stroke('readability', 'Readability, single stroke', OFL, 'EMSReadability'),
  stroke('plain', 'Plain, single stroke', 'Hershey fonts, free with their notice', 'HersheySans1'),
  stroke('script', 'Script, single stroke', 'Hershey fonts, free with their notice', 'HersheyScript1'),
];

const loaded = new Map<string, Alphabet>();

/** An alphabet that ships with Bistre; parsed once. */
export const alphabet = (id: string): Alphabet | null => {
  const before = loaded.get(id);
  if (before) return before;
  const found = shipped.find((s) => s.id === id)?.load() ?? null;
  if (found) loaded.set(id, found);
  return found;
};

export const alphabetList = (): { id: string; name: string; kind: Alphabet['kind']; licence: string }[] =>
  shipped.map(({ id }) => {
    const { name, kind, licence } = alphabet(id)!;
    return { id, name, kind, licence };
  });

/** The alphabets a setup needs: those of its lines and the one for labels. */
export const alphabetsFor = (ids: readonly string[]): Record<string, Alphabet> =>
  Object.fromEntries(
    [...new Set([...ids, LABELS])].flatMap((id) => {
      const found = alphabet(id);
      return found ? [[id, found]] : [];
    }),
  );
