import { EXAMPLES } from '../test-ways';
import { inWay, savedAs } from '../test-held';
import { reckonBatch } from '../batch';
import { testAlphabets } from '../test-alphabets';
import { WAY_IDS } from '../ways';
import { besideNow, frozen, heldAs, heldNow, needsOf, thicknessOf, type BatchInput } from '.';

const { basis } = reckonBatch(EXAMPLES.pegs, {
  now: new Date('2026-11-20T00:00:00Z'),
  alphabets: testAlphabets,
  labels: 'readability',
  simulatedPieces: 20,
});
const cut = (input: BatchInput): BatchInput => ({ ...input, fixture: savedAs(input, basis) });

describe('how a batch is held now', () => {
  it('is as its board was cut, whatever was typed since, with what was seen since', () => {
    const board = cut(inWay(EXAMPLES.pegs, 'pegs', { peg: 6 }, { card: null }));
    const since = inWay(board, 'pegs', { peg: 8 }, { card: 0.3 });
    expect(heldAs(since, 'pegs').choice.peg).toBe(6);
    expect(heldAs(since, 'pegs').found.card).toBe(0.3);
    expect(heldAs({ ...since, fixture: null }, 'pegs').choice.peg).toBe(8);
  });

  it('is as it is set where the board in hand was cut for another way', () => {
    const board = cut(inWay(EXAMPLES.pegs, 'pegs', { peg: 6 }));
    expect(heldNow(inWay(board, 'pockets')).way).toBe('pockets');
  });

  it('is asked for by the right name only', () => {
    for (const way of WAY_IDS) {
      expect(heldAs(EXAMPLES[way], way).way).toBe(way);
      const wrong = way === 'sheet' ? 'panel' : 'sheet';
      expect(() => heldAs(EXAMPLES[way], wrong)).toThrow(`held in the way ${way} was asked for ${wrong}`);
    }
  });
});

describe('what stands beside it', () => {
  const beside = { ...EXAMPLES.pockets.setup.beside, coverage: 0.9, boardWarp: 1.5 };
  const set: BatchInput = { ...EXAMPLES.pockets, setup: { ...EXAMPLES.pockets.setup, beside } };

  it('is kept with a board as far as the board was cut by it; pins and a stand are set up anew each time', () => {
    const kept = frozen(set.setup);
    expect(kept.beside).toEqual({ coverage: 0.9, confidence: 0.95, boardWarp: 1.5, tallThings: beside.tallThings });
    const stand = { ...beside, coverage: 0.99, stock: { ...beside.stock, thickness: 4 } };
    const later = { ...cut(set), setup: { ...set.setup, beside: stand } };
    expect(besideNow(later)).toMatchObject({ coverage: 0.9, boardWarp: 1.5, stock: { thickness: 4 } });
    expect(besideNow({ ...later, fixture: null }).coverage).toBe(0.99);
  });
});

describe('what it needs', () => {
  it('of the Shelf is a drive or a feeder, and only where it turns or feeds', () => {
    const needing = WAY_IDS.filter((way) => Object.values(needsOf(EXAMPLES[way].setup.held)).some((id) => id !== null));
    expect(needing.sort()).toEqual(['drive', 'feed']);
    expect(needsOf(EXAMPLES.drive.setup.held)).toEqual({ driveId: EXAMPLES.drive.drive!.id, feederId: null });
    expect(needsOf(EXAMPLES.feed.setup.held)).toEqual({ driveId: null, feederId: EXAMPLES.feed.feeder!.id });
  });

  it('of board is that it is cut from, else that for cradles and stands', () => {
    expect(thicknessOf(inWay(EXAMPLES.pockets, 'pockets', { boardThickness: 4.2 }))).toBe(4.2);
    const { beside } = EXAMPLES.cradle.setup;
    const stock = { ...beside.stock, thickness: 2.7 };
    const cradle = { ...EXAMPLES.cradle, setup: { ...EXAMPLES.cradle.setup, beside: { ...beside, stock } } };
    expect(thicknessOf(cradle)).toBe(2.7);
    // A board that was cut is as thick as it was, whatever is typed now.
    const board = cut(inWay(EXAMPLES.pockets, 'pockets', { boardThickness: 4.2 }));
    expect(thicknessOf(inWay(board, 'pockets', { boardThickness: 9 }))).toBe(4.2);
  });
});
