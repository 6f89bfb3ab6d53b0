import fc from 'fast-check';
import { seeded } from '../budget';
import { AXIS_95, PLANE_95, planeRadius95 } from './coverage';

describe('the radius that holds 95 of 100 in the plane', () => {
  it('is that of one axis when the other is nothing, and of a circle when both are alike', () => {
    expect(planeRadius95(1, 0, 0)).toBeCloseTo(AXIS_95, 2);
    expect(planeRadius95(0, 4, 0)).toBeCloseTo(2 * AXIS_95, 2);
    expect(planeRadius95(1, 1, 0)).toBeCloseTo(PLANE_95, 9);
    expect(planeRadius95(9, 9, 0)).toBeCloseTo(3 * PLANE_95, 9);
    expect(planeRadius95(0, 0, 0)).toBe(0);
  });

  // A table of the circular error of unequal axes would do; none is at hand: two hundred thousand throws each instead.
  it.each([
    [1, 0.25, 0],
    [1, 0.04, 0],
    [2, 1, 0.9],
    [0.5, 3, -1],
  ])('holds 95 of 100 throws of variances %d and %d, covariance %d', (xx, yy, xy) => {
    const r = planeRadius95(xx, yy, xy);
    const random = seeded(11);
    const l11 = Math.sqrt(xx);
    const l21 = xy / l11;
    const l22 = Math.sqrt(yy - l21 * l21);
    const COUNT = 200_000;
    let inside = 0;
    for (let i = 0; i < COUNT; i += 1) {
      const [a, b] = [random.normal(), random.normal()];
      if (Math.hypot(l11 * a, l21 * a + l22 * b) <= r) inside += 1;
    }
    // √(0.95 · 0.05 / 200 000) is 0.0005; four of them.
    expect(Math.abs(inside / COUNT - 0.95)).toBeLessThan(0.002);
  });

  it('does not change when the axes are turned, and grows with the error', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.01, max: 4, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: Math.PI, noNaN: true }),
        (a, share, t) => {
          const b = share * a;
          const [c, s] = [Math.cos(t), Math.sin(t)];
          const turned = planeRadius95(a * c * c + b * s * s, a * s * s + b * c * c, (a - b) * s * c);
          expect(turned).toBeCloseTo(planeRadius95(a, b, 0), 5);
          const standard = turned / Math.sqrt(a);
          expect(standard).toBeGreaterThan(AXIS_95 - 0.01);
          expect(standard).toBeLessThan(PLANE_95 + 1e-6);
          // What the circle's factor would have said of the same sum of variances is never more where axes differ much.
          if (share < 0.5) expect(turned).toBeGreaterThan((PLANE_95 / Math.SQRT2) * Math.sqrt(a + b));
        },
      ),
    );
  });
});
