import { WAY_IDS, WAYS } from '@bistre/core';
import { testBatch } from '../../core/src/test-batch';
import { foundThere, forgottenOnMove, TICKS_STAY } from './moved';

type Batch = Parameters<typeof forgottenOnMove>[0];
const recipe = (name: string, machineId: string) => ({ name, machineId }) as unknown as Batch['recipe'];
const { setup } = testBatch();
const batch = (change: Partial<Batch> = {}): Batch => ({ setup, readings: [], recipe: null, backRecipe: null, stockRecipe: null, ticks: [], firstApproved: false, machine: { id: 'a', name: 'Bench A' }, ...change }) as unknown as Batch; // prettier-ignore
const held = (way: string, found: object): Batch['setup'] => ({ ...setup, held: { ...WAYS[way as 'pegs'].fresh('x'), found, left: [] } }) as unknown as Batch['setup']; // prettier-ignore

describe('what does not hold on another machine', () => {
  it('is nothing of a batch that is only planned', () => {
    expect(forgottenOnMove(batch(), 'b')).toEqual([]);
  });

  it('is what was read and ticked on this one, and recipes that were made on it', () => {
    const readings = [{}, {}, {}] as unknown as Batch['readings'];
    const ticks = ['place.home', 'hold.cut', 'blank.measure', 'run.look', 'shop.1'].map((step) => ({ step, at: '', by: '' })); // prettier-ignore
    const said = forgottenOnMove(batch({ readings, ticks, recipe: recipe('Oak, deep', 'a'), stockRecipe: recipe('Ply, cut', 'b'), firstApproved: true }), 'b'); // prettier-ignore
    expect(said).toEqual(['3 readings of marks', 'recipe Oak, deep', '2 ticks', 'the approval of the first piece']);
  });

  it('is a recipe once, though two faces go by it', () => {
    expect(forgottenOnMove(batch({ recipe: recipe('Oak', 'a'), backRecipe: recipe('Oak', 'a') }), 'b')).toEqual(['recipe Oak']); // prettier-ignore
  });

  it('is the burn as it was moved', () => {
    const moved = { ...setup, place: { ...setup.place, corrections: [{}, {}] } } as unknown as Batch['setup'];
    expect(forgottenOnMove(batch({ setup: moved }), 'b')).toEqual(['2 moves of the burn']);
  });

  it('is what was found of the drive, and not how a blank lies in the trial in card', () => {
    const { found } = WAYS.drive.fresh('x') as { found: Record<string, unknown> };
    expect(forgottenOnMove(batch({ setup: held('drive', { ...found, numberSet: 50.9 }) }), 'b')).toEqual([`what was found of it as it lay: ${WAYS.drive.words}`]); // prettier-ignore
    expect(foundThere(batch({ setup: held('drive', { ...found, numberSet: 50.9 }) }))).toMatchObject({ numberSet: null }); // prettier-ignore
    expect(forgottenOnMove(batch({ setup: held('pegs', { card: 0.2 }) }), 'b')).toEqual([]);
    expect(foundThere(batch({ setup: held('pegs', { card: 0.2 }) }))).toEqual({ card: 0.2 });
  });

  it('of every way begins as that way begins, and nothing is made up', () => {
    for (const way of WAY_IDS) {
      const { found } = WAYS[way].fresh('x');
      expect([way, foundThere(batch({ setup: held(way, found) }))]).toEqual([way, found]);
    }
  });

  it('ticks that stay are of the board, the blank and the shop’s own steps', () => {
    expect(['hold.cut', 'blank.x', 'shop.9'].every((s) => TICKS_STAY.test(s))).toBe(true);
    expect(['place.home', 'drive.set', 'feed.room', 'burn.recipe', 'run.load-1'].some((s) => TICKS_STAY.test(s))).toBe(false); // prettier-ignore
  });
});
