import fc from 'fast-check';
import { bothUnits, duration } from './format';
import { parseAngle, parseCapacity, parseInterval, parseLength, parseSpeed } from './parse';

const mm = (text: string, unit: 'mm' | 'in' = 'mm'): number => {
  const read = parseLength(text, unit);
  if (!read.ok) throw new Error(read.problem.message);
  return read.value.mm;
};

describe('lengths as typed at the bench', () => {
  it.each([
    ['10 7/8 in', 276.225],
    ['10-7/8 in', 276.225],
    ['4 1/4"', 107.95],
    ['276.2', 276.2],
    ['276,2 mm', 276.2],
    ['.3in', 7.62],
    ['27.6 cm', 276],
    ['1/4"', 6.35],
    ['2½ in', 63.5],
    ['−3', -3],
    ['0.5 m', 500],
  ])('%s', (text, value) => {
    expect(mm(text)).toBeCloseTo(value, 9);
  });
  it('applies the shop’s unit to bare numbers only', () => {
    expect(mm('2', 'in')).toBe(50.8);
    expect(mm('2 mm', 'in')).toBe(2);
  });
  it.each([
    ['', 'empty'],
    ['abc', 'not-a-length'],
    ['5 furlongs', 'unknown-unit'],
    ['3/0', 'zero-division'],
    ['1e400', 'unknown-unit'],
    ['99999999999', 'out-of-range'],
    ['1,234.5', 'not-a-length'],
  ])('%j is refused as %s', (text, code) => {
    const read = parseLength(text);
    expect(read.ok).toBe(false);
    if (!read.ok) expect(read.problem.code).toBe(code);
  });
  it('never throws and never gives a number that is not finite', () => {
    fc.assert(
      fc.property(fc.string(), (text) => {
        const read = parseLength(text);
        return !read.ok || Number.isFinite(read.value.mm);
      }),
    );
  });
  it('reads back what it writes', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.01, max: 5000, noNaN: true }),
        (value) => Math.abs(mm(`${value.toFixed(4)} mm`) - value) < 1e-4,
      ),
    );
  });
  it('shows both units', () => expect(bothUnits(60)).toBe('60.00 mm = 2.3622 in'));
});

describe('other units', () => {
  it('reads speeds', () => {
    expect(parseSpeed('600 mm/min')).toEqual({ ok: true, value: 10 });
    expect(parseSpeed('10 in/s')).toEqual({ ok: true, value: 254 });
    expect(parseSpeed('fast').ok).toBe(false);
  });
  // Lines per inch to interval: 25.4 / n.
  it.each([
    ['225 lpi', 0.11289],
    ['254 lpi', 0.1],
    ['300 dpi', 0.08467],
    ['500 lpi', 0.0508],
    ['0.1', 0.1],
  ])('reads density %s', (text, value) => {
    const read = parseInterval(text);
    expect(read.ok && read.value).toBeCloseTo(value, 5);
  });
  it.each([
    ['67 fl oz', 1.981426],
    ['67 US fl. oz', 1.981426],
    ['20 oz', 0.591471],
    ['20 imp fl oz', 0.568261],
    ['750 ml', 0.75],
    ['75cl', 0.75],
    ['1/2 l', 0.5],
    ['0,33', 0.33],
  ])('reads what a vessel holds: %s', (text, litres) => {
    // 128 US fluid ounces are a gallon of 231 in³ = 3.785411784 l; 160 imperial ones one of 4.54609 l.
    const read = parseCapacity(text);
    expect(read.ok && read.value).toBeCloseTo(litres, 5);
  });
  it('says what it does not know of', () => {
    expect([3.785411784 / 128, 4.54609 / 160].map((v) => v.toFixed(7))).toEqual(['0.0295735', '0.0284131']);
    for (const [text, words] of [
      ['67 gills', 'not a unit of capacity'],
      ['much', 'not a capacity'],
      ['3 imp', 'not a unit of capacity'],
    ] as const) {
      const read = parseCapacity(text);
      expect(!read.ok && read.problem.message).toContain(words);
    }
  });
  it('reads angles', () => expect(parseAngle('90°')).toEqual({ ok: true, value: Math.PI / 2 }));
  it('writes durations', () =>
    expect([duration(4.2), duration(75), duration(3725)]).toEqual(['4.2 s', '1 min 15 s', '1 h 02 min']));
});
