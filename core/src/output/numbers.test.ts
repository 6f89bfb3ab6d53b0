import { createRequire } from 'node:module';
import { Moves } from '../burn';
import { identity, type Transform } from '../geometry';
import { gcodeChunks, type GcodeJob, type Pause } from './gcode';
import { turningChunks, type TurningJob } from './turning';

/** An independent reader of RS-274 words. */
const gcodeParser = createRequire(__filename)('gcode-parser') as {
  parseStringSync(text: string): { words: [string, number][] }[];
};
const wordsOf = (text: string, letter: string): number[] =>
  gcodeParser.parseStringSync(text).flatMap(({ words }) => words.filter(([l]) => l === letter).map(([, v]) => v));

const moves = (...list: readonly (readonly [number, number, number, number, number?])[]): Moves => {
  const made = new Moves();
  for (const [x, y, speed, power, bulge = 0] of list) made.push(x, y, speed, power, bulge);
  return made;
};
const RAPID = -1;
const job = (change: Partial<GcodeJob> = {}): GcodeJob => ({
  title: 'tag',
  toFile: identity,
  dialect: { powerMax: 1000, laserOn: 'M4', arcs: true, decimals: 3 },
  park: { x: 5, y: 290 },
  notes: [],
  ...change,
});
const body = (made: Moves | Iterable<Moves | Pause>, change: Partial<GcodeJob> = {}): string[] =>
  [...gcodeChunks(made, job(change))].join('').trim().split('\n').slice(10);

// RS-274 (NIST IR 6556): F is millimetres a minute under G94 and G21, S the spindle word, G2 clockwise, I and J from
// the start of the arc to its centre, G4 P seconds.
describe('every number of a flat program', () => {
  const square = moves(
    [10, 20, RAPID, 0],
    [30, 20, 100, 0.35],
    [30, 40, 100, 0.35],
    [10, 40, 12.5, 0.7],
    [0, 0, RAPID, 0],
  );

  it('is the one that was meant: mm/s as mm/min, a share of the full power, what changed only', () => {
    expect(body(square)).toEqual([
      'G0X10Y20',
      'G1X30F6000S350',
      'Y40',
      'X10F750S700',
      'S0',
      'G0X0Y0',
      'S0',
      'M5',
      'G0X5Y290',
      'M2',
    ]);
  });

  it('lies where the map to the file puts it, both parts of each number', () => {
    // x of the file is y and 5, y is twice x and 7: a map that turns, unlike those of a bed.
    const toFile = { a: 0, b: 2, c: 1, d: 0, e: 5, f: 7 };
    const text = body(moves([3, 4, RAPID, 0], [10, 4, 0.5, 0.35]), { toFile });
    // Half a millimetre a second is slow, and a feed all the same.
    expect(text.slice(0, 2)).toEqual(['G0X9Y13', 'G1Y27F30S350']);
  });

  it('follows the machine’s own full power, digits and word for the beam', () => {
    const dialect = { powerMax: 255, laserOn: 'M3', arcs: true, decimals: 2 } as const;
    const text = [...gcodeChunks(moves([1.2345, 0, RAPID, 0], [2.3456, 0, 7.891, 0.5]), job({ dialect }))].join('');
    expect(text).toContain('\nM3 S0\n');
    expect(text).toContain('\nG0X1.23Y0\nG1X2.35F473.46S128\n');
  });

  it('turns and mirrors with the file: an arc the other way round, its middle where it was', () => {
    // A half circle of radius 5 to the left of its way, about (5, 0) from (0, 0) to (10, 0): the bulge is 1.
    const half = moves([0, 0, RAPID, 0], [10, 0, 50, 0.2, 1]);
    expect(body(half)[1]).toBe('G3X10Y0I5J0F3000S200');
    const upsideDown: Transform = { ...identity, d: -1, f: 600 };
    expect(body(half, { toFile: upsideDown }).slice(0, 2)).toEqual(['G0X0Y600', 'G2X10Y600I5J0F3000S200']);
    const clockwise = moves([0, 0, RAPID, 0], [10, 0, 50, 0.2, -1]);
    expect(body(clockwise)[1]).toBe('G2X10Y0I5J0F3000S200');
  });

  it('as short lines where the machine knows no arcs: none farther than 0.005 mm from the circle', () => {
    const half = moves([0, 0, RAPID, 0], [10, 0, 50, 0.2, 1]);
    const text = body(half, { dialect: { ...job().dialect, arcs: false, decimals: 4 } }).join('\n');
    let [x, y] = [0, 0];
    for (const { words } of gcodeParser.parseStringSync(text.split('\nS0')[0]!)) {
      const [px, py] = [x, y];
      for (const [letter, value] of words) {
        if (letter === 'X') x = value;
        if (letter === 'Y') y = value;
      }
      expect(Math.abs(Math.hypot((x + px) / 2 - 5, (y + py) / 2) - 5)).toBeLessThan(x === px && y === py ? 6 : 0.0055);
    }
    expect([x, y]).toEqual([10, 0]);
  });

  it('waits with the beam off, and says every modal word again after it', () => {
    const one = moves([0, 0, RAPID, 0], [10, 0, 100, 0.5]);
    const two = moves([10, 0, RAPID, 0], [20, 0, 100, 0.5]);
    const lines = body([one, { lines: ['G0 U120.000', 'G4 P0.80'] }, two], { before: ['G92 U0'] });
    expect(lines).toEqual([
      'G92 U0',
      'G0X0Y0',
      'G1X10F6000S500',
      'S0',
      'M5',
      'G0 U120.000',
      'G4 P0.80',
      'M4 S0',
      'G0X10Y0',
      'G1X20F6000S500',
      'S0',
      'M5',
      'G0X5Y290',
      'M2',
    ]);
  });

  it('goes the arc’s own way round also in a file of another scale', () => {
    const half = moves([0, 0, RAPID, 0], [10, 0, 50, 0.2, 1]);
    expect(body(half, { toFile: { ...identity, a: 0.5, d: 0.5 } })[1]).toBe('G3X5Y0I2.5J0F3000S200');
  });

  it('says the least power again after a wait', () => {
    const [one, two] = [moves([1, 0, 100, 0.001]), moves([2, 0, 100, 0.001])];
    expect(body([one, { lines: ['G4P1'] }, two]).slice(0, 6)).toEqual([
      'G1X1Y0F6000S1', 'S0', 'M5', 'G4P1', 'M4 S0', 'G1X2Y0F6000S1',
    ]); // prettier-ignore
  });

  it('goes nowhere where the file’s digits show no way, and burns nothing there', () => {
    expect(body(moves([1, 1, RAPID, 0], [1.0001, 1, 100, 0.5], [2, 1, 100, 0.5]))[1]).toBe('G1X2F6000S500');
  });
});

describe('every number of a turning program', () => {
  const turning = (change: Partial<TurningJob> = {}): TurningJob => ({
    title: 'flask',
    notes: [],
    dialect: { powerMax: 1000, laserOn: 'M4', arcs: true, decimals: 3 },
    axis: { letter: 'Y', unit: 'mm' },
    perMm: 1,
    alongPerMm: 1,
    idleSpeed: 20,
    rapidSpeed: 300,
    ...change,
  });
  const lines = (made: Moves, change: Partial<TurningJob> = {}): string[] =>
    [...turningChunks([made], turning(change))].join('').trim().split('\n').slice(10);

  it('turns idle by a feed and never by a rapid, at the idle speed, and back the way it came', () => {
    const made = moves([40, 30, RAPID, 0], [60, 30, 100, 0.4], [60, 33, 100, 0.4]);
    // 50 mm in all of which 30 turn: 30 / 20 mm/s is 1.5 s, so that the way of 50 mm is fed at 50 / 1.5 × 60.
    expect(lines(made)).toEqual([
      'G1X40Y30F2000',
      'X60F6000S400',
      // 3 mm of surface at no more than 20 mm/s: 0.15 s, which is 1200 mm/min.
      'Y33F1200',
      'S0',
      'M5',
      'G94',
      'G0X0',
      // 33 mm back at 20 mm/s.
      'G1Y0F1200',
      'M2',
    ]);
  });

  it('scales the turning word for the axis, and its feed with it', () => {
    const made = moves([0, 30, RAPID, 0]);
    expect(lines(made, { perMm: 1.5449 })[0]).toBe('G1X0Y46.347F1853.88');
  });

  it('feeds an axis in degrees by inverse time: the minutes that the move takes', () => {
    // 251.327 mm round is 360 degrees; 30 mm at 20 mm/s are 1.5 s, 1/1.5 × 60 = 40 a minute.
    const text = lines(moves([0, 30, RAPID, 0], [10, 30, 100, 0.4]), {
      axis: { letter: 'A', unit: 'degrees' },
      perMm: 360 / (80 * Math.PI),
    });
    expect(text.slice(0, 4)).toEqual(['G93', 'G1X0A42.9718F40', 'G94', 'X10F6000S400']);
    expect(text.slice(-4)).toEqual(['G93', 'G1A0F40', 'G94', 'M2']);
    expect(wordsOf(text.join('\n'), 'A')).toEqual([42.9718, 0]);
  });
});
