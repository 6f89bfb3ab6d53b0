import type { RoundShape } from '@bistre/core';
import { EXAMPLES } from '../../../../core/src/test-ways';
import { prepare, stretches } from './strokes';

const shape = EXAMPLES.drive.blank.shape as RoundShape;

describe('strokes on a turning blank', () => {
  it('are cut into stretches of at most 2°, end to end, straight on its unrolled side', () => {
    const out = stretches(Float32Array.from([0, 10, 1, 40]));
    expect(out.length).toBe(4 * Math.ceil(1 / (Math.PI / 90)));
    expect([...out.slice(0, 2), ...out.slice(-2)]).toEqual([0, 10, 1, 40].map((v) => expect.closeTo(v, 6)));
    for (let i = 0; i < out.length; i += 4) {
      const [a, along, b, next] = [...out.slice(i, i + 4)] as [number, number, number, number];
      expect(b - a).toBeLessThanOrEqual(Math.PI / 90 + 1e-6);
      expect(along).toBeCloseTo(10 + 30 * a, 4);
      expect(next).toBeCloseTo(10 + 30 * b, 4);
    }
    // Going on where the one before ended.
    for (let i = 4; i < out.length; i += 4) expect([...out.slice(i, i + 2)]).toEqual([...out.slice(i - 2, i)]);
  });

  it('that are short stay as they are', () =>
    expect([...stretches(Float32Array.from([0, 10, 0.01, 10]))]).toEqual([0, 10, 0.01, 10].map((v) => expect.closeTo(v, 6)))); // prettier-ignore

  it('know their radius at their place, and where one goes on with the one before', () => {
    const { radius, joined, sin, cos } = prepare(shape, Float32Array.from([0, 0, 0.02, 0, 0.02, 0, 0.04, 0, 2, 0, 2.02, 0])); // prettier-ignore
    expect([...radius]).toEqual(Array.from({ length: 6 }, () => expect.closeTo(shape.profile[0]!.diameter / 2, 4)));
    expect([...joined]).toEqual([0, 0, 1, 0, 0, 0]);
    for (let i = 0; i < 6; i += 1) expect(sin[i]! ** 2 + cos[i]! ** 2).toBeCloseTo(1, 6);
  });
});
