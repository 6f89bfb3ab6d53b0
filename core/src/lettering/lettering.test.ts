import { outlineAlphabet, strokeAlphabet } from '../test-alphabets';
import { characters, inkExtent, missingGlyphs, setText, setWidth } from './alphabet';
import { fitLettering, letteringLines, type FitRules } from './fit';

const rules: FitRules = {
  width: 47,
  height: 19,
  gap: 1.5,
  narrowest: 0.8,
  smallest: 1.5,
  across: 'centre',
  down: 'middle',
};
const styles = [
  { column: 'name', alphabet: outlineAlphabet, capHeight: 6 },
  { column: 'seat', alphabet: outlineAlphabet, capHeight: 3 },
];

const ink = (
  lines: readonly (readonly { x: number; y: number }[])[],
): { minX: number; maxX: number; minY: number; maxY: number } => {
  const all = lines.flat();
  return {
    minX: Math.min(...all.map((p) => p.x)),
    maxX: Math.max(...all.map((p) => p.x)),
    minY: Math.min(...all.map((p) => p.y)),
    maxY: Math.max(...all.map((p) => p.y)),
  };
};

describe('alphabets', () => {
  it.each([outlineAlphabet, strokeAlphabet])('$name: a capital is as tall as it is said to be', (alphabet) => {
    const box = ink(setText(alphabet, 'H', { x: 0, y: 0 }, 10));
    expect(box.maxY - box.minY).toBeCloseTo(10, 2);
    expect(Math.abs(box.minY)).toBeLessThan(0.05);
  });
  it('composes accents and tidies white space', () =>
    expect(characters('  Re\u0301n   e ')).toEqual(['R', 'é', 'n', ' ', 'e']));
  it('names characters it cannot set, each once: emoji, right-to-left, the rest', () => {
    expect(missingGlyphs(outlineAlphabet, 'ANNA 🚣🚣')).toEqual(['🚣']);
    expect(missingGlyphs(outlineAlphabet, 'שלום').length).toBe(4);
    expect(missingGlyphs(outlineAlphabet, 'ZOË Ø')).toEqual([]);
  });
  it('keeps prototype names out of the glyph table', () =>
    expect(missingGlyphs({ ...outlineAlphabet, glyphs: {} }, 'a')).toEqual(['a']));
});

describe('fitting', () => {
  it('sets all names at one height where they allow it', () => {
    const fit = fitLettering(
      styles,
      [
        ['KESTREL', 'LANE 1'],
        ['KNOT', 'LANE 2'],
      ],
      rules,
    );
    expect(fit.exceptions).toEqual([]);
    expect(new Set(fit.pieces.map((p) => p.lines[0]!.capHeight))).toEqual(new Set([6]));
  });
  it('sets a long name narrower first, then smaller, and lists both', () => {
    const fit = fitLettering(
      styles,
      [
        ['OYSTERCATCHER', 'A'],
        ['GREAT NORTHERN DIVER OF THE SOUND', 'B'],
        ['KNOT', 'C'],
      ],
      rules,
    );
    expect(fit.exceptions.map((e) => [e.piece, e.kind])).toEqual([
      [1, expect.stringMatching(/narrower|smaller/)],
      [2, 'smaller'],
    ]);
    expect(fit.pieces[2]!.lines[0]!.squeeze).toBe(1);
    for (const piece of fit.pieces) for (const l of piece.lines) expect(l.squeeze).toBeGreaterThanOrEqual(0.8);
  });
  it('refuses what would be too small to read, by name', () => {
    const fit = fitLettering(styles, [['A'.repeat(190), 'x']], rules);
    expect(fit.exceptions[0]).toMatchObject({ kind: 'does-not-fit', piece: 1 });
    expect(fit.exceptions[0]!.message).toContain('smallest allowed is 1.50 mm');
  });
  it('keeps all ink, descenders and accents too, inside the zone', () => {
    const texts = [
      ['Ågjpqy', 'gypsy'],
      ['ÉÅÛ', 'ŷ'.normalize()],
      ['WHIMBREL OF THE FAR SOUND', 'jug'],
    ];
    const known = texts.map((t) =>
      t.map((x) => [...x].filter((c) => missingGlyphs(outlineAlphabet, c).length === 0).join('')),
    );
    for (const height of [19, 12, 9]) {
      const fit = fitLettering(styles, known, { ...rules, height });
      for (const piece of fit.pieces) {
        const box = ink(letteringLines(styles, piece).map((l) => l.points));
        expect(box.minY).toBeGreaterThanOrEqual(-height / 2 - 1e-6);
        expect(box.maxY).toBeLessThanOrEqual(height / 2 + 1e-6);
        expect(box.maxX - box.minX).toBeLessThanOrEqual(47.5);
      }
    }
  });
  it('says that a zone is too low', () =>
    expect(fitLettering(styles, [['A', 'B']], { ...rules, height: 2.5 }).problem?.code).toBe('zone-too-low'));
  it('sets nothing at all rather than leaving a glyph out', () => {
    const fit = fitLettering(styles, [['ANNA 🚣', 'LANE 1']], rules);
    expect(fit.pieces[0]!.lines.map((l) => l.text)).toEqual(['LANE 1']);
    expect(fit.exceptions[0]!.kind).toBe('missing-glyph');
  });
  it('measures what it sets', () => {
    const box = ink(setText(strokeAlphabet, 'MINIM', { x: 0, y: 0 }, 10));
    expect(setWidth(strokeAlphabet, 'MINIM') * 10).toBeGreaterThan(box.maxX - box.minX);
    expect(inkExtent(strokeAlphabet, '')).toEqual({ top: 0, bottom: 0 });
  });
});
