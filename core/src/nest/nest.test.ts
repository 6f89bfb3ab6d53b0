import { intersectD, FillRule, type PathsD } from 'clipper2-ts';
import fc from 'fast-check';
import { seeded } from '../budget';
import { apply, polygonArea, rigid, type Vec } from '../geometry';
import { ALONG_GRAIN, ANY_QUARTER, nest, type Nesting, type NestPart, type Offcut } from './nest';
import { maskOf } from './bits';

const star = (r: ReturnType<typeof seeded>, reach: number): Vec[] => {
  const n = 4 + Math.floor(5 * r.uniform());
  return Array.from({ length: n }, (_, i) => {
    const q = reach * (0.5 + 0.5 * r.uniform());
    return { x: q * Math.cos((2 * Math.PI * i) / n), y: q * Math.sin((2 * Math.PI * i) / n) };
  });
};
const board = (r: ReturnType<typeof seeded>): Offcut => {
  const w = 160 + 80 * r.uniform();
  const h = 120 + 60 * r.uniform();
  const knot = (x: number, y: number): Vec[] =>
    Array.from({ length: 12 }, (_, i) => ({
      x: x + 9 * Math.cos((i * Math.PI) / 6),
      y: y + 7 * Math.sin((i * Math.PI) / 6),
    }));
  return {
    outline: [
      { x: 0, y: 6 },
      { x: w, y: 0 },
      { x: w - 15, y: h },
      { x: 20, y: h - 8 },
    ],
    defects: [knot(0.4 * w, 0.5 * h), knot(0.7 * w, 0.3 * h)],
  };
};
/** By a library that knows nothing of cells: the area two polygons share, mm². */
const shared = (a: readonly Vec[], b: readonly Vec[]): number =>
  intersectD([[...a]] as PathsD, [[...b]] as PathsD, FillRule.NonZero, 4).reduce(
    (s: number, p: { x: number; y: number }[]) => s + Math.abs(polygonArea(p)),
    0,
  );
const placed = (parts: readonly NestPart[], { laid }: Nesting): { points: Vec[]; offcut: number }[] =>
  laid.map((l) => ({
    offcut: l.offcut,
    points: parts[l.part]!.outline.map((p) => apply(rigid(l.angle, l.x, l.y), p)),
  }));
const gapOf = (a: readonly Vec[], b: readonly Vec[]): number => {
  let least = Infinity;
  const along = (line: readonly Vec[], f: (p: Vec) => void): void =>
    line.forEach((p, i) => {
      const q = line[(i + 1) % line.length]!;
      for (let t = 0; t < 1; t += 0.1) f({ x: p.x + t * (q.x - p.x), y: p.y + t * (q.y - p.y) });
    });
  along(a, (p) => along(b, (q) => (least = Math.min(least, Math.hypot(p.x - q.x, p.y - q.y)))));
  return least;
};

describe('parts laid into offcuts', () => {
  it('lie inside, off every knot, and apart: every pair looked at by another library', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 10_000 }), (seed) => {
        const r = seeded(seed);
        const offcuts = [board(r), board(r)];
        const parts = Array.from({ length: 4 }, (): NestPart => ({
          outline: star(r, 12 + 14 * r.uniform()),
          count: 5,
        }));
        const gap = 1 + r.uniform();
        const made = nest(offcuts, parts, { gap, turns: ANY_QUARTER, cell: 1 }, (b) => b.tries < 3, seed);
        if (!made.ok) throw new Error(made.problem.message);
        const all = placed(parts, made.value);
        expect(all.length + made.value.left.reduce((s, n) => s + n, 0)).toBe(20);
        all.forEach((a, i) => {
          const { outline, defects } = offcuts[a.offcut]!;
          const area = Math.abs(polygonArea(a.points));
          expect(shared(a.points, outline)).toBeGreaterThan(area - 0.01);
          for (const d of defects) expect(shared(a.points, d)).toBeLessThan(0.01);
          for (const b of all.slice(i + 1))
            if (a.offcut === b.offcut) expect(shared(a.points, b.points)).toBeLessThan(0.01);
        });
        const [first] = all;
        for (const b of all.slice(1))
          if (first && b.offcut === first.offcut) expect(gapOf(first.points, b.points)).toBeGreaterThan(gap - 0.15);
      }),
      { numRuns: 25 },
    );
  });

  it('keep to the grain, get better or stay as they are, and are the same for the same seed', () => {
    const r = seeded(8);
    const offcuts = [board(r), board(r), board(r)];
    const parts = Array.from({ length: 6 }, (): NestPart => ({ outline: star(r, 20), count: 6 }));
    const run = (tries: number): Nesting => {
      const made = nest(offcuts, parts, { gap: 1, turns: ALONG_GRAIN, cell: 1 }, (b) => b.tries < tries, 3);
      if (!made.ok) throw new Error(made.problem.message);
      return made.value;
    };
    const [one, many] = [run(1), run(12)];
    expect(one.laid.every((l) => l.angle === 0 || l.angle === Math.PI)).toBe(true);
    const missing = (n: Nesting): number => n.left.reduce((s, v) => s + v, 0);
    expect(missing(many)).toBeLessThanOrEqual(missing(one));
    if (missing(many) === missing(one)) expect(many.density).toBeGreaterThanOrEqual(one.density);
    expect(run(12)).toEqual(many);
  });

  it('have cells whose area is that of the part', () => {
    const r = seeded(4);
    for (let i = 0; i < 20; i += 1) {
      const outline = star(r, 30);
      const { bits } = maskOf([outline], 0.25);
      let cells = 0;
      for (let y = 0; y < bits.height; y += 1) for (let x = 0; x < bits.width; x += 1) if (bits.has(x, y)) cells += 1;
      expect(Math.abs((cells * 0.0625) / Math.abs(polygonArea(outline)) - 1)).toBeLessThan(0.01);
    }
  });

  it('are refused without stock, and counted where they find no place', () => {
    const outline = [
      { x: 0, y: 0 },
      { x: 300, y: 0 },
      { x: 300, y: 10 },
    ];
    const rules = { gap: 1, turns: ANY_QUARTER, cell: 1 };
    expect(nest([], [{ outline, count: 1 }], rules, () => false).ok).toBe(false);
    const made = nest([board(seeded(1))], [{ outline, count: 2 }], rules, () => false);
    expect(made.ok && made.value.left).toEqual([2]);
  });
});
