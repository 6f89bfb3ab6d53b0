import {
  DataMatrixReader,
  BinaryBitmap,
  DecodeHintType,
  HybridBinarizer,
  QRCodeReader,
  RGBLuminanceSource,
} from '@zxing/library';
import fc from 'fast-check';
import { insidePolygon, polygonArea, type Contour } from '../geometry';
import { SYMBOLOGIES, writeCode, type Symbology } from '.';

const inside = (dark: readonly Contour[], x: number, y: number): boolean =>
  dark.filter((c) => insidePolygon({ x, y }, c.vertices)).length % 2 === 1;

/** What a reader of codes makes of one that is drawn with so many dots to the module, in a clear rim of four modules. */
const readBack = (symbology: Symbology, text: string): string => {
  const code = writeCode(symbology, text);
  if (!code.ok) throw new Error(code.problem.message);
  const { modules, dark } = code.value;
  const [dots, rim] = [4, 4];
  const side = (modules + 2 * rim) * dots;
  const grey = new Uint8ClampedArray(side * side).fill(255);
  for (let y = 0; y < modules; y += 1)
    for (let x = 0; x < modules; x += 1)
      if (inside(dark, x + 0.5, modules - y - 0.5))
        for (let row = 0; row < dots; row += 1) {
          const from = ((y + rim) * dots + row) * side + (x + rim) * dots;
          grey.fill(0, from, from + dots);
        }
  const reader = symbology === 'qr' ? new QRCodeReader() : new DataMatrixReader();
  const pure = new Map<DecodeHintType, unknown>([[DecodeHintType.PURE_BARCODE, true]]);
  return reader.decode(new BinaryBitmap(new HybridBinarizer(new RGBLuminanceSource(grey, side, side))), pure).getText();
};

describe('codes', () => {
  // Smallest symbols: ISO/IEC 18004 table 7, version 1-M takes 20 letters and digits or 34 digits; ISO/IEC 16022 table 7, 10 × 10 takes 6 digits.
  test.each([
    ['qr', '1'.repeat(34), 21],
    ['qr', '1'.repeat(35), 25],
    ['qr', 'A'.repeat(20), 21],
    ['qr', 'A'.repeat(21), 25],
    ['datamatrix', '123456', 10],
    ['datamatrix', '1234567', 12],
    ['datamatrix', 'TG-0042', 12],
  ] as const)('%s of %s is %d modules wide', (symbology, text, modules) => {
    const code = writeCode(symbology, text);
    expect(code.ok && code.value.modules).toBe(modules);
  });

  // ISO/IEC 18004, 6.3.3: finder patterns at three corners, 7 × 7 dark, 5 × 5 light, 3 × 3 dark.
  test('a QR code has its finders at the top and at the lower left', () => {
    const code = writeCode('qr', 'SKERRY');
    if (!code.ok) throw new Error();
    const { dark, modules } = code.value;
    for (const [x, y] of [
      [0, modules - 7],
      [modules - 7, modules - 7],
      [0, 0],
    ] as const)
      // prettier-ignore
      for (let i = 0; i < 7; i += 1)
        for (let j = 0; j < 7; j += 1) {
          const ring = Math.max(Math.abs(i - 3), Math.abs(j - 3));
          expect(inside(dark, x + i + 0.5, y + j + 0.5)).toBe(ring !== 2);
        }
    expect(inside(dark, modules - 3.5, 3.5) && inside(dark, modules - 1.5, 0.5) && inside(dark, modules - 6.5, 6.5)).toBe(false); // prettier-ignore
  });

  // ISO/IEC 16022, 5.2: a solid edge at the left and at the foot, alternating at the top and at the right.
  test('a Data Matrix has its solid corner at the lower left', () => {
    const code = writeCode('datamatrix', 'SKERRY');
    if (!code.ok) throw new Error();
    const { dark, modules } = code.value;
    for (let i = 0; i < modules; i += 1) {
      expect(inside(dark, 0.5, i + 0.5)).toBe(true);
      expect(inside(dark, i + 0.5, 0.5)).toBe(true);
      expect(inside(dark, i + 0.5, modules - 0.5)).toBe(i % 2 === 0);
      expect(inside(dark, modules - 0.5, i + 0.5)).toBe(i % 2 === 0);
    }
  });

  test.each(SYMBOLOGIES)('what is written as %s is what a reader reads', (symbology) => {
    const texts = ['TG-0042', 'https://skerry.example/boat/17?crew=4', 'Möwe ^ Größe', '0000123', 'a'.repeat(150)]; // prettier-ignore
    for (const text of texts) expect(readBack(symbology, text)).toBe(text);
    if (symbology === 'qr') expect(readBack('qr', 'Lane 3 · 日本')).toBe('Lane 3 · 日本');
    const some = fc.string({ minLength: 1, maxLength: 60, unit: fc.constantFrom(...'ABCxyz0189 -./:?=^~\\%+') });
    fc.assert(
      fc.property(
        some.filter((t) => t.trim() !== ''),
        (text) => readBack(symbology, text) === text,
      ),
      { numRuns: 40 },
    );
  });

  // A fill by the non-zero rule, as most drawings are filled by, must be that of the even-odd rule.
  test.each(SYMBOLOGIES)('%s goes counter-clockwise round what is dark', (symbology) => {
    const code = writeCode(symbology, 'SKERRY SOUND 2027');
    if (!code.ok) throw new Error();
    const { dark, modules } = code.value;
    const windings = (x: number, y: number): number =>
      dark
        .filter((c) => insidePolygon({ x, y }, c.vertices))
        .reduce((n, c) => n + Math.sign(polygonArea(c.vertices)), 0);
    for (let x = 0; x < modules; x += 1)
      for (let y = 0; y < modules; y += 1)
        expect(windings(x + 0.5, y + 0.5)).toBe(inside(dark, x + 0.5, y + 0.5) ? 1 : 0);
  });

  test('a text that is no code is refused in words', () => {
    expect(writeCode('qr', ' ')).toMatchObject({ ok: false, problem: { code: 'empty-code' } });
    expect(writeCode('datamatrix', '日本')).toMatchObject({ ok: false, problem: { code: 'not-latin' } });
    expect(writeCode('datamatrix', 'x'.repeat(3_000))).toMatchObject({
      ok: false,
      problem: { code: 'code-too-long', message: expect.stringContaining('3000 characters') },
    });
  });
});
