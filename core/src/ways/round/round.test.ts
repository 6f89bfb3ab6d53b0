import { batchProgram } from '../../batch';
import { planTime } from '../../burn';
import { apply, contoursBox, invert } from '../../geometry';
import type { BatchInput } from '../../setup';
import { loadedPieces } from '../../test-batch';
import { inWay } from '../../test-held';
import { reckon, stepOf, toldOf, waitsOf } from '../../test-reckon';
import { EXAMPLES } from '../../test-ways';
import { artOnBlank, letterGcode, ringGcode, templatePasses, turnedOutline, turnedTime, turnedWalk, unrolledPasses } from './output'; // prettier-ignore
import { turnedMoves } from './turned';

// A cup of 92 at the rim and 70 at its base, 130 tall, on rollers of 20 mm, 40 apart, 3200 steps a turn, a name about 60 mm
// from the rim: every figure here follows from those by hand.
const proved = inWay(EXAMPLES.drive, 'drive', {}, { letter: { quarters: 0, mirrored: false }, numberSet: 50.93 });
const cup: BatchInput = { ...proved, pieces: loadedPieces([1]) };
/** One turn where the zone's middle is, 60 mm from the rim. */
const TURN = Math.PI * (92 - (22 * 60) / 130);
const on = (input: BatchInput) => reckon(input).own.round!.on!;
const zoned = (part: object, face: object = {}): BatchInput => ({
  ...cup,
  blank: { ...cup.blank, zones: [{ ...cup.blank.zones[0]!, ...part }] },
  setup: { ...cup.setup, faces: [{ ...cup.setup.faces[0]!, ...face }] as never },
});
const drive = (part: object): BatchInput => ({ ...cup, drive: { ...cup.drive!, ...part } as never });
const shape = (part: object): BatchInput => ({ ...cup, blank: { ...cup.blank, shape: { ...cup.blank.shape, ...part } as never } }); // prettier-ignore
const at = (along: number): number => 92 - (22 * along) / 130;
const ok = <T>(result: { ok: true; value: T } | { ok: false; problem: { message: string } }): T => {
  if (!result.ok) throw new Error(result.problem.message);
  return result.value;
};
/** Feeds of a file in mm/s, in the order in which they come, until the beam is off at its end. */
const feedsOf = (text: string): number[] =>
  [...text.slice(0, text.lastIndexOf('M5')).matchAll(/F([\d.]+)/g)].map((m) => Number(m[1]) / 60);
/** Places of a file, as far as it says them. */
const placesOf = (text: string): { x: number; y: number; s: number }[] => {
  let [x, y, s] = [0, 0, 0];
  return text.split('\n').flatMap((l) => {
    if (/^M5\b/.test(l)) s = 0;
    if (/^[(;]/.test(l) || !/[XY]/.test(l)) return [];
    x = Number(/X(-?[\d.]+)/.exec(l)?.[1] ?? x);
    y = Number(/Y(-?[\d.]+)/.exec(l)?.[1] ?? y);
    s = Number(/S([\d.]+)/.exec(l)?.[1] ?? s);
    return [{ x, y, s }];
  });
};

describe('a cup on its drive', () => {
  it('turns by whole steps of its rollers, and one turn is its circumference where they bear', () => {
    const { travel, interval, circumference, ring, seat, taper } = on(cup);
    expect(travel.step).toBeCloseTo((Math.PI * 20) / 3200, 12);
    expect(interval).toMatchObject({ wanted: 0.1, used: expect.closeTo((5 * Math.PI * 20) / 3200, 12) });
    expect(circumference).toBeCloseTo(Math.PI * 92, 9);
    expect(ring.circumference).toBeCloseTo(Math.PI * at(60), 9);
    expect(seat.theta).toBeCloseTo(Math.asin(20 / (46 + 10)), 12);
    expect(taper.tilt).toBeCloseTo(Math.atan(11 / 130), 9);
    expect(taper.raise).toBe('base');
  });

  it('has its art between the ends of its zone, within the blank', () => {
    const spans = (x: number, width: number) => { const r = reckon(zoned({ x, width })).own.round!; return [r.artFrom, r.artTo]; }; // prettier-ignore
    expect([spans(60, 40), spans(10, 40), spans(120, 40)]).toEqual([[40, 80], [0, 30], [100, 130]]); // prettier-ignore
  });

  it('misses the seam by what rings say, or by what nobody has measured', () => {
    // Rollers nobody calibrated: 1 % of the way round [assumed], with 1.96 of what else is off: a turn’s repeat, π times the
    // catalogue’s tolerance / √3, the third place of 50.93 (which is 50.929582 in full).
    const { seam } = on(cup);
    const turn = Math.PI * 92;
    const rest = Math.hypot(0.08, (Math.PI * cup.blank.catalogueTolerance) / Math.sqrt(3), (turn * (50.93 / ((3200 / (Math.PI * 20))) - 1)) / Math.sqrt(3)); // prettier-ignore
    expect(seam.spread).toBeCloseTo(Math.hypot(0.01 * turn, 1.959964 * rest), 4);
    const read = { ...cup, rings: [{ id: 'r', overlap: 1, circumference: Math.PI * 92, correction: 1, readingError: 0.2, at: '2026-11-20T08:00:00Z', by: 'Odile', batchId: 'b' }] }; // prettier-ignore
    expect(on(read).seam.spread).toBeLessThan(seam.spread);
    expect(on(read).rings.correction).toBeCloseTo((Math.PI * 92) / (Math.PI * 92 + 1), 4);
    expect(on(inWay(cup, 'drive', { seam: { kind: 'gapped', gap: 1.5 } })).seam.gap).toBe(1.5);
    expect(on(inWay(cup, 'drive', { seam: { kind: 'seamless', gap: 1.5 } })).seam.gap).toBe(0);
  });

  it('leaves the focus by the bow of its profile, and on a chuck by half of its run-out', () => {
    expect(on(cup).focusFall.fall).toBeCloseTo(0, 9);
    const bowed = shape({ profile: [{ at: 0, diameter: 92 }, { at: 60, diameter: 96 }, { at: 130, diameter: 70 }] }); // prettier-ignore
    const { fall, ok: inside } = on(bowed).focusFall;
    expect([fall > 0.5, inside]).toEqual([true, fall <= cup.machine.focusRange / 2]);
    if (!inside) expect(toldOf(bowed)).toMatch(/^The surface leaves the focus by/m);
  });

  it('grows with what the caliper says of it', () => {
    const wider = { ...cup, blank: { ...cup.blank, samples: { ...cup.blank.samples, diameter: Array.from({ length: 12 }, (_, i) => 93 + (i % 2) * 0.02 - 0.01) } } }; // prettier-ignore
    const { shape: grown, diameter } = reckon(wider).own.round!;
    expect(diameter.mean).toBeCloseTo(93, 9);
    expect(grown.profile.map((p) => p.diameter)).toEqual([expect.closeTo(93, 9), expect.closeTo(71, 9)]);
  });
});

describe('what will not go', () => {
  it.each([
    ['wider than a turn there', zoned({ height: 260 }), /face is 260\.00 mm wide; one turn there is 257\.13 mm/],
    ['as wide as a turn and a hundredth', zoned({ height: TURN + 0.008 }), null],
    ['as wide as a turn and more', zoned({ height: TURN + 0.012 }), /face is 257\.14 mm wide/],
    ['too often round', zoned({ height: 90 }, { repeats: 3 }), /3 times face do not go round: 270\.00 mm of 257\.13/],
    [
      'a hair too often',
      zoned({ height: (TURN + 0.012) / 3 }, { repeats: 3 }),
      /3 times face do not go round: 257\.14 mm/,
    ],
    ['often enough to fill it', zoned({ height: (TURN + 0.008) / 3 }, { repeats: 3 }), null],
    ['over its rim', zoned({ x: 19.988, width: 40 }), /face runs over the end of the blank/],
    ['up to its rim', zoned({ x: 19.992, width: 40 }), null],
    ['over its base', zoned({ x: 110.012, width: 40 }), /face runs over the end of the blank/],
    ['up to its base', zoned({ x: 110.008, width: 40 }), null],
    [
      'too fast an axis',
      drive({ axisAcceleration: 90_000 }),
      /set to 90000 mm\/s²; this blank follows up to \d+ safely/,
    ],
  ] as const)('%s', (_, input, words) => {
    if (words) expect(toldOf(input)).toMatch(words);
    else expect(toldOf(input)).not.toMatch(/wide; one turn|do not go round|runs over the end/);
  });

  it('is said with what would: how tall it stands, and what fits', () => {
    const low = { ...cup, machine: { ...cup.machine, bedLowest: 60 } };
    const { standing } = on(low);
    if (standing.left < 0) expect(toldOf(low)).toMatch(/mm too tall on the bed\./);
    expect(on(cup).standing.left).toBeGreaterThan(standing.left);
  });

  it('a handle that comes to the top takes the zone there with it', () => {
    const handled = (angle: number): BatchInput => ({
      ...zoned({ angle }),
      blank: { ...zoned({ angle }).blank, shape: { ...cup.blank.shape, feature: { kind: 'handle', from: 20, to: 100, reach: 40, width: 12 } } as never }, // prettier-ignore
    });
    expect(toldOf(handled(0))).toMatch(/face at 0° cannot come to the top: the handle is in the way/);
  });
});

describe('an F on tape', () => {
  const seen = { quarters: 0, mirrored: true } as const;
  const found = { letter: seen, letterWith: { rimFaces: 'right', topMoves: 'toward' }, numberSet: 50.93 } as const;
  const burned = inWay(EXAMPLES.drive, 'drive', { rimFaces: 'right' }, found);
  const withF: BatchInput = { ...burned, pieces: loadedPieces([1]), drive: { ...burned.drive!, topMoves: 'toward' } };
  const code = (input: BatchInput): string => {
    const made = batchProgram(input, reckon(input), 'load');
    return made.ok ? '' : made.problem.code;
  };
  /** Where the load's file goes, along and round. */
  const places = (input: BatchInput): string => {
    const made = batchProgram(input, reckon(input), 'load');
    return made.ok ? [...(made.value as Iterable<string>)].join('').replace(/^\(.*$/gm, '') : '';
  };
  const entered = (topMoves: 'toward' | 'away', rimFaces: 'left' | 'right' = 'right'): BatchInput => ({ ...inWay(withF, 'drive', { rimFaces }), drive: { ...withF.drive!, topMoves } }); // prettier-ignore

  it('counts for what was said of the drive when it was burned, and for nothing else', () => {
    expect(code(withF)).toBe('');
    // It showed that the drive turns the other way: entered so, what it showed would mirror the art once more.
    expect(code(entered('away'))).toBe('no-letter');
    expect(waitsOf(entered('away'), 'drive')).toMatch(/F again|ring|number/);
    expect(code(entered('toward', 'left'))).toBe('no-letter');
    expect(places(entered('away'))).toBe('');
    // As it was again, it counts again.
    expect(code(entered('toward'))).toBe('');
  });
  it('burned again after the entry was put right comes out as it did with the first one: the art is turned once', () => {
    // The drive turns the other way than entered: a mirrored F, corrected by what it showed …
    const corrected = places(withF);
    // … or by the entry, and then the F comes out upright.
    const upright = inWay(entered('away'), 'drive', {}, { ...found, letter: { quarters: 0, mirrored: false }, letterWith: { rimFaces: 'right', topMoves: 'away' } }); // prettier-ignore
    expect(places(upright)).not.toBe('');
    expect(places(upright)).toBe(corrected);
  });
  it('of a batch that noted nothing of it counts as it did', () => {
    const { letterWith: _none, ...before } = found;
    const plain = { ...inWay(EXAMPLES.drive, 'drive', {}, before), pieces: loadedPieces([1]) };
    expect(code({ ...plain, drive: { ...plain.drive!, topMoves: 'away' } })).toBe('');
  });
});

describe('a tape laid round', () => {
  const taped = (tape: number[], diameter: number[] = []) => reckon({ ...cup, blank: { ...cup.blank, samples: { ...cup.blank.samples, diameter, tape } } }).own.round!; // prettier-ignore
  it('says how wide a blank is where no caliper was used: 10 7/8 in round is 87.925 mm', () => {
    const { diameter, shape: grown } = taped([276.225]);
    expect(diameter.mean).toBeCloseTo(87.925, 3);
    // All of the profile goes with its widest place, 92 as it was drawn.
    expect(grown.profile[0]!.diameter).toBeCloseTo(87.925, 3);
    // Three of them say how blanks differ too: s of the circumferences over π.
    const three = taped([276, 277, 278]).diameter;
    expect([three.mean, three.spread]).toEqual([expect.closeTo(277 / Math.PI, 9), expect.closeTo(1 / Math.PI, 9)]);
  });
  it('does not where a caliper was: it is compared', () => {
    const { diameter, questions } = taped([276.225], [88.4, 88.4, 88.4]);
    expect(diameter.mean).toBeCloseTo(88.4, 9);
    expect(questions.map((q) => q.message).join()).toContain('0.47 mm apart');
  });
});

describe('what a handle and a feature do', () => {
  const handle = { kind: 'handle', from: 20, to: 100, reach: 40, width: 12 };
  it('a mark to begin at is one more thing to be off by', () => {
    const ids = (input: BatchInput) => reckon(input).budget.sources.map((s) => s.id);
    expect(ids(cup)).not.toContain('feature');
    expect(ids(shape({ feature: { ...handle, reach: 0 } }))).toContain('feature');
  });
  it('a wide face meets the handle where a narrow one still comes to the top', () => {
    const reaches = (degrees: number, height: number): boolean => {
      const faced = zoned({ angle: (degrees * Math.PI) / 180, height });
      return !/cannot come to the top/.test(toldOf({ ...faced, blank: { ...faced.blank, shape: { ...cup.blank.shape, feature: handle } as never } })); // prettier-ignore
    };
    const free = [60, 75, 90, 105, 120, 135].filter((a) => reaches(a, 4));
    expect(free.length).toBeGreaterThan(0);
    expect(free.some((a) => !reaches(a, 110))).toBe(true);
    // Left and right alike.
    for (const a of free) expect(reaches(360 - a, 4)).toBe(true);
  });
});

describe('what is read at the drive', () => {
  it('says heights, numbers and lifts', () => {
    expect(stepOf(cup, 'drive.number')).toMatchObject({ figure: { value: '50.93', unit: 'steps/mm' }, done: true });
    expect(stepOf(inWay(cup, 'drive', {}, { numberSet: 80 }), 'drive.number')!.done).toBe(false);
    expect(stepOf(cup, 'drive.lay')!.detail).toBe('Contact circle 0 mm from the rim, 92.0 mm across.');
    // Its axis lies √(56² − 20²) − √(45² − 20²) lower at the base, its crest 11 mm more.
    const sinks = Math.sqrt(56 ** 2 - 400) - Math.sqrt(45 ** 2 - 400);
    expect(stepOf(cup, 'drive.tilt')!.figure!.value).toBe((Math.sin(Math.atan(11 / 130) + Math.asin(sinks / 130)) * 130).toFixed(1)); // prettier-ignore
    expect(stepOf(cup, 'drive.tilt')!.detail).toContain('turns on the circle 0 mm from the rim alone, 92.0 mm across');
    expect(stepOf(cup, 'drive.focus')!.detail).toBe('60 mm from the rim.');
    expect(stepOf(cup, 'drive.plug')!.detail).toContain('The plug of the y motor goes to Rollers.');
    const own = drive({ axis: { letter: 'A', unit: 'mm' } });
    expect(stepOf(own, 'drive.plug')).toBeUndefined();
    expect(stepOf(cup, 'drive.slow')).toBeUndefined();
    expect(stepOf(drive({ axisAcceleration: 90_000 }), 'drive.slow')).toMatchObject({ title: 'Lower the turning axis’s acceleration', done: false }); // prettier-ignore
    expect(stepOf(shape({ lid: true }), 'drive.lid')).toBeTruthy();
    expect(stepOf(cup, 'drive.lid')).toBeUndefined();
    expect(stepOf(shape({ material: 'glass' }), 'drive.lay')!.caution).not.toBe(stepOf(cup, 'drive.lay')!.caution);
  });
  it('is proved: a ring, the number once more by it, the F; a chuck by a dial too, in its jaws', () => {
    const ring = { id: 'r', overlap: 1, circumference: Math.PI * 92, correction: 1, readingError: 0.2, at: '2026-11-20T08:00:00Z', by: 'Odile', batchId: 'b' }; // prettier-ignore
    expect([stepOf(cup, 'drive.ring')!.done, stepOf(cup, 'drive.number-again')]).toEqual([false, undefined]);
    const read = { ...cup, rings: [ring] };
    expect(stepOf(read, 'drive.ring')!.done).toBe(true);
    // It turned 1 mm of 289 too far: so many steps less to the millimetre, and not typed in yet.
    expect(stepOf(read, 'drive.number-again')).toMatchObject({ figure: { value: ((3200 / (Math.PI * 20)) / (1 + 1 / (Math.PI * 92))).toFixed(3) }, done: false }); // prettier-ignore
    expect([stepOf(EXAMPLES.drive, 'drive.letter')!.done, stepOf(cup, 'drive.letter')!.done]).toEqual([false, true]);
    expect(stepOf(cup, 'drive.runout')).toBeUndefined();
    const chuck = drive({ kind: 'chuck', jaws: 120 });
    expect(stepOf(chuck, 'drive.runout')!.done).toBe(false);
    expect(stepOf(inWay(chuck, 'drive', {}, { runOut: 0.3 }), 'drive.runout')!.done).toBe(true);
    expect(stepOf(chuck, 'drive.lay')!.detail).toMatch(/^In the jaws/);
    expect(on(inWay(chuck, 'drive', {}, { runOut: 0.3 })).focusFall.fall).toBeCloseTo(0.15, 9);
    expect(on(chuck).focusFall.fall).toBeCloseTo(0.1, 9);
    // A chuck’s gearing is ten times surer than rollers nobody calibrated, and turns the same angle under every piece.
    const whole = on(chuck).circumference;
    expect(on(chuck).seam.spread).toBeCloseTo(Math.hypot(0.001 * whole, 1.959964 * Math.hypot(0.08, (whole * on(chuck).control.rounding) / Math.sqrt(3))), 6); // prettier-ignore
  });
  it('waits for the number, a ring and the F, in that order', () => {
    const waits = (input: BatchInput): string => waitsOf(input, 'drive');
    expect(waits({ ...EXAMPLES.drive, drive: null })).toMatch(/drive/);
    const bare = waits(EXAMPLES.drive);
    expect(bare).toMatch(/\w/);
    expect(waits(proved)).not.toBe(bare);
  });
});

describe('files for the drive', () => {
  it('a ring is one turn of line at the art’s middle, ticks on opposite sides at its ends', () => {
    const text = ok(ringGcode(cup, reckon(cup)));
    const places = placesOf(text);
    const burned = places.filter((p) => p.s > 0);
    const turn = Math.PI * 92;
    const x = burned[0]!.x;
    expect(text).toContain(`one turn of ${turn.toFixed(2)} mm`);
    // Rim to the right: 60 down the axis is √(60² + (11 · 60/130)²) along the level side.
    expect(-x).toBeCloseTo(Math.hypot(60, (11 * 60) / 130), 3);
    expect(burned.map((p) => [p.x - x, p.y])).toEqual([
      [0, 0],
      [0, expect.closeTo(turn, 2)],
      [expect.closeTo(4, 3), expect.closeTo(turn, 2)],
    ]);
    const start = places[places.indexOf(burned[0]!) - 1]!;
    expect([start.x - x, start.y]).toEqual([expect.closeTo(-4, 3), 0]);
  });

  it('a load leaves the recipe’s energy on the surface, at the lines that are really burned', () => {
    const made = batchProgram(cup, reckon(cup), 'load');
    const text = [...((made.ok ? made.value : []) as Iterable<string>)].join('');
    // By the file alone: its lines' distance at the rollers, its power word of 1000 and its speed along the blank.
    const burned = placesOf(text).filter((p) => p.s > 0);
    const ys = [...new Set(burned.map((p) => p.y))].sort((a, b) => a - b);
    const apart = Math.min(
      ...ys
        .slice(1)
        .map((y, i) => y - ys[i]!)
        .filter((d) => d > 0.01),
    );
    const [, speed, s] = /F(\d+)\nX-?[\d.]+S([1-9]\d*)/.exec(text)!.map(Number) as [number, number, number];
    const { engrave } = cup.recipe!;
    expect(apart).toBeCloseTo((5 * Math.PI * 20) / 3200, 2);
    const energy = (power: number, speed: number, interval: number): number => power / (speed * interval);
    expect(Math.abs(energy(s / 1000, speed / 60, on(cup).interval!.used) / energy(engrave.power, engrave.speed, engrave.interval) - 1)).toBeLessThan(0.003); // prettier-ignore
  });

  it('a ring and an F are burned as slowly as the source fires with the recipe’s energy, and not faster than the blank follows', () => {
    const weak = (power: number, leastPower: number): BatchInput => ({ ...cup, machine: { ...cup.machine, leastPower }, recipe: { ...cup.recipe!, engrave: { ...cup.recipe!.engrave, power } } }); // prettier-ignore
    const ringOf = (input: BatchInput) => ringGcode(input, reckon(input));
    // 35 % at 400 mm/s is 1.75 % at 20; from 10 % up it fires, at 10 / 35 of 400 mm/s.
    const text = ok(ringOf(weak(0.35, 0.1)));
    expect(text).toContain(`F${((60 * 400 * 10) / 35).toFixed(3)}S100\n`);
    // From 35 % it would go at 400 mm/s, and a blank on rollers follows up to 200.
    const refused = ringOf(weak(0.35, 0.35));
    expect(refused.ok ? '' : refused.problem.message).toBe('A line with the energy of Slate takes 1.75 % at 20 mm/s; Bench A fires from 35 %, and at that it would go 400 mm/s, faster than this blank follows (200). Choose a recipe with more energy to the line, or one for tape.'); // prettier-ignore
    const f = letterGcode(weak(0.35, 0.35), reckon(weak(0.35, 0.35)));
    expect(f.ok ? '' : f.problem.code).toBe('below-firing');
    const nothing = ringOf(weak(0, 0));
    expect(nothing.ok ? '' : nothing.problem.code).toBe('no-recipe');
    const none = { ...cup, recipe: null };
    expect([ringOf(none), letterGcode(none, reckon(none))].map((m) => (m.ok ? '' : m.problem.code))).toEqual(['no-recipe', 'no-recipe']); // prettier-ignore
  });

  it('an F is 10 × 14 mm on the tape where it lies', () => {
    const burned = placesOf(ok(letterGcode(cup, reckon(cup)))).filter((p) => p.x !== 0);
    const xs = burned.map((p) => p.x);
    const ys = burned.map((p) => p.y);
    // Along as it is; around as much farther at the rollers as they bear on a larger circle.
    expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(14, 1);
    expect((Math.max(...xs) + Math.min(...xs)) / 2).toBeCloseTo(-Math.hypot(60, (11 * 60) / 130), 1);
    expect(Math.max(...ys) - Math.min(...ys)).toBeGreaterThan((10 * 92) / at(53) - 0.2);
    expect(Math.max(...ys) - Math.min(...ys)).toBeLessThan((10 * 92) / at(67) + 0.2);
  });

  it('a walk goes once round everything that is burned, slowly and dark', () => {
    const text = ok(turnedWalk(cup, reckon(cup)));
    expect(text).not.toMatch(/M[34]|S[1-9]/);
    const hull = turnedOutline(cup, reckon(cup));
    const walked = placesOf(text);
    const box = (v: readonly { x: number; y: number }[]) => [Math.min(...v.map((p) => p.x)), Math.max(...v.map((p) => p.x)), Math.min(...v.map((p) => p.y)), Math.max(...v.map((p) => p.y))]; // prettier-ignore
    // Then back to its zero.
    expect(walked.at(-1)).toMatchObject({ x: 0, y: 0 });
    box(walked.slice(0, hull.length)).forEach((v, i) => expect(v).toBeCloseTo(box(hull)[i]!, 2));
    // 20 mm/s, on the way there too: the only feed until it goes back to its zero.
    expect(feedsOf(text)).toEqual([20]);
  });

  it('a ring and an F are gone to as slowly as a walk goes', () => {
    for (const text of [ok(ringGcode(cup, reckon(cup))), ok(letterGcode(cup, reckon(cup)))])
      expect([feedsOf(text)[0], text.slice(0, text.search(/^G1/m)).includes('G0')]).toEqual([20, false]);
  });

  it('the outline that is walked is that of all that is burned, from where each stroke begins', () => {
    const made = batchProgram(cup, reckon(cup), 'load');
    const text = ok(made as never);
    const places = placesOf([...(text as Iterable<string>)].join(''));
    const ends = places.flatMap((p, i) => (p.s > 0 ? [p, places[i - 1]!] : []));
    const hull = turnedOutline(cup, reckon(cup));
    const spans = (v: readonly { x: number; y: number }[]) => [Math.min(...v.map((p) => p.x)), Math.max(...v.map((p) => p.x)), Math.min(...v.map((p) => p.y)), Math.max(...v.map((p) => p.y))]; // prettier-ignore
    spans(ends).forEach((v, i) => expect(v).toBeCloseTo(spans(hull)[i]!, 2));
  });

  it('the template is the ring’s sector of its cone, 5 mm in from its paper’s corner', () => {
    const { width, height, passes } = templatePasses(reckon(cup))!;
    const box = contoursBox(passes[0]!.contours);
    expect([box.minX, box.minY]).toEqual([expect.closeTo(5, 3), expect.closeTo(5, 3)]);
    expect([width - box.maxX, height - box.maxY]).toEqual([expect.closeTo(5, 3), expect.closeTo(5, 3)]);
    // Cone of half angle α = atan(11/130): radius of an arc r / sin α, angle 2π sin α; from 40 to 80 mm of its height.
    const sine = Math.sin(Math.atan(11 / 130));
    const [outer, inner] = [at(40) / 2 / sine, at(80) / 2 / sine];
    const half = Math.PI * sine;
    expect(box.maxX - box.minX).toBeCloseTo(2 * outer * Math.sin(half), 1);
    expect(box.maxY - box.minY).toBeCloseTo(outer - inner * Math.cos(half), 1);
  });

  it('the art laid flat is as large as it is on the blank', () => {
    const r = reckon(cup);
    const { filled } = artOnBlank(r);
    const along = filled.flat().map((p) => p.along);
    const flat = contoursBox(unrolledPasses(r).find((p) => p.name === 'engrave-fill')!.contours);
    const slant = Math.hypot(130, 11) / 130;
    expect(flat.maxY - flat.minY).toBeGreaterThan((Math.max(...along) - Math.min(...along)) * slant - 0.5);
    expect((Math.max(...along) + Math.min(...along)) / 2).toBeCloseTo(60, 0);
    expect(unrolledPasses(r).map((p) => p.name)).toEqual(['engrave-fill', 'engrave-line']);
  });

  it('burns every row from the first edge of the art to its last', () => {
    const r = reckon(cup);
    const file = ok(batchProgram(cup, r, 'load') as never) as Iterable<string>;
    const rows = placesOf([...file].join('')).filter((p) => p.s > 0).map((p) => p.y); // prettier-ignore
    // What the rollers turn for an angle of the blank: its radius where they bear.
    const travel = artOnBlank(r).filled.flat().map((p) => p.angle * 46); // prettier-ignore
    const ends = (v: number[]): [number, number] => [Math.min(...v), Math.max(...v)];
    const sign = Math.abs(ends(rows)[1] - ends(travel)[1]) < 0.2 ? 1 : -1;
    const [first, last] = ends(travel.map((t) => sign * t));
    const interval = (5 * Math.PI * 20) / 3200;
    expect(ends(rows)[0] - first).toBeGreaterThanOrEqual(-1e-3);
    expect(ends(rows)[0] - first).toBeLessThan(interval + 1e-3);
    expect(last - ends(rows)[1]).toBeGreaterThanOrEqual(-1e-3);
    expect(last - ends(rows)[1]).toBeLessThan(interval + 1e-3);
    expect(r.onTheBoard).toEqual([{ slot: { slot: 1, row: 0, column: 0, angle: 0, centre: { x: 0, y: 0 } }, ordinal: 1 }]); // prettier-ignore
  });

  const shapesRound = (
    faces: readonly { angle: number; height: number; wraps?: boolean; x?: number }[],
  ): BatchInput => {
    const square = (w: number, h: number) => ({ closed: true, vertices: [{ x: 0, y: 0 }, { x: w, y: 0 }, { x: w, y: h }, { x: 0, y: h }] }); // prettier-ignore
    return {
      ...cup,
      blank: {
        ...cup.blank,
        shape: { ...cup.blank.shape, profile: [{ at: 0, diameter: 80 }, { at: 130, diameter: 80 }] } as never, // prettier-ignore
        samples: { ...cup.blank.samples, diameter: [80, 80, 80] },
        zones: faces.map((f, i) => ({ ...cup.blank.zones[0]!, id: `z${i}`, x: f.x ?? 60, width: 20, margin: 0, height: f.height, angle: (f.angle * Math.PI) / 180 })), // prettier-ignore
      },
      setup: {
        ...cup.setup,
        faces: faces.map((f, i) => ({ zoneId: `z${i}`, content: { kind: 'art', name: 'a', contours: [square(f.wraps ? 251 : f.height, 20)] }, reads: 'around', repeats: 1, wraps: f.wraps ?? false })) as never, // prettier-ignore
      },
    };
  };
  /** Rows that are burned: how far the blank is turned from the first to the last, and the angles that carry a burn, by the degree. */
  const rowsOf = (input: BatchInput) => {
    const r = reckon(input);
    const file = [...(ok(batchProgram(input, r, 'load') as never) as Iterable<string>)].join('');
    const rows = placesOf(file).filter((p) => p.s > 0);
    const { unrolling } = r.own.round!.on!;
    // The file's y to an angle of the blank, at its contact circle of 80.
    const back = (p: { x: number; y: number }): number => (((apply(invert(unrolling.toFile), p).x / 40) * 180) / Math.PI + 720) % 360; // prettier-ignore
    const y = rows.map((p) => p.y);
    return { turned: Math.max(...y) - Math.min(...y), degrees: new Set(rows.map((p) => Math.floor(back(p)))), lines: new Set(y).size }; // prettier-ignore
  };
  const degreesOf = (...ranges: [number, number][]): number[] => ranges.flatMap(([a, b]) => Array.from({ length: b - a }, (_, i) => ((a + i) % 360 + 360) % 360)); // prettier-ignore
  const whole = Math.PI * 80;
  const mmOf = (degrees: number): number => (degrees / 360) * whole;

  it('turns once for art that lies over ±180° on both sides, and burns it whole', () => {
    // At 170° and at −120°, each 80° wide: 130 … 210, and 200 … 280. As they stand that is from −160° to 210°.
    const two = shapesRound([{ angle: 170, height: mmOf(80) }, { angle: -120, height: mmOf(80), x: 90 }]); // prettier-ignore
    const { turned, degrees } = rowsOf(two);
    expect(turned).toBeCloseTo(mmOf(150), 0);
    for (const d of degreesOf([131, 209], [201, 279])) expect([d, degrees.has(d)]).toEqual([d, true]);
    for (const d of degreesOf([282, 488])) expect([d, degrees.has(d)]).toEqual([d, false]);
    // The turn is begun in what is free, so none of it is cut.
    const angles = reckon(two).own.round!.faces.map((f) => (f.places[0]!.angle * 180) / Math.PI);
    expect(angles[1]! - angles[0]!).toBeCloseTo(70, 9);
  });

  it('carries what reaches over the seam of a band on at its other side, within the one turn', () => {
    const { turned, degrees, lines } = rowsOf(shapesRound([{ angle: 0, height: 20, wraps: true }, { angle: 170, height: mmOf(60), x: 95 }])); // prettier-ignore
    expect(turned).toBeLessThan(whole);
    expect(turned).toBeGreaterThan(whole - 1);
    expect(degrees.size).toBe(360);
    expect(lines).toBeLessThan(whole / reckon(shapesRound([{ angle: 0, height: 20, wraps: true }])).own.round!.on!.interval!.used + 2); // prettier-ignore
    // Both sides of the seam carry the second face: 140° … 180°, and −180° … −160°.
    const input = shapesRound([
      { angle: 0, height: 20, wraps: true },
      { angle: 170, height: mmOf(60), x: 95 },
    ]);
    const file = [...(ok(batchProgram(input, reckon(input), 'load') as never) as Iterable<string>)].join('');
    const onBlank = placesOf(file).filter((p) => p.s > 0).map((p) => apply(invert(reckon(input).own.round!.on!.unrolling.toFile), p)); // prettier-ignore
    const there = onBlank.filter((p) => Math.abs(-p.y - 95) < 11).map((p) => p.x);
    const near = (from: number, to: number): number =>
      new Set(there.filter((y) => y > mmOf(from) && y < mmOf(to))).size;
    const count = (degrees: number): number => mmOf(degrees) / reckon(input).own.round!.on!.interval!.used;
    const [over, under] = [near(140, 180) + near(-180, -160), near(-140, 140) - 0].sort((a, b) => b - a); // prettier-ignore
    expect(over).toBeGreaterThan(count(60) - 4);
    expect([over! < count(60) + 4, under]).toEqual([true, 0]);
  });

  it('reading up is reading down turned by half a turn about its middle', () => {
    const reading = (reads: 'down' | 'up') => {
      const from = shapesRound([{ angle: 30, height: 30 }]);
      const face = from.setup.faces[0]!;
      const flag = {
        closed: true,
        vertices: [
          { x: 0, y: 0 },
          { x: 20, y: 0 },
          { x: 0, y: 8 },
        ],
      };
      const { filled } = artOnBlank(reckon({ ...from, setup: { ...from.setup, faces: [{ ...face, reads, content: { kind: 'art', name: 'flag', contours: [flag] } }] } })); // prettier-ignore
      return filled[0]!.map((p) => ({ x: (p.angle - Math.PI / 6) * 40, y: p.along - 60 }));
    };
    const [down, up] = [reading('down'), reading('up')];
    up.forEach((p, i) => expect([p.x, p.y]).toEqual([expect.closeTo(-down[i]!.x, 9), expect.closeTo(-down[i]!.y, 9)]));
    // Down: the foot of the flag (its first corner) towards the rim, so that it is read with the head to the right.
    expect(down[0]!.y).toBeLessThan(down[1]!.y);
    expect(up[0]!.y).toBeGreaterThan(up[1]!.y);
  });

  it('art is as large as its zone takes it, or true, and refused where that is larger', () => {
    const sized = (size: 'fit' | 'true' | undefined, height: number) => {
      const from = shapesRound([{ angle: 0, height }]);
      const face = from.setup.faces[0]!;
      const contours = [
        {
          closed: true,
          vertices: [
            { x: 0, y: 0 },
            { x: 24, y: 0 },
            { x: 24, y: 8 },
            { x: 0, y: 8 },
          ],
        },
      ];
      return { ...from, setup: { ...from.setup, faces: [{ ...face, content: { kind: 'art' as const, name: 'plate.svg', contours, size } }] } }; // prettier-ignore
    };
    const size = (input: BatchInput) => reckon(input).own.round!.faces[0]!.art!.size;
    // 36 mm of room for 24: half as large again; 20 mm along for 8 would take more.
    for (const choice of ['fit', undefined] as const) expect(size(sized(choice, 36))).toEqual({ width: 36, height: 12, across: 1.5, along: 1.5 }); // prettier-ignore
    expect(size(sized('true', 36))).toEqual({ width: 24, height: 8, across: 1, along: 1 });
    expect(toldOf(sized('true', 36))).not.toContain('true size');
    expect(toldOf(sized('true', 20))).toContain(
      'plate.svg is 24.0 × 8.0 mm in its true size; face takes 20.0 × 20.0 mm.',
    );
    expect(batchProgram(sized('true', 20), reckon(sized('true', 20)), 'load')).toMatchObject({ ok: false, problem: { code: 'zone' } }); // prettier-ignore
    // Burned as large as it is said: 24 mm round of 80 across, 8 along.
    const { filled } = artOnBlank(reckon(sized('true', 36)));
    const span = (v: number[]): number => Math.max(...v) - Math.min(...v);
    expect([span(filled[0]!.map((p) => p.angle * 40)), span(filled[0]!.map((p) => p.along))]).toEqual([expect.closeTo(24, 9), expect.closeTo(8, 9)]); // prettier-ignore
  });

  it('leaves what is met within one turn where it is', () => {
    const far = shapesRound([{ angle: 180, height: mmOf(60) }]);
    expect(reckon(far).own.round!.faces[0]!.places[0]!.angle).toBeCloseTo(Math.PI, 9);
    expect(rowsOf(far).turned).toBeCloseTo(mmOf(60), 0);
    // Laid flat it is seen at both ends, as much of it as lies there.
    const spread = (ends: 'go on' | 'meet') => contoursBox(unrolledPasses(reckon(far), ends).find((p) => p.name === 'engrave-fill')!.contours); // prettier-ignore
    expect(spread('go on')).toMatchObject({ minX: expect.closeTo(mmOf(150), 1), maxX: expect.closeTo(mmOf(210), 1) });
    expect(spread('meet')).toMatchObject({ minX: expect.closeTo(mmOf(-210), 1), maxX: expect.closeTo(mmOf(210), 1) });
  });

  it('takes as long for the batch as for one, so many times', () => {
    const time = turnedTime(cup, reckon(cup))!;
    expect(time.batch).toBeCloseTo(time.load * cup.quantity, 9);
    expect(time.pieces).toBe(1);
    // v² / 2a of 400 mm/s at 5000 mm/s².
    expect(time.runUp).toBeCloseTo(400 ** 2 / 10_000, 9);
    expect(time.burning).toBeLessThan(time.load);
    // Along y it is the blank that follows: its drive's acceleration, where that is less than the machine's.
    const at = (axisAcceleration: number) => turnedTime({ ...cup, drive: { ...cup.drive!, axisAcceleration } }, reckon(cup))!; // prettier-ignore
    const { moves } = ok(turnedMoves(cup, reckon(cup)));
    for (const a of [2, 700])
      expect(at(a).load).toBeCloseTo(planTime(moves, { ...cup.machine, accelerationY: a }).total, 9);
    expect(at(90_000)).toEqual(at(cup.machine.acceleration));
    // Its own strokes are not burned any faster.
    expect(at(5000).burning).toBeLessThanOrEqual(at(2).burning);
  });

  it('none without a drive, art or recipe, each said', () => {
    const none = { ...cup, drive: null };
    expect(ringGcode(none, reckon(none))).toMatchObject({ ok: false, problem: { code: 'no-drive' } });
    const empty = { ...cup, roster: [], setup: { ...cup.setup, faces: [] } };
    expect(turnedWalk(empty, reckon(empty))).toMatchObject({ ok: false, problem: { code: 'no-art' } });
  });
});
