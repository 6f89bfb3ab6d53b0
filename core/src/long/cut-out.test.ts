import { circle, polygonArea, flatten, polyline, roundedRectangle, type Contour } from '../geometry';
import { reckonCutOut, uniteLetters } from './cut-out';
import type { LongShape } from './art';

const cut = (...contours: Contour[]): LongShape[] => contours.map((contour) => ({ kind: 'cut', contour }));
const box = (x: number, y: number, w: number, h: number): Contour => roundedRectangle({ x, y }, w, h);

describe('words cut out of a board', () => {
  it('are one piece where letters overlap, with the area of a union', () => {
    const letters = [box(0, 0, 40, 10), box(30, 0, 40, 10)];
    const out = reckonCutOut(cut(...letters))!;
    expect(out).toMatchObject({ before: 2, pieces: 1, falls: [] });
    const area = uniteLetters(letters).reduce((s, c) => s + polygonArea(flatten(c)), 0);
    expect(Math.abs(area)).toBeCloseTo(70 * 10, 3);
  });

  it('lose the dots that nothing joins, and the slugs of counters, by place and size', () => {
    const out = reckonCutOut(cut(box(0, 0, 60, 30), circle({ x: 10, y: 40 }, 3), circle({ x: -10, y: 0 }, 6)))!;
    expect(out.pieces).toBe(2);
    expect(out.falls.map((f) => [f.kind, Math.round(f.at.x), Math.round(f.at.y), Math.round(f.width)])).toEqual([
      ['dot', 10, 40, 6],
      ['counter', -10, 0, 12],
    ]);
  });

  it('leave islands in a stencil that nothing holds', () => {
    // A board with an O cut through it: the O is a slug, its middle an island.
    const stencil = cut(box(0, 0, 80, 40), circle({ x: 0, y: 0 }, 12), circle({ x: 0, y: 0 }, 5));
    const out = reckonCutOut(stencil)!;
    expect(out).toMatchObject({ before: 2, pieces: 2 });
    expect(out.falls.map((f) => [f.kind, Math.round(f.width)])).toEqual([
      ['dot', 10],
      ['counter', 24],
    ]);
    expect(uniteLetters(stencil.map((s) => s.contour))).toHaveLength(3);
  });

  it('keep a counter whichever way round it was drawn', () => {
    for (const turn of [1, -1]) {
      const ring = flatten(circle({ x: 0, y: 0 }, 5), 0.01);
      const hole = polyline(turn > 0 ? ring : [...ring].reverse(), true);
      expect(reckonCutOut(cut(box(0, 0, 40, 20), hole))!.falls).toHaveLength(1);
    }
  });

  it('are thinnest where two halves hang together, to a hundredth of a millimetre', () => {
    // Two squares joined by a bar 2.4 mm high.
    const bone = cut(box(-20, 0, 20, 20), box(20, 0, 20, 20), box(0, 0, 30, 2.4));
    const { neck } = reckonCutOut(bone)!;
    expect(neck!.width).toBeGreaterThan(2.39);
    expect(neck!.width).toBeLessThan(2.43);
    expect(Math.abs(neck!.at.x)).toBeLessThan(11);
    expect(Math.abs(neck!.at.y)).toBeLessThan(1.3);
    // A plain bar has no neck, nor has a disc.
    expect(reckonCutOut(cut(box(0, 0, 80, 3)))!.neck).toBeNull();
    expect(reckonCutOut(cut(circle({ x: 0, y: 0 }, 12)))!.neck).toBeNull();
    expect(reckonCutOut([])).toBeNull();
  });
});
