import * as nudged from 'nudged';
import { apply, distance, rigid, type Vec } from '../geometry';
import { seeded } from '../budget';
import { aimingError, markSpread, placedError } from './uncertainty';
import { checkConsistency } from './consistency';
import { bedToFile } from '../burn';
import { testMachine } from '../test-batch';
import { markFromReading, pointerAt, pointerDoubt, pointerFromDisplay, pointerFromDot, pointerWords } from './pointer';
import { solvePlacement, type MarkPair } from './solve';
import { squarePlacement, turnTheWork } from './turn-work';

const pairsOf = (drawn: readonly Vec[], read: readonly Vec[]): MarkPair[] =>
  drawn.map((d, i) => ({ id: i + 1, drawn: d, read: read[i]! }));
const placed = (pairs: readonly MarkPair[]) => {
  const solved = solvePlacement(pairs);
  if (!solved.ok) throw new Error(solved.problem.message);
  return solved.value;
};

describe('placement solve', () => {
  it('agrees with nudged (rotation and translation, and with scale) on thousands of random sets', () => {
    const r = seeded(5);
    for (let i = 0; i < 3_000; i += 1) {
      const n = 2 + Math.floor(r.uniform() * 5);
      const drawn = Array.from({ length: n }, () => ({ x: 900 * r.uniform(), y: 600 * r.uniform() }));
      const m = rigid(6 * (r.uniform() - 0.5), 500 * r.normal(), 500 * r.normal());
      const read = drawn.map((p) => ({ x: apply(m, p).x + 0.3 * r.normal(), y: apply(m, p).y + 0.3 * r.normal() }));
      for (const [model, estimator] of [
        ['rigid', 'TR'],
        ['similarity', 'TSR'],
      ] as const) {
        const ours = solvePlacement(pairsOf(drawn, read), model);
        const theirs = nudged.estimate({ estimator, domain: drawn, range: read });
        if (!ours.ok) throw new Error(ours.problem.message);
        expect(ours.value.transform.a).toBeCloseTo(theirs.a, 7);
        expect(ours.value.transform.b).toBeCloseTo(theirs.b, 7);
        expect(ours.value.transform.e).toBeCloseTo(theirs.x, 4);
        expect(ours.value.transform.f).toBeCloseTo(theirs.y, 4);
      }
    }
  });
  it('finds a board without noise exactly, also turned half round', () => {
    const drawn = [
      { x: 9, y: 9 },
      { x: 400, y: 330 },
    ];
    for (const angle of [-3.1, -0.05, 0, 1.2, 3.1]) {
      const m = rigid(angle, 120, 40);
      const { transform, residuals } = placed(
        pairsOf(
          drawn,
          drawn.map((p) => apply(m, p)),
        ),
      );
      expect(distance(apply(transform, { x: 200, y: 100 }), apply(m, { x: 200, y: 100 }))).toBeLessThan(1e-9);
      expect(Math.max(...residuals.map((x) => x.distance))).toBeLessThan(1e-9);
    }
  });
  it.each([
    [[{ x: 0, y: 0 }], [{ x: 1, y: 1 }], 'too-few-marks'],
    [
      [
        { x: 0, y: 0 },
        { x: 0.2, y: 0 },
      ],
      [
        { x: 1, y: 1 },
        { x: 9, y: 1 },
      ],
      'marks-on-one-point',
    ],
    [
      [
        { x: 0, y: 0 },
        { x: 100, y: 0 },
      ],
      [
        { x: 5, y: 5 },
        { x: 5.1, y: 5 },
      ],
      'read-twice',
    ],
  ])('refuses %j read at %j: %s', (drawn, read, code) => {
    const solved = solvePlacement(pairsOf(drawn, read));
    expect(!solved.ok && solved.problem.code).toBe(code);
  });
});

describe('do the marks agree', () => {
  const drawn = [
    { x: 9, y: 9 },
    { x: 400, y: 330 },
    { x: 400, y: 9 },
  ];
  const sigma = 0.05;
  it('raises a false alarm in one of twenty, with two, three and six marks', () => {
    const r = seeded(23);
    for (const set of [drawn.slice(0, 2), drawn, [...drawn, { x: 9, y: 330 }, { x: 200, y: 9 }, { x: 200, y: 330 }]]) {
      let alarms = 0;
      const tries = 6_000;
      for (let i = 0; i < tries; i += 1) {
        const m = rigid(0.1 * r.normal(), 100 * r.uniform(), 50);
        const read = set.map((p) => ({ x: apply(m, p).x + sigma * r.normal(), y: apply(m, p).y + sigma * r.normal() }));
        if (checkConsistency(pairsOf(set, read), sigma)!.verdict === 'disagrees') alarms += 1;
      }
      expect(alarms / tries).toBeGreaterThan(0.04);
      expect(alarms / tries).toBeLessThan(0.06);
    }
  });
  it('says what a difference in distance means, with two marks', () => {
    const two = drawn.slice(0, 2);
    const bad = checkConsistency(pairsOf(two, [two[0]!, { x: 401, y: 330 }]), sigma)!;
    expect(bad.verdict).toBe('disagrees');
    expect(bad.message).toContain('A board does not stretch');
    expect(checkConsistency(pairsOf(two, two), sigma)!.message).toContain('Two marks cannot show');
  });
  it('names the misread one of four marks', () => {
    const four = [...drawn, { x: 9, y: 330 }];
    const r = seeded(31);
    let named = 0;
    for (let i = 0; i < 400; i += 1) {
      const wrong = Math.floor(r.uniform() * 4);
      const read = four.map((p, k) => ({
        x: p.x + sigma * r.normal() + (k === wrong ? 3 : 0),
        y: p.y + sigma * r.normal() - (k === wrong ? 2 : 0),
      }));
      if (checkConsistency(pairsOf(four, read), sigma)!.suspect === wrong + 1) named += 1;
    }
    expect(named / 400).toBeGreaterThan(0.9);
  });
});

describe('uncertainty of a placed point', () => {
  it.each([
    [0, 0.035],
    [140, 0.05],
    [200, 0.062],
  ])('two marks 280 apart, σ 0.05, %d mm from their centre: %d', (d, u) => {
    const spread = markSpread([
      { x: -140, y: 0 },
      { x: 140, y: 0 },
    ]);
    expect(placedError(spread, { x: 0, y: d }, 0.05)).toBeCloseTo(u, 3);
  });
  it('is what repeated solving shows', () => {
    const r = seeded(7);
    const drawn = [
      { x: 0, y: 0 },
      { x: 300, y: 200 },
      { x: 300, y: 0 },
    ];
    const point = { x: -100, y: 150 };
    const spread = markSpread(drawn);
    const lever = { x: point.x - spread.centre.x, y: point.y - spread.centre.y };
    const d = Math.hypot(lever.x, lever.y);
    const across = { x: -lever.y / d, y: lever.x / d };
    let squares = 0;
    const tries = 20_000;
    for (let i = 0; i < tries; i += 1) {
      const q = apply(
        placed(
          pairsOf(
            drawn,
            drawn.map((p) => ({ x: p.x + 0.05 * r.normal(), y: p.y + 0.05 * r.normal() })),
          ),
        ).transform,
        point,
      );
      squares += ((q.x - point.x) * across.x + (q.y - point.y) * across.y) ** 2;
    }
    expect(Math.sqrt(squares / tries) / placedError(spread, point, 0.05)).toBeCloseTo(1, 1);
  });
  it('adds step, eye and spot in squares', () =>
    expect(aimingError({ step: 0.1, eye: 0.03, spot: 0.04, back: 0.06 }).sigma).toBeCloseTo(
      Math.sqrt(0.01 / 12 + 0.0025 + 0.0036 / 3),
      9,
    ));
});

describe('pointer offset', () => {
  it('gives the mark back that the dot was laid on', () => {
    const offset = { x: 0.14, y: -0.06 };
    const burned = { x: 100, y: 100 };
    // The dot lies on the burn when head + offset = burn.
    const measured = pointerFromDot(burned, { x: burned.x - offset.x, y: burned.y - offset.y });
    expect(measured.x).toBeCloseTo(offset.x, 9);
    const mark = { x: 50, y: 60 };
    expect(distance(markFromReading({ x: mark.x - offset.x, y: mark.y - offset.y }, measured), mark)).toBeLessThan(
      1e-9,
    );
  });
});

describe('turn the work', () => {
  const marks = [
    { id: 1, drawn: { x: 9, y: 9 } },
    { id: 2, drawn: { x: 400, y: 330 } },
  ];
  it('squares the board when its words are followed', () => {
    const m = rigid(0.05, 200, 100);
    const pairs = pairsOf(
      marks.map((k) => k.drawn),
      marks.map((k) => apply(m, k.drawn)),
    );
    const told = turnTheWork(placed(pairs), marks, 500, 0.2)!;
    expect(told.good).toBe(false);
    expect(told.words).toMatch(/Hold the board at mark 1\. Move mark 2 .* (towards|away from) you/);
    const moved = { x: pairs[1]!.read.x + told.away.x, y: pairs[1]!.read.y + told.away.y };
    const after = placed(
      pairsOf(
        marks.map((k) => k.drawn),
        [pairs[0]!.read, moved],
      ),
    );
    expect(Math.abs(after.angle)).toBeLessThan(1e-9);
    expect(turnTheWork(after, marks, 500, 0.2)!.good).toBe(true);
  });
  it('shifts only, once the board is square', () => {
    const pairs = pairsOf(
      marks.map((k) => k.drawn),
      marks.map((k) => ({ x: k.drawn.x + 7, y: k.drawn.y - 3 })),
    );
    const p = placed(pairs);
    expect(squarePlacement(p, { x: 204.5, y: 169.5 })).toEqual({ a: 1, b: 0, c: 0, d: 1, e: 7, f: -3 });
  });
});

describe('a pointer that shines aslant', () => {
  const now = new Date('2026-11-20T00:00:00Z');
  const one = { x: 0.2, y: -0.1, height: 0, second: null, measuredAt: '2026-11-10T00:00:00Z' };
  const two = { ...one, second: { x: 0.5, y: -0.3, height: 10 } };

  it('is known on one surface only, until it is measured on two', () => {
    expect(pointerAt(one, 6)).toMatchObject({ x: 0.2, y: -0.1 });
    const at = pointerAt(two, 5);
    expect(at.x).toBeCloseTo(0.35, 9);
    expect(at.y).toBeCloseTo(-0.2, 9);
    // The line goes on beyond both.
    expect(pointerAt(two, -10).x).toBeCloseTo(-0.1, 9);
    // Two heights that are nearly one say nothing.
    expect(pointerAt({ ...one, second: { x: 9, y: 9, height: 1 } }, 50)).toMatchObject({ x: 0.2, y: -0.1 });
  });

  it('is doubted more the farther the marks lie from where it was measured, less once two heights are known', () => {
    const u = (offset: typeof two | typeof one, height: number): number =>
      pointerDoubt(offset, 0.04, now, height).uncertainty;
    expect(u(one, 0)).toBeCloseTo(0.04, 9);
    // 3 mm at 0.05 mm a millimetre either way, evenly spread: ±0.15/√3.
    expect(u(one, 3)).toBeCloseTo(Math.hypot(0.04, 0.15 / Math.sqrt(3)), 9);
    expect(u(two, 5)).toBeCloseTo(0.04 * Math.SQRT1_2, 9);
    expect(u(two, 3)).toBeLessThan(u(one, 3));
    expect(u(two, 20)).toBeCloseTo(0.04 * Math.hypot(1, 2), 9);
    expect(pointerDoubt(one, 0.04, new Date('2027-06-01T00:00:00Z'), 0)).toMatchObject({ status: 'stale' });
  });
});

describe('a pointer’s offset from a display', () => {
  it('is the same on every machine, whichever way its y runs and wherever its zero is', () => {
    // The dot falls 0.4 to the left of the beam and 0.4 away from the operator.
    const offset = { x: -0.4, y: 0.4 };
    const burned = { x: 354, y: 148 };
    // The head goes where its dot lies on the burn.
    const met = { x: burned.x - offset.x, y: burned.y - offset.y };
    for (const yRuns of ['away', 'toward'] as const)
      for (const zeroCorner of ['front-left', 'front-right', 'back-left', 'back-right'] as const) {
        const display = bedToFile({ ...testMachine, yRuns, zeroCorner });
        const found = pointerFromDisplay(yRuns, apply(display, burned), apply(display, met));
        expect(found).toEqual({ x: expect.closeTo(-0.4, 9), y: expect.closeTo(0.4, 9) });
        // And a mark that the pointer is on lies where the beam would have to go.
        expect(markFromReading(met, found)).toEqual({ x: expect.closeTo(burned.x, 9), y: expect.closeTo(burned.y, 9) });
      }
  });
  it('as it was seen: burned at 354.00, 452.00, met at 354.40, 452.40 where y runs towards the operator', () => {
    const found = pointerFromDisplay('toward', { x: 354, y: 452 }, { x: 354.4, y: 452.4 });
    expect(pointerWords(found)).toBe('0.40 mm to the left of the beam and 0.40 mm farther from you');
    expect(pointerWords({ x: 0.2, y: -1 })).toBe('0.20 mm to the right of the beam and 1.00 mm nearer to you');
  });
});
