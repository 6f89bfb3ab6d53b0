import { freshWork } from '../feeder';
import { inWay, savedAs } from '../test-held';
import {
  batchDrawing,
  batchProgram,
  benchSteps,
  firstIsApproved,
  hasPaper,
  leavesBed,
  loadWords,
  marksToRead,
  needsRoster,
  nextFill,
  notBurned,
  placesInWords,
  reckonBatch,
  routeOf,
  stationStates,
} from '../batch';
import { heldAs, type BatchInput, type BatchReckoning, type StationState, type WayId } from '../setup';
import { testAlphabets } from '../test-alphabets';
import { loadedPieces } from '../test-batch';
import { EXAMPLES } from '../test-ways';
import { WAY_IDS, WAYS, wayOf, type DrawingName } from '.';

const options = {
  now: new Date('2026-11-20T00:00:00Z'),
  alphabets: testAlphabets,
  labels: 'readability',
  simulatedPieces: 200,
};
const reckoned = (input: BatchInput): BatchReckoning => reckonBatch(input, options);
const stateOf = (input: BatchInput, id: StationState['id']): StationState =>
  stationStates(input, reckoned(input)).find((s) => s.id === id)!;

/** States that every job goes through, whichever way it is held. */
const STATES: Readonly<Record<string, (input: BatchInput) => BatchInput>> = {
  'as it is': (b) => b,
  'with nothing': (b) => ({ ...b, recipe: null, roster: [], drive: null, feeder: null, feeders: [] }),
  'first piece loaded': (b) => ({ ...b, firstApproved: false, pieces: loadedPieces([1]) }),
  'first piece done': (b) => ({
    ...b,
    firstApproved: false,
    pieces: loadedPieces([1]).map((p) => ({ ...p, state: 'done' as const })),
  }),
  'all done': (b) => ({
    ...b,
    pieces: loadedPieces(Array.from({ length: b.quantity }, (_, i) => i + 1)).map((p) => ({
      ...p,
      state: 'done' as const,
    })),
  }),
};
const everyState = Object.entries(EXAMPLES).flatMap(([id, input]) =>
  Object.entries(STATES).map(([state, change]) => [id, state, change(input)] as const),
);

describe('every way of holding', () => {
  it.each(WAY_IDS)('%s is registered under its own name, and its example is held so', (id) => {
    expect(WAYS[id].id).toBe(id);
    expect(wayOf(EXAMPLES[id]).id).toBe(id);
  });

  it.each(everyState)(
    '%s, %s: begins at the blank, ends with closing, each station once and answered',
    (_, __, input) => {
      const states = stationStates(input, reckoned(input));
      const ids = states.map((s) => s.id);
      expect([ids[0], ids.at(-1), new Set(ids).size]).toEqual(['blank', 'close', ids.length]);
      expect(ids).toEqual(routeOf(input));
      // What is proved waits for nothing; what is not says what it waits for.
      for (const s of states) expect([s.id, s.state === 'proved']).toEqual([s.id, s.waits === '']);
      const way = wayOf(input);
      for (const own of ['hold', 'drive', 'feed', 'place'] as const)
        if (ids.includes(own)) expect([own, typeof way.stations[own]]).toEqual([own, 'function']);
    },
  );

  it.each(everyState)('%s, %s: its steps belong to its stations, each by a name of its own', (_, __, input) => {
    const steps = benchSteps(input, reckoned(input));
    const names = steps.map((s) => s.id);
    expect(names).toHaveLength(new Set(names).size);
    const route = routeOf(input);
    expect(steps.filter((s) => !route.includes(s.station)).map((s) => `${s.station}: ${s.title}`)).toEqual([]);
    expect(names.slice(-4)).toEqual(['close.putback', 'close.fixture', 'close.finish', 'close.batch']);
    // Nobody is told of a board, a sheet or a piece that has no name.
    for (const { title, detail } of steps) expect(`${title} ${detail ?? ''}`).not.toMatch(/undefined|null|NaN/);
  });

  it.each(WAY_IDS)('%s: is focused once, on what is engraved, before anything is aimed at, walked or burned', (id) => {
    const input = { ...EXAMPLES[id], pieces: id === 'long' ? loadedPieces([1]) : [] };
    const steps = benchSteps(input, reckoned(input));
    const focus = steps.filter((s) => s.title.startsWith('Focus on '));
    expect(focus).toHaveLength(1);
    const at = steps.indexOf(focus[0]!);
    const early = steps.slice(0, at).filter((s) => s.takes?.kind === 'reading' || s.takes?.kind === 'burn');
    expect(early.map((s) => s.title)).toEqual([]);
    expect(
      steps
        .slice(0, at)
        .flatMap((s) => s.files ?? [])
        .map(([file]) => file),
    ).not.toContain('walk.gcode');
  });

  it('has blanks that a camera sees focused on, not the bed under them, by their thickness', () => {
    const focus = benchSteps(EXAMPLES.photo, reckoned(EXAMPLES.photo)).find((s) => s.id === 'hold.focus')!;
    const { thickness } = EXAMPLES.photo.blank.samples;
    const mean = thickness.reduce((a, b) => a + b, 0) / thickness.length;
    expect(Number(focus.figure!.value)).toBeCloseTo(mean, 2);
  });

  it.each(everyState)('%s, %s: its reckoning is plain data that crosses to a worker', (_, __, input) => {
    const r = reckoned(input);
    expect(structuredClone(r)).toEqual(r);
  });

  it('waits for the approval of a first piece, but where all are burned at once', () => {
    const waiting = WAY_IDS.filter((id) => {
      const input = { ...EXAMPLES[id], firstApproved: false };
      return !firstIsApproved(input);
    });
    expect(waiting).toEqual(WAY_IDS.filter((id) => !['sheet', 'panel', 'long'].includes(id)));
    const long = inWay({ ...EXAMPLES.feed, firstApproved: false }, 'feed', { work: freshWork('long') });
    expect(firstIsApproved(long)).toBe(true);
  });

  it('needs names only where they are engraved or printed', () => {
    const needing = WAY_IDS.filter((id) => needsRoster(EXAMPLES[id]));
    expect(needing).toEqual(WAY_IDS.filter((id) => id !== 'long'));
    const bare = { ...EXAMPLES.drive, setup: { ...EXAMPLES.drive.setup, faces: [] } };
    expect(needsRoster(bare)).toBe(false);
    expect(stateOf({ ...EXAMPLES.long, roster: [] }, 'run').waits).toBe('take the first work');
  });

  it('asks for measured pieces only where they are not as large as they are drawn', () => {
    const measured = WAY_IDS.filter((id) => {
      const blank = { ...EXAMPLES[id].blank, samples: { length: [], width: [], thickness: [] } };
      return stateOf({ ...EXAMPLES[id], blank }, 'blank').state !== 'proved';
    });
    expect(measured).toEqual(WAY_IDS.filter((id) => !['sheet', 'panel', 'long', 'marked'].includes(id)));
  });
});

describe('what each puts away', () => {
  const closing = (input: BatchInput): string => {
    const { title, detail } = benchSteps(input, reckoned(input)).find((s) => s.id === 'close.fixture')!;
    return `${title}. ${detail}`;
  };

  it.each(['pockets', 'fence', 'pegs', 'locator'] as const)('%s: its board, by its label', (id) => {
    expect(closing(EXAMPLES[id])).toBe('Board back on its shelf. Labelled BOATTAG r1.');
  });
  it.each(['sheet', 'panel', 'long', 'marked', 'photo'] as const)(
    '%s: nothing but waste, for there is no board',
    (id) => {
      expect(closing(EXAMPLES[id])).toMatch(/^Bed clean\./);
    },
  );
  it('feeder, drive and cradle each their own', () => {
    expect(closing(EXAMPLES.feed)).toMatch(/^Feeder and bed clean\./);
    expect(closing(EXAMPLES.drive)).toMatch(/^Drive back on its shelf\. Power off first/);
    expect(closing(EXAMPLES.cradle)).toMatch(/^Cradle back on its shelf\./);
  });
});

describe('photographs', () => {
  it('are placed by themselves, but by a printed sheet of marks that is aimed at', () => {
    expect(routeOf(EXAMPLES.photo)).not.toContain('place');
    const printed = inWay(EXAMPLES.photo, 'photo', { marksOn: 'sheet' });
    expect(stateOf(printed, 'place')).toMatchObject({ state: 'not started', waits: 'aim at mark 1' });
    // Parts are cut out, like a panel's, and yet no sheet is taken or turned.
    const offcuts = inWay(printed, 'photo', { use: 'offcuts' });
    expect(stateOf(offcuts, 'place').waits).toBe('aim at mark 1');
    expect(stateOf(offcuts, 'run').waits).toBe('burn the first piece');
  });
});

describe('a board that waits', () => {
  it('is tried in card first for pegs, and built and repeated for a locator', () => {
    expect(stateOf(EXAMPLES.pegs, 'hold').waits).toBe('lay a blank on the trial in card');
    expect(stateOf(inWay(EXAMPLES.pegs, 'pegs', {}, { card: 0.2 }), 'hold').waits).toBe(
      'save the board to the Shelf and cut it',
    );
    expect(stateOf(EXAMPLES.locator, 'hold').waits).toBe('save the locator board to the Shelf');
  });
});

describe('a load', () => {
  const saved = (input: BatchInput): BatchInput => ({ ...input, fixture: savedAs(input, reckoned(input).basis) });
  const filled = (input: BatchInput) => nextFill(input, reckoned(input));
  const codeOf = (made: ReturnType<typeof filled>): string => (made.ok ? '' : made.problem.code);

  it('waits for a saved board where pieces lie in one, and for nothing saved where they lie by themselves', () => {
    const boards = ['pockets', 'fence', 'pegs', 'locator', 'sheet', 'panel'] as const;
    for (const id of boards) expect([id, codeOf(filled(EXAMPLES[id]))]).toEqual([id, 'no-board']);
    for (const id of WAY_IDS.filter((w) => !boards.includes(w as (typeof boards)[number])))
      expect([id, codeOf(filled(EXAMPLES[id]))]).toEqual([id, '']);
  });

  it.each(WAY_IDS)('%s: is one piece alone first, or all at once where all are burned at once', (id) => {
    const input = { ...saved(EXAMPLES[id]), firstApproved: false };
    const fill = filled(input);
    if (!fill.ok) throw new Error(fill.problem.message);
    expect(fill.value[0]).toEqual({ ordinal: 1, slot: 1 });
    const alone = !firstIsApproved(input);
    // A long piece and what lies on a drive go one by one, approved or not.
    expect([id, fill.value.length === 1]).toEqual([id, alone || id === 'long']);
    const open = filled({ ...input, pieces: loadedPieces([1]) });
    expect(codeOf(open)).toBe('load-open');
    const short = filled({ ...input, roster: input.roster.slice(0, 3) });
    expect(codeOf(short)).toBe(id === 'long' ? '' : 'roster-short');
  });

  it('goes to places that are said in words, where pieces have places', () => {
    const said = Object.fromEntries(
      WAY_IDS.map((id) => [id, placesInWords(EXAMPLES[id], reckoned(EXAMPLES[id]))]),
    ) as Record<WayId, string>;
    for (const id of ['pockets', 'fence'] as const) {
      const { pocket, board } = reckoned(EXAMPLES[id]);
      const [, count, length, width] = /^(\d+) pockets of ([\d.]+) × ([\d.]+) mm$/.exec(said[id])!.map(Number);
      expect(count).toBe(board!.slots.length);
      // To a hundredth, as a caliper reads.
      expect([length! - pocket.length, width! - pocket.width].every((d) => Math.abs(d) <= 0.005)).toBe(true);
    }
    expect(said.pegs).toMatch(/^\d+ places with two pegs each$/);
    expect(said.locator).toMatch(/^a grid of \d+ × \d+ lines$/);
    for (const id of ['sheet', 'panel', 'marked'] as const)
      expect(said[id]).toBe(`${reckoned(EXAMPLES[id]).board!.slots.length} places`);
    for (const id of ['long', 'feed', 'photo', 'drive', 'cradle'] as const) expect(said[id]).toBe('no places');
  });

  it('is taken by words of its own way', () => {
    const words = (input: BatchInput): string => loadWords(input, reckoned(input)).take;
    const first = Object.fromEntries(WAY_IDS.map((id) => [id, words({ ...EXAMPLES[id], firstApproved: false })]));
    const board = 'Lay in the first piece';
    expect(first).toEqual({
      pockets: board,
      fence: board,
      pegs: board,
      locator: board,
      // As many as the sheet has places.
      sheet: `Lay in the next ${reckoned(EXAMPLES.sheet).board!.slots.length}`,
      panel: `Lay in the next ${reckoned(EXAMPLES.panel).board!.slots.length}`,
      long: 'Take the work',
      marked: 'Take the first piece',
      feed: 'It lies in the feeder: begin',
      photo: 'Take the first blank of the photograph',
      drive: 'Lay the first piece on',
      cradle: 'Lay the first piece on',
    });
    expect(words(EXAMPLES.photo)).toBe('Take 3 blanks of the photograph');
    expect(words(EXAMPLES.marked)).toBe('Take the next piece');
    const turned = { ...EXAMPLES.panel, ticks: ['place.turned'] };
    expect(loadWords(turned, reckoned(turned)).burned).toBe('Second file, side two');
  });

  it('of a photograph waits for answers, and ends with its blanks', () => {
    const { blanks } = heldAs(EXAMPLES.photo, 'photo').found;
    const asked = blanks.map((f) => ({ ...f, ask: true }));
    expect(filled(inWay(EXAMPLES.photo, 'photo', {}, { blanks: asked }))).toMatchObject({
      problem: { code: 'photo-asks', message: '3 of the blanks in the photograph wait for an answer.' },
    });
    const used = { ...EXAMPLES.photo, pieces: loadedPieces([1, 2, 3]).map((p) => ({ ...p, state: 'done' as const })) };
    expect(codeOf(filled(used))).toBe('photo-used');
  });

  it('is not done with one side or some segments burned, and takes its marks along when it leaves', () => {
    const panel = { ...saved(EXAMPLES.panel), pieces: loadedPieces([1, 2]) };
    expect(notBurned(panel, reckoned(panel))).toMatchObject({ problem: { code: 'one-side' } });
    expect(marksToRead(panel, reckoned(panel))).toMatchObject({ problem: { code: 'no-marks-yet' } });
    const turned = { ...panel, ticks: ['place.turned'] };
    expect(notBurned(turned, reckoned(turned)).ok).toBe(true);
    expect(marksToRead(turned, reckoned(turned))).toEqual({ ok: true, value: [1, 2, 3] });
    const work = { ...EXAMPLES.long, pieces: loadedPieces([1]) };
    expect(notBurned(work, reckoned(work))).toMatchObject({ problem: { code: 'segments-left' } });
    const leaving = WAY_IDS.filter((id) => leavesBed(EXAMPLES[id], reckoned(EXAMPLES[id])) === 'sheet');
    expect(leaving).toEqual(['sheet', 'panel', 'long', 'marked']);
    // Not while a piece of it waits to be judged.
    expect(leavesBed(panel, reckoned(panel))).toBe('nothing');
  });
});

describe('files', () => {
  const has = (name: DrawingName): WayId[] =>
    WAY_IDS.filter((id) => {
      const made = batchDrawing(EXAMPLES[id], reckoned(EXAMPLES[id]), name);
      return made.ok || made.problem.code !== 'no-such-file';
    });

  it('of a board are only where a board is cut; others are where they are needed', () => {
    expect(has('board')).toEqual(['pockets', 'fence', 'pegs']);
    expect(has('card')).toEqual(['pegs']);
    expect(has('grid')).toEqual(['locator']);
    expect(has('marks')).toEqual(['photo']);
    expect(has('template')).toEqual(['drive', 'cradle']);
    expect(has('load')).toEqual(WAY_IDS);
    const problem = batchProgram(EXAMPLES.sheet, reckoned(EXAMPLES.sheet), 'ring');
    expect(problem.ok ? '' : problem.problem.message).toBe('Boat tags is not held in a way that has a witness ring.');
    expect(WAY_IDS.filter((id) => hasPaper(EXAMPLES[id], 'print'))).toEqual(['sheet']);
  });

  it.each(WAY_IDS)('%s: a load is refused before it is known where the work lies, and before one is laid on', (id) => {
    const made = batchProgram(EXAMPLES[id], reckoned(EXAMPLES[id]), 'load');
    // What places itself waits for a load only; what is aimed at, or turned, for that first.
    const unplaced: Partial<Record<WayId, string>> = {
      pockets: 'not-placed',
      fence: 'not-placed',
      pegs: 'not-placed',
      sheet: 'not-placed',
      marked: 'not-placed',
      feed: 'not-aimed',
      drive: 'no-letter',
    };
    expect([id, made.ok ? '' : made.problem.code]).toEqual([id, unplaced[id] ?? 'no-load']);
  });
});
