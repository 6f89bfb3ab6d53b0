import { batchDrawing, batchProgram, gateOf } from '../batch';
import { invert, apply } from '../geometry';
import { readGcode } from '../output';
import { FRESH_TREATMENT, NO_PICTURES, type Grey, type Pictures } from '../picture';
import { segmentTick, type BatchInput, type LongReckoning } from '../setup';
import { wholeZone } from '../test-drawn';
import { loadedPieces } from '../test-batch';
import { inWay } from '../test-held';
import { reckon } from '../test-reckon';
import { EXAMPLES } from '../test-ways';
import { wayOf } from '../ways';
import { stripGcode, FEED_ON } from '../ways/feed';
import type { PictureContent } from './content';

/** A crest of 400 × 160 dots whose left half is nearly black: its middle lies left of its frame's. */
const CREST: Grey = { width: 400, height: 160, pixels: Uint8Array.from({ length: 64_000 }, (_, i) => (i % 400 < 200 ? 26 : 204)) }; // prettier-ignore
const HELD: Pictures = new Map([['p', CREST]]);
/** By its own dots: how much of it is dark, and where the middle of that lies across it. */
const DARK = (229 + 51) / 2 / 255;
const MIDDLE = (229 * 0.25 + 51 * 0.75) / 280;

const along = (base: BatchInput, change: Partial<PictureContent> = {}): BatchInput => {
  const picture: PictureContent = { kind: 'picture', id: 'c', zoneId: 'work', pictureId: 'p', name: 'crest', width: 400, height: 160, darkness: DARK, treatment: FRESH_TREATMENT, size: { kind: 'width', width: 80 }, turn: 0, mirrored: false, ...change }; // prettier-ignore
  return { ...base, setup: { ...base.setup, contents: [...(base.setup.contents ?? []), picture] } };
};

/** What of a file is burned within a stretch of the bed, in its frame: burned length, and its middle; x and y, mm. */
const burned = (text: string, input: BatchInput, keeps: (x: number, y: number) => boolean): { length: number; x: number; y: number } => {
  const read = readGcode(text, 1000);
  if (!read.ok) throw new Error(read.problem.message);
  const { moves } = read.value;
  let [length, x, y] = [0, 0, 0];
  for (let i = 1; i < moves.count; i += 1) {
    // The machine counts y from the back.
    const [ax, bx, at] = [moves.x[i - 1]!, moves.x[i]!, input.machine.bed.height - moves.y[i]!];
    if (moves.power[i] === 0 || moves.y[i] !== moves.y[i - 1] || !keeps((ax + bx) / 2, at)) continue;
    length += Math.abs(bx - ax);
    x += (Math.abs(bx - ax) * (ax + bx)) / 2;
    y += Math.abs(bx - ax) * at;
  }
  return { length, x: x / length, y: y / length };
}; // prettier-ignore

const load = (input: BatchInput, pictures = HELD): string => {
  const made = batchProgram(input, reckon(input), 'load', { pictures });
  if (!made.ok) throw new Error(made.problem.message);
  return [...made.value].join('');
};

describe('a picture on work in segments', () => {
  const long = along(EXAMPLES.long, { offset: { x: 40, y: 60 } });
  const planOf = (input: BatchInput): NonNullable<LongReckoning['plan']> => reckon(input).own.long!.plan!;
  /** Where the picture lies along the work: 80 mm wide, 40 mm right of the middle of 2000. */
  const [FROM, TO] = [1000, 1080];

  it('lies in one segment as a whole, and no seam goes through it', () => {
    const plan = planOf(long);
    expect(plan.seams.some(({ at }) => at > FROM && at < TO)).toBe(false);
    // Without it the seams are the middle's own: they were put elsewhere for it.
    expect(planOf(EXAMPLES.long).seams.map((s) => s.at)).not.toEqual(plan.seams.map((s) => s.at));
    const with_ = plan.segments.filter((s) => s.shapes.some((x) => x.picture));
    expect(with_).toHaveLength(1);
    expect(with_[0]!.from).toBeLessThanOrEqual(FROM);
    expect(with_[0]!.to).toBeGreaterThanOrEqual(TO);
    // Strokes reach beyond their seams; the picture is burned once all the same.
    const over = planOf(inWay(long, 'long', { overlap: 40 }));
    expect(over.segments.flatMap((s) => s.shapes.filter((x) => x.picture))).toHaveLength(1);
  });

  it('is burned in that segment’s file alone, its tone and its middle those of its dots', () => {
    const plan = planOf(long);
    const { interval } = long.recipe!.engrave;
    plan.segments.forEach((segment, i) => {
      const input = { ...long, pieces: loadedPieces([1]), ticks: Array.from({ length: i }, (_, k) => segmentTick(k + 1)) }; // prettier-ignore
      const r = reckon({ ...input, readings: [] });
      // As it would lie were it laid exactly as it is meant.
      const lies = { ...r, boardToBed: segment.square, placed: true };
      const made = batchProgram(input, lies, 'load', { pictures: HELD });
      if (!made.ok) throw new Error(made.problem.message);
      const back = invert(segment.square);
      // The work’s frame: the picture lies 40 to the right of and 60 above its middle, 80 × 32.
      const on = burned([...made.value].join(''), input, (x, y) => {
        const p = apply(back, { x, y });
        return p.x > FROM - 1 && p.x < TO + 1 && Math.abs(p.y - 210) < 17;
      });
      if (!segment.shapes.some((s) => s.picture)) return expect(on.length).toBe(0);
      expect((on.length * interval) / (80 * 32)).toBeCloseTo(DARK, 2);
      const middle = apply(back, on);
      expect([middle.x, middle.y]).toEqual([expect.closeTo(FROM + 80 * MIDDLE, 0), expect.closeTo(210, 0)]);
      expect(Math.abs(middle.x - FROM - 80 * MIDDLE)).toBeLessThan(0.2);
    });
    expect.hasAssertions();
  });

  it('waits for its dots, and is in no drawing', () => {
    const input = { ...long, pieces: loadedPieces([1]) }; // prettier-ignore
    const r = reckon(input);
    const lies = { ...r, own: { long: { ...r.own.long!, current: planOf(long).segments.findIndex((s) => s.shapes.some((x) => x.picture)) + 1 } }, placed: true }; // prettier-ignore
    expect(batchProgram(input, lies, 'load', { pictures: NO_PICTURES })).toMatchObject({ ok: false, problem: { code: 'no-picture' } }); // prettier-ignore
    expect(batchDrawing(input, r, 'load')).toMatchObject({ ok: false, problem: { code: 'picture-in-drawing' } });
    expect(gateOf(long, reckon(long), 'load').map((p) => p.code)).not.toContain('left-out');
  });

  it('is refused with its place where no segment holds it', () => {
    const wide = along(EXAMPLES.long, { size: { kind: 'width', width: 700 } });
    const { problem, plan } = reckon(wide).own.long!;
    expect(plan).toBeNull();
    expect(problem).toMatchObject({ code: 'picture-cut', message: expect.stringMatching(/^A picture from 650 to 1350 mm along the work would lie over a seam/) }); // prettier-ignore
  });
});

describe('pictures on a strip', () => {
  const { interval } = EXAMPLES.feed.recipe!.engrave;
  const word = { ...EXAMPLES.feed.feeder!, word: 'U' as const };
  const bare = (input: BatchInput): BatchInput => ({ ...input, feeder: word, feeders: [word], firstApproved: true, roster: [], setup: { ...input.setup, lettering: { ...input.setup.lettering, lines: [] } } }); // prettier-ignore
  const aimed = (input: BatchInput): BatchInput => {
    const board = reckon(input).board!;
    const here = reckon(input).boardToBed;
    const readings = board.marks.map(({ id, at }) => {
      const p = apply(here, at);
      return { id: `${id}`, mark: id, x: p.x, y: input.machine.bed.height - p.y, source: 'typed' as const, at: '2026-11-20T08:00:00.000Z', by: 'Odile', purpose: 'place' as const }; // prettier-ignore
    });
    return { ...input, readings };
  };
  const anywhere = (): boolean => true;
  const area = 80 * 32 * DARK;

  it('are burned on every piece of a row, at each stop and in one file for all', () => {
    const row = bare(along({ ...EXAMPLES.feed, quantity: 12 }, { zoneId: 'face', size: { kind: 'width', width: 20 } }));
    const pieces = loadedPieces([1, 2, 3, 4, 5, 6, 7, 8]);
    const on = aimed({ ...row, pieces });
    const one = area / 16;
    expect((burned(load(on), on, anywhere).length * interval) / one).toBeCloseTo(8, 1);
    const strip = stripGcode(on, reckon(on), 'strip', HELD);
    if (!strip.ok) throw new Error(strip.problem.message);
    const parts = [...strip.value].join('').split(new RegExp(`\\(${FEED_ON} [^)]*\\)`));
    expect(parts.map((p) => Math.round((burned(p, on, anywhere).length * interval) / one))).toEqual([8, 4]);
    expect(stripGcode(on, reckon(on), 'strip')).toMatchObject({ ok: false, problem: { code: 'no-picture' } });
  });

  it('are too many for one file where only the stops together have too many dots', () => {
    const row = bare(along({ ...EXAMPLES.feed, quantity: 24 }, { zoneId: 'face', size: { kind: 'width', width: 20 } }));
    // 20 × 8 mm at 0.0045 mm is 7.9 million dots a piece: 63 million a stop of eight, 190 for all of 24.
    const fine = { ...row, recipe: { ...row.recipe!, engrave: { ...row.recipe!.engrave, interval: 0.0045 } } };
    const pieces = loadedPieces([1, 2, 3, 4, 5, 6, 7, 8]);
    const on = aimed({ ...fine, pieces });
    expect(batchProgram(on, reckon(on), 'load', { pictures: HELD }).ok).toBe(true);
    expect(stripGcode(on, reckon(on), 'strip', HELD)).toMatchObject({ ok: false, problem: { code: 'picture-too-fine', message: expect.stringMatching(/190 million dots .* or feed it stop by stop/) } }); // prettier-ignore
  });

  it('lie in one window of a long piece', () => {
    const board: BatchInput['blank'] = { ...EXAMPLES.long.blank, shape: { kind: 'rectangle', length: 1800, width: 60, cornerRadius: 0 } }; // prettier-ignore
    const work = inWay(bare({ ...EXAMPLES.feed, quantity: 1, blank: { ...board, zones: [wholeZone(board)] } }), 'feed', { work: { kind: 'long', long: { loading: 'through', feed: 'x', margin: 15, overlap: 0, markInset: 10, smallText: 15 } } }); // prettier-ignore
    const long = along(work);
    const pieces = loadedPieces([1]);
    const on = aimed({ ...long, pieces });
    const r = reckon(on);
    const windows = r.own.long!.plan!.segments;
    const own = windows.findIndex((s) => s.shapes.some((x) => x.picture));
    const strip = stripGcode(on, r, 'strip', HELD);
    if (!strip.ok) throw new Error(strip.problem.message);
    const parts = [...strip.value].join('').split(new RegExp(`\\(${FEED_ON} [^)]*\\)`));
    // Rows alone: what carries from window to window are rings.
    expect(parts.map((p) => Math.round((burned(p, on, anywhere).length * interval) / area))).toEqual(windows.map((_, i) => (i === own ? 1 : 0))); // prettier-ignore
  });
});

describe('a sheet', () => {
  it('carries what a zone does where it is printed here, and nothing where it came printed', () => {
    const own = EXAMPLES.sheet;
    const came = inWay(own, 'sheet', { traced: {} as never });
    expect([wayOf(own).carries(own).includes('picture'), wayOf(came).carries(came)]).toEqual([true, []]);
  });
});
