import { someCamera, photograph } from '../bench-sim';
import { calibrate, fieldMarks } from './marks';
import { keep, recheck } from './kept';
import { markDefect, photoField, photoMarks, freshPhoto } from './settings';
import { toBed, toPicture } from './camera';

const bed = { width: 600, height: 400 };
const marks = fieldMarks(bed);
const camera = someCamera(11, bed, 1200, 800);
const take = (shown = marks, of = camera) => photograph(of, shown, [], 11);
const measured = () => {
  const made = calibrate(take(), marks);
  if (!made.ok) throw new Error(made.problem.message);
  return made.value.fit;
};

describe('a fixed camera', () => {
  const fit = measured();
  const kept = keep(fit, '2026-11-01T08:00:00.000Z');

  it('is kept whole: it sees the bed as it did', () => {
    const again = recheck(take(), kept, marks);
    if (!again.ok) throw new Error(again.problem.message);
    expect(again.value.verdict).toBe('holds');
    expect(again.value.marks).toBe(10);
    expect(again.value.off!).toBeLessThan(0.1);
    for (const p of [
      { x: 40, y: 300 },
      { x: 512, y: 77 },
    ]) {
      const at = toPicture(again.value.fit, p);
      expect(toBed(fit, at).x).toBeCloseTo(p.x, 6);
      expect(toBed(fit, at).y).toBeCloseTo(p.y, 6);
    }
  });

  it('is looked at by two marks, and trusted unseen where there is none', () => {
    const two = recheck(take([marks[0]!, marks[5]!]), kept, marks);
    expect(two.ok && [two.value.verdict, two.value.marks]).toEqual(['holds', 2]);
    const none = recheck(take([]), kept, marks);
    expect(none.ok && [none.value.verdict, none.value.off]).toEqual(['not seen', null]);
  });

  it('is caught when it was knocked', () => {
    const knocked = { ...camera, at: { ...camera.at, x: camera.at.x + 3 } };
    const moved = recheck(take(marks, knocked), kept, marks);
    expect(moved.ok && moved.value.verdict).toBe('moved');
    // It moved 3 mm; the marks say so.
    expect(moved.ok && moved.value.off!).toBeGreaterThan(1.5);
  });

  it('does not take another camera’s picture', () => {
    const other = recheck(photograph(someCamera(12, bed, 900, 600), marks, [], 12), kept, marks);
    expect(!other.ok && other.problem.message).toContain('900 × 600 dots');
  });
});

describe('the marks of a photograph', () => {
  it('lie on the bed, on a sheet, or where they are typed', () => {
    expect(photoField({ ...freshPhoto, marksOn: 'sheet', sheet: 'A4' }, bed)).toEqual({ width: 297, height: 210 });
    expect(photoMarks({ ...freshPhoto, marksOn: 'sheet', sheet: 'A4' }, bed)[5]).toMatchObject({ x: 282, y: 195 });
    expect(photoMarks({ ...freshPhoto, marksOn: 'own', own: [{ x: 3, y: 4 }] }, bed)).toEqual([
      { id: 1, x: 3, y: 4, ring: false },
    ]);
  });
  it('a defect is marked where stock is touched, and taken out again', () => {
    const stock = [
      {
        outline: [
          { x: 0, y: 0 },
          { x: 90, y: 0 },
          { x: 90, y: 60 },
          { x: 0, y: 60 },
        ],
        defects: [],
      },
    ];
    const once = markDefect(stock, { x: 40, y: 30 });
    expect(once[0]!.defects).toHaveLength(1);
    expect(markDefect(once, { x: 42, y: 31 })[0]!.defects).toHaveLength(0);
    expect(markDefect(stock, { x: 200, y: 30 })).toEqual(stock);
  });
});
