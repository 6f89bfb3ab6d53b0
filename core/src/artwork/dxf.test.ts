import fc from 'fast-check';
import DxfParser from 'dxf-parser';
import { contoursBox, flatten, type Contour, type Vec } from '../geometry';
import { readDxfArt } from './dxf-read';

// Each case by hand from the published DXF reference: group codes, object coordinate systems, blocks, header variables.
type Groups = readonly (readonly [number, string | number])[];
const groups = (all: Groups): string => all.map(([code, value]) => `${code}\n${value}\n`).join('');
const entity = (type: string, ...all: Groups): string => groups([[0, type], [8, '0'], ...all.filter(([c]) => c !== 8), ...all.filter(([c]) => c === 8)].filter(([c], i, list) => c !== 8 || list.findLastIndex(([d]) => d === 8) === i) as Groups); // prettier-ignore
const file = (
  entities: string,
  { blocks = '', layers = '', units }: { blocks?: string; layers?: string; units?: number } = {},
): string =>
  `${units === undefined ? '' : `0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n${units}\n0\nENDSEC\n`}0\nSECTION\n2\nTABLES\n0\nTABLE\n2\nLAYER\n${layers}0\nENDTAB\n0\nENDSEC\n0\nSECTION\n2\nBLOCKS\n${blocks}0\nENDSEC\n0\nSECTION\n2\nENTITIES\n${entities}0\nENDSEC\n0\nEOF\n`;
const read = (text: string) => {
  const made = readDxfArt(text);
  if (!made.ok) throw new Error(made.problem.message);
  return made.value;
};
const of = (entities: string, more = {}): Contour[] => read(file(entities, { units: 4, ...more })).shapes.flatMap((s) => s.contours); // prettier-ignore
const box = (all: readonly Contour[]): number[] => { const b = contoursBox(all); return [b.minX, b.minY, b.maxX, b.maxY]; }; // prettier-ignore
const near = (wanted: readonly number[], digits = 6) => wanted.map((v) => expect.closeTo(v, digits) as number);
const line = (x1: number, y1: number, x2: number, y2: number, ...more: Groups): string => entity('LINE', [10, x1], [20, y1], [11, x2], [21, y2], ...more); // prettier-ignore
const circle = (x: number, y: number, r: number, ...more: Groups): string => entity('CIRCLE', [10, x], [20, y], [40, r], ...more); // prettier-ignore
/** Distance of every chord's middle and end from a centre. */
const radii = (c: Contour, at: Vec): number[] => {
  const p = flatten(c, 0.001);
  return p.slice(1).flatMap((v, i) => [v, { x: (v.x + p[i]!.x) / 2, y: (v.y + p[i]!.y) / 2 }]).map((v) => Math.hypot(v.x - at.x, v.y - at.y)); // prettier-ignore
};

describe('curves of a DXF', () => {
  it('a spline with weights is the circle that it stands for', () => {
    // A whole circle of 25 as nine control points of degree 2, weights 1 and √½ [Piegl and Tiller, The NURBS Book, 7.5].
    const square = [[25, 0], [25, 25], [0, 25], [-25, 25], [-25, 0], [-25, -25], [0, -25], [25, -25], [25, 0]] as const; // prettier-ignore
    const knots = [0, 0, 0, 1, 1, 2, 2, 3, 3, 4, 4, 4];
    const round = (weights: boolean): Contour =>
      of(entity('SPLINE', [71, 2], ...knots.map((k) => [40, k] as const), ...square.flatMap(([x, y], i) => [[10, x], [20, y], ...(weights ? [[41, i % 2 ? Math.SQRT1_2 : 1] as const] : [])] as const)))[0]!; // prettier-ignore
    const all = radii(round(true), { x: 0, y: 0 });
    expect(Math.max(...all)).toBeLessThan(25.0001);
    expect(Math.min(...all)).toBeGreaterThan(25 - 0.005);
    // Without them it is four parabolas, 26.5 from the middle at an eighth of a turn.
    expect(Math.max(...radii(round(false), { x: 0, y: 0 }))).toBeCloseTo(26.517, 3);
  });
  it('an ellipse keeps within five thousandths of itself, however large', () => {
    fc.assert(
      fc.property(fc.double({ min: 1, max: 2000, noNaN: true }), fc.double({ min: 0.05, max: 1, noNaN: true }), fc.double({ min: 0, max: 6.28, noNaN: true }), (a, ratio, turn) => {
        const [c] = of(entity('ELLIPSE', [10, 3], [20, 4], [11, a * Math.cos(turn)], [21, a * Math.sin(turn)], [40, ratio], [41, 0], [42, 2 * Math.PI])); // prettier-ignore
        const points = flatten(c!);
        for (let i = 0; i < points.length; i += Math.max(1, Math.floor(points.length / 40))) {
          const [p, q] = [points[i]!, points[(i + 1) % points.length]!];
          const middle = { x: (p.x + q.x) / 2 - 3, y: (p.y + q.y) / 2 - 4 };
          const [u, v] = [middle.x * Math.cos(turn) + middle.y * Math.sin(turn), -middle.x * Math.sin(turn) + middle.y * Math.cos(turn)]; // prettier-ignore
          const k = Math.hypot(u / a, v / (a * ratio));
          // Along the ray from its middle the curve is (1 − k) / k of this far out: no less than the distance to it.
          expect(((1 - k) / k) * Math.hypot(u, v) * Math.min(1, ratio * 1.0001)).toBeLessThan(0.005);
        }
      }),
      { numRuns: 40 },
    ); // prettier-ignore
  });
  it('a part of an ellipse runs from its first parameter to its second', () => {
    const [c] = of(entity('ELLIPSE', [10, 0], [20, 0], [11, 10], [21, 0], [40, 0.5], [41, Math.PI], [42, 2.5 * Math.PI])); // prettier-ignore
    expect([c!.closed, c!.vertices[0], c!.vertices.at(-1)]).toEqual([false, { x: expect.closeTo(-10, 6), y: expect.closeTo(0, 6) }, { x: expect.closeTo(0, 6), y: expect.closeTo(5, 6) }]); // prettier-ignore
  });
});

describe('what lies behind the drawing', () => {
  const below: Groups = [[210, 0], [220, 0], [230, -1]]; // prettier-ignore
  it('is mirrored: its own x runs the other way', () => {
    expect(box(of(circle(30, 5, 2, ...below)))).toEqual(near([-32, 3, -28, 7]));
    const [arc] = of(entity('ARC', [10, 30], [20, 0], [40, 10], [50, 0], [51, 90], ...below));
    // From (40, 0) up to (30, 10) there: from (−40, 0) to (−30, 10) here, the other way round.
    expect(arc!.vertices.map((v) => [v.x, v.y])).toEqual([near([-40, 0]), near([-30 - 10 * Math.SQRT1_2, 10 * Math.SQRT1_2]), near([-30, 10])]); // prettier-ignore
    expect(arc!.vertices[0]!.bulge).toBeLessThan(0);
    expect(box(of(entity('LWPOLYLINE', [90, 3], [70, 1], [10, 1], [20, 0], [10, 5], [20, 0], [10, 5], [20, 3], ...below)))).toEqual(near([-5, 0, -1, 3])); // prettier-ignore
    // A line is in the drawing's own coordinates, whatever its normal.
    expect(box(of(line(1, 0, 5, 3, ...below)))).toEqual(near([1, 0, 5, 3]));
    // An ellipse as well; its shorter axis turns round: a quarter from its longer one lies below.
    const [half] = of(entity('ELLIPSE', [10, 0], [20, 0], [11, 10], [21, 0], [40, 0.5], [41, 0], [42, Math.PI], ...below)); // prettier-ignore
    expect(box([half!])).toEqual(near([-10, -5, 10, 0], 2));
  });
  it('that leans out of it is left out, and said', () => {
    const { shapes, notes } = read(
      file(circle(0, 0, 5, [210, 1], [220, 0], [230, 0]) + line(0, 0, 9, 0), { units: 4 }),
    );
    expect([shapes.length, notes]).toEqual([1, ['1 × CIRCLE that leans out of the drawing’s plane left out.']]);
  });
});

describe('layers, sheets and units', () => {
  const layer = (name: string, flags: number, colour: number): string => groups([[0, 'LAYER'], [2, name], [70, flags], [62, colour]]); // prettier-ignore
  const layers = layer('cut', 0, 1) + layer('frozen', 1, 3) + layer('off', 0, -5) + layer('locked', 4, 2);
  it('what is on a layer that is off or frozen is not seen; on a locked one it is', () => {
    const all = ['cut', 'frozen', 'off', 'locked', 'unheard of'].map((l, i) => line(0, i, 10, i, [8, l])).join('');
    const { shapes, hidden } = read(file(all, { layers, units: 4 }));
    expect(shapes.map((s) => s.contours[0]!.vertices[0]!.y)).toEqual([0, 3, 4]);
    expect(hidden).toBe(2);
  });
  it('each line has its colour: its own, exactly, or its layer’s', () => {
    const { shapes } = read(file(line(0, 0, 1, 0, [8, 'cut']) + line(0, 1, 1, 1, [8, 'cut'], [62, 5]) + line(0, 2, 1, 2, [420, 0x102030]) + line(0, 3, 1, 3, [62, 42]) + line(0, 4, 1, 4), { layers, units: 4 })); // prettier-ignore
    expect(shapes.map((s) => s.stroke)).toEqual(['#ff0000', '#0000ff', '#102030', 'colour 42', '#000000']);
  });
  it('what is drawn on a sheet of paper is no part of the drawing, nor what is hidden', () => {
    const { shapes, notes, hidden } = read(file(line(0, 0, 10, 0) + line(0, 0, 297, 0, [67, 1]) + line(0, 0, 99, 9, [60, 1]), { units: 4 })); // prettier-ignore
    expect([shapes.length, hidden, notes]).toEqual([1, 1, ['1 × LINE on a sheet of paper beside the drawing left out.']]); // prettier-ignore
  });
  it.each([
    [1, 25.4, 'in'],
    [2, 304.8, 'in'],
    [4, 1, 'mm'],
    [5, 10, 'cm'],
    [6, 1000, 'mm'],
    [9, 0.0254, 'in'],
    [10, 914.4, 'in'],
    [13, 0.001, 'mm'],
    [14, 100, 'cm'],
    [0, 1, 'unstated'],
  ])('$INSUNITS %i: a length of one is %f mm', (units, mm, unit) => {
    const made = read(file(line(0, 0, 1, 0), { units }));
    expect([contoursBox(made.shapes[0]!.contours).maxX, made.unit]).toEqual([expect.closeTo(mm, 9), unit]);
  });
});

describe('blocks', () => {
  const block = (name: string, inside: string, x = 0, y = 0): string => groups([[0, 'BLOCK'], [8, '0'], [2, name], [10, x], [20, y]]) + inside + groups([[0, 'ENDBLK']]); // prettier-ignore
  const insert = (name: string, ...more: Groups): string => entity('INSERT', [2, name], ...more);
  const plate = block('plate', line(10, 10, 14, 10) + line(14, 10, 14, 12), 10, 10);
  it('are put where they are inserted, by their base point, turned and scaled', () => {
    expect(box(of(insert('plate', [10, 100], [20, 50]), { blocks: plate }))).toEqual(near([100, 50, 104, 52]));
    expect(box(of(insert('plate', [10, 100], [20, 50], [50, 90]), { blocks: plate }))).toEqual(near([98, 50, 100, 54])); // prettier-ignore
    expect(box(of(insert('plate', [10, 0], [20, 0], [41, -2], [42, 3]), { blocks: plate }))).toEqual(near([-8, 0, 0, 6])); // prettier-ignore
    expect(box(of(insert('plate', [10, 7], [20, 0], [210, 0], [220, 0], [230, -1]), { blocks: plate }))).toEqual(near([-11, 0, -7, 2])); // prettier-ignore
  });
  it('in rows and columns, and in each other', () => {
    const grid = of(insert('plate', [10, 0], [20, 0], [70, 3], [71, 2], [44, 20], [45, 30]), { blocks: plate });
    expect(grid).toHaveLength(12);
    expect(box(grid)).toEqual(near([0, 0, 44, 32]));
    const pair =
      plate + block('pair', insert('plate', [10, 0], [20, 0]) + insert('plate', [10, 0], [20, 5], [50, 180]));
    expect(box(of(insert('pair', [10, 1], [20, 1], [41, 2], [42, 2]), { blocks: pair }))).toEqual(near([-7, 1, 9, 11])); // prettier-ignore
  });
  it('scaled one way only make an ellipse of a circle', () => {
    const [c] = of(insert('disc', [10, 0], [20, 0], [41, 3]), { blocks: block('disc', circle(0, 0, 10)) });
    expect(box([c!])).toEqual(near([-30, -10, 30, 10], 2));
    for (const v of c!.vertices) expect(Math.hypot(v.x / 30, v.y / 10)).toBeCloseTo(1, 6);
  });
  it('take layer and colour from where they are put, when what is in them says so', () => {
    const layers = groups([[0, 'LAYER'], [2, 'off'], [70, 0], [62, -3], [0, 'LAYER'], [2, 'cut'], [70, 0], [62, 1]]); // prettier-ignore
    const blocks = block('b', line(0, 0, 1, 0) + line(0, 1, 1, 1, [62, 0]) + line(0, 2, 1, 2, [8, 'cut'], [62, 4]));
    const made = read(file(insert('b', [8, 'cut'], [62, 6], [10, 0], [20, 0]), { blocks, layers, units: 4 }));
    expect(made.shapes.map((s) => s.stroke)).toEqual(['#ff0000', '#ff00ff', '#00ffff']);
    expect(read(file(insert('b', [8, 'off'], [10, 0], [20, 0]), { blocks, layers, units: 4 })).shapes).toEqual([]);
  });
  it('that put themselves in, or are not there, end and are said', () => {
    const self = read(file(insert('s', [10, 0], [20, 0]), { blocks: block('s', line(0, 0, 1, 0) + insert('s', [10, 1], [20, 0])), units: 4 })); // prettier-ignore
    expect(self.shapes.length).toBeLessThan(20);
    expect(self.notes).toEqual(['1 × block within blocks without end left out.']);
    expect(read(file(line(0, 0, 1, 0) + insert('none', [10, 0], [20, 0]), { units: 4 })).notes).toEqual(['1 × INSERT of a block that is not in the file left out.']); // prettier-ignore
    const many = readDxfArt(file(insert('b', [10, 0], [20, 0], [70, 5000], [71, 5000]), { blocks: block('b', line(0, 0, 1, 0)), units: 4 })); // prettier-ignore
    expect(!many.ok && many.problem.message).toMatch(/has more than 200000 points/);
  });
  it('are where another reader puts them', () => {
    const text = file(insert('plate', [10, 100], [20, 50], [50, 30], [41, 2], [42, 2]), { blocks: plate, units: 4 });
    const parsed = new DxfParser().parseSync(text)!;
    const put = parsed.entities[0] as unknown as { position: Vec; rotation: number; xScale: number };
    const inside = parsed.blocks['plate'] as unknown as { position: Vec; entities: { vertices: Vec[] }[] };
    const turn = (put.rotation * Math.PI) / 180;
    const ends = inside.entities.flatMap((e) => e.vertices).map((v) => { const [x, y] = [put.xScale * (v.x - inside.position.x), put.xScale * (v.y - inside.position.y)]; return [put.position.x + x * Math.cos(turn) - y * Math.sin(turn), put.position.y + x * Math.sin(turn) + y * Math.cos(turn)]; }); // prettier-ignore
    expect(of(insert('plate', [10, 100], [20, 50], [50, 30], [41, 2], [42, 2]), { blocks: plate }).flatMap((c) => c.vertices.map((v) => [v.x, v.y]))).toEqual(ends.map((p) => near(p))); // prettier-ignore
  });
});
