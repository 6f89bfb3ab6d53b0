import * as fc from 'fast-check';
import { Moves, type FilledRow } from '../burn';
import { readGcode } from './gcode-read';
import { LineBuffer, linesOf } from './line-buffer';
import { turningChunks, type TurningJob } from './turning';

type Letter = 'Y' | 'A' | 'B' | 'C';
const program = (text: string, letter: Letter = 'Y') => {
  const read = readGcode(text, 1000, letter);
  if (!read.ok) throw new Error(read.problem.message);
  return read.value;
};
/** Place, speed, power and bulge of each move, rounded to 1e-6. */
const moves = (text: string, letter?: Letter): number[][] => {
  const { moves: m } = program(text, letter);
  const six = (v: number): number => Math.round(v * 1e6) / 1e6;
  return Array.from({ length: m.count }, (_, i) =>
    [m.x[i]!, m.y[i]!, m.speed[i]!, m.power[i]!, m.bulge[i]!].map((v) => six(v)),
  );
};
const refusal = (text: string): string => {
  const read = readGcode(text, 1000);
  return read.ok ? 'read' : read.problem.message;
};
/** A bulge is the tangent of a quarter of the sweep. */
const bulge = (degrees: number): number => Math.round(Math.tan((degrees * Math.PI) / 720) * 1e6) / 1e6;

// RS-274 (NIST IR 6556), sections 3.3 to 3.6: order of words on a line does not matter, letters of either case.
describe('a program is read as RS-274 says', () => {
  it('a rapid has no beam, though it is on', () =>
    expect(moves('M3 S800\nG0 X1 Y2\nG1 X3 F600')).toEqual([
      [1, 2, -1, 0, 0],
      [3, 2, 10, 0.8, 0],
    ]));

  it.each([
    ['M3', 0.5],
    ['M4', 0.5],
    ['M5', 0],
    ['M2', 0],
    ['M30', 0],
  ])('after %s the beam burns at %d', (word, power) => {
    expect(moves(`M3 S500\n${word}\nG1 X1 F60`)).toEqual([[1, 0, 1, power, 0]]);
    expect(moves(`S500\n${word}\nG1 X1 F60`)).toEqual([[1, 0, 1, power, 0]]);
  });

  it('places are absolute after G90, by the way after G91, and absolute again', () =>
    expect(moves('G91\nG0X1Y1\nX1Y1\nG90\nX5\nY0').map(([x, y]) => [x, y])).toEqual([[1, 1], [2, 2], [5, 2], [5, 0]])); // prettier-ignore

  it('inches are 25.4 mm, in places, feeds and middles of arcs, until G21', () =>
    expect(moves('G20 F60\nG1 X1\nG3 X0 Y1 I-1 J0\nG21\nG1 X10 Y0 F60')).toEqual([
      [25.4, 0, 25.4, 0, 0],
      [0, 25.4, 25.4, 0, bulge(90)],
      [10, 0, 1, 0, 0],
    ]));

  it.each([
    ['G3 X0 Y10 I-10 J0', bulge(90)],
    ['G2 X0 Y10 I-10 J0', -bulge(270)],
    ['G3 X-10 Y0 I-10', bulge(180)],
    ['G2 X-10 Y0 I-10', -bulge(180)],
    ['G3 X0 Y-10 I-10 J0', bulge(270)],
    ['G2 X0 Y-10 I-10 J0', -bulge(90)],
  ])('an arc from (10, 0): %s', (line, expected) =>
    expect(moves(`F60\nG0X10Y0\n${line}`)[1]![4]).toBeCloseTo(expected, 5),
  );

  it('an arc may have one word for its middle, and has to have one', () => {
    expect(moves('F60\nG3 X0 Y2 J1')[0]![4]).toBeCloseTo(1, 6);
    expect(refusal('F60\nG1X1\nG2 X5')).toBe('Line 3: an arc has no I or J.');
  });

  it('a dwell is no motion: what follows goes on as before it', () =>
    expect(moves('F60\nG1 X1\nG4 P2\nX2')).toEqual([
      [1, 0, 1, 0, 0],
      [2, 0, 1, 0, 0],
    ]));

  it('under G93 a move takes its share of a minute, until G94', () =>
    // 50 mm twice a second.
    expect(moves('G93\nG1 A30 X40 F120\nG94\nG1 X60 F60', 'A')).toEqual([
      [40, 30, 100, 0, 0],
      [60, 30, 1, 0, 0],
    ]));

  it('small letters, comments, line numbers and spaces change nothing', () =>
    expect(moves('n10 g1 x 1 (to the left) f60 ; slow\nN20a90', 'A')).toEqual([
      [1, 0, 1, 0, 0],
      [1, 90, 1, 0, 0],
    ]));

  it('counts its lines, and names those with words it does not act on', () => {
    const { lines, ignored } = program('G21\nG17 G54\nG1 x1 f60 z2\nM48\nG43\nS5');
    expect([lines, ignored]).toEqual([6, [3, 4, 5]]);
  });

  it.each([
    ['G1 X1', 'Line 1: a feed move before any F word.'],
    ['G21\nX', 'Line 2: X has no number.'],
    ['G21\n\nG1 (open', 'Line 3: a comment is not closed.'],
    ['%', 'Line 1: “%” is not a word of G-code.'],
    ['[', 'Line 1: “[” is not a word of G-code.'],
    ['@', 'Line 1: “@” is not a word of G-code.'],
  ])('refuses %j by line', (text, message) => expect(refusal(text)).toBe(message));

  it('knows signs and points of numbers', () =>
    expect(moves('G0 X+1.5 Y-.25\nX-2. Y007').map(([x, y]) => [x, y])).toEqual([[1.5, -0.25], [-2, 7]])); // prettier-ignore
});

describe('lines as bytes', () => {
  const number = (units: number, decimals: number): string =>
    (units / 10 ** decimals).toFixed(decimals).replace(/(\.\d*?)0+$/, '$1').replace(/\.$/, ''); // prettier-ignore

  it('have numbers in their shortest form, as JavaScript writes them', () =>
    fc.assert(
      fc.property(
        fc.oneof(fc.integer({ min: -200_000_000, max: 200_000_000 }), fc.integer({ min: -20_000, max: 20_000 })),
        fc.integer({ min: 0, max: 9 }),
        (units, decimals) => {
          const out = new LineBuffer(64);
          out.word(88, units, decimals);
          out.end();
          expect(out.take()).toBe(`X${number(units, decimals)}\n`.replace('X-0\n', 'X0\n'));
        },
      ),
    ));

  it.each([9_999, 10_000, 99_999_999, 100_000_000, 100_010_000, 1_000, 12_300])(
    '%d units, whole or in parts',
    (units) => {
      for (const decimals of [0, 3, 4]) {
        const out = new LineBuffer(64);
        out.word(89, units, decimals);
        expect(out.take()).toBe(`Y${number(units, decimals)}`);
      }
    },
  );

  it('make room for what is longer than they thought', () => {
    for (const length of [1, 255, 256, 257, 511, 512, 5_000, 60_000]) {
      const out = new LineBuffer(64);
      for (let i = 0; i < 3; i += 1) out.line('x'.repeat(length));
      expect(out.length).toBe(3 * (length + 1));
      expect(out.full).toBe(3 * (length + 1) >= 64);
      expect(out.take()).toBe(`${'x'.repeat(length)}\n`.repeat(3));
      expect(out.take()).toBe('');
    }
  });

  it('are copied by turns from two lists, however unlike their lengths', () => {
    const list = (letter: string, width: number) => linesOf(7, (out, n) => out.line(letter.repeat(n * width + 1)));
    for (const count of [1, 2, 50, 700]) {
      const lists = [list('a', 1), list('b', 40)] as const;
      const which = Int32Array.from({ length: count }, (_, i) => (i * 5) % 7);
      const out = new LineBuffer(64);
      out.line('first');
      out.copied(which, count, lists);
      out.line('last');
      const expected = Array.from(which, (n, i) => (i % 2 === 0 ? 'a' : 'b').repeat(n * (i % 2 === 0 ? 1 : 40) + 1));
      expect(out.take()).toBe(`${['first', ...expected, 'last'].join('\n')}\n`);
    }
  });
});

describe('a picture’s line, copied from words written before', () => {
  const job: TurningJob = {
    title: 'flask',
    notes: [],
    dialect: { powerMax: 1000, laserOn: 'M4', arcs: true, decimals: 3 },
    axis: { letter: 'Y', unit: 'mm' },
    perMm: 1,
    alongPerMm: 1,
    idleSpeed: 20,
    rapidSpeed: 300,
  };
  const row = (spans: number[], forward: boolean, y: number, grid: FilledRow['grid']): FilledRow => ({
    spans: grid ? spans : spans.map((s) => s * 0.125),
    grid,
    y,
    setting: { speed: 200, power: 0.4, passes: 1 } as FilledRow['setting'],
    lead: 2.5,
    forward,
  });
  const text = (rows: FilledRow[], change: Partial<TurningJob> = {}): string =>
    [...turningChunks(rows, { ...job, ...change })].join('');

  it('is the very same as one that was written move by move, there and back', () =>
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 3, max: 400 }), { minLength: 2, maxLength: 240 }), (places) => {
        const spans = places.sort((a, b) => a - b).slice(0, places.length - (places.length % 2));
        const grid = { pitch: 0.125, first: 3, last: 400 };
        const both = (g: FilledRow['grid']) => [row(spans, true, 10, g), row(spans, false, 10.1, g), row(spans, true, 10.2, g)]; // prettier-ignore
        expect(text(both(grid))).toBe(text(both(null)));
      }),
      { numRuns: 30 },
    ));

  it('begins at the zero, goes along by a rapid and back even from half a millimetre', () => {
    const made = new Moves();
    made.rapid(10, 0);
    made.push(20, 0, 100, 0.5);
    made.rapid(5, 0);
    made.push(5, 0.5, 10, 0);
    expect([...turningChunks([made], job)].join('').trim().split('\n').slice(10)).toEqual([
      'G1X10Y0F18000',
      'X20F6000S500',
      'S0',
      'G0X5',
      'G1Y0.5F600',
      'S0',
      'M5',
      'G94',
      'G0X0',
      'G1Y0F300',
      'M2',
    ]);
  });
});
