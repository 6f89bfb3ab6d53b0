import fc from 'fast-check';
import { seeded } from '../budget';
import { apply, distanceToSegment, insidePolygon, rigid, type Box, type Vec } from '../geometry';
import { bestStop, CutProfile, freePatch, layStrip, planStops, placeBox } from './strip';
import { calibrateFeed, commandFor, checkFeedReading, reckonSkew } from './calibrate';
import { chainOf, planeRadius, proposeAiming, simulateFeed, stopError, type FeedErrors } from './errors';
import { closestSteps } from './interlock';
import { freshFeeder } from './settings';
import { goesThrough, reckonFit, stripToBed, type Feeder } from './feeders';

const feeder: Feeder = { id: 'f', name: 'Feeder', ...freshFeeder };
const errors: FeedErrors = {
  factor: 0.0004,
  repeat: 0.06,
  skew: 0.0002,
  guide: 0,
  aim: 0.04,
  pointer: 0.03,
  back: 0.04,
  laid: 0.2,
  spread: { along: 0.1, across: 0.1 },
  dof: { feeds: Infinity, along: Infinity, across: Infinity },
};

describe('what goes through a feeder', () => {
  // Limits met in the trade: 470 mm wide, 12.7 mm thick, 990 mm without rails [common practice].
  const work = { length: 900, width: 400, thickness: 6 };
  const broken = (change: Partial<typeof work>, rails = false): string[] =>
    reckonFit(feeder, { ...work, ...change }, rails).map((m) => m.limit);

  it('takes what is inside every limit and names each that is broken', () => {
    expect(broken({})).toEqual([]);
    expect(broken({ width: 471 })).toEqual(['width']);
    expect(broken({ thickness: 12.8 })).toEqual(['thickness']);
    expect(broken({ length: 991 })).toEqual(['length']);
    expect(broken({ length: 991 }, true)).toEqual([]);
    expect(broken({ length: 200, width: 20 })).toEqual(['narrow', 'short']);
    expect(reckonFit(feeder, work, false, [], 380).map((m) => m.limit)).toEqual(['head']);
  });

  it('offers to turn it, to rip it down, the rails, or a feeder that takes it', () => {
    const wide = { id: 'w', name: 'Wide one', ...freshFeeder, widest: 800 };
    const [misfit] = reckonFit(feeder, { length: 460, width: 700, thickness: 6 }, false, [feeder, wide]);
    expect(misfit!.ways.join(' ')).toMatch(/Turn it.*Rip it down into 2 strips.*Wide one takes it/);
    expect(reckonFit(feeder, { ...work, length: 2000 }, false)[0]!.ways[0]).toMatch(/rails/);
  });

  it('offers only ways that work', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 20, max: 3000, noNaN: true }),
        fc.double({ min: 20, max: 900, noNaN: true }),
        (length, width) => {
          for (const { ways } of reckonFit(feeder, { length, width, thickness: 5 }, false)) {
            if (ways.some((w) => w.startsWith('Turn it')))
              expect(goesThrough(feeder, { length: width, width: length, thickness: 5 }, false)).toBe(true);
            if (ways.some((w) => w.startsWith('Put the rails on'))) expect(length).toBeLessThanOrEqual(2400);
          }
        },
      ),
    );
  });
});

describe('the feed against a tape', () => {
  it('names readings that say nothing of a feed', () => {
    const bad = (measured: number, commanded = 500): string | undefined => {
      const r = checkFeedReading({ commanded, measured, missed: null });
      return r.ok ? undefined : r.problem.code;
    };
    expect([bad(0), bad(-500), bad(19.7), bad(503), bad(30, 30)]).toEqual([
      'feed-zero',
      'feed-backwards',
      'feed-doubtful',
      undefined,
      'feed-short',
    ]);
  });

  it('finds the factor as a search over its squared misses does', () => {
    const readings = [
      { commanded: 500, measured: 503, missed: null },
      { commanded: 800, measured: 804.5, missed: 2 },
      { commanded: 500, measured: 502.5, missed: null },
    ];
    const cost = (f: number): number => readings.reduce((s, r) => s + (r.measured - f * r.commanded) ** 2, 0);
    let best = 1;
    for (let f = 1; f < 1.01; f += 1e-7) if (cost(f) < cost(best)) best = f;
    const c = calibrateFeed(readings, feeder);
    expect(c.factor).toBeCloseTo(best, 6);
    expect(commandFor(c, 100) * c.factor).toBeCloseTo(100, 9);
    expect(c.slip).toBe(2);
  });

  it('is off by its own uncertainty, over many calibrations', () => {
    const r = seeded(4);
    const missed = Array.from({ length: 4000 }, () => {
      const readings = [500, 500, 500, 500].map((commanded) => ({
        commanded,
        measured: 1.004 * commanded + 0.5 * (2 * r.uniform() - 1) + 0.06 * r.normal(),
        missed: null,
      }));
      const c = calibrateFeed(readings, feeder);
      return ((c.factor - 1.004) / c.uncertainty) ** 2;
    });
    const mean = missed.reduce((s, v) => s + v, 0) / missed.length;
    // A spread of four readings is itself uncertain; the tape's share keeps it from being too small.
    expect(mean).toBeGreaterThan(0.6);
    expect(mean).toBeLessThan(1.1);
  });
});

describe('skew', () => {
  it('is the triangle of two offsets', () => {
    const skew = reckonSkew({ apart: 400, first: 0.3, second: 1.1 }, 2000, 0.5);
    expect(Math.tan(skew.angle)).toBeCloseTo(0.002, 9);
    expect(skew.drift).toBeCloseTo(4, 9);
    expect(skew.longest).toBeCloseTo(250, 9);
    expect(reckonSkew({ apart: 400, first: 0.3, second: 0.3 }, 2000, 0.5).longest).toBe(Infinity);
  });

  it('carries points of the strip to the bed along either axis', () => {
    const at = (m: { a: number; b: number; c: number; d: number; e: number; f: number }, p: Vec): number[] =>
      [m.a * p.x + m.c * p.y + m.e, m.b * p.x + m.d * p.y + m.f].map((v) => Math.round(v * 1e6) / 1e6);
    expect(at(stripToBed(feeder, 100), { x: 100, y: 20 })).toEqual([150, 100]);
    // Fed from front to back, what was fed lies at the far end of the window.
    expect(at(stripToBed({ ...feeder, along: 'y' }, 100), { x: 130, y: 20 })).toEqual([100, 720]);
  });
});

describe('places on a strip', () => {
  const rule = fc.record({
    length: fc.double({ min: 200, max: 2000, noNaN: true }),
    width: fc.double({ min: 60, max: 400, noNaN: true }),
    piece: fc.record({
      length: fc.double({ min: 15, max: 120, noNaN: true }),
      width: fc.double({ min: 10, max: 50, noNaN: true }),
    }),
    turned: fc.boolean(),
    gap: fc.double({ min: 0, max: 20, noNaN: true }),
    used: fc.array(
      fc.record({
        x: fc.double({ min: 0, max: 1900, noNaN: true }),
        y: fc.double({ min: 0, max: 380, noNaN: true }),
        s: fc.double({ min: 5, max: 80, noNaN: true }),
      }),
      { maxLength: 5 },
    ),
  });
  const meets = (a: Box, b: Box): boolean =>
    a.minX < b.maxX - 1e-9 && a.maxX > b.minX + 1e-9 && a.minY < b.maxY - 1e-9 && a.maxY > b.minY + 1e-9;

  it('lie inside, off dead bands and used places, and never on each other: every pair looked at', () => {
    fc.assert(
      fc.property(rule, ({ length, width, piece, turned, gap, used }) => {
        const patches = used.map((u) => ({ minX: u.x, minY: u.y, maxX: u.x + u.s, maxY: u.y + u.s }));
        const laid = layStrip({
          strip: { length, width },
          piece,
          turned,
          pitch: null,
          gap,
          rows: null,
          deadFront: 30,
          deadBack: 20,
          used: patches,
        });
        if (!laid.ok) return;
        const [along, across] = turned ? [piece.width, piece.length] : [piece.length, piece.width];
        const boxes = laid.value.places.map((p) => placeBox(p, along, across));
        // Plain comparisons: there may be thousands of pairs.
        const inside = (a: Box): boolean =>
          a.minX >= 30 - 1e-9 && a.maxX <= length - 20 + 1e-6 && a.minY >= -1e-9 && a.maxY <= width + 1e-9;
        expect(boxes.every(inside)).toBe(true);
        expect(boxes.some((a) => patches.some((p) => meets(a, p)))).toBe(false);
        expect(boxes.some((a, i) => boxes.some((b, k) => k > i && meets(a, b)))).toBe(false);
      }),
      { numRuns: 200 },
    );
  });

  it('are as many as counting them one by one gives, where nothing is used', () => {
    fc.assert(
      fc.property(rule, ({ length, width, piece, gap }) => {
        const laid = layStrip({
          strip: { length, width },
          piece,
          turned: false,
          pitch: null,
          gap,
          rows: null,
          deadFront: 30,
          deadBack: 20,
          used: [],
        });
        let columns = 0;
        for (let x = 30; x + piece.length <= length - 20 + 1e-9; x += piece.length + gap) columns += 1;
        let rows = 0;
        for (let y = 0; y + piece.width <= width + 1e-9; y += piece.width + gap) rows += 1;
        expect(laid.ok ? laid.value.places.length : 0).toBe(columns * rows);
      }),
    );
  });

  it('are as many in each row as in that row alone, whatever lies in the way of the others', () => {
    fc.assert(
      fc.property(rule, ({ length, width, piece, gap, used }) => {
        const patches = used.map((u) => ({ minX: u.x, minY: u.y, maxX: u.x + u.s, maxY: u.y + u.s }));
        const laid = layStrip({ strip: { length, width }, piece, turned: false, pitch: null, gap, rows: null, deadFront: 30, deadBack: 20, used: patches }); // prettier-ignore
        if (!laid.ok) return;
        const rows = laid.value.rows;
        const margin = (width - rows * piece.width - (rows - 1) * gap) / 2;
        // The most that a row takes, found backwards: what fits from every end of something in the way, or of a piece.
        for (let row = 0; row < rows; row += 1) {
          const low = margin + row * (piece.width + gap);
          const ways = patches.filter((p) => p.minY < low + piece.width && p.maxY > low);
          const from = (x: number): number => {
            const hits = (at: number): boolean => ways.some((w) => w.minX < at + piece.length && w.maxX > at);
            const starts = [x, ...ways.map((w) => w.maxX).filter((end) => end > x)].sort((a, b) => a - b);
            const at = starts.find((start) => !hits(start));
            return at === undefined || at + piece.length > length - 20 + 1e-9 ? 0 : 1 + from(at + piece.length + gap);
          };
          expect(laid.value.places.filter((p) => p.row === row)).toHaveLength(from(30));
        }
        expect(laid.value.places.map((p) => p.slot)).toEqual(laid.value.places.map((_, i) => i + 1));
        laid.value.places.forEach((p, i, all) => expect(p.centre.x).toBeGreaterThanOrEqual(all[i - 1]?.centre.x ?? 0));
      }),
    );
  });

  it('leave room for a test patch where nothing lies', () => {
    const taken = [{ minX: 0, minY: 0, maxX: 40, maxY: 60 }];
    const patch = freePatch({ length: 80, width: 60 }, taken, { width: 20, height: 12 }, 0, 80)!;
    expect(patch.minX).toBeGreaterThanOrEqual(40);
    expect(freePatch({ length: 50, width: 60 }, taken, { width: 20, height: 12 }, 0, 50)).toBeNull();
  });
});

describe('stops of the strip', () => {
  const spans = (gaps: readonly number[]): { from: number; to: number }[] => {
    let x = 30;
    return gaps.map((g) => {
      const span = { from: x, to: x + 40 };
      x += 40 + g;
      return span;
    });
  };

  it('are as few as the best of all groupings', () => {
    fc.assert(
      fc.property(
        // Quarter millimetres: sums of them are exact, so that "just fits" means the same to both.
        fc.array(fc.integer({ min: 0, max: 240 }), { minLength: 1, maxLength: 12 }),
        fc.integer({ min: 180, max: 1200 }),
        (gaps, quarters) => {
          const window = quarters / 4;
          const all = spans(gaps.map((g) => g / 4));
          const fewest: number[] = [0];
          for (let to = 1; to <= all.length; to += 1) {
            fewest[to] = Infinity;
            for (let from = 0; from < to; from += 1)
              if (all[to - 1]!.to - all[from]!.from <= window) fewest[to] = Math.min(fewest[to]!, fewest[from]! + 1);
          }
          const stops = planStops(all, window, [], null);
          expect(stops).toHaveLength(fewest[all.length]!);
          stops.forEach((s, i) => {
            expect(s.fed).toBeGreaterThanOrEqual(stops[i - 1]?.fed ?? 0);
            expect(s.from - s.fed).toBeGreaterThanOrEqual(-1e-9);
            expect(s.to - s.fed).toBeLessThanOrEqual(window + 1e-9);
          });
          expect(stops.reduce((n, s) => n + s.count, 0)).toBe(all.length);
        },
      ),
    );
  });

  it('spare the bars under the work as well as trying every stop does', () => {
    const r = seeded(9);
    for (let n = 0; n < 40; n += 1) {
      const lines = Array.from({ length: 12 }, () => {
        const x = 100 + 380 * r.uniform();
        return [
          { x, y: 10 },
          { x, y: 60 },
        ];
      });
      const cuts = new CutProfile(lines, 1000);
      const bars = [
        { from: 90, to: 110 },
        { from: 290, to: 310 },
      ];
      const { fed, over } = bestStop(100, 480, 500, 0, bars, cuts);
      const under = (f: number): number =>
        lines.filter(([p]) => bars.some((b) => p!.x >= f + b.from - 2 && p!.x <= f + b.to + 2)).length * 50;
      expect(over).toBeCloseTo(under(fed), 6);
      for (let f = 100; f >= 0; f -= 0.1) expect(over).toBeLessThanOrEqual(under(f) + 1e-6);
    }
  });
});

describe('cut lines along a strip', () => {
  it('are summed up as by walking along them in steps of a thousandth', () => {
    const point = fc.record({ x: fc.integer({ min: -40, max: 440 }), y: fc.integer({ min: 0, max: 80 }) }).map((p) => ({ x: p.x / 4, y: p.y })); // prettier-ignore
    fc.assert(
      fc.property(
        fc.array(fc.array(point, { minLength: 2, maxLength: 5 }), { maxLength: 4 }),
        fc.double({ min: -5, max: 105, noNaN: true }),
        fc.double({ min: 0, max: 60, noNaN: true }),
        (lines, from, long) => {
          // prettier-ignore
          // Not just where a line lies across: there it is in, or not.
          fc.pre(lines.flat().every((p) => Math.abs(p.x - from) > 0.01 && Math.abs(p.x - from - long) > 0.01));
          let walked = 0;
          for (const line of lines)
            for (let i = 1; i < line.length; i += 1) {
              const [a, b] = [line[i - 1]!, line[i]!];
              const d = Math.hypot(b.x - a.x, b.y - a.y);
              for (let k = 0; k < 1000; k += 1) {
                const x = a.x + ((k + 0.5) / 1000) * (b.x - a.x);
                if (x >= Math.max(0, from) && x <= Math.min(100, from + long)) walked += d / 1000;
              }
            }
          expect(Math.abs(new CutProfile(lines, 100).between(from, from + long) - walked)).toBeLessThan(0.3 * lines.flat().length + 1e-9); // prettier-ignore
        },
      ),
    );
  });
});

describe('errors along a strip', () => {
  it('have the radius of a plane normal', () => {
    // √(−2 ln 0.05) for equal axes; the normal's own 1.960 for one axis alone.
    expect(planeRadius(1, 1, 0.95)).toBeCloseTo(Math.sqrt(-2 * Math.log(0.05)), 6);
    expect(planeRadius(1, 0.001, 0.95)).toBeCloseTo(1.95996, 3);
    const r = seeded(2);
    const radii = Array.from({ length: 200_000 }, () => Math.hypot(0.5 * r.normal(), 1.2 * r.normal())).sort(
      (a, b) => a - b,
    );
    expect(planeRadius(0.5, 1.2, 0.95)).toBeCloseTo(radii[190_000]!, 1);
  });

  it('grow with the feed and begin again where it is aimed at', () => {
    const stops = Array.from({ length: 6 }, (_, i) => ({
      fed: 500 * i,
      boxes: [{ minX: 0, maxX: 100, minY: 0, maxY: 40 }],
    }));
    const once = chainOf(stops, 0).map((c) => stopError(c, errors));
    const often = chainOf(stops, 2).map((c) => stopError(c, errors));
    expect(once).toEqual([...once].sort((a, b) => a - b));
    expect(often[2]).toBeCloseTo(often[0]!, 9);
    expect(often[1]).toBeCloseTo(once[1]!, 9);
    expect(proposeAiming(stops, errors, once[5]! + 0.01)).toBe(0);
    expect(proposeAiming(stops, errors, once[2]! + 0.01)).toBe(3);
    expect(proposeAiming(stops, errors, once[0]! - 0.01)).toBeNull();
  });

  it('are those of simulated strips, within a twentieth at the worst corner', () => {
    const stops = Array.from({ length: 4 }, (_, i) => ({
      fed: 600 * i,
      boxes: [{ minX: 0, maxX: 80, minY: 0, maxY: 40 }],
    }));
    const chains = chainOf(stops, 0);
    const seen = simulateFeed([chains[3]!], { ...errors, laid: 0 }, 40_000, 5, true);
    // One stop alone has no feeds of its own behind it: its repeats are added here.
    const alone = { ...chains[3]!, feeds: 1 };
    expect(stopError(alone, { ...errors, laid: 0 }) / seen[Math.floor(0.95 * 40_000)]!).toBeGreaterThan(0.95);
    expect(stopError(alone, { ...errors, laid: 0 }) / seen[Math.floor(0.95 * 40_000)]!).toBeLessThan(1.06);
  });
});

describe('parts that lie into each other', () => {
  const arrow = [
    { x: -40, y: -12 },
    { x: 28, y: -12 },
    { x: 40, y: 0 },
    { x: 28, y: 12 },
    { x: -40, y: 12 },
    { x: -28, y: 0 },
  ];
  const wedge = [
    { x: -30, y: -20 },
    { x: 30, y: -20 },
    { x: -30, y: 20 },
  ];
  const rules = {
    strip: { length: 1000, width: 60 },
    turned: false,
    pitch: null,
    gap: 2,
    rows: 1,
    deadFront: 30,
    deadBack: 30,
    used: [],
  };
  const placed = (outline: { x: number; y: number }[], piece: { length: number; width: number }) => {
    const made = layStrip({ ...rules, piece, steps: closestSteps(outline, 2) });
    if (!made.ok) throw new Error(made.problem.message);
    return made.value.places.map((p) =>
      outline.map((v) => apply(rigid(p.half ? Math.PI : 0, p.centre.x, p.centre.y), v)),
    );
  };
  const apart = (a: { x: number; y: number }[], b: { x: number; y: number }[]): number =>
    Math.min(
      ...[
        [a, b],
        [b, a],
      ].flatMap(([p, q]) =>
        p!.map((v) => Math.min(...q!.map((w, i) => distanceToSegment(v, w, q![(i + 1) % q!.length]!)))),
      ),
    );

  it.each([
    ['arrows', arrow, { length: 80, width: 24 }, 12],
    ['wedges', wedge, { length: 60, width: 40 }, 15],
  ] as const)(
    '%s: no two are nearer than the gap, by an overlap test and distances of every pair',
    (_, outline, piece, before) => {
      const parts = placed([...outline], piece);
      expect(parts.length).toBeGreaterThan(before);
      for (let i = 0; i < parts.length; i += 1)
        for (let j = 0; j < i; j += 1) {
          expect(apart(parts[i]!, parts[j]!)).toBeGreaterThanOrEqual(2 - 1e-3);
          expect(parts[i]!.some((p) => insidePolygon(p, parts[j]!))).toBe(false);
        }
      for (const p of parts.flat()) {
        expect(p.x).toBeGreaterThanOrEqual(30 - 1e-6);
        expect(p.x).toBeLessThanOrEqual(970 + 1e-6);
      }
    },
  );

  it('wedges lie back to back: a pair takes hardly more than one and its gap measured square to the slope', () => {
    const steps = closestSteps(wedge, 2);
    expect(steps).toHaveLength(2);
    // The slope falls 40 in 60: a gap of 2 square to it is 2·√(60² + 40²)/40 along the strip.
    const slope = (2 * Math.hypot(60, 40)) / 40;
    const pair = steps[0]!.pitch + steps[1]!.pitch;
    expect(pair).toBeGreaterThan(60 + slope + 2);
    // What the outlines are taken simpler by, on the safe side.
    expect(pair).toBeLessThan(60 + slope + 2 + 0.8);
  });

  it('rectangles gain nothing', () => {
    const box = [
      { x: -20, y: -10 },
      { x: 20, y: -10 },
      { x: 20, y: 10 },
      { x: -20, y: 10 },
    ];
    const [step, ...more] = closestSteps(box, 3);
    expect(more).toHaveLength(0);
    expect(step!.pitch).toBeCloseTo(43, 0);
  });
});
