import fc from 'fast-check';
import { contoursBox, polyline, reversedContour, type Contour, type Vec } from '../geometry';
import { joinOpen } from './outline';
import { readDxfArt } from './dxf-read';
import { readDxfOutline } from './outline-dxf';
import { readSvg } from '../test-plain';

const dxf = (entities: string, head = ''): string => `${head}0\nSECTION\n2\nENTITIES\n${entities}0\nENDSEC\n0\nEOF\n`;
const line = (a: Vec, b: Vec): string => `0\nLINE\n8\n0\n10\n${a.x}\n20\n${a.y}\n11\n${b.x}\n21\n${b.y}\n`;
const arc = (from: number | string, to: number | string): string =>
  `0\nARC\n8\n0\n10\n0\n20\n0\n40\n10\n50\n${from}\n51\n${to}\n`;
const svg = (body: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="60mm" viewBox="0 0 60 60">${body}</svg>`;

/** Joining as it was first written: every end compared with every other. */
const joinSlowly = (contours: readonly Contour[], reach = 0.02): Contour[] => {
  const done = contours.filter((c) => c.closed);
  let open = contours.filter((c) => !c.closed && c.vertices.length >= 2);
  const meets = (a: Vec, b: Vec): boolean => Math.hypot(a.x - b.x, a.y - b.y) <= reach;
  while (open.length > 0) {
    let [first, ...rest] = open as [Contour, ...Contour[]];
    for (;;) {
      const end = first.vertices.at(-1)!;
      if (first.vertices.length > 2 && meets(first.vertices[0]!, end)) {
        first = { closed: true, vertices: first.vertices.slice(0, -1) };
        break;
      }
      const i = rest.findIndex((c) => meets(c.vertices[0]!, end) || meets(c.vertices.at(-1)!, end));
      if (i < 0) break;
      const next = meets(rest[i]!.vertices[0]!, end) ? rest[i]! : reversedContour(rest[i]!);
      first = { closed: false, vertices: [...first.vertices.slice(0, -1), ...next.vertices] };
      rest = rest.filter((_, k) => k !== i);
    }
    done.push(first);
    open = rest;
  }
  return done;
};

describe('loose lines are joined', () => {
  const place = fc.record({ x: fc.integer({ min: -4, max: 4 }), y: fc.integer({ min: -4, max: 4 }) });
  const near = fc.double({ min: -0.006, max: 0.006, noNaN: true });
  const end = fc.tuple(place, near, near).map(([p, dx, dy]) => ({ x: p.x + dx, y: p.y + dy }));
  const loose = fc.array(fc.tuple(end, end), { maxLength: 40 }).map((all) => all.map((ends) => polyline(ends)));

  it('as comparing every end with every other joins them, near misses across squares too', () =>
    fc.assert(fc.property(loose, (lines) => expect(joinOpen(lines)).toEqual(joinSlowly(lines)))));

  it('a ring of 20,000 lines in any order into one outline', () => {
    const n = 20_000;
    const at = (i: number): Vec => ({
      x: 100 * Math.cos((2 * Math.PI * i) / n),
      y: 100 * Math.sin((2 * Math.PI * i) / n),
    });
    const sides = Array.from({ length: n }, (_, i) => polyline([at((i * 7_919) % n), at(((i * 7_919) % n) + 1)]));
    const joined = joinOpen(sides, 0.001);
    expect(joined.map((c) => [c.closed, c.vertices.length])).toEqual([[true, n]]);
  });
});

describe('a file that would never end', () => {
  it.each([
    ['an angle of 1e300 in an ARC', dxf(arc(0, '1e300')), /Line 18: “1e300” in ARC is out of any range/],
    ['an angle of −1e300', dxf(arc('-1e300', 0)), /out of any range/],
    ['a coordinate of 1e308', dxf(line({ x: 0, y: 0 }, { x: 1e308, y: 0 })), /out of any range/],
  ])('%s is refused by its line', (_what, text, sentence) => {
    const read = readDxfOutline(text);
    expect(!read.ok && read.problem.message).toMatch(sentence);
  });

  it('an arc runs counter-clockwise from its first angle to its second, however they are counted', () => {
    // Published: DXF reference, ARC, angles in degrees, always counter-clockwise; the same place at every full turn.
    for (const turns of [-3, -1, 0, 2, 1_000_000]) {
      const half = readDxfOutline(dxf(arc(0 + 360 * turns, 180) + line({ x: -10, y: 0 }, { x: 10, y: 0 })));
      expect(half.ok && [half.value.width, half.value.height]).toEqual([expect.closeTo(20, 3), expect.closeTo(10, 3)]);
    }
    const whole = readDxfArt(dxf(arc(30, 30)));
    const box = whole.ok ? contoursBox(whole.value.shapes.flatMap((s) => s.contours)) : null;
    expect(box && [box.maxX - box.minX, box.maxY - box.minY]).toEqual([expect.closeTo(20, 3), expect.closeTo(20, 3)]);
  });

  it('more points than an outline has are given up where they are reached, before the rest is unrolled', () => {
    const curves = svg(`<path d="M0 0${'c900 0 0 900 1 1'.repeat(300_000)}"/>`);
    const read = readSvg(curves);
    expect(!read.ok && read.problem.message).toMatch(/more than 20000 shapes or 600000 points/);
    const ellipse = '0\nELLIPSE\n8\n0\n10\n0\n20\n0\n11\n9\n21\n0\n40\n1\n';
    const many = readDxfOutline(dxf(ellipse.repeat(60_000)));
    expect(!many.ok && many.problem.message).toMatch(/by here the file has more than 200000 points/);
  });

  it('curves laid on each other hundreds of times over (12 kB) are read, and spoken of', () => {
    const ring = 'M30 5c20 0 20 50 0 50c-20 0-20-50 0-50';
    const read = readSvg(svg(`<path d="${ring}${ring.slice(5).repeat(350)}Z"/>`));
    expect(read.ok && read.value.notes.join()).toMatch(/One outline crosses itself/);
  });

  it('never takes a bulge or a radius beyond all measure for an arc', () => {
    const poly = `0\nLWPOLYLINE\n8\n0\n90\n3\n70\n1\n10\n0\n20\n0\n42\n1000000000\n10\n20\n20\n0\n42\n0\n10\n20\n20\n9\n42\n1e-9\n`;
    const bent = readDxfOutline(dxf(poly));
    // A chord of 20 with a bulge of 1e9 is all but a whole turn of a circle of 5e9.
    expect(!bent.ok && bent.problem.message).toMatch(/between 0.5 mm and 5000 mm/);
    const circle = readDxfOutline(dxf('0\nCIRCLE\n8\n0\n10\n0\n20\n0\n40\n900000000\n'));
    expect(!circle.ok && circle.problem.message).toMatch(/between 0.5 mm and 5000 mm/);
  });
});
