import fc from 'fast-check';
import { fieldAt, inRange, wholeNumber, type NumberField, type Reads } from '@bistre/contract';
import { z } from 'zod';
import { readNumber, takeNumber, writeNumber } from './number';

const form = z.object({
  gap: inRange('Gap', 0, 200, 'mm'),
  speed: inRange('Speed', 0.1, 10_000, 'mm/s'),
  interval: inRange('Line interval', 0.005, 5, 'mm', { reads: 'interval' }),
  power: inRange('Power', 0, 1, '', { reads: 'percent' }),
  turn: inRange('Angle', -7, 7, 'rad'),
  passes: wholeNumber('Passes', 1, 50),
  steps: inRange('Steps', 1, 1e7),
  holds: inRange('Stated capacity', 0.001, 500, 'l'),
  floor: inRange('To the floor', 0, 3000, 'mm', { empty: 'Empty: it stays.' }).nullable(),
});
const field = (name: keyof typeof form.shape) => fieldAt(form, name, {}) as NumberField;

describe('a number as it is typed', () => {
  // 25.4 mm to the inch exactly; 1 in/s and 1 m/min follow; 254 lines to the inch are 25.4 / 254 mm apart.
  it.each([
    ['gap', '1 1/2"', 38.1, '38.10 mm = 1.5000 in'],
    ['gap', '3,5', 3.5, null],
    ['gap', '1 cm', 10, '10.00 mm = 0.3937 in'],
    ['speed', '1 in/s', 25.4, '25.40 mm/s'],
    ['speed', '6000 mm/min', 100, '100.00 mm/s'],
    ['interval', '254 lpi', 0.1, '0.10000 mm'],
    ['power', '35 %', 0.35, null],
    // A US gallon of 231 in³ has 128 fluid ounces.
    ['holds', '64 fl oz', 1.892705892, '1.893 l'],
    ['holds', '0.75', 0.75, null],
    ['power', '35', 0.35, null],
    ['turn', '90°', Math.PI / 2, null],
    ['passes', '3', 3, null],
    ['steps', '6400', 6400, null],
  ] as const)('%s “%s” is %d, and says %p', (name, text, value, note) => {
    const taken = takeNumber(field(name), text);
    expect(taken).toMatchObject({ kind: 'value', note });
    expect(taken.kind === 'value' && taken.value).toBeCloseTo(value, 10);
  });

  it.each([
    ['gap', '-1', 'Gap must be a number between 0 and 200 mm.'],
    ['gap', '2 furlongs', /furlongs/],
    ['power', '135', 'Power must be a number between 0 and 100 %.'],
    ['holds', '67 gills', /not a unit of capacity/],
    ['passes', '2.5', 'Passes must be a whole number between 1 and 50.'],
    ['steps', 'many', '“many” is not a number.'],
  ] as const)('%s refuses “%s” and says why', (name, text, why) => {
    const taken = takeNumber(field(name), text);
    expect(taken.kind).toBe('refused');
    expect(taken.kind === 'refused' && taken.why).toMatch(why);
  });

  it.each([
    ['length', '3 in', 76.2],
    ['length', '2 1/8"', 53.975],
    ['percent', '70', 0.7],
    ['percent', '14', 0.14],
  ] as const)('%s “%s” leaves nothing of binary fractions behind', (reads, text, value) => {
    expect(readNumber(reads, text)).toEqual({ ok: true, value });
  });

  it('is nothing in an empty field, where nothing is a value', () => {
    expect(takeNumber(field('gap'), '  ')).toEqual({ kind: 'empty' });
    expect(takeNumber(field('floor'), '')).toEqual({ kind: 'value', value: null, note: 'Empty: it stays.' });
  });

  it('is written so that it is read again as it was, to the digits shown', () => {
    const kinds: readonly (readonly [Reads, number])[] = [
      ['length', 5e-4],
      ['speed', 5e-4],
      ['interval', 5e-6],
      ['angle', (0.05 * Math.PI) / 180],
      ['percent', 5e-6],
      ['number', 5e-6],
    ];
    fc.assert(
      fc.property(
        fc.constantFrom(...kinds),
        fc.double({ min: -900, max: 900, noNaN: true }),
        ([reads, near], value) => {
          const read = readNumber(reads, writeNumber(reads, value));
          // A speed or an interval below zero is not read at all: it is refused.
          if (value < 0 && (reads === 'speed' || reads === 'interval')) return;
          if (!read.ok) return void expect(Math.abs(value)).toBeLessThan(near);
          expect(Math.abs(read.value - value)).toBeLessThanOrEqual(near * 1.001 + 1e-9);
        },
      ),
    );
    expect([writeNumber('length', null), writeNumber('angle', Math.PI / 2)]).toEqual(['', '90']);
  });
});
