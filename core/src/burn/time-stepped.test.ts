import { arcOf, circle, polyline, type Vec } from '../geometry';
import { readGcode } from '../output';
import { programOf } from '../test-reckon';
import { EXAMPLES } from '../test-ways';
import { loadedPieces, testMachine } from '../test-batch';
import { exactly, readAt, saved } from '../test-reckon';
import { rigid } from '../geometry';
import { seeded } from '../budget';
import { addFill, addLines, dutyAllowed, dutyOf, Moves, plansTogether, planTime, type PlannedTime } from '.';

const A = testMachine.acceleration;
/** Step along the way, mm, and in time, s. */
const [DS, DT] = [0.01, 2e-5];
const DEVIATION = 0.02;

/** The way that a head goes, cut into short straight pieces: where, and how fast at most. */
const cut = (moves: Moves): { at: Vec[]; fastest: number[]; turns: number[] } => {
  const at: Vec[] = [{ x: 0, y: 0 }];
  const fastest: number[] = [];
  const turns: number[] = [0];
  let from: Vec = { x: 0, y: 0 };
  let lean: Vec | null = null;
  for (let i = 0; i < moves.count; i += 1) {
    const to = { x: moves.x[i]!, y: moves.y[i]! };
    const bulge = moves.bulge[i]!;
    const chord = Math.hypot(to.x - from.x, to.y - from.y);
    if (chord === 0) continue;
    const arc = bulge === 0 ? null : arcOf(from, to, bulge);
    const length = arc ? arc.radius * Math.abs(arc.sweep) : chord;
    const wanted = moves.speed[i]! < 0 ? testMachine.rapidSpeed : moves.speed[i]!;
    const speed = arc ? Math.min(wanted, Math.sqrt(A * arc.radius)) : wanted;
    const n = Math.max(1, Math.ceil(length / DS));
    const start = from;
    const point = (k: number): Vec => {
      const t = k / n;
      if (!arc) return { x: start.x + (to.x - start.x) * t, y: start.y + (to.y - start.y) * t };
      const a = arc.start + arc.sweep * t;
      return { x: arc.centre.x + arc.radius * Math.cos(a), y: arc.centre.y + arc.radius * Math.sin(a) };
    };
    const tangent = (k: number): Vec => {
      if (!arc) return { x: (to.x - start.x) / chord, y: (to.y - start.y) / chord };
      const a = arc.start + (arc.sweep * k) / n + (Math.sign(arc.sweep) * Math.PI) / 2;
      return { x: Math.cos(a), y: Math.sin(a) };
    };
    const begins = tangent(0);
    turns[at.length - 1] = lean ? Math.acos(Math.min(1, Math.max(-1, lean.x * begins.x + lean.y * begins.y))) : 0;
    for (let k = 1; k <= n; k += 1) {
      at.push(point(k));
      fastest.push(speed);
      turns.push(0);
    }
    lean = tangent(n);
    from = to;
  }
  return { at, fastest, turns };
};

/** Time by stepping: as fast as is allowed here, slowing in time for what comes, a short while after the other. */
const stepped = (moves: Moves): number => {
  const { at, fastest, turns } = cut(moves);
  const n = fastest.length;
  const limit = new Float64Array(n + 1);
  const ds = Array.from({ length: n }, (_, i) => Math.hypot(at[i + 1]!.x - at[i]!.x, at[i + 1]!.y - at[i]!.y));
  for (let i = n - 1; i >= 0; i -= 1) {
    const here = Math.min(fastest[i]!, i === 0 ? Infinity : fastest[i - 1]!);
    const s = Math.cos(turns[i]! / 2);
    const corner = turns[i]! < 0.015 ? Infinity : Math.sqrt((A * DEVIATION * s) / (1 - s));
    limit[i] = Math.min(here, corner, Math.sqrt(limit[i + 1]! ** 2 + 2 * A * ds[i]!));
  }
  let [time, i, along, v] = [0, 0, 0, 0];
  while (i < n) {
    // As fast as the piece ends at most allows from here, by what is left of it.
    const left = ds[i]! - along;
    const may = Math.min(fastest[i]!, Math.sqrt(limit[i + 1]! ** 2 + 2 * A * left));
    v = Math.max(Math.min(v + A * DT, may), 1e-3 * A * DT);
    along += v * DT;
    time += DT;
    while (i < n && along >= ds[i]!) along -= ds[i++]!;
  }
  return time;
};

const made = (add: (m: Moves) => void): Moves => {
  const moves = new Moves();
  add(moves);
  return moves;
};
const SETTING = { power: 0.5, speed: 250, interval: 0.4, passes: 1 };
const random = seeded(5);
const wander = Array.from({ length: 60 }, () => ({ x: 20 + 30 * random.uniform(), y: 20 + 30 * random.uniform() }));
const square = [[20, 20], [50, 20], [50, 32], [20, 32]].map(([x, y]) => ({ x: x!, y: y! })); // prettier-ignore

// Another way to the same time: steps of 20 µs along a way of hundredths, with the acceleration and the cornering rule of the
// machine, and nothing of how the planner looks ahead.
describe('the time of a file, against stepping through it', () => {
  it.each([
    ['a filled block', made((m) => addFill(m, [square], SETTING, A))],
    ['a filled block, crossed', made((m) => addFill(m, [square], { ...SETTING, passes: 2, turn: 1 }, A))],
    ['corners anywhere', made((m) => addLines(m, [polyline(wander)], { ...SETTING, speed: 120 }))],
    ['circles, small and large', made((m) => addLines(m, [circle({ x: 30, y: 30 }, 0.8), circle({ x: 30, y: 30 }, 9)], SETTING))], // prettier-ignore
    ['slow cuts', made((m) => addLines(m, [polyline(square, true)], { ...SETTING, speed: 9 }))],
  ])('%s: within 2 %%', (_, moves) => {
    expect(Math.abs(planTime(moves, testMachine).total / stepped(moves) - 1)).toBeLessThan(0.02);
  });

  it('of a load of names, as its file is read: within 2 %', () => {
    const input = { ...readAt(saved(exactly(EXAMPLES.pockets)), rigid(0, 120, 90)), pieces: loadedPieces([1]) };
    const read = readGcode(programOf(input), 1000);
    if (!read.ok) throw new Error(read.problem.message);
    const { moves } = read.value;
    expect(moves.count).toBeGreaterThan(300);
    expect(Math.abs(planTime(moves, testMachine).total / stepped(moves) - 1)).toBeLessThan(0.02);
  });
});

describe('what the time goes to', () => {
  const block = made((m) => addFill(m, [square], SETTING, A));
  it('is burning, ways between, and the rest: run-ups and turns', () => {
    const { total, burning, between, fired } = planTime(block, testMachine);
    // 30 rows of 30 mm at full speed.
    expect(burning).toBeCloseTo((30 * 30) / 250, 6);
    expect(between).toBeGreaterThan(0);
    expect(total - burning - between).toBeGreaterThan(0);
    expect([...fired]).toEqual([[0.5, burning]]);
  });
  it('tells the first source’s fire by its power, and nothing of the second’s', () => {
    const two = made((m) => {
      addLines(m, [polyline(square)], { ...SETTING, power: 0.6 });
      addLines(m, [polyline(square)], { ...SETTING, power: 0.8, source: 'second' });
      addLines(m, [polyline(square)], { ...SETTING, power: 0.7 });
    });
    const { fired, burning } = planTime(two, testMachine);
    expect([...fired.keys()]).toEqual([0.6, 0.7]);
    expect([...fired.values()].reduce((s, t) => s + t, 0)).toBeCloseTo((2 * burning) / 3, 2);
    const both = plansTogether([planTime(two, testMachine), planTime(block, testMachine)]);
    expect([...both.fired.keys()]).toEqual([0.6, 0.7, 0.5]);
    expect(both.burning).toBeCloseTo(burning + planTime(block, testMachine).burning, 12);
  });
});

describe('the duty of a gas tube', () => {
  const planned = (total: number, ...fired: [number, number][]): PlannedTime => ({ total, burning: 0, between: 0, fired: new Map(fired) }); // prettier-ignore
  it('is half of full scale for hours, and half of the time at 70 % [common practice]', () => {
    expect([0.2, 0.5, 0.7].map(dutyAllowed)).toEqual([1, 1, expect.closeTo(0.5, 12)]);
    expect(dutyAllowed(0.9)).toBeLessThan(dutyAllowed(0.8));
    expect(dutyAllowed(1)).toBeGreaterThan(0);
  });
  it('asks for rest where a load leaves too little of it', () => {
    const tube = { source: 'gas tube' } as const;
    expect(dutyOf(planned(100, [0.5, 100]), tube)).toMatchObject({ fires: 1, power: 0.5, rest: 0 });
    // 60 s at 70 % take 120 s in all: 20 s longer than the load.
    const over = dutyOf(planned(100, [0.7, 60]), tube)!;
    expect(over.rest).toBeCloseTo(20, 9);
    expect(over.working.map((w) => w.label)).toEqual(['fires', '70 % of full scale', 'rest']);
    expect(dutyOf(planned(130, [0.7, 60]), tube)!.rest).toBe(0);
    // Two powers add up by what each takes.
    const both = dutyOf(planned(100, [0.7, 30], [0.4, 50]), tube)!;
    expect([both.rest, both.power]).toEqual([expect.closeTo(10, 9), expect.closeTo(0.5125, 9)]);
  });
  it('is asked of no other source, and of nothing that does not fire', () => {
    expect(dutyOf(planned(10, [1, 10]), { source: 'fibre' })).toBeNull();
    expect(dutyOf(planned(10), { source: 'gas tube' })).toBeNull();
  });
});
