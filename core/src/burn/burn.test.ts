import { apply, flatten, circle } from '../geometry';
import { testMachine } from '../test-batch';
import { addFill, addLines, ordered, runUp } from './toolpath';
import { atInterval, bedToFile, fluence } from './machine';
import { Moves, planTime, restToRest } from './moves';

const setting = { power: 0.5, speed: 400, interval: 0.1, passes: 1 };

describe('machine coordinates', () => {
  const bed = { width: 900, height: 600 };
  it.each([
    ['front-left', 'away', 10, 20],
    ['back-left', 'toward', 10, 580],
    ['back-left', 'away', 10, -580],
    ['front-right', 'away', -890, 20],
    ['back-right', 'toward', -890, 580],
  ] as const)('zero %s, y runs %s', (zeroCorner, yRuns, x, y) => {
    expect(apply(bedToFile({ bed, zeroCorner, yRuns }), { x: 10, y: 20 })).toEqual({ x, y });
  });
});

it('holds the fluence of the worked example: 36 W, 250 mm/s, 300 lines to the inch', () => {
  expect(fluence(36, { power: 1, speed: 250, interval: 25.4 / 300, passes: 1 })).toBeCloseTo(1.701, 3);
});

describe('another distance between lines', () => {
  const wanted = { power: 0.45, speed: 250, interval: 0.085, passes: 2 };
  it('takes 32.7 % where 45 % were meant for lines 0.085 apart and they come 0.06185 apart', () => {
    expect(atInterval(wanted, 0.06185, 0.13)).toMatchObject({ interval: 0.06185, speed: 250, passes: 2, power: expect.closeTo(0.32744, 5) }); // prettier-ignore
  });
  it('leaves the same energy on the surface, by power where the source can, else by speed', () => {
    for (const interval of [0.01, 0.03, 0.05, 0.085, 0.12, 0.2, 0.4])
      for (const least of [0, 0.13, 0.4]) {
        const s = atInterval(wanted, interval, least);
        expect(fluence(40, s)).toBeCloseTo(fluence(40, wanted), 9);
        expect(s.power >= least - 1e-12 && s.power <= 1).toBe(true);
        expect(s.speed).toBeCloseTo(s.power > least && s.power < 1 ? 250 : s.speed, 9);
      }
    // 0.45 × 0.4 / 0.085 is more than there is: so much slower.
    expect(atInterval(wanted, 0.4, 0)).toMatchObject({ power: 1, speed: expect.closeTo((250 * 0.085) / (0.45 * 0.4), 9) }); // prettier-ignore
    expect(atInterval(wanted, 0.01, 0.13)).toMatchObject({ power: 0.13, speed: expect.closeTo((250 * 0.13 * 0.085) / (0.45 * 0.01), 9) }); // prettier-ignore
  });
  it('does not make a recipe fire that does not', () => {
    expect(atInterval({ ...wanted, power: 0.05 }, 0.085, 0.13).power).toBe(0.05);
  });
});

describe('time', () => {
  it('is 0.580 s for 200 mm at 400 mm/s and 5000 mm/s²', () => {
    expect(restToRest(200, 400, 5000)).toBeCloseTo(0.58, 9);
    const moves = new Moves();
    moves.push(200, 0, 400, 1);
    expect(planTime(moves, { acceleration: 5000, rapidSpeed: 500 }).total).toBeCloseTo(0.58, 9);
  });
  it('is the same in one move or in many along one line', () => {
    const moves = new Moves();
    for (let x = 1; x <= 200; x += 1) moves.push(x, 0, 400, x % 2);
    expect(planTime(moves, { acceleration: 5000, rapidSpeed: 500 }).total).toBeCloseTo(0.58, 6);
  });
  it('stops at a reversal and hardly slows on a wide arc', () => {
    const back = new Moves();
    back.push(200, 0, 400, 1);
    back.push(0, 0, 400, 1);
    expect(planTime(back, { acceleration: 5000, rapidSpeed: 500 }).total).toBeCloseTo(1.16, 6);
    const arc = new Moves();
    addLines(arc, [circle({ x: 0, y: 0 }, 100)], { ...setting, speed: 50 });
    const { burning } = planTime(arc, { acceleration: 5000, rapidSpeed: 500 }, { x: 100, y: 0 });
    expect(burning).toBeCloseTo((2 * Math.PI * 100) / 50, 0);
  });
  it('agrees with a numerical integration of a corner-free profile', () => {
    // Brute force: step the trapezoid in microseconds.
    let v = 0,
      x = 0,
      t = 0;
    const dt = 2e-6;
    while (x < 30) {
      v = Math.min(300, v + 2000 * dt, Math.sqrt(2 * 2000 * Math.max(1e-9, 30 - x)));
      x += v * dt;
      t += dt;
    }
    expect(restToRest(30, 300, 2000)).toBeCloseTo(t, 2);
  });
});

describe('fills', () => {
  const square = [
    flatten({
      closed: true,
      vertices: [
        { x: 0, y: 0 },
        { x: 10, y: 0 },
        { x: 10, y: 5 },
        { x: 0, y: 5 },
      ],
    }),
  ];
  it('burn every line once, there and back, with the beam off in the run-ups', () => {
    const moves = new Moves();
    addFill(moves, square, setting, 5000);
    let burned = 0;
    let x = 0;
    let lines = 0;
    for (let i = 0; i < moves.count; i += 1) {
      if (moves.power[i]! > 0) {
        burned += Math.abs(moves.x[i]! - x);
        lines += 1;
        expect(moves.x[i]! >= -1e-9 && moves.x[i]! <= 10 + 1e-9).toBe(true);
      }
      x = moves.x[i]!;
    }
    expect(lines).toBe(50);
    expect(burned).toBeCloseTo(500, 6);
    expect(Math.min(...moves.x.slice(0, moves.count))).toBeCloseTo(-runUp(setting, 5000), 9);
  });
  it('take twice the time for twice the lines', () => {
    const time = (interval: number): number => {
      const moves = new Moves();
      addFill(moves, square, { ...setting, interval }, 5000);
      return planTime(moves, testMachine).total;
    };
    expect(time(0.05) / time(0.1)).toBeCloseTo(2, 1);
  });
});

it('orders contours by the nearest next start', () => {
  const at = (x: number) => circle({ x, y: 0 }, 1);
  expect(ordered([at(50), at(10), at(30)], { x: 0, y: 0 }).map((c) => c.vertices[0]!.x)).toEqual([11, 31, 51]);
});
