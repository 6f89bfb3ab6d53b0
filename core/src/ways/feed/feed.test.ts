import { benchSteps } from '../../batch';
import { planeRadius } from '../../feeder';
import { heldAs, type BatchInput, type FeedEntry } from '../../setup';
import { drawnOn } from '../../test-drawn';
import { loadedPieces } from '../../test-batch';
import { inWay } from '../../test-held';
import { exactly, reckon, stepOf, toldOf, waitsOf } from '../../test-reckon';
import { EXAMPLES } from '../../test-ways';
import { apply, segment } from '../../geometry';
import { freshLong } from '../../long';
import { looseStops, stripAt } from './place';
import { loadsOnStrip, plannedOf } from './run';

// A row of 60 × 25 tags, 15 apart, on a strip of 1900 in a feeder whose window is 600 long and begins 150 from the left of
// a bed of 900, guide at 80: every figure here follows from those by hand.
const exact = exactly(EXAMPLES.feed);
const AT = '2026-11-20T08:00:00.000Z';
const fed = (commanded: number, measured: number): FeedEntry => ({ id: `${measured}`, at: AT, by: 'Odile', commanded, measured, missed: null }); // prettier-ignore
const feedOf = (input: BatchInput) => reckon(input).own.feed!;
const aimEvery = (every: number | null, input = exact): BatchInput => inWay(input, 'feed', { aimEvery: every });
/** Pieces that were burned at their stops, and those that are on. */
const run = (done: number, on: readonly number[] = []): BatchInput['pieces'] => [
  ...loadedPieces(Array.from({ length: done }, (_, i) => i + 1)).map((p) => ({ ...p, load: Math.ceil(p.slot / 8), state: 'done' as const })), // prettier-ignore
  ...loadedPieces(on).map((p) => ({ ...p, load: Math.ceil(done / 8) + 1 })),
];

describe('a row on its strip', () => {
  it('stops where the next piece that does not fit the window begins', () => {
    const { stops, layout, strips, room } = feedOf(exact);
    // 600 / 75: eight, the eighth ending 585 on. The first lies 30 in, the ninth 8 · 75 on.
    expect(stops.map((s) => [s.fed, s.from, s.to, s.first, s.count])).toEqual([
      [30, 30, 615, 0, 8],
      [630, 630, 1215, 8, 8],
      [1230, 1230, 1815, 16, 8],
    ]);
    expect([strips, layout!.pitch, layout!.lostFront, layout!.lostBack]).toEqual([1, 75, 30, 85]);
    expect(layout!.filled).toBeCloseTo((24 * 60 * 25) / (1900 * 60), 12);
    // At the first stop its end lies at 150 − 30 + 1900; at the last its beginning 1230 before 150.
    expect(room).toEqual({ before: 150 - 30 + 1900 - 900, behind: 1230 - 150 });
  });

  it('is fed by what the tape says, and takes its time', () => {
    const { stops, calibration, feeding } = feedOf({ ...exact, feedReadings: [fed(500, 505), fed(1000, 1010)] });
    // It goes 1 % too far: less is asked for.
    expect(stops.map((s) => s.command)).toEqual([30, 600, 600].map((v) => expect.closeTo(v / 1.01, 1)));
    expect(calibration.factor).toBeCloseTo(1.01, 6);
    // 60 mm a second, 0.8 s to settle at each of three stops.
    expect(feeding).toBeCloseTo((1230 / 1.01 / 60) + 3 * 0.8, 1); // prettier-ignore
  });

  it('counts further strips for what the one that is in has no place for', () => {
    expect(feedOf({ ...exact, quantity: 25 }).strips).toBe(2);
    expect(feedOf({ ...exact, quantity: 48 }).strips).toBe(2);
    expect(feedOf({ ...exact, quantity: 49 }).strips).toBe(3);
    // Eight are burned: sixteen places are left for what waits.
    expect(feedOf({ ...exact, quantity: 24, pieces: run(8) }).strips).toBe(1);
    expect(feedOf({ ...exact, quantity: 25, pieces: run(8) }).strips).toBe(2);
  });

  it('lies on the bed as it was fed: from the window’s way out, against the guide, askew by what was measured', () => {
    const askew = inWay(exact, 'feed', {}, { squaring: { apart: 400, first: 2, second: 3.2 } });
    const { meant } = feedOf(exact);
    expect(apply(meant[1]!, { x: 630, y: 0 })).toEqual({ x: 150, y: 80 });
    expect(apply(meant[2]!, { x: 1290, y: 25 })).toEqual({ x: 210, y: 105 });
    // 1.2 over 400 mm; the leading end 2 off the guide. Its point 400 on lies 1.2 farther from it.
    const { skew, meant: turned } = feedOf(askew);
    expect(Math.abs(skew.angle)).toBeCloseTo(Math.atan(1.2 / 400), 4);
    const [a, b] = [0, 400].map((x) => apply(turned[0]!, { x, y: 0 }));
    expect(Math.abs(b!.y - a!.y)).toBeCloseTo(1.2, 3);
    expect(a!.y).toBeCloseTo(82, 9);
  });

  it('puts names on its places in their order, past those that are burned or on', () => {
    const now = { ...exact, pieces: run(8, [9, 10, 11]) };
    const { roster, current } = feedOf(now);
    expect(current).toBe(2);
    // Three were laid at this stop and no more: the next stop goes on at the twelfth place.
    expect(roster.map((p) => [p.slot, p.ordinal])).toEqual(Array.from({ length: 24 }, (_, i) => [i + 1, i + 1]));
    // A piece that was spoilt is burned again: its name goes to the first free place, before those that wait.
    const spoilt = run(8).map((p) => (p.slot === 3 ? { ...p, state: 'scrap' as const, cause: 'mirrored' } : p));
    const again = feedOf({ ...exact, pieces: spoilt }).roster.filter((p) => p.slot > 8);
    expect(again.slice(0, 2).map((p) => [p.slot, p.ordinal])).toEqual([[9, 3], [10, 9]]); // prettier-ignore
  });
});

describe('where the strip lies, by readings', () => {
  const { feeder } = exact;
  const stops = feedOf(aimEvery(1)).stops;
  const lies = { skew: { angle: 0, measured: false } as never, guide: { angle: 0 } };
  const read = (mark: number, x: number, y: number) => ({ id: `${mark}`, mark, x, y: 600 - y, source: 'typed', at: AT, by: 'Odile', purpose: 'place' }) as const; // prettier-ignore
  const at = (readings: BatchInput['readings'], index: number, points: [number, { x: number; y: number }][], of = stops) => stripAt({ ...exact, readings }, feeder!, lies, of, index, new Map(points)); // prettier-ignore

  it('one corner shifts it by what it was off, there and at the stops after it', () => {
    // The first blank’s corner of stop 1 is meant at 150, 80; it is seen at 150.7, 79.2.
    const points: [number, { x: number; y: number }][] = [[1, { x: 30, y: 0 }], [2, { x: 630, y: 0 }]]; // prettier-ignore
    const one = at([read(1, 150.7, 79.2)], 1, points);
    expect([one.known, one.from]).toEqual([true, 1]);
    expect(apply(one.map, { x: 90, y: 25 })).toEqual({ x: expect.closeTo(210.7, 9), y: expect.closeTo(104.2, 9) });
    // At stop 2 its own corner is not read yet: it lies as it is meant.
    const unread = at([read(1, 150.7, 79.2)], 2, points);
    expect([unread.known, unread.from, apply(unread.map, { x: 630, y: 0 })]).toEqual([false, 2, { x: 150, y: 80 }]);
  });

  it('where only the first stop is aimed at, it is fed on from there', () => {
    const once = feedOf(aimEvery(0)).stops;
    expect(once.map((s) => [s.aimed, s.marks])).toEqual([[true, [1]], [false, []], [false, []]]); // prettier-ignore
    const on = at([read(1, 150.7, 79.2)], 3, [[1, { x: 30, y: 0 }]], once);
    expect([on.known, on.from]).toEqual([true, 1]);
    expect(apply(on.map, { x: 1230, y: 0 })).toEqual({ x: expect.closeTo(150.7, 9), y: expect.closeTo(79.2, 9) });
  });

  it('two marks turn it too, about their middle', () => {
    const two = [{ ...stops[0]!, marks: [1, 2] }];
    const drawn: [number, { x: number; y: number }][] = [[1, { x: 30, y: 10 }], [2, { x: 30, y: 50 }]]; // prettier-ignore
    // Drawn 40 apart across; seen turned by 0.1 rad about 200, 110.
    const [s, c] = [Math.sin(0.1), Math.cos(0.1)];
    const turned = at([read(1, 200 + 20 * s, 110 - 20 * c), read(2, 200 - 20 * s, 110 + 20 * c)], 1, drawn, two);
    expect(apply(turned.map, { x: 30, y: 30 })).toEqual({ x: expect.closeTo(200, 9), y: expect.closeTo(110, 9) });
    expect(apply(turned.map, { x: 40, y: 30 })).toEqual({ x: expect.closeTo(200 + 10 * c, 9), y: expect.closeTo(110 + 10 * s, 9) }); // prettier-ignore
  });

  it('is held by no roller where none has 5 mm of it', () => {
    const stop = (at: number) => [{ index: 1, fed: at } as never];
    // Rollers at 110 and 790 are 40 before and 640 behind the way out: −40 + fed and 640 + fed from its leading end.
    const loose = (at: number, length: number) => looseStops(feeder!, length, stop(at)).length === 1;
    expect([loose(44, 300), loose(45, 300), loose(335, 300), loose(336, 300)]).toEqual([true, false, false, true]);
    expect([loose(0, 640), loose(0, 646)]).toEqual([true, false]);
  });
});

describe('loads on strips', () => {
  const at = (load: number, slots: readonly number[], state: 'done' | 'loaded' = 'done') => loadedPieces(slots).map((p) => ({ ...p, load, state })); // prettier-ignore
  it('go on where the last ended, and on a new strip where places come again or the strip is full', () => {
    expect(loadsOnStrip([], 24)).toEqual({ strip: 1, sizes: [], used: 0 });
    expect(loadsOnStrip(at(1, [1, 2, 3]), 24)).toEqual({ strip: 1, sizes: [3], used: 3 });
    expect(loadsOnStrip([...at(1, [1, 2, 3]), ...at(2, [4, 5], 'loaded')], 24)).toEqual({ strip: 1, sizes: [3, 2], used: 5 }); // prettier-ignore
    expect(loadsOnStrip([...at(1, [1, 2, 3]), ...at(2, [1, 2])], 24)).toEqual({ strip: 2, sizes: [2], used: 2 });
    // Full and judged: the next is laid in. Full and still on: not yet.
    expect(loadsOnStrip(at(1, [1, 2, 3]), 3)).toEqual({ strip: 2, sizes: [], used: 0 });
    expect(loadsOnStrip(at(1, [1, 2, 3], 'loaded'), 3)).toEqual({ strip: 1, sizes: [3], used: 3 });
  });
  it('are planned stop by stop until all are burned', () => {
    const stops = [{ count: 8 }, { count: 5 }] as never;
    expect([plannedOf(24, stops, false), plannedOf(3, stops, true), plannedOf(9, [], false)]).toEqual([[8, 5, 8, 3], [1, 1, 1], []]); // prettier-ignore
  });
});

describe('what is read at the feeder', () => {
  it('says lengths, places and commands', () => {
    expect(stepOf(exact, 'feed.room')!.detail).toMatch(/^112 cm where it goes in, 108 cm where it comes out\./);
    expect(stepOf(exact, 'feed.room')!.figure!.value).toBe('112');
    expect(stepOf(exact, 'feed.material')!.detail).toMatch(/^1\.90 m of it/);
    expect(stepOf(exact, 'feed.lay')!.detail).toBe('24 places, 75.0 mm from one to the next, the first 30 mm from the leading end. Then feed on 30.00 mm.'); // prettier-ignore
    expect(stepOf(exact, 'feed.lay')!.figure!.value).toBe('75.0');
    // Where nothing else comes: beyond the dead band and the row, against its far edge; 20 × 12 at most.
    expect(stepOf(exact, 'feed.patch')!.detail).toMatch(
      /^20 × 12 mm at 30 mm from the leading end and 25 from the guide/,
    );
    expect(stepOf(exact, 'feed.calibrate')!.detail).toContain('command at least 500 mm');
    expect(stepOf(exact, 'run.load-next')).toMatchObject({ title: 'Begin with the first place', detail: 'places 1 to 8. From the leading end feed 30.00 mm.', figure: { value: '30.00' } }); // prettier-ignore
  });
  it('turns with the guide that was read, about the way out; what is fed goes along it', () => {
    // 1.2 mm over 600 mm: 2 mrad. The machine shows y from the back.
    const guide = { a: { x: 150, y: 520 }, b: { x: 750, y: 518.8 } };
    const turned = feedOf(inWay(exact, 'feed', {}, { guide }));
    expect(turned.guide).toMatchObject({ angle: expect.closeTo(Math.atan(1.2 / 600), 9), measured: true });
    const plain = feedOf(exact);
    for (const [i, m] of turned.meant.entries()) {
      // A point 300 mm behind the way out stands 300 · γ farther from the operator; one at it, where it stood.
      const fed = turned.stops[i]!.fed;
      const [at, behind] = [apply(m, { x: fed, y: 0 }), apply(m, { x: fed + 300, y: 0 })];
      const was = apply(plain.meant[i]!, { x: fed, y: 0 });
      expect([at.x, at.y, behind.y - at.y]).toEqual([expect.closeTo(was.x, 9), expect.closeTo(was.y, 9), expect.closeTo(300 * Math.sin(Math.atan(0.002)), 9)]); // prettier-ignore
    }
    expect([waitsOf(inWay({ ...exact, feedReadings: [fed(500, 505)] }, 'feed', {}, { squaring: { apart: 400, first: 2, second: 2 } }), 'feed'), plain.guide.measured]).toEqual(['read the guide against the axis', false]); // prettier-ignore
    expect(stepOf(inWay(exact, 'feed', {}, { guide }), 'feed.guide')!.detail).toBe('It stands 2.00 mm a metre off the axis; the files turn with it.'); // prettier-ignore
  });

  it('once it is measured says the factor, and that it lies askew', () => {
    const measured = inWay({ ...exact, feedReadings: [fed(500, 505)] }, 'feed', {}, { squaring: { apart: 400, first: 2, second: 3.2 } }); // prettier-ignore
    expect(stepOf(measured, 'feed.calibrate')).toMatchObject({ title: 'The feed is measured', done: true });
    expect(stepOf(measured, 'feed.calibrate')!.detail).toMatch(/^Factor 1\.0100 ± 0\.\d{4} from 1 reading\./);
    expect(stepOf(measured, 'feed.square')!.detail).toMatch(/^It lies askew by −?3\.00 mm a metre|^It lies askew by -?3\.00 mm a metre/); // prettier-ignore
    // 3 mm a metre over 1900 are more than the tolerance of 0.6; that much stays within 200 mm.
    expect(toldOf(measured)).toContain('only 200 mm would stay in the tolerance');
  });
  it('goes on from stop to stop, the first piece alone until it is approved', () => {
    const next = { ...exact, pieces: run(8) };
    expect(stepOf(next, 'run.load-next')).toMatchObject({ title: 'Feed on to stop 2: places 9 to 16', figure: { value: '600.00' } }); // prettier-ignore
    expect(stepOf(next, 'run.load-next')!.detail).toMatch(/^The strip moves 600\.00 mm\./);
    const on = { ...aimEvery(1), pieces: run(8, [9, 10, 11, 12, 13, 14, 15, 16]) };
    expect(stepOf(on, 'feed.aim-2')!.detail).toMatch(/^Stop 2\. Where its two edges would meet/);
    expect(stepOf(on, 'feed.walk-2')).toBeTruthy();
    expect(stepOf(on, 'run.load-2')).toMatchObject({ title: 'Burn stop 2: places 9 to 16', figure: { value: '2 / 3', label: 'stop on strip 1' } }); // prettier-ignore
    const first = { ...exact, firstApproved: false };
    expect(stepOf(first, 'run.load-next')!.detail).toBe('One piece alone, until it is approved. From the leading end feed 30.00 mm.'); // prettier-ignore
    expect(stepOf({ ...first, pieces: loadedPieces([1]) }, 'run.load-1')).toMatchObject({ title: 'Burn stop 1: place 1', detail: 'The rest is held until the first is approved.' }); // prettier-ignore
    const burned = { ...first, pieces: loadedPieces([1]).map((p) => ({ ...p, state: 'done' as const })) };
    expect(benchSteps(burned, reckon(burned)).some((s) => s.title === 'Look at the first piece, then approve it')).toBe(true); // prettier-ignore
    const strips = { ...exact, quantity: 48, pieces: run(24) };
    expect(stepOf(strips, 'run.load-next')!.title).toBe('Lay in strip 2 of 2');
  });
  it('waits at the feeder for what is not there: the feeder, a place for the work, its measures', () => {
    expect(waitsOf({ ...exact, feeder: null }, 'feed')).toMatch(/\w/);
    const wide = inWay(exact, 'feed', { strip: { length: 1900, width: 500 } });
    expect(feedOf(wide).misfits[0]!.message).toContain('470');
    expect(feedOf(wide).stops).toEqual([]);
    const long = { ...exact, blank: { ...exact.blank, shape: { kind: 'rectangle', length: 610, width: 25, cornerRadius: 0 } } } as BatchInput; // prettier-ignore
    expect(feedOf(long).problem).toMatchObject({ code: 'piece-too-long', message: expect.stringMatching(/takes 610\.0 mm along the feed; the head reaches 600 mm/) }); // prettier-ignore
  });
  it('is aimed at as often as the tolerance asks: never, at every stop, or not even that is enough', () => {
    const measured = { ...aimEvery(null), feedReadings: [fed(1000, 1000), fed(1000, 1000.1), fed(1000, 999.9)] };
    const proposed = (tolerance: number) => feedOf({ ...measured, tolerance }).proposed;
    expect(proposed(50)).toBe(0);
    expect(proposed(0.05)).toBeNull();
    expect(toldOf({ ...measured, tolerance: 0.05 })).toContain('Even aimed at every stop a piece may miss its tolerance'); // prettier-ignore
    const all = [50, 10, 5, 2, 1.5, 1, 0.8].map(proposed);
    // Tighter never means more seldom.
    const rank = (p: number | null): number => (p === null ? 0 : p === 0 ? 99 : p);
    for (let i = 1; i < all.length; i += 1) expect(rank(all[i]!)).toBeLessThanOrEqual(rank(all[i - 1]!));
  });
});

describe('another feeder', () => {
  it('none has no stops and takes no room', () => {
    const { stops, room, meant, patch, bars } = feedOf({ ...exact, feeder: null });
    expect([stops, room, meant, patch, bars]).toEqual([[], { before: 0, behind: 0 }, [], null, []]);
  });
  it('that feeds from front to back lies across the bed: way out at the window’s far end', () => {
    const along = { ...exact, feeder: { ...exact.feeder!, along: 'y' as const, window: { from: 50, to: 550 }, guideAt: 200, rollers: [20, 580] } }; // prettier-ignore
    const { stops, room, meant } = feedOf(along);
    // 500 / 75: six and the rest; from its way out at y 550 the strip runs to the front.
    expect(stops[0]!.count).toBe(6);
    expect(apply(meant[0]!, { x: 30, y: 0 })).toEqual({ x: expect.closeTo(200, 9), y: expect.closeTo(550, 9) });
    expect(apply(meant[0]!, { x: 90, y: 25 })).toEqual({ x: expect.closeTo(225, 9), y: expect.closeTo(490, 9) });
    // Of a bed 600 deep: 50 behind the way out, 550 before it.
    expect(room.before).toBeCloseTo(1900 - 30 - 550, 9);
    expect(room.behind).toBeCloseTo(stops.at(-1)!.fed - 50, 9);
  });
  it('with no dead bands still keeps 15 mm at its leading corner from the patch', () => {
    const bare = { ...exact, feeder: { ...exact.feeder!, deadFront: 0, deadBack: 0 } };
    const narrow = inWay(bare, 'feed', { strip: { length: 1900, width: 60 }, pitch: 75 });
    const { patch, layout } = feedOf(narrow);
    expect([layout!.places[0]!.centre.x, patch!.minX, patch!.minY]).toEqual([30, 15, 25]);
  });
  it('takes odd parts into each other as they lie, turned as they are turned', () => {
    const arrow = [{ x: -20, y: -10 }, { x: 10, y: -10 }, { x: 20, y: 0 }, { x: 10, y: 10 }, { x: -20, y: 10 }, { x: -10, y: 0 }]; // prettier-ignore
    const parts = inWay({ ...exact, blank: { ...exact.blank, shape: { kind: 'outline', source: 'a', contours: [{ closed: true, vertices: arrow }] }, holes: [], zones: [] } } as BatchInput, 'feed', { work: { kind: 'parts', interlock: true }, gap: 2 }); // prettier-ignore
    // Along the feed each point lies in the notch of the one before: 30 and the gap, square to slanted edges, and the kerf.
    const pitch = feedOf(parts).layout!.pitch;
    expect(pitch).toBeGreaterThan(30 + 2);
    expect(pitch).toBeLessThan(30 + 1.5 * (2 + 2 * parts.machine.kerf));
    // Turned a quarter they stand side by side: as wide as they are, and the gap.
    const turned = feedOf(inWay(parts, 'feed', { turned: true })).layout!.pitch;
    expect(turned).toBeGreaterThanOrEqual(20 + 2);
    expect(turned).toBeLessThan(20 + 2 + 4 * parts.machine.kerf);
  });
});

describe('one long piece through a feeder', () => {
  const work = (along: 'x' | 'y'): BatchInput =>
    drawnOn(
      {
        ...inWay(exact, 'feed', { work: { kind: 'long', long: freshLong }, aimEvery: 1 }),
        ...{ quantity: 1, roster: [] },
        feeder: { ...exact.feeder!, along, ...(along === 'y' ? { window: { from: 25, to: 575 }, rollers: [10, 590], guideAt: 100 } : {}) }, // prettier-ignore
        blank: { ...exact.blank, shape: { kind: 'rectangle', length: 1500, width: 60, cornerRadius: 0 }, holes: [], zones: [] }, // prettier-ignore
      },
      [{ kind: 'line', contour: segment({ x: 5, y: 30 }, { x: 1495, y: 30 }) }],
    );
  it.each([
    ['x', 600],
    ['y', 550],
  ] as const)('goes in windows no longer than its own, whichever way it is fed: %s', (along, window) => {
    const { stops } = feedOf(work(along));
    expect(stops.length).toBe(Math.ceil(1500 / (window - 2 * freshLong.margin)));
    expect([stops[0]!.from, stops.at(-1)!.to]).toEqual([0, 1500]);
    for (const s of stops) expect(s.to - s.from).toBeLessThanOrEqual(window - 2 * freshLong.margin);
    // Each is aimed at by the two marks of the seam before it.
    expect(stops.slice(0, 3).map((s) => s.marks)).toEqual([[101], [1, 2], [3, 4]].map((m, i) => (i === 0 ? stops[0]!.marks : m))); // prettier-ignore
  });
  it('has a step where its windows meet, moved by the feed alone or by the marks of its seams', () => {
    const by = (aimEvery: number) => {
      const r = reckon(inWay(work('x'), 'feed', { aimEvery }));
      return { ...r.own, step: r.own.feed!.step, steps: r.own.long!.errors.map((e) => e.step) };
    };
    const feed = by(0);
    const { calibration, stops, guide } = feed.feed!;
    expect(feed.steps[0]).toBeNull();
    // Along: the feed's factor over the way between, its repeat, the head's return twice; across: the guide, and the return.
    const [gone, back] = [stops[1]!.fed - stops[0]!.fed, (2 * exact.machine.repeatability ** 2) / 3];
    const along = Math.sqrt((calibration.uncertainty * gone) ** 2 + calibration.repeatability ** 2 + back);
    const across = Math.sqrt((guide.uncertainty * gone) ** 2 + back);
    expect(feed.steps[1]).toBeCloseTo(planeRadius(along, across, 0.95), 6);
    expect(feed.step).toBe(Math.max(...feed.steps.slice(1).map((s) => s!)));
    expect(feed.feed!.stepWorking.map((w) => w.result)).toEqual([`± ${feed.step!.toFixed(2)} mm`]);
    const marks = by(1);
    expect(marks.steps.slice(1).every((s) => s !== null && s < feed.steps[1]!)).toBe(true);
    expect([reckon(exact).own.feed!.step, reckon(exact).own.feed!.stepWorking, marks.feed!.stepWorking]).toEqual([null, [], []]); // prettier-ignore
  });
  it('is taken, fed on and burned stop by stop', () => {
    const on = { ...work('x'), pieces: loadedPieces([1]) };
    expect(stepOf(work('x'), 'run.load-next')!.title).toBe('Take the work');
    const { stops } = feedOf(on);
    expect(stepOf(on, 'feed.on-2')!.detail).toMatch(new RegExp(`^The work moves ${(stops[1]!.fed - stops[0]!.fed).toFixed(2)} mm;`)); // prettier-ignore
    expect(stepOf(on, 'run.segment-1')).toMatchObject({ title: `Burn stop 1 of ${stops.length}`, files: [['load.gcode', 'G-code']] }); // prettier-ignore
    const second = { ...on, ticks: ['run.segment-1'] };
    expect([feedOf(second).current, stepOf(second, 'run.segment-1')!.files, stepOf(second, 'feed.walk-2')?.title]).toEqual([2, [], 'Walk stop 2 with the beam off']); // prettier-ignore
    expect(reckon(second).planned).toEqual([1]);
  });
});

describe('parts of a strip', () => {
  const parts = inWay(exact, 'feed', { work: { kind: 'parts', interlock: false }, gap: 2 });
  it('fill it in rows, cut out where they are engraved, aimed at once', () => {
    const { layout, stops, proposed } = feedOf(parts);
    // Two rows of 25 in a width of 60; 62 mm from one to the next on 1900 − 30 − 30.
    expect([layout!.places.length, proposed]).toEqual([2 * Math.floor((1900 - 60 + 2) / 62), 0]);
    expect(stops.every((s, i) => s.aimed === (i === 0))).toBe(true);
    expect(reckon(parts).own.cutOut).toMatchObject({ when: 'at once' });
    expect(heldAs(parts, 'feed').choice.work.kind).toBe('parts');
  });
  it('whose gap is less than the feed may miss are remarked on', () => {
    const tight = inWay(parts, 'feed', { gap: 0.2 });
    expect(toldOf(tight)).toMatch(/From stop to stop the feed may be off by \d+\.\d\d mm, the gap is 0\.20/);
    expect(toldOf(inWay(parts, 'feed', { gap: 30 }))).not.toContain('From stop to stop');
  });
});
