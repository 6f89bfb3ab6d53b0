import { boxOf, insidePolygon, polygonArea, type Vec } from '../geometry';
import { liesOver, remainsOf, spendStock, stockArea } from './remains';

const rectangle = (x: number, y: number, w: number, h: number): Vec[] => [
  { x, y },
  { x: x + w, y },
  { x: x + w, y: y + h },
  { x, y: y + h },
];
const board = { outline: rectangle(0, 0, 300, 200), defects: [] };

describe('what is left of stock', () => {
  it('conserves area: stock less parts and their kerf, but for corners rounded by the clean-up', () => {
    const part = rectangle(-50, -100, 100, 200);
    const left = remainsOf([board], [{ outline: part, x: 50, y: 100, angle: 0 }], 0.2);
    expect(left).toHaveLength(1);
    const meant = 300 * 200 - (100 + 0.2) * 200;
    // Four corners rounded with 8 mm lose (4 − π)·8²; the rim is 0.4 mm on the safe side.
    const rim = 0.4 * (2 * (200 + 200)) + (4 - Math.PI) * 64;
    expect(stockArea(left[0]!)).toBeLessThan(meant);
    expect(stockArea(left[0]!)).toBeGreaterThan(meant - rim - 60);
    const box = boxOf(left[0]!.outline);
    expect([box.minX, box.minY]).toEqual([expect.closeTo(0, 6), expect.closeTo(0, 6)]);
  });

  it('keeps knots, makes holes of parts cut from the middle, and never lies over what was cut', () => {
    const knot = rectangle(20, 20, 10, 10);
    const part = rectangle(-20, -20, 40, 40);
    const [left, ...more] = remainsOf(
      [{ ...board, defects: [knot] }],
      [{ outline: part, x: 200, y: 100, angle: Math.PI / 4 }],
      0.2,
    );
    expect(more).toHaveLength(0);
    expect(left!.defects).toHaveLength(2);
    const hole = left!.defects.find((d) => Math.abs(polygonArea(d)) > 500)!;
    expect(Math.abs(polygonArea(hole))).toBeGreaterThan(1600);
    expect(insidePolygon({ x: 200, y: 100 }, hole)).toBe(true);
  });

  it('falls into pieces where a part cut it through, and leaves narrow strips and bits out', () => {
    const through = rectangle(-10, -150, 20, 300);
    expect(remainsOf([board], [{ outline: through, x: 120, y: 100, angle: 0 }], 0.2)).toHaveLength(2);
    const nearAll = rectangle(-145, -100, 290, 200);
    expect(remainsOf([board], [{ outline: nearAll, x: 145, y: 100, angle: 0 }], 0.2)).toHaveLength(0);
  });
});

describe('stock that was cut from', () => {
  it('keeps what was cut as a defect of the piece it lay on', () => {
    const second = { outline: rectangle(400, 0, 100, 100), defects: [] };
    const spent = spendStock([board, second], [rectangle(20, 20, 40, 30), rectangle(420, 20, 10, 10)]);
    expect(spent.map((o) => o.defects.length)).toEqual([1, 1]);
    expect(spendStock([board], [])[0]).toBe(board);
  });
  it('says when a part lies over a defect, also where only edges cross', () => {
    const part = rectangle(0, 0, 100, 20);
    expect(liesOver(part, rectangle(40, 5, 5, 5))).toBe(true);
    expect(liesOver(rectangle(40, 5, 5, 5), part)).toBe(true);
    expect(liesOver(part, rectangle(45, -30, 10, 80))).toBe(true);
    expect(liesOver(part, rectangle(45, 25, 10, 80))).toBe(false);
  });
});
