import { contourBox, roundedRectangle, contourLength, type Contour, type Vec } from '../geometry';
import { freshTrace, type TracedSheet, type TraceChoices, type Traced } from '../trace';
import type { ArtShape } from './art-file';
import { drawnSheet } from './drawn-sheet';
import type { ReadArt } from './read-art';

const closed = (points: readonly (readonly [number, number])[]): Contour => ({ closed: true, vertices: points.map(([x, y]) => ({ x, y })) }); // prettier-ignore
const open = (points: readonly (readonly [number, number])[]): Contour => ({ ...closed(points), closed: false });
const box = (x: number, y: number, w: number, h: number): Contour => closed([[x, y], [x + w, y], [x + w, y + h], [x, y + h]]); // prettier-ignore
const round = ({ x, y }: Vec, r: number): Contour => closed(Array.from({ length: 180 }, (_, i) => [x + r * Math.cos((i * Math.PI) / 90), y + r * Math.sin((i * Math.PI) / 90)])); // prettier-ignore
const shape = (contours: readonly Contour[], so: Partial<ArtShape>): ArtShape => ({ contours, rule: 'evenodd', fill: null, stroke: null, width: 0, ...so }); // prettier-ignore
const fill = (paint: string, ...contours: Contour[]): ArtShape => shape(contours, { fill: paint });
const line = (width: number, ...contours: Contour[]): ArtShape => shape(contours, { stroke: '#241a13', width });
/** A cross in a circle of 10 mm over all, as the sample sheet has it. */
const mark = (c: Vec): ArtShape => line(0.4, round(c, 4.8), open([[c.x - 4.8, c.y], [c.x + 4.8, c.y]]), open([[c.x, c.y - 4.8], [c.x, c.y + 4.8]])); // prettier-ignore
const A4 = { minX: 0, minY: 0, maxX: 297, maxY: 210 };
const MARKS = [{ x: 14, y: 14 }, { x: 283, y: 196 }]; // prettier-ignore

const read = (shapes: readonly ArtShape[], page: ReadArt['page'] | null = A4): ReadArt => ({ shapes, width: 0, height: 0, unit: 'mm', notes: [], ...(page ? { page } : {}) }); // prettier-ignore
const found = (art: ReadArt, choices: Partial<TraceChoices> = {}): Traced => {
  const made = drawnSheet(art, 'badges.pdf', { ...freshTrace, ...choices });
  if (!made.ok) throw new Error(made.problem.message);
  return made.value;
};
const refused = (art: ReadArt): string => {
  const made = drawnSheet(art, 'badges.pdf', freshTrace);
  return made.ok ? 'taken' : made.problem.code;
};
const boxes = ({ shapes }: TracedSheet, role: 'piece' | 'mark'): number[][] =>
  shapes.filter((s) => s.role === role).map((s) => Object.values(contourBox(s.outline)).map((v) => Number(v.toFixed(2)))); // prettier-ignore

describe('a sheet from the drawing that it was printed from', () => {
  const badge = fill('#1d4f91', box(60, 80, 50, 30));
  const shield = fill('#2a7464', box(150, 80, 40, 40), box(165, 95, 10, 10));
  it('has pieces, their holes and marks where they are drawn', () => {
    const { sheet, notes } = found(read([badge, shield, ...MARKS.map(mark)]));
    expect(sheet).toMatchObject({ name: 'badges.pdf', width: 297, height: 210, edge: 0 });
    expect(boxes(sheet, 'piece')).toEqual([[60, 80, 110, 110], [150, 80, 190, 120]]); // prettier-ignore
    expect(sheet.shapes.map((s) => s.holes.map((h) => contourLength(h)))).toContainEqual([expect.closeTo(40, 2)]);
    const marks = sheet.shapes.filter((s) => s.role === 'mark');
    expect(marks.map((m) => m.look!.kind)).toEqual(['cross-circle', 'cross-circle']);
    for (const m of marks) {
      const at = MARKS.find((p) => Math.hypot(p.x - m.at.x, p.y - m.at.y) < 1)!;
      expect(Math.hypot(at.x - m.at.x, at.y - m.at.y)).toBeLessThan(0.01);
      expect(m.look!.size).toBeCloseTo(10, 1);
    }
    expect(notes).toEqual([]);
    // Nothing of its places is doubted beyond how finely numbers are kept.
    expect(sheet.uncertainty).toBeLessThan(0.01);
  });
  it('takes what is printed over each other as one piece, light lettering on it as holes that no one need cut', () => {
    const rim = fill('#9f2d27', box(105, 90, 20, 10));
    const letters = fill('#fafaf7', box(80, 90, 6, 8));
    const { sheet } = found(read([badge, rim, letters, ...MARKS.map(mark)]));
    expect(boxes(sheet, 'piece')).toEqual([[60, 80, 125, 110]]);
    expect(sheet.shapes.find((s) => s.role === 'piece')!.holes).toHaveLength(1);
  });
  it('leaves out the ground of the page, and what is of its colour', () => {
    const ground = fill('#fdfcf8', roundedRectangle({ x: 148.5, y: 105 }, 297, 210));
    expect(boxes(found(read([ground, badge, fill('#fafaf7', box(200, 150, 30, 30))])).sheet, 'piece')).toEqual([[60, 80, 110, 110]]); // prettier-ignore
    // On a dark ground what is white is a piece.
    const dark = fill('#102030', roundedRectangle({ x: 148.5, y: 105 }, 297, 210));
    expect(boxes(found(read([dark, fill('#ffffff', box(200, 150, 30, 30))])).sheet, 'piece')).toEqual([[200, 150, 230, 180]]); // prettier-ignore
  });
  it('takes the outer side of a printed line, however it is drawn', () => {
    const dieLine = line(0.5, box(60, 80, 50, 30));
    const { sheet } = found(read([dieLine, ...MARKS.map(mark)]));
    expect(boxes(sheet, 'piece')).toEqual([[59.75, 79.75, 110.25, 110.25]]);
  });
  it('leaves smaller things out as it is told, and what runs out of the page', () => {
    const small = fill('#1d4f91', box(20, 100, 6, 6));
    const out = fill('#1d4f91', box(290, 100, 20, 20));
    const some = read([badge, small, out, ...MARKS.map(mark)]);
    expect(found(some).sheet.shapes.filter((s) => s.role === 'piece')).toHaveLength(2);
    const fewer = found(some, { smallest: 8 });
    expect(boxes(fewer.sheet, 'piece')).toEqual([[60, 80, 110, 110]]);
    expect(fewer.notes).toEqual(['One shape runs out of the picture and is left out.', '1 smaller shape is left out.']);
  });
  it('without a page has a rim of its own; a border or nothing at all is refused', () => {
    const { sheet } = found(read([badge, ...MARKS.map(mark)], null));
    // From the outer side of one mark’s circle to the other’s, and ten millimetres round them.
    expect([sheet.width, sheet.height]).toEqual([expect.closeTo(278.6 + 20, 1), expect.closeTo(191.6 + 20, 1)]);
    expect(refused(read([line(1, box(1, 1, 295, 208)), badge]))).toBe('one-shape');
    expect(refused(read([fill('#ffffff', box(60, 80, 50, 30))]))).toBe('no-shapes');
  });
});
