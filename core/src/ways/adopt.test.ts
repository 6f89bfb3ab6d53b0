import fc from 'fast-check';
import {
  freshBeside,
  frozen,
  heldAs,
  seamsDiffer,
  type Beside,
  type Held,
  type HeldSection,
  type WayId,
} from '../setup';
import { loadedPieces } from '../test-batch';
import { inWay } from '../test-held';
import { EXAMPLES } from '../test-ways';
import { reckonBatch } from '../batch';
import { testAlphabets } from '../test-alphabets';
import { adopt, afterStrip, asBuilt, chooseDrive, freshHeld, setOnDrive, suited, thawed, WAY_IDS, WAYS } from '.';

const options = {
  now: new Date('2026-11-20T00:00:00Z'),
  alphabets: testAlphabets,
  labels: 'readability',
  simulatedPieces: 200,
};
const RECTANGLE = { kind: 'rectangle' };
const ROUND = { kind: 'round' };
const began = (way: WayId): HeldSection => ({ ...WAYS[way].fresh('BOATTAG'), left: [] }) as HeldSection;
const through = (ways: readonly WayId[]): HeldSection =>
  ways.slice(1).reduce((h, w) => adopt(h, WAYS[w]), began(ways[0]!));
const draftOf = (held: HeldSection, way: WayId): Held | undefined =>
  held.way === way
    ? ({ way: held.way, choice: held.choice, found: held.found } as Held)
    : held.left.find((h) => h.way === way);

describe('changing the way', () => {
  it('and back loses nothing, whatever was tried between', () => {
    const walks = fc.array(fc.constantFrom(...WAY_IDS), { minLength: 1, maxLength: 30 });
    fc.assert(
      fc.property(fc.constantFrom(...WAY_IDS), walks, (first, between) => {
        const before = began(first);
        const held = adopt(through([first, ...between]), WAYS[first]);
        expect(draftOf(held, first)).toEqual(draftOf(before, first));
      }),
    );
  });

  it('keeps each way that was left once, the way in use not among them, so that no more than all ways are stored', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...WAY_IDS), { minLength: 1, maxLength: 60 }), (ways) => {
        const held = through(ways);
        const left = held.left.map((h) => h.way);
        expect(new Set(left).size).toBe(left.length);
        expect(left).not.toContain(held.way);
        expect(new Set([held.way, ...left])).toEqual(new Set(ways));
      }),
    );
  });

  it('to the way it is held in changes nothing', () => {
    for (const way of WAY_IDS) {
      const held = began(way);
      expect(adopt(held, WAYS[way])).toBe(held);
    }
  });

  it('carries what both know as the same thing, and keeps what only one knows', () => {
    const pockets = inWay(EXAMPLES.pockets, 'pockets', {
      boardThickness: 4.2,
      marks: 5,
      clearance: { school: 'snug' },
    });
    const { held } = pockets.setup;
    const fence = adopt(held as HeldSection, WAYS.fence);
    expect(fence.choice).toMatchObject({ boardThickness: 4.2, marks: 5, pushRoom: 3 });
    const back = adopt({ ...fence, choice: { ...fence.choice, boardThickness: 6 } } as HeldSection, WAYS.pockets);
    expect(back.choice).toMatchObject({ boardThickness: 6, marks: 5, clearance: { school: 'snug' } });
  });

  it('carries it past a way that has no board', () => {
    const sheet = { ...began('sheet'), choice: { ...began('sheet').choice, marks: 7 } } as HeldSection;
    const panel = adopt(adopt(sheet, WAYS.cradle), WAYS.panel);
    expect(panel.choice).toMatchObject({ name: 'BOATTAG', marks: 7 });
  });

  it('never takes a word of one way for another’s: a feeder’s turned strip is no turned board', () => {
    const feed = adopt(began('pockets'), WAYS.feed);
    expect(feed.choice).toMatchObject({ turned: false });
    expect(adopt(feed, WAYS.sheet).choice).toMatchObject({ turned: 'auto' });
  });

  it('leaves findings with the way they belong to', () => {
    const pegs = { ...began('pegs'), found: { card: 0.2 } } as HeldSection;
    const locator = adopt(pegs, WAYS.locator);
    expect(locator.found).toEqual({ back: [] });
    expect(adopt(locator, WAYS.pegs).found).toEqual({ card: 0.2 });
  });
});

describe('a blank whose form changed', () => {
  it('is held so no longer, its board not used, and finds its way again when the form comes back', () => {
    const board = { held: { way: 'fence', choice: began('fence').choice } as Held };
    const flat = began('fence');
    const kept = suited({ held: flat, fixture: board }, RECTANGLE);
    expect(kept).toEqual({ held: flat, fixture: board });
    const turned = suited({ held: flat, fixture: board }, ROUND);
    expect([WAYS[turned.held.way].suits(ROUND), turned.fixture]).toEqual([true, null]);
    expect(suited({ held: turned.held, fixture: null }, RECTANGLE).held.way).toBe('fence');
  });

  it('is begun with room for the pieces, but for no more than a board takes', () => {
    expect(freshHeld('TAGS', RECTANGLE, 24).choice).toMatchObject({
      name: 'TAGS',
      extent: { kind: 'count', count: 24 },
    });
    expect(freshHeld('TAGS', RECTANGLE, 5_000).choice).toMatchObject({ extent: { kind: 'count', count: 60 } });
    expect(WAYS[freshHeld('CUPS', ROUND, 5).way].suits(ROUND)).toBe(true);
    expect(freshHeld('CUPS', ROUND, 5).left).toEqual([]);
  });
});

describe('a board of the Shelf', () => {
  it('brings its choice, but neither findings nor pins and stands', () => {
    const beside: Beside = { ...freshBeside, boardWarp: 2, pins: null };
    const kept = frozen({
      ...EXAMPLES.pegs.setup,
      held: { ...began('pegs'), found: { card: 0.4 } } as Held,
      beside: { ...freshBeside, coverage: 0.99, boardWarp: 0.5 },
    });
    expect(kept.held).not.toHaveProperty('found');
    const used = thawed({ held: began('pockets'), beside }, kept);
    expect([used.held.way, used.held.found]).toEqual(['pegs', { card: null }]);
    expect(used.beside).toMatchObject({ coverage: 0.99, boardWarp: 0.5, pins: null });
    expect(draftOf(used.held, 'pockets')).toBeDefined();
  });

  it('keeps where its pegs were put, and nothing of what was reckoned else', () => {
    for (const way of WAY_IDS) {
      const input = EXAMPLES[way];
      const held = { ...input.setup.held, left: [] } as HeldSection;
      const built = asBuilt(held, reckonBatch(input, options));
      if (way === 'pegs')
        expect(heldAs({ fixture: null, setup: { ...input.setup, held: built } }, 'pegs').choice.contacts).toHaveLength(
          2,
        );
      else expect(built).toEqual(held);
    }
  });
});

describe('a drive', () => {
  it('is chosen with what was found on it before, but for what is set on the machine now', () => {
    const { driveId: _, ...choice } = heldAs(EXAMPLES.drive, 'drive').choice;
    const known = {
      way: 'drive',
      choice: { ...choice, driveId: 'd', overhang: 7 },
      found: { letter: { quarters: 1, mirrored: false }, accelerationSet: 900, numberSet: 4_000, runOut: 0.1 },
    } as Held<'drive'>;
    const chosen = chooseDrive(began('cradle'), 'd', known);
    expect(chosen).toMatchObject({
      way: 'drive',
      choice: { driveId: 'd', overhang: 7 },
      found: { letter: { quarters: 1, mirrored: false }, accelerationSet: null, numberSet: null, runOut: 0.1 },
    });
    expect(draftOf(chosen, 'cradle')).toBeDefined();
  });

  it('that is another one is tried anew, for the F on tape told of the other', () => {
    const one = setOnDrive(chooseDrive(began('cradle'), 'd', null), { letter: { quarters: 2, mirrored: true } });
    expect(chooseDrive(one, 'e', null)).toMatchObject({ choice: { driveId: 'e' }, found: { letter: null } });
  });

  it('that is given up for a cradle is remembered, and nothing is set on a cradle', () => {
    const cradle = chooseDrive(setOnDrive(chooseDrive(began('cradle'), 'd', null), { runOut: 0.3 }), null, null);
    expect([cradle.way, cradle.choice]).toEqual(['cradle', { rimFaces: 'right' }]);
    expect(draftOf(cradle, 'drive')!.found).toMatchObject({ runOut: 0.3 });
    expect(setOnDrive(cradle, { numberSet: 1 })).toBe(cradle);
  });
});

describe('a strip that has gone through', () => {
  it('takes along how it was squared and what of it was used; nothing of other ways is forgotten', () => {
    const used = [{ x: 1, y: 2, width: 3, height: 4 }];
    const fed = { ...began('feed'), found: { guide: { a: { x: 1, y: 2 }, b: { x: 3, y: 4 } }, squaring: { apart: 300, first: 0, second: 1 }, used } } as HeldSection; // prettier-ignore
    // The feeder stands where it stood: its guide need not be read again.
    expect(afterStrip(fed).found).toEqual({
      guide: { a: { x: 1, y: 2 }, b: { x: 3, y: 4 } },
      squaring: null,
      used: [],
    });
    expect(afterStrip(fed).choice).toEqual(fed.choice);
    for (const way of WAY_IDS.filter((w) => w !== 'feed')) expect(afterStrip(began(way))).toEqual(began(way));
  });
});

describe('seams of a long piece', () => {
  it('differ by what is chosen of it, on the bed and in a feeder, and by nothing of work in one burn', () => {
    const long = inWay(EXAMPLES.long, 'long', { overlap: 2 }).setup.held;
    expect(seamsDiffer(EXAMPLES.long.setup.held, long)).toBe(true);
    expect(seamsDiffer(long, long)).toBe(false);
    const other = inWay({ ...EXAMPLES.pockets, pieces: loadedPieces([1]) }, 'pockets', { wall: 9 }).setup.held;
    expect(seamsDiffer(EXAMPLES.pockets.setup.held, other)).toBe(false);
  });
});
