import { accelerationSetting, BED_AXIS } from '../drive';
import { polyline, rigid, segment } from '../geometry';
import type { BatchInput, Danger, WayId } from '../setup';
import { drawnOn } from '../test-drawn';
import { loadedPieces, testStockRecipe } from '../test-batch';
import { inWay } from '../test-held';
import { exactly, readAt, reckon, saved } from '../test-reckon';
import { EXAMPLES } from '../test-ways';
import { accelerationIn, numberIn } from '../ways/round';
import { WAY_IDS, wayOf, type DrawingName, type ProgramName } from '../ways';
import { batchDrawing, batchProgram, gateOf, gatesOf, stationStates, STOPS, type Use } from '.';

/** Every file of a batch, with all that stands against it, by code. */
const filesOf = (input: BatchInput): Record<string, string[]> => {
  const r = reckon(input);
  const { drawings, programs } = wayOf(input).files;
  const codes = (made: ReturnType<typeof batchDrawing> | ReturnType<typeof batchProgram>): string[] =>
    made.ok ? [] : (made.problem.reasons ?? [made.problem]).map((p) => p.code);
  return {
    ...Object.fromEntries(Object.keys(drawings).map((n) => [`${n}.svg`, codes(batchDrawing(input, r, n as DrawingName))])), // prettier-ignore
    ...Object.fromEntries(Object.keys(programs).map((n) => [`${n}.gcode`, codes(batchProgram(input, r, n as ProgramName))])), // prettier-ignore
  };
};
const heldBack = (input: BatchInput, code?: string): string[] =>
  Object.entries(filesOf(input)).flatMap(([file, codes]) => (code === undefined ? codes.length > 0 : codes.includes(code)) ? [file] : []).sort(); // prettier-ignore

const on = (input: BatchInput): BatchInput => ({ ...input, pieces: loadedPieces([1]) });
const laid = (input: BatchInput): BatchInput => readAt(input, rigid(0, 120, 90));
const names = { roster: Array.from({ length: 24 }, () => ({ name: 'KESTREL', seat: 'LANE 1' })) };
/** Each way as far as its files go out: saved, aimed at, its number typed in, a piece on. */
const READY: { readonly [K in WayId]: (from: BatchInput) => BatchInput } = {
  pockets: (from) => on(laid(saved(exactly(from)))),
  fence: (from) => on(laid(saved(exactly(from)))),
  pegs: (from) => on(laid(saved(inWay(exactly(from), 'pegs', {}, { card: 0.2 })))),
  locator: (from) => on(saved(exactly(from))),
  sheet: (from) => on(laid(saved(exactly(from)))),
  panel: (from) => on(laid(saved(exactly(from)))),
  marked: (from) => laid(on(exactly(from))),
  long: (from) => on(from),
  feed: (from) => ({ ...on(exactly(from)), readings: [{ id: '1', mark: 1, x: 150, y: 520, source: 'typed', at: '2026-11-20T08:00:00.000Z', by: 'Odile', purpose: 'place' }] }), // prettier-ignore
  photo: (from) => on(exactly(from)),
  drive: (from) => on({ ...inWay(from, 'drive', {}, { letter: { quarters: 0, mirrored: false }, numberSet: 50.93 }), ...names }), // prettier-ignore
  cradle: (from) => on({ ...from, ...names }),
};

/** What a file is for. */
const USE: Readonly<Record<string, Use>> = {
  'load.gcode': 'burn',
  'load.svg': 'burn',
  'strip.gcode': 'burn',
  'wrap.svg': 'burn',
  'walk.gcode': 'walk',
  'target.gcode': 'walk',
  'ring.gcode': 'ring',
  'turn.gcode': 'turn',
  'letter.gcode': 'tape',
};
const useOf = (file: string): Use => USE[file] ?? (/^(card|square)\./.test(file) ? 'trial' : 'stock');
/** Aids that were not chosen are no files yet. */
const AIDS = /^(pins|pin-gauge|stand)\./;
const ready = Object.fromEntries(WAY_IDS.map((id) => [id, READY[id](EXAMPLES[id])])) as Readonly<
  Record<WayId, BatchInput>
>;
const files = Object.fromEntries(WAY_IDS.map((id) => [id, Object.keys(filesOf(ready[id])).filter((f) => !AIDS.test(f))])) as Readonly<Record<WayId, string[]>>; // prettier-ignore

describe('let out', () => {
  it.each(WAY_IDS)('%s: every file of work that is ready', (id) => {
    expect(heldBack(ready[id]).filter((f) => !AIDS.test(f))).toEqual([]);
  });
});

const beside = (input: BatchInput, part: object): BatchInput => ({ ...input, setup: { ...input.setup, beside: { ...input.setup.beside, ...part } } }); // prettier-ignore
const blank = (input: BatchInput, part: object): BatchInput => ({ ...input, blank: { ...input.blank, ...part } as BatchInput['blank'] }); // prettier-ignore
const shape = (input: BatchInput, part: object): BatchInput => blank(input, { shape: { ...input.blank.shape, ...part } }); // prettier-ignore
const machine = (input: BatchInput, part: object): BatchInput => ({ ...input, machine: { ...input.machine, ...part } });

const FLAT = ['pockets', 'fence', 'pegs', 'locator', 'sheet', 'panel', 'marked'] as const satisfies readonly WayId[];
const ROUND = ['drive', 'cradle'] as const satisfies readonly WayId[];
const NAMED = WAY_IDS.filter((id) => id !== 'long');
const handle = { kind: 'handle', from: 20, to: 100, reach: 40, width: 20, mass: 0.1 };

/** How high something stands so that so much air is left over it, mm. */
const under = (b: BatchInput, air: number): number => reckon(beside(b, { tallThings: [{ label: 'magnet', x: 0, y: 0, radius: 8, height: 0 }] })).heights.collisions.find((c) => c.thing.label === 'magnet')!.room - air; // prettier-ignore

/** Each danger, the ways it is met in, how, and whether before the fixture was saved, which keeps what stands beside it. */
const DANGERS: readonly (readonly [Danger, string, readonly WayId[], (input: BatchInput) => BatchInput, 'before'?])[] =
  [
    ['collision', 'a magnet in the head’s path', FLAT.filter((id) => id !== 'locator'), (b) => beside(b, { tallThings: [{ label: 'magnet', x: reckon(b).board!.slots[0]!.centre.x, y: reckon(b).board!.slots[0]!.centre.y, radius: 8, height: 60 }] }), 'before'], // prettier-ignore
    ['collision', 'a magnet with half a millimetre of air', FLAT.filter((id) => id !== 'locator'), (b) => beside(b, { tallThings: [{ label: 'magnet', x: reckon(b).board!.slots[0]!.centre.x, y: reckon(b).board!.slots[0]!.centre.y, radius: 8, height: under(b, 0.5) }] }), 'before'], // prettier-ignore
    ['collision', 'a stack too tall for the head', ['drive'], (b) => machine(b, { bedLowest: 60 })],
    ['collision', 'a handle that comes under the nozzle', ['drive'], (b) => shape(b, { feature: handle })],
    [
      'turn',
      'a handle that lets it turn too little for a ring',
      ['drive'],
      (b) => inWay(shape(b, { feature: { ...handle, reach: 5 } }), 'drive', { zeroAt: 2 }),
    ],
    ['grip', 'an axis set too fast', ['drive'], (b) => ({ ...b, drive: { ...b.drive!, axisAcceleration: 90_000 } })],
    ['zone', 'a name longer than its zone', NAMED.filter((id) => id !== 'sheet'), (b) => ({ ...b, roster: b.roster.map((row) => ({ ...row, name: 'SKERRY SOUND '.repeat(12) })) })], // prettier-ignore
    [
      'zone',
      'art longer than one turn',
      ['drive'],
      (b) => blank(b, { zones: [{ ...b.blank.zones[0]!, height: 300 }] }),
    ],
    ['zone', 'art over the rim', ROUND, (b) => blank(b, { zones: [{ ...b.blank.zones[0]!, x: 15 }] })],
    ['zone', 'lettering over a notch in the blank', ['pockets', 'fence'], (b) => shape(b, { kind: 'outline', source: 'drawn', contours: [polyline([[-30, -12.5], [-4, -12.5], [0, 8], [4, -12.5], [30, -12.5], [30, 12.5], [-30, 12.5]].map(([x, y]) => ({ x: x!, y: y! })), true)] }), 'before'], // prettier-ignore
    ['zone', 'lettering over the edge of its blank', ['photo'], (b) => blank(b, { zones: [{ ...b.blank.zones[0]!, x: 24 }] })], // prettier-ignore
    ['zone', 'art over the edge of the work', ['long'], (b) => drawnOn(b, [{ kind: 'line', contour: segment({ x: 10, y: 0 }, { x: 1990, y: 320 }) }])], // prettier-ignore
    ['grip', 'a stop at which no roller holds the strip', ['feed'], (b) => ({ ...b, feeder: { ...b.feeder!, rollers: [-900] } })], // prettier-ignore
    ['outline', 'a card that is no trial of this blank', ['pegs'], (b) => inWay(b, 'pegs', {}, { card: 1.2 })],
    ['zone', 'art away from the crest', ['cradle'], (b) => blank(b, { zones: [{ ...b.blank.zones[0]!, angle: 1 }] })],
    [
      'focus',
      'a board bowed by 5 mm',
      FLAT.filter((id) => id !== 'locator'),
      (b) => beside(b, { boardWarp: 5 }),
      'before',
    ],
    ['focus', 'a side that bows out of it', ['drive'], (b) => shape(b, { profile: [{ at: 0, diameter: 92 }, { at: 60, diameter: 72 }, { at: 130, diameter: 92 }] })], // prettier-ignore
    ['focus', 'art wider than what is in focus', ['cradle'], (b) => blank(b, { zones: [{ ...b.blank.zones[0]!, height: 40 }] })], // prettier-ignore
    [
      'recipe',
      'a recipe of another machine',
      WAY_IDS,
      (b) => ({
        ...b,
        recipe: { ...b.recipe!, machineId: 'other' },
        stockRecipe: { ...b.recipe!, machineId: 'other' },
      }),
    ],
    ['recipe', 'a material that is never burned', WAY_IDS, (b) => ({ ...b, recipe: b.recipe && { ...b.recipe, material: 'PVC film' }, stockRecipe: b.stockRecipe && { ...b.stockRecipe, material: 'PVC film' } })], // prettier-ignore
    ['recipe', 'a recipe below what its source fires at', WAY_IDS, (b) => machine(b, { leastPower: 0.6 })],
    ['roster', 'a list with other headings', NAMED.filter((id) => id !== 'sheet'), (b) => ({ ...b, roster: b.roster.map(() => ({ boat: 'KESTREL' })) })], // prettier-ignore
    ['roster', 'a piece without a name', NAMED.filter((id) => id !== 'sheet'), (b) => ({ ...b, roster: b.roster.map(() => ({ name: '', seat: ' ' })) })], // prettier-ignore
    ['roster', 'a list that ends too soon', NAMED.filter((id) => id !== 'sheet'), (b) => ({ ...b, roster: [] })],
    ['settings', 'the bed’s own axis as flasks left it', WAY_IDS, (b) => ({ ...b, elsewhere: [{ batch: 'Umpire flasks', setting: BED_AXIS, was: '80', now: '16.168' }] })], // prettier-ignore
    ['settings', 'its own number typed over by another batch', ['drive'], (b) => ({ ...b, elsewhere: [{ batch: 'Mugs', setting: reckon(b).own.round!.on!.control.where, was: '80', now: '15.2' }] })], // prettier-ignore
    ['fixture', 'blanks that outgrew their board', ['pockets', 'fence'], (b) => blank(b, { samples: { length: [66, 66.1, 66.2], width: [25, 25, 25], thickness: [1.5] } })], // prettier-ignore
  ];

describe('held back', () => {
  it.each(
    DANGERS.flatMap(([danger, words, ways, change, when]) =>
      ways.map((id) => [danger, words, id, change, when] as const),
    ),
  )(
    'for %s, %s: %s, what burns, walks or is burned on tape as the table says, and nothing else',
    (danger, _, id, change, when) => {
      const input = when === 'before' ? READY[id](change(EXAMPLES[id])) : change(ready[id]);
      const wanted = files[id].filter((file) => STOPS[danger].includes(useOf(file)));
      expect(heldBack(input, danger).filter((f) => !AIDS.test(f))).toEqual(wanted.sort());
    },
  );

  it.each(WAY_IDS)(
    'burns no blank with a recipe for another material, and makes what holds it all the same: %s',
    (id) => {
      const of = (material: string | null): string[] => heldBack(blank(ready[id], { material }), 'recipe').filter((f) => !AIDS.test(f)); // prettier-ignore
      expect(of('slate, 6 mm')).toEqual(files[id].filter((f) => ['burn', 'tape', 'ring'].includes(useOf(f))).sort());
      for (const right of [null, '', ' Acrylic ']) expect(of(right)).toEqual([]);
      const [why] = gateOf(blank(ready[id], { material: 'slate, 6 mm' }), reckon(blank(ready[id], { material: 'slate, 6 mm' })), 'load'); // prettier-ignore
      const { state, waits } = stationStates(blank(ready[id], { material: 'slate, 6 mm' }), reckon(ready[id])).find(
        (s) => s.id === 'burn',
      )!;
      expect([state, waits]).toEqual(['entered', 'choose a recipe for slate, 6 mm']);
      expect(why!.message).toMatch(/is for acrylic; .* is made of slate, 6 mm\. Choose a recipe for that/);
    },
  );

  it('cuts what holds the pieces with a recipe of its own material, never with the pieces’', () => {
    const bare = { ...ready.pegs, stockRecipe: null };
    const codes = filesOf(bare);
    expect(Object.entries(codes).filter(([, c]) => c.includes('no-stock-recipe')).map(([f]) => f).sort()).toEqual(expect.arrayContaining(['board.gcode', 'card.gcode'])); // prettier-ignore
    expect([codes['board.svg'], codes['load.gcode'], codes['walk.gcode']]).toEqual([[], [], []]);
    const other = { ...ready.pegs, stockRecipe: { ...testStockRecipe, machineId: 'other' } };
    expect([filesOf(other)['board.gcode'], filesOf(other)['load.gcode']]).toEqual([['recipe'], []]);

    const made = batchProgram(ready.pegs, reckon(ready.pegs), 'board');
    if (!made.ok) throw new Error(made.problem.message);
    const text = [...made.value].join('');
    const words = (letter: string): number[] => [...new Set([...text.matchAll(new RegExp(`${letter}([\\d.]+)`, 'g'))].map((m) => Number(m[1])))].sort((a, b) => a - b); // prettier-ignore
    // Plywood: 22 % and 82 % of 1000; 220 and 14 mm/s, and the way between at the machine's own speed, in mm/min.
    expect(words('S').filter((s) => s > 0)).toEqual([220, 820]);
    expect(words('F')).toEqual(expect.arrayContaining([840, 13_200]));
    expect(words('F')).not.toEqual(expect.arrayContaining([720]));
  });

  it('says what another batch left, what would come of it, and where it is mended; what touches nothing here is let out', () => {
    const left = (setting: string): BatchInput => ({ ...ready.pockets, elsewhere: [{ batch: 'Umpire flasks', setting, was: '80', now: '16.168' }] }); // prettier-ignore
    expect(gateOf(left(BED_AXIS), reckon(left(BED_AXIS)), 'load')).toEqual([
      expect.objectContaining({ code: 'settings', field: 'run', message: expect.stringContaining('would come out 0.20 times as long in y as it is drawn. Put it back to 80') }), // prettier-ignore
    ]);
    for (const setting of ['rotary, travel of a turn', 'y axis, acceleration', 'air pressure']) expect(gateOf(left(setting), reckon(left(setting)), 'load')).toEqual([]); // prettier-ignore
  });

  it('counts a number that was put back, or typed over elsewhere, as not typed in', () => {
    const { where, value } = reckon(ready.drive).own.round!.on!.control;
    const entry = { id: 'p', setting: where, was: '80', now: String(value), restoredAt: null };
    const with_ = (restoredAt: string | null): BatchInput => ({ ...ready.drive, putbacks: [{ ...entry, restoredAt }] });
    expect([with_(null), with_('2026-11-20T10:00:00Z')].map((b) => numberIn(b, { where }))).toEqual([value, null]);
    const made = (b: BatchInput): string =>
      ((p) => (p.ok ? 'out' : p.problem.code))(batchProgram(b, reckon(b), 'load'));
    expect([with_(null), with_('2026-11-20T10:00:00Z')].map(made)).toEqual(['out', 'number-not-set']);
  });

  it('counts an axis that was put back to its own acceleration, or set faster elsewhere, as too fast', () => {
    const quick = { ...inWay(ready.drive, 'drive', {}, { accelerationSet: 700 }), drive: { ...ready.drive.drive!, axisAcceleration: 90_000 } }; // prettier-ignore
    const entry = { id: 'p', setting: accelerationSetting(quick.drive), was: '90000', now: '700', restoredAt: null };
    const left = (now: string): BatchInput => ({ ...quick, elsewhere: [{ batch: 'Mugs', setting: entry.setting, was: '90000', now }] }); // prettier-ignore
    const stands = (b: BatchInput): [string, number, string[]] => ['stands', accelerationIn(b, b.drive!), heldBack(b, 'grip')]; // prettier-ignore
    const all = files.drive.filter((file) => STOPS.grip.includes(useOf(file))).sort();
    expect(all).toEqual(expect.arrayContaining(['load.gcode', 'ring.gcode', 'walk.gcode']));
    expect(stands({ ...quick, putbacks: [entry] })).toEqual(['stands', 700, []]);
    expect(stands({ ...quick, putbacks: [{ ...entry, restoredAt: '2026-11-20T10:00:00Z' }] })).toEqual(['stands', 90_000, all]); // prettier-ignore
    expect(stands(left('500'))).toEqual(['stands', 500, []]);
    expect(stands(left('60000'))).toEqual(['stands', 60_000, all]);
    // Written down by hand in words of one's own: nobody knows, so the drive's own counts.
    expect(stands(left('slower'))[1]).toBe(90_000);
  });

  it('with all its reasons at once, each with the place to mend it', () => {
    const b = { ...READY.pockets(beside(EXAMPLES.pockets, { boardWarp: 5 })), roster: [], readings: [] };
    const made = batchProgram(b, reckon(b), 'load');
    expect(made.ok ? [] : made.problem.reasons!.map((p) => [p.code, p.field])).toEqual([['focus', 'hold'], ['roster', 'run'], ['not-placed', 'place']]); // prettier-ignore
  });

  it('for what is wrong with the pieces that are on, not for those that wait', () => {
    const roster = ready.pockets.roster.map((row, i) => (i === 4 ? { name: '', seat: '' } : row));
    const withOn = (slot: number) => gateOf({ ...ready.pockets, roster, pieces: loadedPieces([slot]) }, reckon({ ...ready.pockets, roster, pieces: loadedPieces([slot]) }), 'load'); // prettier-ignore
    expect(withOn(1)).toEqual([]);
    expect(withOn(5).map((p) => p.message)).toEqual(['Piece 5 would be blank: name and seat are empty in the list.']);
  });

  it('before it is known where the work lies, as a drawing too', () => {
    for (const id of ['pockets', 'sheet', 'marked', 'feed'] as const)
      expect([id, heldBack({ ...ready[id], readings: [] }).filter((f) => !AIDS.test(f))]).toEqual([
        id,
        files[id].filter((f) => ['burn', 'walk'].includes(useOf(f))).sort(),
      ]);
  });
});

describe('what a page shows of it', () => {
  it('is nothing for work that is ready, and every file that is held back, by its name', () => {
    for (const id of WAY_IDS) expect([id, gatesOf(ready[id], reckon(ready[id]))]).toEqual([id, {}]);
    const bare = { ...ready.sheet, roster: [] };
    const gates = gatesOf(bare, reckon(bare));
    expect(Object.keys(gates).sort()).toEqual(['load', 'load.gcode', 'print']);
    expect(gates.print![0]!.message).toBe('There is no list yet of what the pieces carry. Bring it in.');
  });

  it('is, before anything is pressed, all that making the file would refuse, dangers before what is not done yet', () => {
    for (const id of WAY_IDS) {
      // Nothing was read, typed in, chosen or laid on; names are there.
      const begun = { ...EXAMPLES[id], recipe: null, stockRecipe: null };
      const r = reckon(begun);
      const gates = gatesOf(begun, r);
      const made = filesOf(begun);
      const told = Object.fromEntries(Object.keys(made).map((f) => [f, (gates[(f.endsWith('.svg') ? f.slice(0, -4) : f) as 'load'] ?? []).map((p) => p.code)])); // prettier-ignore
      expect([id, Object.fromEntries(Object.entries(told).filter(([f]) => !AIDS.test(f) || told[f]!.length > 0))]).toEqual([id, Object.fromEntries(Object.entries(made).filter(([f]) => !AIDS.test(f) || told[f]!.length > 0))]); // prettier-ignore
      for (const reasons of Object.values(gates)) expect(reasons.map((p) => p.waits)).toEqual(reasons.map((p) => p.waits).sort()); // prettier-ignore
    }
    const codes = (id: WayId, file: 'load.gcode' | 'board.gcode' | 'ring.gcode' | 'walk.gcode' | 'board'): string[] => {
      const begun = { ...EXAMPLES[id], recipe: null, stockRecipe: null };
      return (gatesOf(begun, reckon(begun))[file] ?? []).map((p) => p.code);
    };
    expect(codes('pockets', 'load.gcode')).toEqual(['not-placed', 'no-load', 'no-recipe']);
    expect([codes('pockets', 'board.gcode'), codes('pockets', 'board'), codes('pockets', 'walk.gcode')]).toEqual([['no-stock-recipe'], [], ['not-placed']]); // prettier-ignore
    expect(codes('drive', 'load.gcode')).toEqual(expect.arrayContaining(['no-letter', 'number-not-set', 'no-load', 'no-recipe'])); // prettier-ignore
    expect([codes('drive', 'ring.gcode'), codes('drive', 'walk.gcode'), codes('cradle', 'walk.gcode')]).toEqual([['no-recipe'], ['no-recipe'], ['no-recipe']]); // prettier-ignore
  });
});

describe('a recipe that is a program', () => {
  const by = (b: BatchInput, engrave: object, after?: NonNullable<BatchInput['recipe']>['after']): BatchInput => ({ ...b, recipe: { ...b.recipe!, engrave: { ...b.recipe!.engrave, ...engrave }, after } }); // prettier-ignore
  const polish = { power: 0.5, speed: 300, interval: 0.1, passes: 1 };
  const why = (b: BatchInput, file: ProgramName = 'load'): string => gateOf(b, reckon(b), file).map((p) => p.message).join(' '); // prettier-ignore
  const FLAT_WORK = ['pockets', 'fence', 'pegs', 'locator', 'panel', 'marked', 'long', 'photo'] as const;

  it.each(FLAT_WORK)('is written whole for flat work: %s', (id) => {
    const b = by(ready[id], { angle: 0.5, focus: 1, air: 'on' }, [polish]);
    expect(why(b)).toBe('');
    const made = batchProgram(b, reckon(b), 'load');
    if (!made.ok) throw new Error(made.problem.message);
    const text = typeof made.value === 'string' ? made.value : [...made.value].join('');
    expect(text).toMatch(/M8\n[^]*\(set the lens 1\.0 mm above focus, then start again\)\nM0/);
    // In focus again for the burn that follows.
    expect(text).toMatch(/\(set the lens in focus, then start again\)\nM0/);
  });
  it.each([
    ['lines that are turned', {}, [{ ...polish, angle: 1 }]],
    ['lines that are turned and a lens out of focus', { turn: 1 }, [{ ...polish, focus: 1 }]],
    ['a lens out of focus and the second source', { focus: -2, source: 'second' as const }, undefined],
  ])('is held back round a cup, which goes line by line: %s', (what, engrave, after) => {
    const b = by(machine(ready.drive, { second: { source: 'fibre', power: 20, leastPower: 0, offset: { x: 0, y: 0 } } }), engrave, after); // prettier-ignore
    expect(why(b)).toContain(`has ${what}, which round work cannot be burned with`);
    expect(heldBack(b, 'recipe').filter((f) => !AIDS.test(f))).toEqual(expect.arrayContaining(['load.gcode']));
  });
  it('goes round a cup anew for each burn that follows, and is one burn in a cradle', () => {
    const b = by(ready.drive, {}, [polish]);
    expect(why(b)).toBe('');
    const powers = (text: string): string[] => [...new Set(text.match(/S[1-9]\d*/g))];
    const text = (of: BatchInput): string => {
      const made = batchProgram(of, reckon(of), 'load');
      if (!made.ok) throw new Error(made.problem.message);
      return typeof made.value === 'string' ? made.value : [...made.value].join('');
    };
    // As much energy at the drive’s own whole steps: 50 % of another interval.
    const share = reckon(ready.drive).own.round!.on!.interval!.used / polish.interval;
    expect(powers(text(b))).toEqual([...powers(text(ready.drive)), `S${Math.round(500 * share)}`]);
    expect(text(b).length / text(ready.drive).length).toBeCloseTo(2, 1);
    expect(why(by(ready.cradle, {}, [polish]))).toContain(
      'has a burn that follows, which round work cannot be burned with',
    );
  });
  it.each(['long', 'feed'] as const)(
    'goes by no second source where the promise does not hold what its beam adds: %s',
    (id) => {
      const b = by(machine(ready[id], { second: { source: 'fibre', power: 20, leastPower: 0, offset: { x: 5, y: 0 } } }), { source: 'second' }); // prettier-ignore
      const file = id === 'long' ? 'load' : 'strip';
      expect(why(b, file)).toMatch(/has the second source, which (long work|a strip) cannot be burned with/);
    },
  );
  it('never brings the nozzle into the work or what stands beside it with a lens below focus', () => {
    // The nozzle of the test machine is 6 mm over what is in focus; 1 mm of air is the least.
    expect(why(by(ready.pockets, { focus: -4.9 }))).toBe('');
    expect(why(by(ready.pockets, {}, [{ ...polish, focus: -5.2 }]))).toBe(
      'Recipe Slate brings the lens 5.2 mm below focus; the nozzle of Bench A is 6.0 mm over the work in focus, and would all but touch it. Choose one above focus.',
    );
    expect(why(by(ready.pockets, { focus: -7 }))).toContain('would be in it');
    // 1.5 mm of blank, 6 of gap: a screw of 5 mm is passed over in focus, and hit when the lens is 3 mm lower.
    const screw = { tallThings: [{ label: 'Screw', x: 60, y: 60, radius: 3, height: 5 }] };
    const from = exactly(EXAMPLES.pockets);
    const heights = (b: BatchInput) => reckon(beside(b, screw)).heights.collisions[0]!.room;
    expect(heights(from)).toBeCloseTo(2.5, 9);
    expect(heights(by(from, { focus: -3 }))).toBeCloseTo(-0.5, 9);
    expect(heights(by(from, {}, [{ ...polish, focus: -3 }]))).toBeCloseTo(-0.5, 9);
    expect(heights(by(from, { focus: 3 }))).toBeCloseTo(2.5, 9);
    const lines = reckon(beside(by(from, { focus: -3 }), screw)).heights.working;
    expect(lines.find((l) => l.label === 'nozzle above the bed')).toMatchObject({ formula: 'blank top + nozzle gap − lens below focus', result: '4.50 mm' }); // prettier-ignore
  });
  it('asks of each burn whether its source is there and fires', () => {
    const second = by(ready.pockets, {}, [{ ...polish, source: 'second' }]);
    expect(why(second)).toMatch(/^Recipe Slate burns, as its burn 2, with a second source; Bench A has one\./);
    const with20 = (leastPower: number) => machine(second, { second: { source: 'fibre', power: 20, leastPower, offset: { x: 5, y: 0 } } }); // prettier-ignore
    expect(why(with20(0.6))).toMatch(/at 50 %; the second source of Bench A does not fire below 60 %/);
    expect(why(with20(0.1))).toBe('');
  });
});

describe('its words', () => {
  const told = (change: (b: BatchInput) => BatchInput, file: ProgramName = 'load'): string =>
    gateOf(change(ready.pockets), reckon(change(ready.pockets)), file)[0]!.message;
  it('name the columns that are missing and those that are there', () => {
    expect(told((b) => ({ ...b, roster: b.roster.map(() => ({ boat: 'x', crew: 'y' })) }))).toBe(
      'The list has no columns “name” and “seat”, which the pieces are filled from. Choose a column that it has (boat and crew), or bring in the right list.',
    );
  });
  it('say what a recipe asks for and what the machine fires from', () => {
    // Engraved at 35 %, cut at 70 %.
    expect(told((b) => machine(b, { leastPower: 0.4 }))).toBe('Recipe Slate engraves at 35 %; Bench A does not fire below 40 %. Choose one with more power and speed.'); // prettier-ignore
    expect(told((b) => ({ ...machine(b, { leastPower: 0.75 }), recipe: { ...b.recipe!, engrave: { ...b.recipe!.engrave, power: 0.8 } } }))).toContain('Slate cuts at 70 %; Bench A does not fire below 75 %'); // prettier-ignore
  });
  it('ask nothing of a cut that a recipe does not make', () => {
    const engraves = machine({ ...ready.pockets, recipe: { ...ready.pockets.recipe!, cut: { ...ready.pockets.recipe!.cut, power: 0 } } }, { leastPower: 0.3 }); // prettier-ignore
    expect(gateOf(engraves, reckon(engraves), 'load')).toEqual([]);
  });
  it('name pieces, the rest of many counted', () => {
    const all = { pieces: loadedPieces(Array.from({ length: 24 }, (_, i) => i + 1)) };
    expect(told((b) => ({ ...b, ...all, roster: b.roster.slice(0, 22) }))).toBe(
      'The list ends before pieces 23 and 24. Bring in the whole of it, or make the batch smaller.',
    );
    expect(told((b) => ({ ...b, ...all, roster: b.roster.slice(0, 4) }))).toContain('pieces 5, 6, 7, 8, 9 and 15 more.'); // prettier-ignore
  });
});
