import { planeRadius95 } from '../samples';
import { gateOf } from '../batch';
import { radialCoverage } from '../budget';
import { polyline, roundedRectangle, segment, type Vec } from '../geometry';
import { MARK_DIAMETER } from '../marks';
import { crossingsAt, measureShapes, type LongKind, type LongShape } from './art';
import { drawnOn } from '../test-drawn';
import { reckon } from '../test-reckon';
import { EXAMPLES } from '../test-ways';
import { chainErrors } from './chain';
import { reckonCutOut } from './cut-out';
import { freshLong, marksOf, planLong, type LongSettings } from './plan';
import { findSeams, LEAST_SEGMENT, wordSpans } from './seams';

const block = (x: number, y: number, w: number, h: number, kind: LongKind = 'fill'): LongShape => ({
  kind,
  contour: roundedRectangle({ x: x + w / 2, y: y + h / 2 }, w, h),
});
const line = (...points: readonly (readonly [number, number])[]): LongShape => ({ kind: 'line', contour: polyline(points.map(([x, y]) => ({ x, y }))) }); // prettier-ignore
const BED = { width: 900, height: 600 };
const plan = (shapes: readonly LongShape[], settings: Partial<LongSettings> = {}, size = { length: 1000, width: 200 }) => planLong(shapes, size, BED, { ...freshLong, ...settings }); // prettier-ignore
const planned = (...args: Parameters<typeof plan>) => {
  const made = plan(...args);
  if (!made.ok) throw new Error(made.problem.message);
  return made.value;
};
/** Work of twice a window: its one seam has one place. */
const twice = (window: number) => ({ length: 2 * window, width: 200 });
/** A mark with its half millimetre of air, half its width. */
const HALF = MARK_DIAMETER / 2 + 0.5;

describe('marks at a seam', () => {
  it('are numbered two by two', () => {
    const [a, b]: readonly [Vec, Vec] = [{ x: 1, y: 2 }, { x: 3, y: 4 }]; // prettier-ignore
    expect(marksOf(1, [a, b]).map((m) => [m.id, m.at])).toEqual([[1, a], [2, b]]); // prettier-ignore
    expect(marksOf(3, [a, b]).map((m) => m.id)).toEqual([5, 6]);
  });

  it('lie at the seam, in from both long edges; a quarter of the width where that is less', () => {
    const { seams, marks } = planned([]);
    expect(marks).toEqual([[{ x: seams[0]!.at, y: 10 }, { x: seams[0]!.at, y: 190 }]]); // prettier-ignore
    const slim = planned([], {}, { length: 1000, width: 24 });
    expect(slim.marks[0]!.map((m) => m.y)).toEqual([6, 18]);
  });

  // Art that fills from `from` to `to` about the seam along the front edge; the steps either way that a hand would try.
  it.each([
    [-1, 1, 8],
    [-2, 8, -12],
    [-6, 20, -16],
    [-4, 0.5, 8],
    [-30, 1, 8],
    [-6, -5, 2],
    [8, 9, 0],
    [-9, -8, 0],
    [7.4, 9, 0],
    [6.8, 9, -2],
    [-9, -6.8, 2],
    [-1, 40, -8],
    [3, 9, -4],
    [1, 9, -6],
  ])('step aside from what is filled from %d to %d of it: by %d', (from, to, step) => {
    // Room of 40 mm at the ends of the travel lets marks lie that far beyond the seam.
    const { seams, marks } = planned([block(520 + from, 2, to - from, 16)], { margin: 40 }, twice(520));
    expect(seams[0]!.at).toBe(520);
    expect(marks[0]![0].x - 520).toBeCloseTo(step, 6);
    // The one at the far edge has nothing in its way.
    expect(marks[0]![1]).toEqual({ x: 520, y: 190 });
  });

  it('do not lie farther beyond the seam than the travel has room, art or not', () => {
    // 15 mm less half a mark and its air: 8.15, so that 8 is the last that is tried.
    expect(15 - HALF).toBeCloseTo(8.15, 9);
    expect(planned([block(570 - 1, 2, 2, 16)], {}, twice(570)).marks[0]![0].x).toBe(578);
    expect(planned([block(570 - 2, 2, 4, 16)], {}, twice(570)).marks[0]![0].x).toBe(570);
    expect(planned([block(570 - 60, 2, 120, 16)], {}, twice(570)).marks[0]![0].x).toBe(570);
  });

  it('are not moved by where an open line would close', () => {
    // Round the mark at a distance; closed, it would run through it, 45° down to the right.
    const open = line([550, -20], [700, -20], [700, 150], [490, 150], [490, 40]);
    const closed: LongShape = { kind: 'line', contour: { ...open.contour, closed: true } };
    const first = (shape: LongShape): Vec => planned([shape], { margin: 40 }, twice(520)).marks[0]![0];
    expect(first(open)).toEqual({ x: 520, y: 10 });
    expect(first(closed).x).not.toBe(520);
  });

  it('see a slanted line that comes by between its ends', () => {
    // It goes through the mark’s own place, 45° down to the right, and leaves the ones before it free.
    const slanted = line([490, 40], [550, -20]);
    const [mark] = planned([slanted], { margin: 40 }, twice(520)).marks[0]!;
    expect(mark.x).not.toBe(520);
    expect(Math.abs(mark.x - 520)).toBeGreaterThan(2 * HALF - 1);
  });
});

describe('art that stands over the edge of the work', () => {
  it.each([
    [-0.02, 10, 100, 20, true],
    [-0.012, 10, 100, 20, true],
    [-0.01, 10, 100, 20, false],
    [10, -0.012, 100, 20, true],
    [10, -0.01, 100, 20, false],
    [900, 10, 100.012, 20, true],
    [900, 10, 100.008, 20, false],
    [10, 150, 100, 50.012, true],
    [10, 150, 100, 50.008, false],
  ])('from %d, %d and %d × %d mm is remarked on: %s', (x, y, w, h, said) => {
    expect(planned([block(x, y, w, h)]).over).toBe(said ? `The art of ${w.toFixed(0)} × ${h.toFixed(0)} mm stands over the edge of the work.` : null); // prettier-ignore
  });
});

describe('art over a hole in the work', () => {
  const size = { length: 1000, width: 200, holes: [{ x: 500, y: 100, diameter: 10 }] };
  const over = (...shapes: LongShape[]) => planned(shapes, {}, size).over;
  it.each([
    ['a line across it', [line([400, 104], [600, 104])], true],
    ['a line beside it', [line([400, 105], [600, 105])], false],
    ['an area over it', [block(480, 80, 40, 40)], true],
    ['an area with a counter about it', [block(480, 80, 40, 40), block(490, 90, 20, 20)], false],
    ['an area whose counter is narrower', [block(480, 80, 40, 40), block(496, 96, 8, 8)], true],
    ['an area that begins at its edge', [block(505, 80, 40, 40)], false],
    ['an area that begins a tenth before', [block(504.9, 80, 40, 40)], true],
    ['a cut all round it', [block(480, 80, 40, 40, 'cut')], false],
    ['a cut through it', [block(480, 80, 22, 40, 'cut')], true],
  ])('%s', (_, shapes, said) => {
    const told = over(...(shapes as LongShape[]));
    if (said) expect(told).toMatch(/^The art lies over a hole of the work, 500 mm from its beginning\. Shift it/);
    else expect(told).toBeNull();
  });
  it('is drilled where the blank says, from its middle', () => {
    const long = EXAMPLES.long;
    const drilled = (x: number, y: number) => {
      const [a, b] = [-6, 6].map((d) => ({ x: d, y: d }));
      const input = drawnOn({ ...long, blank: { ...long.blank, holes: [{ x, y, diameter: 8 }] } }, [{ kind: 'line', contour: polyline([a!, b!]) }]); // prettier-ignore
      return gateOf(input, reckon(input), 'load').map((p) => p.code);
    };
    expect(drilled(0, 0)).toContain('zone');
    expect(drilled(60, 0)).not.toContain('zone');
  });
});

describe('how many segments', () => {
  const rules = { smallText: 15, most: Infinity };
  it.each([
    [1000, 500, 2],
    [1000.25, 500, 3],
    [999.75, 500, 2],
    [500, 500, 1],
    [1500, 500, 3],
  ])('%d mm through a window of %d: %d', (length, window, fewest) => {
    const found = findSeams([], { ...rules, length, window })!;
    expect([found.fewest, found.seams.length]).toEqual([fewest, fewest - 1]);
    const ends = [0, ...found.seams.map((s) => s.at), length];
    for (let i = 1; i < ends.length; i += 1) {
      expect(ends[i]! - ends[i - 1]!).toBeLessThanOrEqual(window + 1e-9);
      expect(ends[i]! - ends[i - 1]!).toBeGreaterThanOrEqual(Math.min(LEAST_SEGMENT, length));
    }
  });
  it('none where a segment would be too short, or the machine takes no more', () => {
    expect(findSeams([], { ...rules, length: 1000, window: LEAST_SEGMENT - 0.25 })).toBeNull();
    expect(findSeams([], { ...rules, length: 600, window: LEAST_SEGMENT })).not.toBeNull();
    expect(findSeams([], { ...rules, length: 1000, window: 400, most: 2 })).toBeNull();
    expect(findSeams([], { ...rules, length: 1000, window: 500, most: 2 })).not.toBeNull();
  });
});

describe('what a seam goes through', () => {
  const everywhere = (kind: LongKind, y: number): LongShape => ({
    kind,
    contour: segment({ x: 0, y }, { x: 1000, y }),
  });
  it('is counted stroke by stroke', () => {
    const found = findSeams(measureShapes([everywhere('line', 10), everywhere('line', 20), everywhere('cut', 30), block(0, 50, 1000, 4)]), { length: 1000, window: 600, smallText: 2, most: 2 })!; // prettier-ignore
    expect(found.seams[0]).toMatchObject({ lines: 3, filled: expect.closeTo(4, 9), words: 0 });
  });

  it('is as long as what is filled there, however shapes overlap and whichever way round they were drawn', () => {
    const way = (s: LongShape): LongShape => ({
      ...s,
      contour: { ...s.contour, vertices: [...s.contour.vertices].reverse() },
    });
    // 100 mm and 140 mm high, 60 of it common: 180 mm, not 240 and not 40.
    const [low, high] = [block(0, 0, 1000, 100), block(0, 40, 1000, 140)] as const;
    for (const shapes of [
      [low, high],
      [low, way(high)],
      [way(low), high],
      [way(low), way(high)],
    ]) {
      const drawnAlike = shapes[0] === low ? shapes[1] === high : shapes[1] !== high;
      const { filled } = findSeams(measureShapes(shapes), { length: 1000, window: 600, smallText: 2, most: 2 })!
        .seams[0]!;
      // Drawn the other way round a shape takes away what it covers of another, as it does in the file.
      expect(filled).toBeCloseTo(drawnAlike ? 180 : 120, 6);
    }
  });

  it.each([
    [300, 499.9, 0],
    [300, 500, 1],
    [500, 700, 1],
    [500.1, 700, 0],
  ])('is a word from %d to %d mm where it runs through it: a seam at 500 cuts %d', (from, to, words) => {
    // A window of half the work leaves one place.
    const [seam] = findSeams(measureShapes([block(from, 10, to - from, 4)]), { length: 1000, window: 500, smallText: 15, most: 2 })!.seams; // prettier-ignore
    expect(seam).toMatchObject({ at: 500, words });
  });

  it.each([
    [499.25, 500],
    [500.5, 499.75],
  ])('is sought at every quarter of a millimetre: a stroke at %d sends it to %d', (x, at) => {
    // Of 999.75 mm the seam may lie at 499.75 or at 500.
    const stroke: LongShape = { kind: 'line', contour: segment({ x: x - 0.1, y: 10 }, { x: x + 0.1, y: 20 }) };
    const [seam] = findSeams(measureShapes([stroke]), { length: 999.75, window: 500, smallText: 15, most: 2 })!.seams;
    expect(seam!.at).toBe(at);
  });

  it('is a taller word where it must be one of two: the smaller the letters, the more a step shows', () => {
    const words = [block(300, 10, 200, 4), block(500.5, 30, 199.5, 12)];
    const found = findSeams(measureShapes(words), { length: 1000, window: 600, smallText: 15, most: 2 })!;
    // Between 400 and 600 every place is in one of them or within half a millimetre of both.
    expect(found.seams[0]!.at).toBeGreaterThan(500.5);
    expect(found.seams[0]!.words).toBe(1);
  });

  it('keeps half a millimetre from letters where there is room', () => {
    const words = [block(300, 10, 199, 5), block(501.5, 10, 198.5, 5)];
    const [seam] = findSeams(measureShapes(words), { length: 1000, window: 600, smallText: 15, most: 2 })!.seams;
    expect(seam!.words).toBe(0);
    expect(seam!.at - 499).toBeGreaterThanOrEqual(0.5);
    expect(501.5 - seam!.at).toBeGreaterThanOrEqual(0.5);
  });

  it('lies in the middle of a gap too narrow for that, as far from one word as from the other', () => {
    const words = [block(300, 10, 199.25, 4), block(500.75, 10, 199.25, 4)];
    const [seam] = findSeams(measureShapes(words), { length: 1000, window: 600, smallText: 15, most: 2 })!.seams;
    // Places are a quarter of a millimetre apart.
    expect(Math.abs(seam!.at - 500)).toBeLessThanOrEqual(0.25);
    expect(seam!.words).toBe(0);
  });

  it('letters are one word up to about a third of their height apart, on one line', () => {
    const letters = (gap: number, down = 0) => wordSpans(measureShapes([block(0, 0, 5, 10), block(5 + gap, down, 5, 10)]), 15); // prettier-ignore
    expect([letters(3.4), letters(3.6)].map((w) => w.length)).toEqual([1, 2]);
    expect(letters(3.4)[0]).toEqual({ from: 0, to: 13.4, height: 10 });
    expect(letters(1, 11)).toHaveLength(2);
    // What is as tall as the limit is no lettering.
    expect(wordSpans(measureShapes([block(0, 0, 5, 15)]), 15)).toEqual([]);
  });

  it('meets a slanted stroke at its own height there', () => {
    const slanted = measureShapes([{ kind: 'line', contour: segment({ x: 2, y: 1 }, { x: 12, y: 6 }) }]);
    expect(crossingsAt(slanted, 5)).toEqual([2.5]);
    expect(crossingsAt(slanted, 10)).toEqual([5]);
    expect(crossingsAt(slanted, 12)).toEqual([]);
  });
});

describe('a head that does not come back to its places quite', () => {
  it('is off at marks and burn, both when they are made and when they are met', () => {
    const marks = [[{ x: 300, y: 0 }, { x: 300, y: 300 }]] as const; // prettier-ignore
    const boxes = [0, 300].map((minX) => ({ minX, maxX: minX + 300, minY: 0, maxY: 300 }));
    const errors = { aim: 0, pointer: 0.1, back: 0.2 };
    const [first, second] = chainErrors({ boxes, marks, turned: [0, 0], errors });
    const f = radialCoverage(0.95, Infinity);
    // Both marks off by 0.2 each way: shift² 0.02 an axis, turn² 2 · 0.04 / 300². At the seam’s ends, 150 from its middle:
    const each = 0.02 + 0.1 ** 2 + 2 * 0.2 ** 2;
    expect(second!.step).toBeCloseTo(planeRadius95(each + (0.08 / 300 ** 2) * 150 ** 2, each, 0), 12);
    // At the far corner, 300 on and 150 up; the art itself once more.
    const far = 2 * 0.02 + (0.08 / 300 ** 2) * (300 ** 2 + 150 ** 2) + 2 * 0.1 ** 2 + 2 * 0.2 ** 2;
    expect(second!.u).toBeCloseTo(Math.sqrt(far), 12);
    expect(first).toEqual({ fromStart: expect.closeTo(f * Math.sqrt(2) * 0.2, 9), u: expect.closeTo(Math.sqrt(2) * 0.2, 12), step: null }); // prettier-ignore
  });
});

describe('the neck of what is cut out', () => {
  it('lies where the two halves come nearest', () => {
    const cut = [[120, 0, 40, 30], [200, 0, 40, 30], [159, 24, 42, 3]].map(([x, y, w, h]) => block(x!, y!, w!, h!, 'cut')); // prettier-ignore
    const { neck } = reckonCutOut(cut)!;
    expect(neck!.width).toBeCloseTo(3, 1);
    // Along the bar, from one square to the other, at its own height.
    expect(Math.abs(neck!.at.x - 180)).toBeLessThan(21);
    expect(Math.abs(neck!.at.y - 25.5)).toBeLessThan(1.6);
  });
});
