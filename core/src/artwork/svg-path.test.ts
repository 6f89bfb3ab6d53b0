import fc from 'fast-check';
import { pathContours } from './svg-path';

const number = fc.double({ min: -500, max: 500, noNaN: true }).map((v) => Number(v.toFixed(3)));
const place = fc.tuple(number, number).map(([x, y]) => `${x} ${y}`);
const command = fc.oneof(
  place.map((p) => `L ${p}`),
  fc.tuple(place, place).map((p) => `Q ${p.join(' ')}`),
  fc.tuple(place, place, place).map((p) => `C ${p.join(' ')}`),
);
const part = fc.tuple(place, fc.array(command, { minLength: 1, maxLength: 6 }), fc.boolean());
const path = fc.array(part, { minLength: 1, maxLength: 4 }).map((parts) => parts.map(([p, c, z]) => `M ${p} ${c.join(' ')}${z ? ' Z' : ''}`).join(' ')); // prettier-ignore
const to = { a: 0.3, b: 0.1, c: -0.2, d: -0.4, e: 12, f: 7 };

describe('a path as contours', () => {
  it('is the same read word by word, as what makes drawings plain writes it, and by the library of paths', () => {
    fc.assert(
      fc.property(path, (d) => {
        const [plain, any] = [pathContours(d, to, 0.01, 1e6), pathContours(d.replaceAll(' ', '  '), to, 0.01, 1e6)];
        expect(plain.map((c) => [c.closed, c.vertices.length])).toEqual(any.map((c) => [c.closed, c.vertices.length]));
        plain.forEach((c, i) =>
          c.vertices.forEach((v, k) => {
            const w = any[i]!.vertices[k]!;
            expect(Math.hypot(v.x - w.x, v.y - w.y)).toBeLessThan(1e-9);
          }),
        );
      }),
      { numRuns: 300 },
    );
  });

  it('goes on where a path that began plain goes on otherwise, each part of it once', () => {
    const [first, second, ...more] = pathContours('M 0 0 L 10 0 L 10 10 Z m 20 20 h 5\nv 5 z', to, 0.01, 1e6);
    expect([first!.vertices.length, second!.vertices.length, more]).toEqual([3, 3, []]);
    expect(first!.vertices[1]).toEqual({ x: 12 + 3, y: 7 + 1 });
    // 25, 20 and 25, 25: five to the right of 20, 20 and five on.
    expect(second!.vertices[2]).toEqual({ x: expect.closeTo(0.3 * 25 - 0.2 * 25 + 12, 9), y: expect.closeTo(0.1 * 25 - 0.4 * 25 + 7, 9) }); // prettier-ignore
  });

  it('is refused where it has too many points, or cannot be read', () => {
    expect(() => pathContours(`M 0 0 ${'L 1 1 '.repeat(50).trim()}`, to, 0.01, 40)).toThrow(/more than .* points/);
    expect(() => pathContours('M 0 0 L 5', to, 0.01, 40)).toThrow(/A path cannot be read/);
    expect(() => pathContours('M 0 0 L 1e999 5', to, 0.01, 40)).toThrow(/not a finite number/);
  });
});
