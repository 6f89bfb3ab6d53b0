import fc from 'fast-check';
import { overlapping } from './apart';
import { contoursBox, polyline, type Box, type Contour } from './contour';
import { coveredArea, uniteContours } from './offset';

const box = fc.record({ x: fc.integer({ min: 0, max: 60 }), y: fc.integer({ min: 0, max: 60 }), w: fc.integer({ min: 1, max: 12 }), h: fc.integer({ min: 1, max: 12 }) }).map(({ x, y, w, h }): Box => ({ minX: x, minY: y, maxX: x + w, maxY: y + h })); // prettier-ignore
const meet = (a: Box, b: Box): boolean => a.minX <= b.maxX && b.minX <= a.maxX && a.minY <= b.maxY && b.minY <= a.maxY;

describe('boxes that lie over each other', () => {
  it('are together with all that they meet, directly or by others, and with nothing else', () => {
    fc.assert(
      fc.property(fc.array(box, { maxLength: 40 }), (boxes) => {
        // By hand: spread from each that was not met yet.
        const left = new Set(boxes.keys());
        const wanted: number[][] = [];
        for (const start of boxes.keys()) {
          if (!left.delete(start)) continue;
          const group = [start];
          for (const i of group) for (const j of [...left]) if (meet(boxes[i]!, boxes[j]!) && left.delete(j)) group.push(j); // prettier-ignore
          wanted.push(group.sort((a, b) => a - b));
        }
        expect(overlapping(boxes)).toEqual(wanted);
      }),
      { numRuns: 200 },
    );
    expect(overlapping([])).toEqual([]);
  });
  it('are all that has to be put together: united group by group, areas cover what they cover at once', () => {
    const area = ({ minX, minY, maxX, maxY }: Box): Contour => polyline([{ x: minX, y: minY }, { x: maxX, y: minY }, { x: maxX, y: maxY }, { x: minX, y: maxY }], true); // prettier-ignore
    fc.assert(
      fc.property(fc.array(box, { minLength: 1, maxLength: 40 }), (boxes) => {
        const all = boxes.map(area);
        const apart = overlapping(all.map((c) => contoursBox([c]))).flatMap((g) => uniteContours(g.map((i) => all[i]!))); // prettier-ignore
        expect(coveredArea(apart)).toBeCloseTo(coveredArea(uniteContours(all)), 6);
      }),
      { numRuns: 100 },
    );
  });
});
