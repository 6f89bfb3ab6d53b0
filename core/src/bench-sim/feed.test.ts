import { many, within } from '../test-many';
import { drawnOn } from '../test-drawn';
import { inWay } from '../test-held';
import { seeded, worstCorner } from '../budget';
import { freshWork, freshFeeder, type Feeder } from '../feeder';
import { aimingOf, bedToFile } from '../burn';
import { apply, flatten, segment, type Vec } from '../geometry';
import { aimingError } from '../marks';
import { FEED_ON, stripGcode } from '../ways/feed';
import { batchProgram, loadGcode, nextFill, reckonBatch } from '../batch';
import type { Fill } from '../ways';
import { placedPieces, START_MARK, type BatchInput, type BatchReckoning, type FeedEntry } from '../setup';
import { testAlphabets } from '../test-alphabets';
import { testBatch, testMachine } from '../test-batch';
import { measurePointer, readMarks } from '../test-hand';
import { feedTo, layInFeeder, measureOffsets, readGuide, stripPose, tryFeed, type FeederState } from './feeder';
import { home, layBoard, type SimState } from './machine';
import { runFile, againstStop, partOfSheet } from './run';

const STRIPS = many(1_000, 40);
/** Long feeds that are measured: by five the spread is known well enough; by three the promise is wider. */
const FEEDS = 5;
/** Blanks are laid to their places so well, either way, mm. */
const LAID = 0.15;
const now = new Date('2026-11-20T00:00:00Z');
const options = { now, alphabets: testAlphabets, labels: 'readability', simulatedPieces: 20 };
const feeder: Feeder = { id: 'f', name: 'Feeder', ...freshFeeder, longest: 2000 };
const plain = testBatch();
const row = inWay(testBatch({ quantity: 24, tolerance: 0.8, feeder, feeders: [feeder] }), 'feed', {
  feederId: 'f',
  strip: { length: 1900, width: 60 },
  gap: 15,
  aimEvery: 0,
  work: { kind: 'row', laid: LAID, pushRoom: 3 },
});

const nextOnStrip = (input: BatchInput, r: BatchReckoning): readonly Fill[] => {
  const fill = nextFill(input, r);
  return fill.ok ? fill.value : [];
};

/** The place of a batch's pieces on the strip once `n` places are burned. */
const loaded = (input: BatchInput, r: BatchReckoning, load: number): BatchInput => ({
  ...input,
  pieces: [
    ...input.pieces.map((p) => ({ ...p, state: 'done' as const })),
    ...nextOnStrip(input, r).map((f) => ({
      id: `${load}.${f.slot}`,
      ...f,
      load,
      state: 'loaded' as const,
      cause: null,
      dx: null,
      dy: null,
      yaw: null,
    })),
  ],
});

interface Stand {
  input: BatchInput;
  sim: SimState;
  fed: FeederState;
}

/** Calibrated, squared and with the pointer measured, as a hand does it from Bistre's own words. */
const setUp = (base: BatchInput, seed: number, hand: ReturnType<typeof seeded>): Stand => {
  const laid = home(layBoard(seed, testMachine, { width: 100, height: 100 }), testMachine);
  const { input, state } = measurePointer(base, laid, hand, now);
  let fed = layInFeeder(seed, seed * 17 + 3, feeder, 1);
  const feedReadings = Array.from({ length: FEEDS }, (_, i): FeedEntry => {
    fed = tryFeed(seed, fed, 900);
    return { ...fed.moved!, id: String(i), at: now.toISOString(), by: 'test' };
  });
  fed = measureOffsets(seed, fed, 500);
  const { sigma } = aimingError(aimingOf(testMachine));
  fed = readGuide(seed, fed, feeder, { sigma, pointer: state.hidden.pointer });
  const shown = (p: Vec): Vec => apply(bedToFile(testMachine), p);
  return {
    input: inWay(
      { ...input, feedReadings },
      'feed',
      {},
      { squaring: fed.offsets, guide: { a: shown(fed.guide!.a), b: shown(fed.guide!.b) } },
    ),
    sim: state,
    fed,
  };
};

/** Feeds to the stop that is on and aims at what it asks for. */
const standAt = ({ input, sim, fed }: Stand, seed: number, hand: ReturnType<typeof seeded>): Stand => {
  const r = reckonBatch(input, options);
  const feed = r.own.feed!;
  const moved = feedTo(seed, fed, feed);
  const state: SimState = { ...sim, hidden: { ...sim.hidden, seed, pose: stripPose(moved, feeder) } };
  // The corner of a blank is aimed at where that blank was laid.
  const { lies } = seatingOf({ input, sim: state, fed: moved }, r);
  const marks = r
    .board!.marks.filter((m) => feed.unread.includes(m.id))
    .map((m) => {
      const slot = r.board!.slots.find((s) => s.slot === (feed.stops[m.id - 1]?.first ?? -1) + 1);
      if (feed.work !== 'row' || !slot) return m;
      const { length, width, dx, dy } = lies(slot);
      const [x, y] = [dx - (length - r.sizes.length.mean) / 2, dy - (width - r.sizes.width.mean) / 2];
      return { ...m, at: { x: m.at.x + x, y: m.at.y + y } };
    });
  const read = readMarks(input, { marks }, state, hand, now);
  return {
    input: { ...input, readings: [...input.readings, ...read.input.readings] },
    sim: read.state,
    fed: moved,
  };
};

/** Blanks pushed into their row, each as it came to lie. */
const seatingOf = ({ sim }: Stand, r: BatchReckoning) =>
  againstStop({ hidden: sim.hidden, sizes: r.sizes, pocket: r.pocket, load: r.run.openLoad ?? 1 }, LAID);

const burn = (stand: Stand, r: BatchReckoning, text: string): ReturnType<typeof runFile> =>
  runFile(
    text,
    stand.sim.hidden,
    testMachine,
    {
      sizes: r.sizes,
      pocket: r.pocket,
      seating: seatingOf(stand, r),
      load: r.run.openLoad ?? 1,
      interval: 0.1,
    },
    placedPieces(r, r.onTheBoard),
  );

/** A whole strip, stop by stop: whether each piece of the last stop, which the promise is for, lies inside it. */
const strip = (seed: number): { inside: number; pieces: number; stops: number } => {
  const hand = seeded(seed * 131 + 7);
  let stand = setUp(row, seed, hand);
  const { predicted } = reckonBatch(stand.input, { ...options, simulatedPieces: 4000 }).budget;
  let inside = 0;
  let pieces = 0;
  let stops = 0;
  for (let load = 1; ; load += 1) {
    const before = reckonBatch(stand.input, options);
    if (before.run.finished || before.own.feed!.strip > 1) break;
    stand = standAt({ ...stand, input: loaded(stand.input, before, load) }, seed, hand);
    const r = reckonBatch(stand.input, options);
    const file = loadGcode(stand.input, r, 'strip');
    if (!file.ok) throw new Error(file.problem.message);
    const run = burn(stand, r, [...file.value].join(''));
    if (!run.ok) throw new Error(run.problem.message);
    expect(run.value.stray).toBe(0);
    pieces += run.value.pieces.length;
    for (const p of run.value.pieces) {
      if (load < r.own.feed!.stops.length) continue;
      if (worstCorner(r.artBox, p.dx!, p.dy!, p.yaw!) <= predicted) inside += 1;
    }
    stops += 1;
    stand = { ...stand, input: { ...stand.input, pieces: stand.input.pieces.map((p) => ({ ...p, state: 'done' })) } };
  }
  return { inside, pieces, stops };
};

describe('a row of blanks on a feeder', () => {
  it(`lands inside what was predicted, ${within(STRIPS).words}, over ${STRIPS} strips in feeders of their own`, () => {
    const all = Array.from({ length: STRIPS }, (_, i) => strip(i + 1));
    expect(all.every((s) => s.pieces === 24 && s.stops === 3)).toBe(true);
    const share = all.reduce((s, x) => s + x.inside, 0) / (8 * all.length);
    expect(share).toBeGreaterThanOrEqual(within(STRIPS).low);
    expect(share).toBeLessThanOrEqual(within(STRIPS).high);
  });

  it('goes on after the last place that was burned, whatever became of the piece', () => {
    const first = reckonBatch(row, options);
    expect(first.own.feed!.stops.map((s) => s.count)).toEqual([8, 8, 8]);
    // 24 blanks on one strip; 50 take three, also when one strip is burned already.
    expect(first.own.feed!.strips).toBe(1);
    const more = { ...row, quantity: 50, roster: Array.from({ length: 50 }, () => row.roster[0]!) };
    const full = reckonBatch(more, options).own.feed!.layout!.places.length;
    expect(full).toBe(24);
    const pieces = Array.from({ length: full }, (_, i) => ({
      ...loaded(row, first, 1).pieces[0]!,
      id: `${i}`,
      ordinal: i + 1,
      slot: i + 1,
      state: 'done' as const,
    }));
    const second = reckonBatch({ ...more, pieces }, options).own.feed!;
    expect([reckonBatch(more, options).own.feed!.strips, second.strip, second.strips]).toEqual([3, 2, 3]);
    const one = loaded({ ...row, firstApproved: false }, reckonBatch({ ...row, firstApproved: false }, options), 1);
    expect(one.pieces.map((p) => p.slot)).toEqual([1]);
    const scrapped = {
      ...one,
      firstApproved: true,
      pieces: [{ ...one.pieces[0]!, state: 'scrap' as const, cause: 'other' }],
    };
    const next = reckonBatch(scrapped, options);
    expect(next.own.feed!.current).toBe(2);
    // Its name comes first again, on the next place.
    expect(nextOnStrip(scrapped, next).slice(0, 2)).toEqual([
      { ordinal: 1, slot: 2 },
      { ordinal: 2, slot: 3 },
    ]);
  });

  it('is written as one file that feeds by itself, each part where its own stop’s file would be', () => {
    const hand = seeded(3);
    const calm = setUp(row, 5, hand);
    const before = reckonBatch(calm.input, options);
    const stand = standAt({ ...calm, input: loaded(calm.input, before, 1) }, 5, hand);
    const r = reckonBatch(stand.input, options);
    const made = stripGcode(stand.input, r, 'strip');
    if (!made.ok) throw new Error(made.problem.message);
    const parts = [...made.value].join('').split(new RegExp(`\\(${FEED_ON} [^)]*\\)`));
    expect(parts).toHaveLength(3);
    const feeds = parts.slice(1).map((p) => Number(/U([\d.]+)/.exec(p)![1]));
    expect(feeds[0]).toBeCloseTo(r.own.feed!.stops[1]!.command, 3);
    expect(feeds[1]).toBeCloseTo(r.own.feed!.stops[1]!.command + r.own.feed!.stops[2]!.command, 3);
    const alone = loadGcode(stand.input, r, 'strip');
    if (!alone.ok) throw new Error(alone.problem.message);
    const burned = burn(stand, r, parts[0]!);
    const same = burn(stand, r, [...alone.value].join(''));
    if (!burned.ok || !same.ok) throw new Error('unread');
    expect(burned.value.pieces.map((p) => p.strokes.length)).toEqual(same.value.pieces.map((p) => p.strokes.length));
    const aimed = inWay(stand.input, 'feed', { aimEvery: 1 });
    expect(batchProgram(aimed, reckonBatch(aimed, options), 'strip')).toMatchObject({ ok: false, problem: { code: 'aimed-between' } }); // prettier-ignore
  });
});

describe('one long piece on a feeder', () => {
  const LENGTH = 1800;
  const long: BatchInput = drawnOn(
    {
      ...row,
      quantity: 1,
      roster: [],
      blank: {
        ...plain.blank,
        shape: { kind: 'rectangle', length: LENGTH, width: 200, cornerRadius: 0 },
        samples: { length: [], width: [], thickness: [] },
        holes: [],
        zones: [],
      },
      setup: inWay(row, 'feed', { work: freshWork('long'), aimEvery: 1 }).setup,
      pieces: [{ id: '1', ordinal: 1, load: 1, slot: 1, state: 'loaded', cause: null, dx: null, dy: null, yaw: null }],
    },
    [
      { kind: 'line', contour: segment({ x: 10, y: 15 }, { x: LENGTH - 10, y: 15 }) },
      { kind: 'cut', contour: segment({ x: 900, y: 15 }, { x: 900, y: 185 }) },
    ],
  );

  it('is split in windows that each lie under the head, and aims by the marks of the seam before', () => {
    const r = reckonBatch(long, options);
    const { stops } = r.own.feed!;
    expect(stops.length).toBe(Math.ceil(LENGTH / 570));
    for (const s of stops) {
      expect(s.from - s.fed).toBeGreaterThanOrEqual(-1e-9);
      expect(s.to - s.fed).toBeLessThanOrEqual(600 + 1e-9);
    }
    expect(stops.map((s) => s.marks)).toEqual([[START_MARK], [1, 2], [3, 4], [5, 6]]);
    expect(r.placed).toBe(false);
    const trusting = reckonBatch(inWay(long, 'feed', { aimEvery: 0 }), options);
    expect(trusting.own.feed!.stops.map((s) => s.marks)).toEqual([[START_MARK], [], [], []]);
    // Errors grow from stop to stop when the feed is trusted.
    const grown = trusting.own.feed!.stops.map((s) => s.error);
    expect(grown).toEqual([...grown].sort((a, b) => a - b));
  });
});

describe('parts cut out of a strip', () => {
  const parts = inWay(
    {
      ...row,
      quantity: 40,
      roster: Array.from({ length: 40 }, (_, i) => ({ name: 'PUFFIN', seat: `LANE ${i + 1}` })),
    },
    'feed',
    { work: freshWork('parts'), gap: 3, strip: { length: 900, width: 120 } },
    { used: [{ x: 200, y: 30, width: 50, height: 40 }] },
  );

  it('are burned whole on the strip, off its used place, stop by stop, and each against its own cut', () => {
    const hand = seeded(11);
    let stand = setUp(parts, 9, hand);
    let burned = 0;
    for (let load = 1; load <= 2; load += 1) {
      const before = reckonBatch(stand.input, options);
      stand = standAt({ ...stand, input: loaded(stand.input, before, load) }, 9, hand);
      const r = reckonBatch(stand.input, options);
      expect(r.budget.predicted).toBeLessThan(0.15);
      const file = loadGcode(stand.input, r, 'strip');
      if (!file.ok) throw new Error(file.problem.message);
      const cut = r.own.cutOut!.lines.map((c) => {
        const points = flatten(c, 0.01);
        return [...points, points[0]!];
      });
      const run = runFile(
        [...file.value].join(''),
        stand.sim.hidden,
        testMachine,
        { sizes: r.sizes, pocket: r.pocket, seating: partOfSheet(r.sizes), load, interval: 0.1 },
        placedPieces(r, r.onTheBoard).map((p) => ({
          ...p,
          shapes: { ...p.shapes, drawn: [...p.shapes.drawn, ...cut] },
        })),
      );
      if (!run.ok) throw new Error(run.problem.message);
      expect(run.value.stray).toBe(0);
      burned += run.value.pieces.length;
      // Where the strip lies is known from its corner: a part lies within a feed's error of its place on it.
      for (const p of run.value.pieces) expect(Math.hypot(p.dx!, p.dy!)).toBeLessThan(1);
      stand = { ...stand, input: { ...stand.input, pieces: stand.input.pieces.map((p) => ({ ...p, state: 'done' })) } };
    }
    expect(burned).toBe(40);
    const { layout } = reckonBatch(parts, options).own.feed!;
    expect(layout!.rows).toBe(4);
    expect(layout!.places.some((p) => Math.abs(p.centre.x - 225) < 55 && Math.abs(p.centre.y - 50) < 32)).toBe(false);
  });
});
