import { contourBox, flatten, polyline, type Box, type Contour, type Vec } from '../geometry';
import { MARK_DIAMETER } from '../marks';
import { strokeAlphabet } from '../test-alphabets';
import { testBlank, testMachine } from '../test-batch';
import { blankSizes, type Blank } from './blank';
import type { BlankShape } from './nominal';
import { pocketBoard } from './board';
import type { Board } from './places';
import { notchRadius } from './notches';
import { loosePocket } from './pocket';
import { freshBoard, type BoardSettings } from './settings';

// Boards as they are cut, looked at by plain distances between points and lines: nothing of the layout is used.

const boardOf = (shape: BlankShape, hold: Partial<BoardSettings>, blank: Partial<Blank> = {}): Board => {
  const own: Blank = { ...testBlank, shape, samples: { length: [], width: [], thickness: [] }, holes: [], direction: { kind: 'none' }, ...blank }; // prettier-ignore
  const sizes = blankSizes(own, 0.95, 0.95);
  const made = pocketBoard(
    {
      blank: own,
      sizes,
      pocket: loosePocket(own, sizes, { school: 'loose' }),
      machine: { ...testMachine, kerf: 0.2 },
      revision: 1,
      labels: strokeAlphabet,
    },
    { ...freshBoard('TRY'), ...hold },
  );
  if (!made.ok) throw new Error(made.problem.message);
  return made.value;
};

const lines = (contours: readonly Contour[]): Vec[][] =>
  contours.map((c) => {
    const points = flatten(c, 0.05);
    return c.closed ? [...points, points[0]!] : points;
  });
const passOf = (board: Board, name: string): readonly Contour[] => board.passes.find((p) => p.name === name)!.contours;

const toLine = (p: Vec, [a, b]: readonly [Vec, Vec]): number => {
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  const t = Math.max(0, Math.min(1, ((p.x - a.x) * dx + (p.y - a.y) * dy) / (dx * dx + dy * dy || 1)));
  return Math.hypot(p.x - a.x - t * dx, p.y - a.y - t * dy);
};
/** Least distance from the points of one line to another, either way. */
const apart = (one: readonly Vec[], other: readonly Vec[]): number => {
  let least = Infinity;
  for (const [from, to] of [
    [one, other],
    [other, one],
  ] as const)
    for (const p of from)
      for (let i = 1; i < to.length; i += 1) least = Math.min(least, toLine(p, [to[i - 1]!, to[i]!]));
  return least;
};
const boxOf = (points: readonly Vec[]): Box => contourBox(polyline(points, false));
const near = (a: Box, b: Box, room: number): boolean =>
  a.minX - b.maxX < room && b.minX - a.maxX < room && a.minY - b.maxY < room && b.minY - a.maxY < room;
/** Whether a point lies inside a closed line: crossings of a ray. */
const inside = (p: Vec, line: readonly Vec[]): boolean =>
  line.slice(1).reduce((odd, b, i) => {
    const a = line[i]!;
    return a.y > p.y !== b.y > p.y && p.x < a.x + ((p.y - a.y) / (b.y - a.y)) * (b.x - a.x) ? !odd : odd;
  }, false);

/** What runs into what, in words; nothing on a good board. */
const faults = (board: Board): string[] => {
  const pockets = lines(passOf(board, 'pockets')).map((line) => ({ line, box: boxOf(line) }));
  const numbers = lines(passOf(board, 'slots')).map((line) => ({ line, box: boxOf(line) }));
  const found = new Set<string>();
  pockets.forEach((a, i) => {
    for (const b of pockets.slice(i + 1))
      if (near(a.box, b.box, 1.99) && apart(a.line, b.line) < 1.99) found.add('pocket into pocket');
    for (const m of board.marks) {
      const rim = Math.min(...a.line.slice(1).map((p, k) => toLine(m.at, [a.line[k]!, p])));
      if (rim < MARK_DIAMETER / 2 + 0.5) found.add('pocket into mark');
    }
    for (const n of numbers)
      if (near(a.box, n.box, 0.2) && (apart(a.line, n.line) < 0.2 || inside(n.line[0]!, a.line)))
        found.add('pocket into number');
    if (a.box.minX < 1 || a.box.minY < 1 || a.box.maxX > board.width - 1 || a.box.maxY > board.height - 1)
      found.add('pocket over the edge');
  });
  for (const m of board.marks)
    for (const n of numbers)
      if (n.line.some((p) => Math.hypot(p.x - m.at.x, p.y - m.at.y) < MARK_DIAMETER / 2 + 0.1)) found.add('number into mark'); // prettier-ignore
  if (pockets.length !== board.slots.length) found.add(`${pockets.length} cuts for ${board.slots.length} slots`);
  return [...found];
};

const disc = (diameter: number): BlankShape => ({ kind: 'disc', diameter });
const plate = (length: number, width: number, cornerRadius = 1): BlankShape => ({ kind: 'rectangle', length, width, cornerRadius }); // prettier-ignore
const outlined = (points: readonly (readonly [number, number])[]): BlankShape => ({ kind: 'outline', contours: [polyline(points.map(([x, y]) => ({ x, y })), true)], source: 'drawn' }); // prettier-ignore

/** A bow that is hollow in front, a bracket open at the side, an arrow: what stands over the middle of the front is no edge. */
const HOLLOW = {
  bow: outlined([[-30, -15], [-18, -15], [-14, 2], [14, 2], [18, -15], [30, -15], [30, 15], [-30, 15]]), // prettier-ignore
  bracket: outlined([[-25, -20], [25, -20], [25, -8], [-10, -8], [-10, 8], [25, 8], [25, 20], [-25, 20]]), // prettier-ignore
  arrow: outlined([[-30, -6], [5, -6], [5, -16], [30, 0], [5, 16], [5, 6], [-30, 6]]), // prettier-ignore
};

/** A triangle in the wall tells where the hole goes: in the middle, where the notch is. */
const HOLED: Partial<Blank> = { holes: [{ x: 0, y: -7, diameter: 3 }], direction: { kind: 'hole' } };

describe('finger notches', () => {
  const shapes = [
    disc(10),
    disc(14),
    disc(40),
    plate(12, 8),
    plate(60, 25, 3),
    plate(25, 60),
    ...Object.values(HOLLOW),
  ];
  const cases = [
    ...shapes.map((shape) => ({ shape, blank: {} })),
    ...[disc(22), plate(20, 20)].map((shape) => ({ shape, blank: HOLED })),
  ].flatMap((c) =>
    // prettier-ignore
    (['one', 'both'] as const).flatMap((notches) =>
      (['along', 'across'] as const).map((turned) => ({ ...c, notches, turned })),
    ),
  );
  it.each([
    [2, 8],
    [4, 12],
  ])(
    'run into no neighbour, mark or slot number, and every pocket is one cut (%d marks, notches of %d mm)',
    (marks, notchRadius) => {
      // prettier-ignore
      const bad = cases.flatMap((c) =>
      [{ kind: 'count', count: 24 } as const, { kind: 'board', width: 260, height: 170 } as const].flatMap((extent) => {
        const what = faults(boardOf(c.shape, { ...c, notchRadius, extent, marks }, c.blank));
        return what.length > 0 ? [`${JSON.stringify({ ...c, extent })}: ${what.join(', ')}`] : [];
      }),
    );
      expect(bad).toEqual([]);
    },
  );

  it('are as wide as asked where the side is long enough, else six tenths of it', () => {
    expect([60, 26, 20, 10].map((side) => notchRadius(side, { notches: 'one', notchRadius: 8 }))).toEqual([8, 7.8, 6, 3]); // prettier-ignore
    expect(notchRadius(60, { notches: 'none', notchRadius: 8 })).toBe(0);
  });

  it.each(Object.entries(HOLLOW))(
    'lie on the outline of a hollow piece, where a finger reaches it from the front: %s',
    (_, shape) => {
      // prettier-ignore
      const one = lines(passOf(boardOf(shape, { notches: 'one', turned: 'along', extent: { kind: 'count', count: 1 } }), 'pockets')); // prettier-ignore
      const none = lines(passOf(boardOf(shape, { notches: 'none', turned: 'along', extent: { kind: 'count', count: 1 } }), 'pockets')); // prettier-ignore
      expect([one.length, none.length]).toEqual([1, 1]);
      // It opens the front edge by nearly its radius of 8: less half the kerf and what the edge lies in front of it.
      const reach = boxOf(none[0]!).maxY - boxOf(none[0]!).minY;
      const grown = boxOf(one[0]!).maxY - boxOf(one[0]!).minY - reach;
      expect(grown).toBeGreaterThan(3.5);
      expect(grown).toBeLessThan(7.95);
    },
  );
});
