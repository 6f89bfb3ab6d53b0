import { createRequire } from 'node:module';
import { addLines, bedToFile, Moves } from '../burn';
import { apply, circle, flatten, invert, polyline, roundedRectangle } from '../geometry';
import { seeded } from '../budget';
import { testMachine } from '../test-batch';
import { gcodeChunks } from './gcode';
import { rasterize } from './raster';
import { readGcode } from './gcode-read';
import { writeSvg } from './svg';

const gcodeParser = createRequire(__filename)('gcode-parser') as {
  parseStringSync(text: string): { words: [string, number][] }[];
};

const job = {
  title: 'test (one)',
  toFile: bedToFile(testMachine),
  dialect: testMachine.dialect,
  park: { x: 0, y: 0 },
  notes: ['board ü'],
};
const setting = { power: 0.5, speed: 100, interval: 0.1, passes: 1 };
const sample = (): Moves => {
  const moves = new Moves();
  addLines(
    moves,
    [
      roundedRectangle({ x: 100, y: 100 }, 60, 25, 3),
      circle({ x: 200, y: 50 }, 6.35),
      polyline([
        { x: 5, y: 5 },
        { x: 6, y: 9 },
        { x: 8, y: 9 },
      ]),
    ],
    setting,
  );
  return moves;
};
const text = (arcs: boolean): string =>
  [...gcodeChunks(sample(), { ...job, dialect: { ...job.dialect, arcs } })].join('');

describe('G-code', () => {
  it('states every mode at the start, and ends with the beam off and the head parked', () => {
    const lines = text(true).trim().split('\n');
    for (const word of ['G21', 'G90', 'G17', 'G94', 'M5', 'S0', 'M4 S0']) expect(lines.slice(0, 14)).toContain(word);
    expect(lines.slice(-4)).toEqual(['S0', 'M5', 'G0X0Y0', 'M2']);
    expect(lines[0]).toBe('(test  one )');
    expect(/^[\x20-\x7e\n]*$/.test(text(true))).toBe(true);
  });
  it('has the beam off on every rapid move, as gcode-parser reads it', () => {
    let power = 0;
    let motion = 0;
    let rapids = 0;
    for (const { words } of gcodeParser.parseStringSync(text(true))) {
      for (const [letter, value] of words) {
        if (letter === 'G' && value <= 3) motion = value;
        if (letter === 'S') power = value;
      }
      if (motion === 0 && words.some(([l]) => l === 'X' || l === 'Y')) {
        rapids += 1;
        expect(power).toBe(0);
      }
    }
    expect(rapids).toBe(4);
  });
  it.each([true, false])('is read back where it was meant, within 0.01 mm (arcs %s)', (arcs) => {
    const read = readGcode(text(arcs), 1000);
    if (!read.ok) throw new Error(read.problem.message);
    const back = invert(job.toFile);
    const { moves } = read.value;
    const intended = [
      flatten(roundedRectangle({ x: 100, y: 100 }, 60, 25, 3), 0.001),
      flatten(circle({ x: 200, y: 50 }, 6.35), 0.001),
    ];
    let at = { x: 0, y: 0 };
    let checked = 0;
    for (let i = 0; i < moves.count; i += 1) {
      const to = { x: moves.x[i]!, y: moves.y[i]! };
      if (moves.power[i]! > 0) {
        for (const p of flatten({ closed: false, vertices: [{ ...at, bulge: moves.bulge[i]! }, to] }, 0.002)) {
          const q = apply(back, p);
          if (q.x < 20) continue;
          const off = Math.min(
            ...intended.map((line) =>
              Math.min(
                ...line.map((a, k) => {
                  const b = line[(k + 1) % line.length]!;
                  const l2 = (b.x - a.x) ** 2 + (b.y - a.y) ** 2;
                  const t = Math.min(1, Math.max(0, ((q.x - a.x) * (b.x - a.x) + (q.y - a.y) * (b.y - a.y)) / l2));
                  return Math.hypot(a.x + t * (b.x - a.x) - q.x, a.y + t * (b.y - a.y) - q.y);
                }),
              ),
            ),
          );
          expect(off).toBeLessThan(0.01);
          checked += 1;
        }
      }
      at = to;
    }
    expect(checked).toBeGreaterThan(30);
  });
  it('is read with the same words as gcode-parser reads', () => {
    const r = seeded(4);
    const lines = Array.from({ length: 500 }, (_, i) =>
      i % 7 === 0
        ? `G0 X${(r.uniform() * 100).toFixed(3)} Y-${(r.uniform() * 9).toFixed(2)} ; note`
        : `G1X${(r.uniform() * 100).toFixed(3)}Y${(r.uniform() * 100).toFixed(3)}F${Math.ceil(r.uniform() * 9000)}S${Math.floor(r.uniform() * 1000)}`,
    );
    const program = readGcode(`M4\n${lines.join('\n')}`, 1000);
    if (!program.ok) throw new Error(program.problem.message);
    const theirs = gcodeParser.parseStringSync(lines.join('\n'));
    theirs.forEach(({ words }, i) => {
      const get = (l: string): number => words.find(([k]) => k === l)![1];
      expect(program.value.moves.x[i]).toBeCloseTo(get('X'), 9);
      expect(program.value.moves.y[i]).toBeCloseTo(get('Y'), 9);
    });
  });
  it.each([
    ['G1X5', 'before any F'],
    ['G0X', 'no number'],
    ['(open', 'not closed'],
    ['G2X1Y1F5', 'no I or J'],
    ['@', 'not a word'],
  ])('refuses %j and names the line', (bad, sentence) => {
    const read = readGcode(`G21\n${bad}`, 1000);
    expect(!read.ok && read.problem.message).toMatch(new RegExp(`^Line 2: .*${sentence}`));
  });
  it('understands inches and relative moves', () => {
    const read = readGcode('G20 G91\nG0X1\nG0X1Y-1', 1000);
    expect(read.ok && [read.value.moves.x[1], read.value.moves.y[1]]).toEqual([50.8, -25.4]);
  });
});

describe('SVG', () => {
  const file = writeSvg('Tags <1>', 409, 341, [
    { name: 'marks', kind: 'line', contours: [circle({ x: 10, y: 10 }, 6.35)] },
    { name: 'pockets', kind: 'cut', contours: [roundedRectangle({ x: 50, y: 50 }, 60, 25, 3)] },
  ]);
  it('is in real millimetres, one named group a pass', () => {
    expect(file).toContain('width="409mm" height="341mm" viewBox="0 0 409 341"');
    expect([...file.matchAll(/<g id="([^"]+)"/g)].map((m) => m[1])).toEqual(['marks', 'pockets']);
    expect(file).toContain('Tags &lt;1&gt;');
  });
  it('keeps a circle a circle and turns y over', () =>
    expect(file).toContain('M16.35 331A6.35 6.35 0 0 0 3.65 331A6.35 6.35 0 0 0 16.35 331Z'));
});

describe('raster', () => {
  it('engraves the dots whose centres are inside', () => {
    const r = rasterize(
      [
        [
          { x: 1, y: 1 },
          { x: 4, y: 1 },
          { x: 4, y: 3 },
          { x: 1, y: 3 },
        ],
      ],
      { width: 5, height: 4 },
      0.5,
    );
    expect([r.width, r.height, r.dotsPerMetre]).toEqual([10, 8, 2000]);
    const dark = [...r.pixels].filter((p) => p === 0).length;
    expect(dark).toBe(6 * 4);
    expect(r.pixels[5 * 10 + 2]).toBe(0);
    expect(r.pixels[0]).toBe(255);
  });
});
