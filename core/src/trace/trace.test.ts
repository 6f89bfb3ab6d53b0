import { contours as d3contours } from 'd3-contour';
import { seeded } from '../budget';
import {
  apply,
  contourBox,
  contourLength,
  distanceToContour,
  flatten,
  insidePolygon,
  polygonArea,
  polyline,
  rigid,
  type Contour,
  type Vec,
} from '../geometry';
import { tracedPieces } from '../holding';
import { addRows, emptyInk, inkLevel, paperOf, type Ink } from './ink';
import { edgeUncertainty } from './edges';
import { freshTrace, traceSheet, type TraceChoices, type Traced } from './sheet';
import { measureRing, ringsAt } from './rings';
import { smoothed } from './smooth';

/** A picture drawn by asking of every dot's corners, and of more places where they differ, whether they are print. */
const draw = (width: number, height: number, dot: number, printed: (p: Vec) => boolean, grain = 4): Ink => {
  const ink = emptyInk(width, height);
  const at = (x: number, y: number): boolean => printed({ x: x * dot, y: (height - y) * dot });
  const row = (y: number): boolean[] => Array.from({ length: width + 1 }, (_, x) => at(x, y));
  let above = row(0);
  for (let y = 0; y < height; y += 1) {
    const below = row(y + 1);
    for (let x = 0; x < width; x += 1) {
      let n = 0;
      if (above[x] === above[x + 1] && below[x] === below[x + 1] && above[x] === below[x])
        n = above[x] ? grain ** 2 : 0;
      else
        for (let i = 0; i < grain; i += 1)
          for (let j = 0; j < grain; j += 1) if (at(x + (i + 0.5) / grain, y + (j + 0.5) / grain)) n += 1;
      ink.data[(y + 1) * (width + 2) + x + 1] = Math.round((255 * n) / grain ** 2);
    }
    above = below;
  }
  return ink;
};

const disc =
  (c: Vec, r: number) =>
  (p: Vec): boolean =>
    Math.hypot(p.x - c.x, p.y - c.y) < r;
const block =
  (x: number, y: number, w: number, h: number) =>
  (p: Vec): boolean =>
    p.x > x && p.x < x + w && p.y > y && p.y < y + h;
const anyOf =
  (...parts: readonly ((p: Vec) => boolean)[]) =>
  (p: Vec): boolean =>
    parts.some((f) => f(p));
/** The usual mark: a cross in a circle of lines 0.3 mm wide. */
const target =
  (c: Vec, size = 10) =>
  (p: Vec): boolean => {
    const d = Math.hypot(p.x - c.x, p.y - c.y);
    const r = size / 2;
    return (d < r && d > r - 0.4) || (d < r && (Math.abs(p.x - c.x) < 0.2 || Math.abs(p.y - c.y) < 0.2));
  };

const trace = (ink: Ink, dot: number, part: Partial<TraceChoices> = {}): Traced => {
  const made = traceSheet(ink, { name: 'test.png', dot }, { ...freshTrace, ...part });
  if (!made.ok) throw new Error(made.problem.message);
  return made.value;
};
const areaOf = (c: Contour): number => Math.abs(polygonArea(flatten(c)));

describe('rings', () => {
  const r = seeded(5);
  const blobs = Array.from({ length: 14 }, () =>
    disc({ x: 40 * r.uniform(), y: 30 * r.uniform() }, 1 + 4 * r.uniform()),
  );
  const holes = Array.from({ length: 8 }, () => disc({ x: 40 * r.uniform(), y: 30 * r.uniform() }, 0.5 + r.uniform()));
  const ink = draw(400, 300, 0.1, (p) => anyOf(...blobs)(p) && !anyOf(...holes)(p), 3);
  const level = 127.5;

  it('encloses what the marching squares of d3-contour enclose, ring by ring', () => {
    const rings = ringsAt(ink, level)!.map(measureRing);
    // d3-contour looks at the same field with its rim of paper.
    const [multi] = d3contours().size([402, 302]).smooth(true).thresholds([level])(Array.from(ink.data));
    const reference = multi!.coordinates.flatMap((polygon) =>
      polygon.map((ring) => Math.abs(polygonArea(ring.slice(1).map(([x, y]) => ({ x: x!, y: y! }))))),
    );
    const own = rings.map((x) => Math.abs(x.area)).sort((a, b) => a - b);
    expect(own).toHaveLength(reference.length);
    reference.sort((a, b) => a - b).forEach((area, i) => expect(own[i]).toBeCloseTo(area, 6));
    expect(rings.some((x) => x.area < 0)).toBe(true);
  });

  it('gives noise back as too much when it has no end', () => {
    const noise = emptyInk(3_000, 3_000);
    // A linear congruence: its upper bits are as good as a coin.
    for (let i = 0, n = 1; i < noise.data.length; i += 1) {
      n = (Math.imul(n, 1_664_525) + 1_013_904_223) >>> 0;
      noise.data[i] = n < 2 ** 31 ? 0 : 255;
    }
    for (let i = 0; i < 3_002; i += 1)
      for (const at of [i, i + 3_001 * 3_002, i * 3_002, i * 3_002 + 3_001]) noise.data[at] = 0;
    expect(ringsAt(noise, level, 12)).toBeNull();
  });
});

describe('ink', () => {
  it('finds coloured print on coloured paper, clear parts as white', () => {
    const rgba = new Uint8ClampedArray(4 * 64 * 64);
    for (let i = 0; i < 64 * 64; i += 1) {
      const [x, y] = [i % 64, Math.floor(i / 64)];
      const print = x > 20 && x < 44 && y > 20 && y < 44;
      // A cream print as light as its pale blue paper: only the colour tells.
      rgba.set(print ? [250, 236, 200, 255] : [225, 238, 250, 255], 4 * i);
    }
    const rows = { top: 0, count: 64, rgba };
    const paper = paperOf(rows, 64);
    expect(paper).toEqual([225, 238, 250]);
    const ink = emptyInk(64, 64);
    addRows(ink, rows, paper);
    const level = inkLevel(ink);
    if (!level.ok) throw new Error(level.problem.message);
    const [ring] = ringsAt(ink, level.value.level)!;
    // Squares between dots cut the four corners off.
    expect(Math.abs(measureRing(ring!).area - 23 * 23)).toBeLessThan(2);
  });

  it('says when nothing stands out', () => {
    expect(inkLevel(emptyInk(40, 40))).toMatchObject({ ok: false, problem: { code: 'no-print' } });
  });
});

describe('smoothing', () => {
  it('shrinks a circle by σ²/2r and no more [heat flow of a circle], whatever its dots', () => {
    const ring = Array.from({ length: 400 }, (_, i) => {
      const a = (2 * Math.PI * i) / 400;
      return { x: 5 * Math.cos(a), y: 5 * Math.sin(a) };
    });
    const r = smoothed(ring, 0.3).map((p) => Math.hypot(p.x, p.y));
    expect(Math.max(...r)).toBeLessThan(5 - 0.9 * (0.3 ** 2 / 10));
    expect(Math.min(...r)).toBeGreaterThan(5 - 1.1 * (0.3 ** 2 / 10));
  });
});

describe('a sheet in a picture', () => {
  const dot = 25.4 / 200;
  const marks = [
    { x: 12, y: 12 },
    { x: 88, y: 60 },
    { x: 88, y: 12 },
    { x: 12, y: 60 },
  ];
  const ring = (p: Vec): boolean => disc({ x: 65, y: 36 }, 11)(p) && !disc({ x: 65, y: 36 }, 4)(p);
  const scene = anyOf(block(20, 25, 25, 18), ring, ...marks.map((m) => target(m)), disc({ x: 50, y: 60 }, 1));
  const picture = draw(790, 570, dot, scene, 3);
  const traced = trace(picture, dot);

  it('finds pieces by their outer lines, keeps marks out of the cut, leaves specks alone', () => {
    const { shapes } = traced.sheet;
    expect(shapes.map((s) => s.role)).toEqual(['mark', 'mark', 'piece', 'piece', 'mark', 'mark']);
    const [plate, washer] = tracedPieces(traced.sheet);
    expect(Math.abs(areaOf(plate!.outline) - 25 * 18)).toBeLessThan(1);
    const box = contourBox(plate!.outline);
    for (const [found, meant] of [
      [box.minX, 20],
      [box.maxX, 45],
      [box.minY, 25],
      [box.maxY, 43],
    ] as const)
      expect(Math.abs(found - meant)).toBeLessThan(0.03);
    expect(areaOf(washer!.outline) / (Math.PI * 11 ** 2)).toBeCloseTo(1, 2);
    expect(contourLength(washer!.outline) / (2 * Math.PI * 11)).toBeCloseTo(1, 2);
    expect(washer!.holes).toHaveLength(1);
    expect(areaOf(washer!.holes[0]!) / (Math.PI * 16)).toBeCloseTo(1, 1);
    expect(traced.notes.join()).toContain('smaller shape');
  });

  it('puts marks where they are, within a tenth of a dot', () => {
    for (const s of traced.sheet.shapes.filter((x) => x.role === 'mark')) {
      expect(s.look!.kind).toBe('cross-circle');
      expect(Math.min(...marks.map((m) => Math.hypot(m.x - s.at.x, m.y - s.at.y)))).toBeLessThan(0.1 * dot);
    }
  });

  it('knows marks of every form, and where each is aimed at', () => {
    const forms = anyOf(
      block(30, 20, 20, 15),
      (p) => block(8, 9.8, 6, 0.4)(p) || block(10.8, 7, 0.4, 6)(p),
      (p) => disc({ x: 70, y: 10 }, 3)(p) && !disc({ x: 70, y: 10 }, 2)(p),
      disc({ x: 10, y: 45 }, 2),
      (p) => block(66, 40, 8, 0.5)(p) || block(66, 40, 0.5, 8)(p),
    );
    const { sheet } = trace(draw(630, 420, dot, forms, 3), dot);
    const found = sheet.shapes.filter((s) => s.role === 'mark').map((s) => [s.look!.kind, s.at] as const);
    const where: Record<string, Vec> = {
      cross: { x: 11, y: 10 },
      ring: { x: 70, y: 10 },
      dot: { x: 10, y: 45 },
      corner: { x: 66.25, y: 40.25 },
    };
    expect(found.map(([kind]) => kind).sort()).toEqual(Object.keys(where).sort());
    for (const [kind, at] of found)
      expect(Math.hypot(at.x - where[kind]!.x, at.y - where[kind]!.y)).toBeLessThan(0.3 * dot);
  });

  it('speaks of pieces that touch, and cuts them apart when told to', () => {
    const pair = anyOf(disc({ x: 25, y: 30 }, 10), disc({ x: 44.99, y: 30 }, 10), ...marks.map((m) => target(m)));
    const ink = draw(790, 570, dot, pair, 3);
    // Where discs meet, the dots fill the wedge between them: what is left looks some 2 mm wide.
    const together = trace(ink, dot, { neck: 3 });
    expect(tracedPieces(together.sheet)).toHaveLength(1);
    expect(together.notes.join()).toMatch(/pieces that touch \(at 35, 30\)/);
    const apart = trace(ink, dot, { apart: true, neck: 3 });
    expect(tracedPieces(apart.sheet)).toHaveLength(2);
    for (const p of tracedPieces(apart.sheet)) expect(areaOf(p.outline) / (Math.PI * 100)).toBeCloseTo(1, 1);
  });

  it('says that a sheet lies turned, and finds the same pieces on it', () => {
    const turn = rigid((-2 * Math.PI) / 180, 50, 36);
    const tilted = draw(
      790,
      570,
      dot,
      (p) => {
        const q = apply(turn, { x: p.x - 50, y: p.y - 36 });
        return scene(q);
      },
      3,
    );
    const { sheet, notes } = trace(tilted, dot);
    expect(notes.join()).toMatch(/turned by 2\.0°/);
    expect(tracedPieces(sheet)).toHaveLength(2);
  });

  it('asks about a picture taken from aslant', () => {
    const aslant = draw(790, 570, dot, (p) => scene({ x: 50 + (p.x - 50) * (1 + 0.0006 * (p.y - 36)), y: p.y }), 3);
    expect(trace(aslant, dot).notes.join()).toMatch(/no rectangle/);
  });

  it('refuses what cannot be cut from, each in words', () => {
    const problem = (ink: Ink, d = dot): string => {
      const made = traceSheet(ink, { name: 'x.png', dot: d }, freshTrace);
      return made.ok ? 'taken' : made.problem.code;
    };
    expect(problem(emptyInk(200, 200))).toBe('no-print');
    expect(problem(draw(200, 200, dot, disc({ x: 12, y: 12 }, 1), 2))).toBe('no-pieces');
    // A scanner's dark lid round the sheet.
    expect(problem(draw(200, 200, dot, (p) => !block(2, 2, 21, 21)(p), 2))).toBe('one-shape');
    const blurred = emptyInk(600, 400);
    for (let y = 0; y < 400; y += 1)
      for (let x = 0; x < 600; x += 1)
        blurred.data[(y + 1) * 602 + x + 1] = Math.round(
          255 * Math.min(1, Math.max(0, 0.5 + (150 - Math.hypot(x - 300, y - 200)) / 16)),
        );
    expect(problem(blurred)).toBe('blurred');
    expect(trace(blurred, 0.04).notes.join()).toMatch(/edges are 0\.\d+ mm wide/);
  });

  it('keeps outlines as near to the print as it says it knows them: brute force over every corner', () => {
    const wavy = (a: number): number => 12 + 1.5 * Math.sin(5 * a);
    const star = polyline(
      Array.from({ length: 240 }, (_, i) => {
        const a = (2 * Math.PI * i) / 240;
        return { x: 40 + wavy(a) * Math.cos(a), y: 30 + wavy(a) * Math.sin(a) };
      }),
      true,
    );
    const points = flatten(star);
    const { sheet } = trace(
      draw(640, 480, dot, (p) => insidePolygon(p, points), 3),
      dot,
    );
    const [piece] = tracedPieces(sheet);
    const off = flatten(piece!.outline).map((p) => distanceToContour(p, star));
    const rms = Math.sqrt(off.reduce((s, v) => s + v * v, 0) / off.length);
    expect(rms).toBeLessThan(edgeUncertainty(dot, sheet.edge));
    expect(Math.max(...off)).toBeLessThan(0.06);
  });
});
