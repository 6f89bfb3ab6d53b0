import { circle, polyline } from '../geometry';
import { testMachine } from '../test-batch';
import { restToRest, Moves, planTime } from './moves';
import { addFill, addLines, addRow, ordered, runUp } from './toolpath';

const SETTING = { power: 0.35, speed: 200, interval: 1, passes: 1 };
const listed = (m: Moves): number[][] =>
  Array.from({ length: m.count }, (_, i) => [m.x[i]!, m.y[i]!, m.speed[i]!, m.power[i]!, m.bulge[i]!]);
const made = (add: (m: Moves) => void): number[][] => {
  const moves = new Moves();
  add(moves);
  return listed(moves);
};
const RAPID = -1;

describe('a filled line, move by move', () => {
  // v²/2a: 200² / (2 · 5000) = 4 mm to reach 200 mm/s at 5000 mm/s².
  it('runs up as far as it takes to reach the speed', () => expect(runUp(SETTING, 5000)).toBe(4));

  const row = { spans: [10, 12, 15, 20], grid: null, y: 7, setting: SETTING, lead: 4 };
  it('begins before its first stretch, burns the stretches only, and runs out behind its last', () => {
    expect(made((m) => addRow(m, { ...row, forward: true }))).toEqual([
      [6, 7, RAPID, 0, 0],
      [10, 7, 200, 0, 0],
      [12, 7, 200, 0.35, 0],
      [15, 7, 200, 0, 0],
      [20, 7, 200, 0.35, 0],
      [24, 7, 200, 0, 0],
    ]);
  });
  it('goes the same way back', () => {
    expect(made((m) => addRow(m, { ...row, forward: false }))).toEqual([
      [24, 7, RAPID, 0, 0],
      [20, 7, 200, 0, 0],
      [15, 7, 200, 0.35, 0],
      [12, 7, 200, 0, 0],
      [10, 7, 200, 0.35, 0],
      [6, 7, 200, 0, 0],
    ]);
  });
  it('counts in steps of a grid where it has one', () => {
    const stepped = { ...row, spans: [4, 8], grid: { pitch: 0.25, first: 4, last: 8 } };
    expect(made((m) => addRow(m, { ...stepped, forward: true })).map(([x]) => x)).toEqual([-3, 1, 2, 6]);
  });

  const square = [[{ x: 0, y: 0 }, { x: 10, y: 0 }, { x: 10, y: 3 }, { x: 0, y: 3 }]]; // prettier-ignore
  const firsts = (bothWays: boolean, passes = 1): number[] =>
    made((m) => addFill(m, square, { ...SETTING, passes }, 5000, bothWays))
      .filter(([, , speed]) => speed === RAPID)
      .map(([x]) => x!);
  it('is followed by the next the other way, or the same way where that is asked; all of it once a pass', () => {
    expect(firsts(true)).toEqual([-4, 14, -4]);
    expect(firsts(false)).toEqual([-4, -4, -4]);
    expect(firsts(true, 2)).toEqual([-4, 14, -4, -4, 14, -4]);
  });
});

describe('lines, move by move', () => {
  it('go to the start of each with the beam off; what is closed goes round again without', () => {
    const open = polyline([{ x: 1, y: 1 }, { x: 5, y: 1 }]); // prettier-ignore
    const twice = { ...SETTING, passes: 2 };
    expect(made((m) => addLines(m, [open], twice))).toEqual([
      [1, 1, RAPID, 0, 0],
      [5, 1, 200, 0.35, 0],
      [1, 1, RAPID, 0, 0],
      [5, 1, 200, 0.35, 0],
    ]);
    const round = made((m) => addLines(m, [circle({ x: 0, y: 0 }, 2)], twice));
    expect(round.filter(([, , speed]) => speed === RAPID)).toHaveLength(1);
    expect(round.slice(1).map(([x, y, , , bulge]) => [x, y, bulge])).toEqual([[-2, 0, 1], [2, 0, 1], [-2, 0, 1], [2, 0, 1]]); // prettier-ignore
  });
  it('follow from the end of what is open, from the start of what is closed', () => {
    const to = (x: number) => polyline([{ x: 20, y: 0 }, { x, y: 0 }]); // prettier-ignore
    const near = circle({ x: 22, y: 0 }, 1);
    const far = circle({ x: 99, y: 0 }, 1);
    const starts = (first: number) => ordered([far, near, to(first)], { x: 19, y: 0 }).map((c) => c.vertices[0]!.x);
    expect(starts(90)).toEqual([20, 100, 23]);
    expect(starts(21)).toEqual([20, 23, 100]);
  });
});

describe('the time of moves', () => {
  const time = (list: readonly (readonly [number, number, number, number, number?])[]) => {
    const moves = new Moves();
    for (const [x, y, speed, power, bulge = 0] of list) moves.push(x, y, speed, power, bulge);
    return planTime(moves, testMachine);
  };
  const a = testMachine.acceleration;

  it('is that of a trapezoid from rest to rest, beam on or off', () => {
    // l / v + v / a: 200/400 + 400/5000.
    expect(restToRest(200, 400, 5000)).toBeCloseTo(0.58, 12);
    expect(restToRest(8, 400, 5000)).toBeCloseTo(2 * Math.sqrt(8 / 5000), 12);
    const burned = time([[100, 0, 100, 0.5]]);
    expect(burned.total).toBeCloseTo(100 / 100 + 100 / a, 12);
    expect(burned.burning).toBe(burned.total);
    const rapid = time([[100, 0, RAPID, 0]]);
    expect(rapid.total).toBeCloseTo(100 / testMachine.rapidSpeed + testMachine.rapidSpeed / a, 12);
    expect(rapid.burning).toBe(0);
  });
  it('of a slow move is slow: only what is marked so goes at the machine’s own speed', () => {
    expect(time([[10, 0, 0.5, 0.5]]).total).toBeCloseTo(10 / 0.5 + 0.5 / a, 9);
  });
  it('of an arc is that of its length', () => {
    // Half a turn of radius 50: 157.08 mm.
    expect(time([[100, 0, 100, 0.5, 1]]).total).toBeCloseTo((Math.PI * 50) / 100 + 100 / a, 9);
  });
  it('does not slow where an arc leaves and takes up the way it came, and does where it turns off', () => {
    // 50 mm, a quarter of a circle of radius 50 to the left, 50 mm on: one way of 100 + 25 π mm.
    const quarter = Math.tan(Math.PI / 8);
    const smooth = time([[50, 0, 400, 0.5], [100, 50, 400, 0.5, quarter], [100, 100, 400, 0.5]]); // prettier-ignore
    expect(smooth.total).toBeCloseTo((100 + 25 * Math.PI) / 400 + 400 / a, 9);
    const clockwise = time([[50, 0, 400, 0.5], [100, -50, 400, 0.5, -quarter], [100, -100, 400, 0.5]]); // prettier-ignore
    expect(clockwise.total).toBeCloseTo(smooth.total, 9);
    const off = time([[50, 0, 400, 0.5], [100, 50, 400, 0.5, -quarter], [100, 100, 400, 0.5]]); // prettier-ignore
    expect(off.total).toBeGreaterThan(smooth.total + 0.01);
  });
  it.each([
    // A circle of 2 mm at 5000 mm/s²: v² / r may be 5000, so v is √5000 = 70.7 mm/s, whatever is asked.
    [1, 200, Math.sqrt(5000)],
    [1, 60, 60],
    [40, 400, 400],
    [10, 800, Math.sqrt(50_000)],
  ])('of a circle of radius %d at %d mm/s: it goes no faster than the way round allows', (r, speed, v) => {
    const circle = time([[0, 0, RAPID, 0], [2 * r, 0, speed, 0.5, 1], [0, 0, speed, 0.5, 1]]); // prettier-ignore
    const round = 2 * Math.PI * r;
    // From rest to rest, as along a straight line: the two halves meet smoothly.
    expect(circle.burning).toBeCloseTo(restToRest(round, v, a), 9);
  });

  it.each([40, 200, 2000])(
    'of a circle in %d chords is that of its arcs: curves are not faster for being cut up',
    (chords) => {
      // v² / r = a at radius 1, whatever the deviation at the corners would let through.
      const list = Array.from({ length: chords }, (_, i) => {
        const t = (2 * Math.PI * (i + 1)) / chords;
        return [2 - 2 * Math.cos(t), 2 * Math.sin(t), 400, 0.5] as const;
      });
      const cut = time([[0, 0, RAPID, 0], ...list]).burning;
      const way = 2 * chords * 2 * Math.sin(Math.PI / chords);
      const round = restToRest(way, Math.sqrt(2 * a), a);
      // Chords may be driven faster between their corners: coarse ones a little.
      expect(cut).toBeLessThanOrEqual(round * 1.02);
      expect(cut).toBeGreaterThan(round * (chords < 20 ? 0.75 : 0.97));
    },
  );
  it('goes by the axis that is short of it first', () => {
    const [x, y, both] = [
      [100, 0],
      [0, 100],
      [100, 100],
    ].map(([toX, toY]) => {
      const moves = new Moves();
      moves.push(toX!, toY!, 100, 0.5);
      return planTime(moves, { acceleration: 5000, rapidSpeed: 500, accelerationY: 50 }).total;
    });
    expect(x).toBeCloseTo(restToRest(100, 100, 5000), 12);
    expect(y).toBeCloseTo(restToRest(100, 100, 50), 12);
    // Along the diagonal y takes 1/√2 of the speed: √2 × 50.
    expect(both).toBeCloseTo(restToRest(100 * Math.SQRT2, 100, 50 * Math.SQRT2), 12);
  });

  // A way of 50 mm at 100 mm/s at most, from one speed to another.
  const leg = (v0: number, v1: number, length = 50): number => {
    const away = (100 ** 2 - v0 ** 2) / (2 * a) + (100 ** 2 - v1 ** 2) / (2 * a);
    return (2 * 100 - v0 - v1) / a + (length - away) / 100;
  };
  /** Junction deviation: v² = a · d · s / (1 − s) with s the sine of half the angle between the ways. */
  const cornerSpeed = (turn: number): number => {
    const s = Math.cos(turn / 2);
    return Math.sqrt((a * 0.02 * s) / (1 - s));
  };
  const eighth = Math.tan(Math.PI / 16);
  it.each([
    // An eighth of a circle from (0, 0) ends 45° to the left of how it began; chords lean 22.5°.
    ['that leaves to the left of its chord', eighth, 45],
    ['that leaves to the right of it', -eighth, -45],
  ])('after an arc %s slows for the corner with the way that the arc ends in', (_, bulge, turned) => {
    const lean = (degrees: number) => ({ x: 50 * Math.cos((degrees * Math.PI) / 180), y: 50 * Math.sin((degrees * Math.PI) / 180) }); // prettier-ignore
    const half = Math.PI / 8;
    const arc = 50 / Math.sin(half) * half; // prettier-ignore
    const chord = lean(turned / 2);
    for (const on of [0, 60, -70]) {
      const next = lean(on);
      const found = time([[chord.x, chord.y, 100, 0.5, bulge], [chord.x + next.x, chord.y + next.y, 100, 0.5]]); // prettier-ignore
      const v = Math.min(100, cornerSpeed((Math.abs(on - turned) * Math.PI) / 180));
      expect(found.total).toBeCloseTo(leg(0, v, arc) + leg(v, 0), 9);
      // The same backwards: the arc begins with the way that it ended in.
      const back = time([[next.x, next.y, 100, 0.5], [next.x + chord.x, next.y + chord.y, 100, 0.5, bulge]]); // prettier-ignore
      const w = Math.min(100, cornerSpeed((Math.abs(on) * Math.PI) / 180));
      expect(back.total).toBeCloseTo(leg(0, w) + leg(w, 0, arc), 9);
    }
  });
  it('of a move too short for its speed ends at the peak it can reach', () => {
    // From 50 mm/s over 4 mm to rest: v² = 50² / 2 + a · 4, and no cruise.
    const peak = Math.sqrt(50 ** 2 / 2 + a * 4);
    const slow = (50 - 50 ** 2 / (2 * a)) / 50 + 50 / a;
    const both = time([[50, 0, 50, 0.5], [54, 0, 800, 0.5]]); // prettier-ignore
    expect(both.total).toBeCloseTo(slow + (2 * peak - 50) / a, 9);
  });
  it('is never short by the choice of restToRest, where trapezoid and triangle meet', () => {
    const meet = 400 ** 2 / 5000;
    expect(restToRest(meet, 400, 5000)).toBeCloseTo(2 * Math.sqrt(meet / 5000), 12);
  });
  it('of two lists one after the other is that of all of their moves', () => {
    const [one, two] = [new Moves(), new Moves()];
    for (let i = 1; i <= 5; i += 1) one.push(10 * i, i, 100, 0.1 * i, 0.01 * i);
    two.rapid(3, 4);
    two.append(one);
    expect(listed(two)).toEqual([[3, 4, RAPID, 0, 0], ...listed(one)]);
  });
  it('has no stop where the way goes straight on, and one where it turns back', () => {
    expect(time([[50, 0, 100, 0.5], [100, 0, 100, 0.5]]).total).toBeCloseTo(1 + 100 / a, 12); // prettier-ignore
    const back = time([[50, 0, 100, 0.5], [0, 0, 100, 0.5]]); // prettier-ignore
    expect(back.total).toBeCloseTo(2 * (50 / 100 + 100 / a), 9);
  });
  it('slows at a right angle to what its acceleration allows over 0.02 mm', () => {
    const corner = cornerSpeed(Math.PI / 2);
    expect(time([[50, 0, 100, 0.5], [50, 50, 100, 0.5]]).total).toBeCloseTo(leg(0, corner) + leg(corner, 0), 9); // prettier-ignore
  });
});
