import jStat from 'jstat';
import { centroid, type Vec } from '../geometry';
import { errorMap } from './error-map';
import { chooseModel, placementOf } from './models';
import { LEAST_HEIGHT, pointerAt, type PointerOffset } from './pointer';

const MARKS: Vec[] = [
  { x: 10, y: 10 },
  { x: 290, y: 20 },
  { x: 300, y: 190 },
  { x: 5, y: 180 },
];
const middle = centroid(MARKS);
const spread = MARKS.reduce((s, m) => s + (m.x - middle.x) ** 2 + (m.y - middle.y) ** 2, 0);
const SIGMA = 0.05;

describe('the aiming error of a rigid board, in closed form', () => {
  // Least squares of a shift and a turn about the marks' middle: the shift has σ²/n each way, the turn σ²/Σr², and they
  // do not depend on each other. A point at d from the middle has σ√(1/n + d²/Σr²) across its way from it, σ/√n along.
  const map = errorMap('rigid', MARKS, SIGMA)!;
  it.each([
    [0, 0],
    [150, 0],
    [0, -90],
    [120, 70],
    [-200, 160],
  ])('at %d, %d from the marks’ middle', (x, y) => {
    const { major, minor, angle } = map.at({ x: middle.x + x, y: middle.y + y });
    const d = Math.hypot(x, y);
    expect(major).toBeCloseTo(SIGMA * Math.sqrt(1 / 4 + d ** 2 / spread), 9);
    expect(minor).toBeCloseTo(SIGMA / Math.sqrt(4), 9);
    if (d === 0) return;
    // Its long axis stands square on the way from the middle.
    expect(Math.abs(Math.cos(angle) * x + Math.sin(angle) * y) / d).toBeLessThan(1e-6);
    // What lies within the radius, slice by slice across the long axis.
    const radius = map.radius({ x: middle.x + x, y: middle.y + y });
    let within = 0;
    const slices = 20_000;
    for (let i = 0; i < slices; i += 1) {
      const u = -radius + ((i + 0.5) * 2 * radius) / slices;
      const half = Math.sqrt(radius ** 2 - u ** 2) / minor;
      within +=
        (Math.exp(-((u / major) ** 2) / 2) / (major * Math.sqrt(2 * Math.PI))) *
        ((2 * radius) / slices) *
        (2 * jStat.normal.cdf(half, 0, 1) - 1);
    }
    expect(within).toBeCloseTo(0.95, 5);
  });
  it('grows with the eye, and shrinks with marks that are doubled as one over the root of two', () => {
    const corner = { x: 300, y: 200 };
    expect(errorMap('rigid', MARKS, 2 * SIGMA)!.radius(corner)).toBeCloseTo(2 * map.radius(corner), 9);
    const twice = errorMap('rigid', [...MARKS, ...MARKS], SIGMA)!;
    expect(twice.radius(corner)).toBeCloseTo(map.radius(corner) / Math.SQRT2, 9);
  });
});

describe('a placement', () => {
  it('says where its marks are: how many, their middle on the machine, and how far they spread', () => {
    const turn = 0.02;
    const read = (m: Vec): Vec => ({
      x: 100 + m.x * Math.cos(turn) - m.y * Math.sin(turn),
      y: 50 + m.x * Math.sin(turn) + m.y * Math.cos(turn),
    });
    const pairs = MARKS.map((drawn, i) => ({ id: i + 1, drawn, read: read(drawn) }));
    const { fit } = chooseModel(pairs, SIGMA, ['rigid'])!.proposed;
    const placed = placementOf(fit, pairs);
    expect(placed).toMatchObject({ model: 'rigid', marks: 4 });
    expect(placed.spread).toBeCloseTo(spread, 6);
    expect(placed.angle).toBeCloseTo(turn, 9);
    expect(placed.centre.x).toBeCloseTo(read(middle).x, 6);
    expect(placed.centre.y).toBeCloseTo(read(middle).y, 6);
    expect(placed.residuals.every((r) => r.distance < 1e-6)).toBe(true);
  });
});

describe('a pointer that shines aslant', () => {
  const at = (height: number): PointerOffset => ({
    x: 1,
    y: -2,
    height: 5,
    second: { x: 1.4, y: -2.2, height },
    measuredAt: '2026-10-01T08:00:00.000Z',
  });
  it('lands on the line through both heights it was measured at', () => {
    expect(pointerAt(at(15), 5)).toEqual({ x: 1, y: -2 });
    expect(pointerAt(at(15), 15).x).toBeCloseTo(1.4, 12);
    expect(pointerAt(at(15), 25).y).toBeCloseTo(-2.4, 12);
    expect(pointerAt(at(15), 0).x).toBeCloseTo(0.8, 12);
  });
  it('is measured by heights that are far enough apart, and no less', () => {
    expect(pointerAt(at(5 + LEAST_HEIGHT), 5 + LEAST_HEIGHT).x).toBeCloseTo(1.4, 12);
    expect(pointerAt(at(5 - LEAST_HEIGHT), 5 - LEAST_HEIGHT).x).toBeCloseTo(1.4, 12);
    expect(pointerAt(at(5 + LEAST_HEIGHT - 0.01), 20)).toEqual({ x: 1, y: -2 });
  });
});
