import { Matrix, solve } from 'ml-matrix';
import { seeded } from '../budget';
import { freshMachine } from '../burn';
import { cellWords, familyOf, judgeFamily, triedOf, type ScoredTrial } from './family';
import { fitResponse } from './fit';
import { expectedGain, judgeTrials, type AskedNumber, type Tried } from './next';
import { FAR_APART, verdictsOf, type CellScore } from './score';
import { type TrialPlan } from './plan';

const A: AskedNumber = { number: 'speed', range: [10, 1000], levels: 5 };
const B: AskedNumber = { number: 'power', range: [0.13, 1], levels: 5 };
const SPEEDS = [60, 98, 159, 258, 420];
const POWERS = [0.2, 0.29, 0.425, 0.62, 0.9];
const grid = (of: (a: number, b: number) => Pick<Tried, 'grade' | 'tell'>): Tried[] => POWERS.flatMap((b) => SPEEDS.map((a) => ({ a, b, ...of(a, b) }))); // prettier-ignore

describe('the surface', () => {
  // Another library's least squares over the same six terms.
  it('that is a quadratic is the one that least squares of another library finds', () => {
    const r = seeded(5);
    const scored = grid((a, b) => {
      const [x, y] = [Math.log(a), Math.log(b)];
      return {
        grade: 4 + 1.1 * (x - 5) - 0.6 * y - 0.9 * (x - 5) ** 2 - 0.4 * y * y + r.normal() * 0.6,
        tell: 'right',
      };
    });
    const fit = fitResponse(scored, [-1, 1]);
    expect(fit.model).toBe('quadratic');
    const terms = (a: number, b: number): number[] => {
      const [x, y] = [Math.log(a), Math.log(b)];
      return [1, x, y, x * x, x * y, y * y];
    };
    const c = solve(new Matrix(scored.map((s) => terms(s.a, s.b))), Matrix.columnVector(scored.map((s) => s.grade)), true).to1DArray(); // prettier-ignore
    const other = (a: number, b: number): number => terms(a, b).reduce((s, t, i) => s + t * c[i]!, 0);
    for (const [a, b] of [[80, 0.3], [200, 0.5], [300, 0.8], [500, 0.15]] as const) expect(fit.at(a, b).mean).toBeCloseTo(other(a, b), 6); // prettier-ignore
    // Its noise is the residual deviation with 25 − 6 degrees of freedom.
    const rest = Math.sqrt(scored.reduce((s, p) => s + (p.grade - other(p.a, p.b)) ** 2, 0) / 19);
    expect(fit.noise).toBeCloseTo(rest, 6);
  });

  it('foretells each cell from the others as well as leaving it out by hand does', () => {
    const r = seeded(11);
    const scored = grid((a, b) => ({
      grade: 5 + Math.log(b) * 2 + (Math.log(a) - 5) + r.normal() * 0.7,
      tell: 'right',
    }));
    const fit = fitResponse(scored, [-1, 1]);
    expect(fit.model).toBe('quadratic');
    const mean = scored.reduce((s, p) => s + p.grade, 0) / scored.length;
    const terms = ({ a, b }: Tried): number[] => [1, Math.log(a), Math.log(b), Math.log(a) ** 2, Math.log(a) * Math.log(b), Math.log(b) ** 2]; // prettier-ignore
    const press = scored.reduce((sum, p, i) => {
      const rest = scored.filter((_, k) => k !== i);
      const c = solve(new Matrix(rest.map(terms)), Matrix.columnVector(rest.map((q) => q.grade)), true).to1DArray();
      return sum + (p.grade - terms(p).reduce((s, t, k) => s + t * c[k]!, 0)) ** 2;
    }, 0);
    expect(fit.foretold).toBeCloseTo(1 - press / scored.reduce((s, p) => s + (p.grade - mean) ** 2, 0), 6);
  });

  it('follows what a quadratic cannot, is surer where cells were burned, and does not know far away', () => {
    const ridge = (a: number, b: number): number => 9 * Math.exp(-(((Math.log(b * 300 / a) - 0.2) / 0.35) ** 2)); // prettier-ignore
    const fit = fitResponse(grid((a, b) => ({ grade: ridge(a, b), tell: 'right' })), [-1, 1]); // prettier-ignore
    expect(fit.model).toBe('quadratic and neighbours');
    for (const [a, b] of [[98, 0.425], [258, 0.9], [159, 0.62]] as const) expect(Math.abs(fit.at(a, b).mean - ridge(a, b))).toBeLessThan(1); // prettier-ignore
    expect(fit.at(159, 0.425).doubt).toBeLessThan(fit.at(900, 0.14).doubt / 2);
  });

  it('of few cells is a level, and of one cell its own grade', () => {
    expect(fitResponse([{ a: 100, b: 0.5, grade: 6 }])).toMatchObject({ model: 'level' });
    expect(fitResponse([{ a: 100, b: 0.5, grade: 6 }]).at(50, 0.2).mean).toBe(6);
    expect(fitResponse([100, 200].map((a) => ({ a, b: 0.5, grade: 6 }))).model).toBe('level');
  });
});

describe('the next grid', () => {
  it('goes on from the strongest corner where all were too weak, and stops at the machine’s end', () => {
    const { next } = judgeTrials(A, B, grid(() => ({ grade: 0, tell: 'weak' }))); // prettier-ignore
    expect(next).toMatchObject({ kind: 'beyond', why: expect.stringMatching(/too weak/) as string });
    if (!('a' in next)) throw new Error('no grid');
    expect([Math.max(...next.a), Math.min(...next.a)]).toEqual([60, 10]);
    expect([Math.min(...next.b), Math.max(...next.b)]).toEqual([0.9, 1]);
    const end = judgeTrials(A, B, [10, 20].flatMap((a) => [0.9, 1].map((b) => ({ a, b, grade: 0, tell: 'weak' as const })))); // prettier-ignore
    expect(end.next).toMatchObject({ kind: 'stuck', why: expect.stringMatching(/gives no more of speed and power/) as string }); // prettier-ignore
  });

  it('goes to less energy where all were too strong', () => {
    const { next } = judgeTrials(A, B, grid(() => ({ grade: 0, tell: 'strong' }))); // prettier-ignore
    if (!('a' in next)) throw new Error('no grid');
    expect(Math.min(...next.a)).toBe(420);
    expect(Math.max(...next.b)).toBe(0.2);
  });

  it('looks closer at where too weak turns into too strong', () => {
    const { next } = judgeTrials(A, B, grid((a, b) => ({ grade: 1, tell: b / a > 0.0025 ? 'strong' : 'weak' }))); // prettier-ignore
    if (!('a' in next)) throw new Error('no grid');
    const middle = Math.sqrt(next.b[0]! * next.b.at(-1)!) / Math.sqrt(next.a[0]! * next.a.at(-1)!);
    expect(next.kind).toBe('finer');
    expect(middle / 0.0025).toBeGreaterThan(0.7);
    expect(middle / 0.0025).toBeLessThan(1.4);
  });

  it('says that no further one would change the choice where that is so', () => {
    const flat = judgeTrials(A, B, grid((a, b) => ({ grade: Math.round(10 * Math.exp(-(((Math.log(a) - 5.07) / 1.5) ** 2) - ((Math.log(b) + 0.86) / 1.2) ** 2)), tell: 'right' }))); // prettier-ignore
    expect(flat.next.kind).toBe('enough');
    expect(flat.best.mean).toBeGreaterThan(9);
  });

  it('gains what a normal above the best has over it, and no more than the scale has', () => {
    // By adding up the density in small steps.
    const sum = (mean: number, doubt: number, had: number): number => {
      let s = 0;
      for (let x = mean - 8 * doubt; x < mean + 8 * doubt; x += doubt / 500) s += (Math.max(0, Math.min(10, x) - had) * Math.exp(-(((x - mean) / doubt) ** 2) / 2)) / Math.sqrt(2 * Math.PI) / 500; // prettier-ignore
      return s;
    };
    for (const [m, d, h] of [[8, 1, 8.5], [9.5, 2, 9], [11, 0.5, 9.8], [3, 0.4, 9]] as const) expect(expectedGain(m, d, h)).toBeCloseTo(sum(m, d, h), 3); // prettier-ignore
    expect(expectedGain(9, 0, 8)).toBe(1);
  });
});

const look = (cell: number, grade: number, by = 'Imre', tell: CellScore['tell'] = 'right'): CellScore => ({ cell, grade, tell, by }); // prettier-ignore

describe('what people said', () => {
  it('counts alike, and where they are far apart it is said', () => {
    const [one, two] = verdictsOf([
      look(3, 9),
      look(1, 2, 'Imre', 'weak'),
      look(3, 9 - FAR_APART - 1, 'Odile', 'weak'),
    ]);
    expect([one!.cell, one!.grade, one!.tell, one!.apart]).toEqual([1, 2, 'weak', false]);
    expect([two!.cell, two!.grade, two!.apart, two!.looks.length]).toEqual([3, 7, true, 2]);
  });

  const spec: TrialPlan = { material: 'slate', effect: 'mark', base: { power: 0.5, speed: 100, interval: 0.1, passes: 1 }, label: { power: 0.3, speed: 100, interval: 0.1, passes: 1 }, columns: { number: 'speed', levels: [100, 200] }, rows: { number: 'power', levels: [0.3, 0.6] }, cell: { width: 6, height: 6 }, gap: 1, piece: { name: 'x', width: 50, height: 50 }, onPiece: { x: 0, y: 0 }, onBed: { x: 0, y: 0 } }; // prettier-ignore
  const trial = (id: string, follows: string | null, more: Partial<ScoredTrial> = {}): ScoredTrial => ({ id, name: id, spec, scores: [look(2, 8)], follows, ...more }); // prettier-ignore

  it('of trials that follow each other over the same numbers is judged together', () => {
    const other = trial('z', null, { spec: { ...spec, rows: { number: 'passes', levels: [1, 2] } } });
    const all = [trial('c', 'b'), trial('b', 'a'), trial('a', 'z'), other];
    expect(familyOf(all[0]!, all).map((t) => t.id)).toEqual(['c', 'b', 'a']);
    expect(triedOf([all[0]!])).toEqual([{ trial: 'c', cell: 2, a: 100, b: 0.6, grade: 8, tell: 'right' }]);
    expect(cellWords(spec, 2)).toBe('speed 100 mm/s, power 60 %');
    expect(judgeFamily(all.slice(0, 3), freshMachine)?.tried).toHaveLength(3);
    expect(judgeFamily([trial('n', null, { scores: [] })], freshMachine)).toBeNull();
    // A circle of trials, as no page makes it, ends.
    expect(familyOf(trial('p', 'q'), [trial('p', 'q'), trial('q', 'p')]).length).toBeLessThanOrEqual(3);
  });
});

describe('a cut', () => {
  it('that is done is taken with the least energy, and nothing is looked for that is more than done', () => {
    const cut = [8, 12, 16, 24].flatMap((a) =>
      [0.5, 0.7, 0.9].map((b): Tried => {
        const over = (b / a) * 16;
        const [grade, tell] = over > 0.78 ? ([10, 'right'] as const) : over > 0.6 ? ([5, 'weak'] as const) : ([0, 'weak'] as const); // prettier-ignore
        return { a, b, grade, tell };
      }),
    );
    const { best, next } = judgeTrials(A, B, cut, true);
    const { a, b } = cut[best.index]!;
    expect(cut[best.index]!.grade).toBe(10);
    // Not the strongest of those that are through.
    expect(b / a).toBeLessThan(0.9 / 12);
    expect(next).toMatchObject({ kind: 'enough', why: expect.stringMatching(/More gains nothing/) as string });
    // While none is through, it is looked for.
    expect(judgeTrials(A, B, cut.map((t) => ({ ...t, grade: Math.min(5, t.grade), tell: 'weak' })), true).next.kind).not.toBe('enough'); // prettier-ignore
  });
});
