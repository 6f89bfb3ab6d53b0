import { execFileSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { plain, say, start } from './paper';

const resolver = createRequire(import.meta.url);
interface Face {
  hasGlyphForCodePoint(point: number): boolean;
}
const { create } = createRequire(resolver.resolve('pdfkit'))('fontkit') as { create: (bytes: Buffer) => Face };
const face = (file: string): Face => create(readFileSync(resolver.resolve(`@fontsource/${file}-normal.woff`)));

/** Every sign that stands in a sentence or a formula of the core. */
const signs = (): string[] => {
  const root = join(import.meta.dirname, '../../../core/src');
  const found = new Set<string>();
  for (const file of readdirSync(root, { recursive: true, encoding: 'utf8' }))
    if (/\.ts$/.test(file) && !/test/.test(file))
      for (const [, text] of readFileSync(join(root, file), 'utf8').matchAll(/[`'"]([^`'"\n]*)[`'"]/g))
        for (const sign of plain(text!)) found.add(sign);
  return [...found].filter((c) => c.codePointAt(0)! > 126);
};

describe('signs on paper', () => {
  it.each([400, 700])(
    'every sign of the core is in a typeface of weight %i, or written so that it reads the same',
    (weight) => {
      const [text, greek] = [face(`b612/files/b612-latin-${weight}`), face(`eb-garamond/files/eb-garamond-greek-${weight}`)]; // prettier-ignore
      const lost = signs().filter((c) => !text.hasGlyphForCodePoint(c.codePointAt(0)!) && !greek.hasGlyphForCodePoint(c.codePointAt(0)!)); // prettier-ignore
      expect(lost).toEqual([]);
    },
  );

  it('a formula reads as it is written: θ, σ, χ² and Σ are on the page', async () => {
    const { doc, done } = start('signs');
    say(doc, 'θ = asin(D / 2R), σ√(1 + 1/n), x̄ ± R̄, ȳ⁴, χ² = Σ(r/σ)², ± 3 · 10⁻⁷ → −0.5 ≤ ν', { bold: true });
    say(doc, 'next line');
    doc.end();
    const text = execFileSync('pdftotext', ['-layout', '-', '-'], { input: await done }).toString();
    expect(text.replace(/\s+/g, ' ')).toContain(
      'θ = asin(D / 2R), σsqrt (1 + 1/n), mean x ± mean R, mean y^4, χ² = Σ(r/σ)², ± 3 · 10^-7 to -0.5 <= ν',
    );
    expect(text).toMatch(/\nnext line/);
  });
});
