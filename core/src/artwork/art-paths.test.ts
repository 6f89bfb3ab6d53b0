import type { Contour } from '../geometry';
import type { ArtShape } from './art-file';
import { artPaths } from './art-paths';

const ring = (x: number, y: number, r: number, n: number, back = false): Contour => ({
  closed: true,
  vertices: Array.from({ length: n }, (_, i) => (2 * Math.PI * (back ? n - i : i)) / n).map((t) => ({ x: x + r * Math.cos(t), y: y + r * Math.sin(t) })),
}); // prettier-ignore
const shape = (contours: readonly Contour[], so: Partial<ArtShape>): ArtShape => ({ contours, rule: 'evenodd', fill: null, stroke: null, width: 0, ...so }); // prettier-ignore
const count = (d: string): number => d.match(/M/g)!.length;

describe('a file of art as paths', () => {
  it('has one for each role that something of it has, as it is burned', () => {
    const square: Contour = { closed: true, vertices: [{ x: 0, y: 0 }, { x: 10, y: 0 }, { x: 10, y: 10 }, { x: 0, y: 10 }] }; // prettier-ignore
    const arc: Contour = {
      closed: false,
      vertices: [
        { x: 0, y: 20, bulge: 1 },
        { x: 10, y: 20 },
      ],
    };
    const { box, paths } = artPaths([shape([square], { fill: '#000000', stroke: '#0000ff' }), shape([arc], { stroke: '#ff0000' })], { 'stroke #0000ff': 'guide', 'stroke #ff0000': 'cut' }); // prettier-ignore
    expect(paths.map((p) => p.role)).toEqual(['area', 'cut', 'guide']);
    // An arc stays one where there are few.
    expect(paths[1]!.d).toMatch(/^M0 20A5 5 0 [01] 1 10 20$/);
    expect(box).toEqual({ minX: 0, minY: 0, maxX: 10, maxY: 20 });
  });
  it('burns what lies over each other once', () => {
    const two = [shape([ring(0, 0, 10, 60)], { fill: '#000000' }), shape([ring(5, 0, 10, 60)], { fill: '#102030' })];
    const { paths } = artPaths(two, {});
    expect(paths.map((p) => [p.role, count(p.d)])).toEqual([['area', 1]]);
  });
  it('of a large one comes in parts, each hole with what it is a hole of', () => {
    const rings = Array.from({ length: 400 }, (_, i) => shape([ring(30 * (i % 20), 30 * Math.floor(i / 20), 12, 400), ring(30 * (i % 20), 30 * Math.floor(i / 20), 6, 400, true)], { fill: '#000000' })); // prettier-ignore
    const { paths } = artPaths(rings, {});
    expect(paths.length).toBeGreaterThan(5);
    for (const { d, role } of paths) {
      expect([role, d.length < 140_000, count(d) % 2]).toEqual(['area', true, 0]);
    }
    expect(paths.reduce((n, p) => n + count(p.d), 0)).toBe(800);
    // Thinned to half a dot of a thousand: 0.3 mm of 594.
    const corners = paths.reduce((n, p) => n + p.d.match(/[ML]/g)!.length, 0);
    expect([corners > 50_000, corners < 400 * 800]).toEqual([true, true]);
  });
});
