import { contourLength, polyline, type Vec } from '../geometry';
import { gcodeChunks, readGcode } from '../output';
import { bedProgram } from '../setup';
import { testBatch, testMachine } from '../test-batch';
import { addFill, addLines, burnWords, differsIn, lensStops, energies, focusWords, headMoves, Moves, reachOf, standLines, PLAIN, type BurnSetting, type Machine } from '.'; // prettier-ignore

const SETTING: BurnSetting = { power: 0.5, speed: 100, interval: 0.5, passes: 1 };
const SQUARE: Vec[] = [[20.25, 20.25], [40.25, 20.25], [40.25, 40.25], [20.25, 40.25]].map(([x, y]) => ({ x: x!, y: y! })); // prettier-ignore
const QUARTER = Math.PI / 2;
const SECOND: Machine = { ...testMachine, second: { source: 'fibre', power: 20, leastPower: 0.05, offset: { x: 30, y: -5 } } }; // prettier-ignore

const fill = (part: Partial<BurnSetting> = {}, polygons = [SQUARE]): Moves => {
  const moves = new Moves();
  addFill(moves, polygons, { ...SETTING, ...part }, 5000);
  return moves;
};
/** Burned stretches: from, to. */
const burned = (m: Moves): [Vec, Vec][] =>
  Array.from({ length: m.count }, (_, i) => i)
    .filter((i) => m.power[i]! > 0)
    .map((i) => [
      { x: m.x[i - 1]!, y: m.y[i - 1]! },
      { x: m.x[i]!, y: m.y[i]! },
    ]);
const lengthOf = (m: Moves): number => burned(m).reduce((s, [a, b]) => s + Math.hypot(b.x - a.x, b.y - a.y), 0);
const job = { title: 't', toFile: { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 }, dialect: testMachine.dialect, park: { x: 0, y: 0 }, notes: [] }; // prettier-ignore
const textOf = (moves: Moves): string => [...gcodeChunks(moves, job)].join('');

describe('which way filled lines run', () => {
  // Lines an interval apart cover an area of length × interval, whichever way they run.
  it.each([0, 0.3, Math.PI / 4, QUARTER, 2.5, -1])('at %f rad they cover the area once', (angle) => {
    const moves = fill({ angle, interval: 0.05 });
    expect(lengthOf(moves) * 0.05).toBeCloseTo(400, -0.5);
    for (const [a, b] of burned(moves)) {
      expect(Math.abs(Math.sin(Math.atan2(b.y - a.y, b.x - a.x) - angle))).toBeLessThan(1e-9);
      for (const { x, y } of [a, b]) expect([x, y].every((v) => v > 20.25 - 1e-9 && v < 40.25 + 1e-9)).toBe(true);
    }
  });
  it('run up along themselves: v²/2a before and behind', () => {
    // 100² / (2 · 5000) = 1 mm, across x where the lines stand upright.
    const { minX, maxX, minY, maxY } = reachOf(fill({ angle: QUARTER }));
    expect([minX, maxX, minY, maxY].map((v) => Number(v.toFixed(6)))).toEqual([20.5, 40, 19.25, 41.25]);
  });
  it('are crossed by a second pass that is turned', () => {
    const crossed = burned(fill({ passes: 2, turn: QUARTER }));
    const along = crossed.filter(([a, b]) => Math.abs(b.y - a.y) < 1e-9);
    const across = crossed.filter(([a, b]) => Math.abs(b.x - a.x) < 1e-9);
    expect([along.length, across.length, crossed.length]).toEqual([40, 40, 80]);
    // One after the other, not row by row.
    expect(crossed.slice(0, 40)).toEqual(along);
  });
  it('go there and back, or all the same way', () => {
    const ways = (part: Partial<BurnSetting>) => new Set(burned(fill(part)).map(([a, b]) => Math.sign(b.x - a.x)));
    expect([ways({}), ways({ oneWay: true })]).toEqual([new Set([1, -1]), new Set([1])]);
  });
});

describe('how a machine stands from burn to burn', () => {
  const two = (): Moves => {
    const moves = fill({ air: 'on' });
    addFill(moves, [SQUARE], { ...SETTING, focus: 2, air: 'off', source: 'second' }, 5000);
    addLines(moves, [polyline(SQUARE, true)], SETTING);
    return moves;
  };

  it('is noted once where it changes, and stays with moves that are put elsewhere', () => {
    const [a, b] = [new Moves(), two()];
    a.append(b);
    a.append(b);
    expect(b.stands.map((s) => s.stand)).toEqual([{ source: 'first', focus: 0, air: 'on' }, { source: 'second', focus: 2, air: 'off' }, { source: 'first', focus: 0, air: null }]); // prettier-ignore
    expect(a.stands.map((s) => s.before)).toEqual([...b.stands.map((s) => s.before), ...b.stands.map((s) => s.before + b.count)]); // prettier-ignore
    b.clear();
    expect([b.count, b.stands.length]).toEqual([0, 0]);
  });

  it('is set with the beam off: air by M8 and M9, the source by T and M6, the lens by a person after M0', () => {
    const lines = textOf(two()).split('\n');
    const at = (text: string): number => lines.indexOf(text);
    const order = ['M8', 'T2 M6', 'M9', '(set the lens 2.0 mm above focus, then start again)', 'M0', 'T1 M6'].map(at);
    expect(order.every((i) => i > 0)).toBe(true);
    expect([...order].sort((a, b) => a - b)).toEqual(order);
    // Whatever is set, the two lines before the first of it put the beam off.
    for (const i of [at('M8'), at('T2 M6'), at('T1 M6')]) expect(lines.slice(i - 2, i)).toEqual(['S0', 'M5']);
    expect(lines[at('M0') + 1]).toBe('M4 S0');
    const read = readGcode(textOf(two()), 1000);
    if (!read.ok) throw new Error(read.problem.message);
    expect(read.value.ignored).toEqual([]);
    expect(read.value.tools.map((t) => t.tool)).toEqual([2, 1]);
    expect(read.value.stops).toHaveLength(2);
  });

  it('is left as it was found, and a lens out of focus is said', () => {
    const lines = textOf(fill({ air: 'on', focus: -1.5, source: 'second' }))
      .trim()
      .split('\n');
    expect(lines.slice(lines.lastIndexOf('M5'))).toEqual(['M5', 'T1 M6', 'M9', '(the lens stands 1.5 mm below focus: set it back)', 'G0X0Y0', 'M2']); // prettier-ignore
    expect([focusWords(0), focusWords(1.25)]).toEqual(['in focus', '1.3 mm above focus']);
  });

  it('is nothing that a plain recipe’s file has a word of', () => {
    expect(textOf(fill())).not.toMatch(/M0\b|M6|M8|M9|T\d/);
    expect(standLines(PLAIN, { ...PLAIN, air: null })).toEqual([]);
  });
});

describe('a second source', () => {
  it('burns its place with the head beside it', () => {
    const moves = fill({ source: 'second' });
    addFill(moves, [SQUARE], SETTING, 5000);
    const heads = headMoves(moves, SECOND);
    const half = moves.count / 2;
    // Its beam lies 30 mm right of and 5 mm nearer than the first.
    for (let i = 0; i < half; i += 1) expect([heads.x[i]! - moves.x[i]!, heads.y[i]! - moves.y[i]!].map((v) => Number(v.toFixed(9)))).toEqual([-30, 5]); // prettier-ignore
    expect([...heads.x.subarray(half, 2 * half)]).toEqual([...moves.x.subarray(half, 2 * half)]);
    expect(headMoves(fill(), SECOND).count).toBe(fill().count);
  });

  it('is held back where its head would leave the bed, though its beam would not', () => {
    const moves = fill({ source: 'second' });
    const mend = { words: 'Lay it further in.', field: 'place' };
    const at = (machine: Machine) => bedProgram({ ...testBatch(), machine }, moves, { title: 't', notes: [], mend });
    const far = at(SECOND);
    // 19.25 mm with its run-up, less 30.
    expect(far).toMatchObject({ ok: false, problem: { code: 'off-travel', message: expect.stringMatching(/x −10\.8/) as string } }); // prettier-ignore
    expect(at({ ...SECOND, second: { ...SECOND.second!, offset: { x: 10, y: 0 } } }).ok).toBe(true);
  });
});

describe('energy of a program', () => {
  it('is told burn by burn, each by its own source, at the lines it really has', () => {
    // 36 W at 250 mm/s and 300 lines to the inch: 1.70 J/mm² [common practice]; twice of it in two passes.
    const watts = { ...SECOND, power: 36 };
    const engrave = { power: 1, speed: 250, interval: 25.4 / 300, passes: 2 };
    const polish = { power: 0.5, speed: 1000, interval: 0.05, passes: 1, source: 'second' } as const;
    const [first, second] = energies({ engrave, after: [polish] }, watts);
    expect(first! / 2).toBeCloseTo(1.7, 2);
    // 10 W over 50 mm² a second.
    expect(second).toBeCloseTo(0.2, 9);
    expect(energies({ engrave: polish }, testMachine)).toEqual([null]);
  });

  it('is said in words, plain numbers first', () => {
    expect(burnWords(SETTING)).toBe('50 % at 100 mm/s, 0.5 mm between lines');
    expect(burnWords({ ...SETTING, passes: 2, angle: Math.PI / 4, turn: QUARTER, oneWay: true, focus: 2, air: 'off', source: 'second' })).toBe(
      '50 % at 100 mm/s, 0.5 mm between lines, 2 passes, lines at 45°, each turned by 90°, all lines the same way, lens 2.0 mm above focus, air off, by the second source',
    ); // prettier-ignore
    expect(burnWords({ ...SETTING, power: 0.425, turn: 1 })).toBe('42.5 % at 100 mm/s, 0.5 mm between lines');
  });

  it('waits for a person as often as its lens is set', () => {
    const off = { ...SETTING, focus: 2 };
    expect(lensStops([SETTING])).toBe(0);
    expect(lensStops([off, off, SETTING])).toBe(2);
    expect(lensStops([off, SETTING, off])).toBe(3);
  });

  it('what is not said is what is plain', () => {
    expect(differsIn(SETTING, { ...SETTING, angle: 0, turn: null, oneWay: false, focus: 0, air: null, source: null })).toEqual([]); // prettier-ignore
    expect(differsIn(SETTING, { ...SETTING, angle: 1, air: 'off', source: 'second', speed: 9 })).toEqual(['speed', 'angle', 'air', 'source']); // prettier-ignore
    expect(contourLength(polyline(SQUARE, true))).toBeCloseTo(80, 9);
  });
});
