import { seeded } from '../budget';
import { apply, boxCorners, circle, compose, determinant, polyline, roundedRectangle } from '../geometry';
import { testBlank } from '../test-batch';
import { blankSizes } from './blank';
import { slotTransform } from './places';
import {
  asymmetryProblem,
  freshPanel,
  mirrorOf,
  standsOver,
  turnedBlank,
  turnedSlot,
  turnSheet,
  type PanelSettings,
  type Turn,
} from './panel';

const TURNS: readonly Turn[] = ['page', 'over'];
const triangle = polyline(
  [
    { x: -20, y: -10 },
    { x: 20, y: -10 },
    { x: 0, y: 14 },
  ],
  true,
);

describe('turning a sheet', () => {
  const r = seeded(5);
  const some = Array.from({ length: 50 }, () => ({ x: 300 * r.uniform(), y: 200 * r.uniform() }));

  it.each(TURNS)('done twice leaves everything where it was (%s)', (turn) => {
    const m = turnSheet(turn, 300, 200);
    const twice = compose(m, m);
    for (const p of some) {
      expect(apply(twice, p).x).toBeCloseTo(p.x, 9);
      expect(apply(twice, p).y).toBeCloseTo(p.y, 9);
    }
    expect(determinant(m)).toBe(-1);
  });

  it.each(TURNS)('leaves its four corners on the sheet, and swaps them in pairs (%s)', (turn) => {
    const m = turnSheet(turn, 300, 200);
    const [fl, fr, br, bl] = boxCorners({ minX: 0, minY: 0, maxX: 300, maxY: 200 });
    expect(apply(m, fl!)).toEqual(turn === 'page' ? fr : bl);
    expect(apply(m, br!)).toEqual(turn === 'page' ? bl : fr);
  });

  it('keeps text readable whatever way sheet and piece are turned, and puts it over the piece’s own back', () => {
    for (const turn of TURNS)
      for (const reads of TURNS)
        for (const angle of [0, Math.PI / 2, 0.4]) {
          const panel: PanelSettings = { ...freshPanel, turn, reads };
          const slot = { slot: 1, row: 0, column: 0, angle, centre: { x: 70, y: 40 } };
          const back = slotTransform(turnedSlot(slot, panel));
          expect(determinant(back)).toBeCloseTo(1, 12);
          for (const p of [
            { x: 9, y: 4 },
            { x: -3, y: 11 },
          ]) {
            // A place of the piece, reached through its front and through its back.
            const front = apply(turnSheet(turn, panel.width, panel.height), apply(slotTransform(slot), p));
            const behind = apply(back, apply(mirrorOf(reads), p));
            expect(behind.x).toBeCloseTo(front.x, 9);
            expect(behind.y).toBeCloseTo(front.y, 9);
          }
        }
  });

  it('shows a blank from its back: a hole on the left is then on the right when turned like a page', () => {
    const sizes = blankSizes(testBlank, 0.95, 0.95);
    expect(turnedBlank(testBlank, sizes, 'page').holes[0]).toMatchObject({ x: 25.5, y: 0, diameter: 4 });
    expect(turnedBlank(testBlank, sizes, 'over').holes[0]).toMatchObject({ x: -25.5 });
    const twice = turnedBlank(turnedBlank(testBlank, sizes, 'page'), sizes, 'page');
    expect(twice.holes).toEqual(testBlank.holes);
  });

  it('turns a lopsided outline with its inside still inside', () => {
    const blank = { ...testBlank, shape: { kind: 'outline', contours: [triangle], source: '' } } as const;
    const back = turnedBlank(blank, blankSizes(blank, 0.95, 0.95), 'over');
    if (back.shape.kind !== 'outline') throw new Error('an outline stays one');
    expect(back.shape.contours[0]!.vertices.map((v) => v.y).sort((a, b) => a - b)).toEqual([-14, 10, 10]);
    const area = (points: readonly { x: number; y: number }[]): number =>
      points.reduce(
        (s, p, i) => s + p.x * points[(i + 1) % points.length]!.y - p.y * points[(i + 1) % points.length]!.x,
        0,
      ) / 2;
    expect(Math.sign(area(back.shape.contours[0]!.vertices))).toBe(Math.sign(area(triangle.vertices)));
  });
});

describe('pieces that turn in their own holes', () => {
  it('fit when the outline is symmetric about that axis', () => {
    for (const turn of TURNS) {
      expect(standsOver([circle({ x: 0, y: 0 }, 28)], 0.3, turn)).toBeLessThan(0.01);
      expect(standsOver([roundedRectangle({ x: 0, y: 0 }, 60, 25, 3)], 0, turn)).toBeLessThan(0.01);
    }
    expect(standsOver([triangle], 0, 'page')).toBeLessThan(0.01);
  });

  it('are refused when they are not, with the other way to turn when that fits', () => {
    expect(asymmetryProblem([triangle], 0, 'page', 0.14)).toBeNull();
    const problem = asymmetryProblem([triangle], 0, 'over', 0.14)!;
    expect(problem.message).toMatch(/stands \d+\.\d mm over .* Turn it like a page: then it fits\./);
    // Laid across the sheet, the axes change places.
    expect(asymmetryProblem([triangle], Math.PI / 2, 'over', 0.14)).toBeNull();
    const lopsided = polyline(
      [
        { x: -20, y: -10 },
        { x: 25, y: -4 },
        { x: 3, y: 14 },
      ],
      true,
    );
    expect(asymmetryProblem([lopsided], 0, 'page', 0.14)!.message).toContain('cut-through marks');
  });
});
