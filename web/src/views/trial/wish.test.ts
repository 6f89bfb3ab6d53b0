import { machineProfile, recipeSpec, type MachineDocument, type RecipeDocument } from '@bistre/contract';
import { freePlace, freshMachine, planProblems } from '@bistre/core';
import { testAlphabets } from '../../../../core/src/test-alphabets';
import { idOf } from '../../testing/batch';
import { about, beginning, planOf, wishFor } from './wish';

const machine = (part: object = {}, id = 'm'): MachineDocument => ({ id: idOf(id), name: `Bench ${id}`, version: 1, profile: machineProfile.parse({ ...freshMachine, power: 60, rapidSpeed: 500, ...part }), changes: [] }); // prettier-ignore
const burn = { power: 0.4, speed: 200, interval: 0.1, passes: 1 };
const recipe = (part: object = {}): RecipeDocument => ({ id: idOf('r'), name: 'Thwart, dark', version: 1, machineId: idOf('m'), spec: recipeSpec.parse({ material: 'heartwood', engrave: burn, cut: { ...burn, power: 0.7, speed: 9 }, note: '', ...part }), proof: null }); // prettier-ignore
const piece = { name: 'Offcut 2', width: 120, height: 60 };
const labels = testAlphabets['readability']!;

describe('a first look at a number', () => {
  // Half and twice a value, and a little more [common practice].
  it('reaches as far either way of it, by its logarithm', () => {
    const { from, to, count } = about('speed', 100, machine(), 5);
    expect(Math.sqrt(from * to)).toBeCloseTo(100, 0);
    expect([to / from, count]).toEqual([expect.closeTo(2.2 ** 2, 1), 5]);
  });
  it('stays within what the machine takes', () => {
    const own = machine({ leastPower: 0.3, rapidSpeed: 250 });
    expect(about('power', 0.4, own, 5).from).toBeGreaterThanOrEqual(0.3);
    expect(about('power', 0.9, own, 5).to).toBeLessThanOrEqual(1);
    expect(about('speed', 200, own, 5).to).toBeLessThanOrEqual(250);
  });
});

describe('what a trial begins with', () => {
  it('is a recipe’s own burn and what follows it, where it is of this machine', () => {
    const after = [{ ...burn, speed: 400 }];
    const wish = wishFor(machine(), recipe({ after }), piece, '', [machine()]);
    expect([wish.base, wish.after, wish.material, wish.effect]).toEqual([burn, after, 'heartwood', 'mark']);
  });
  it('of a recipe that engraves nothing is its cut, which nothing follows', () => {
    const cuts = recipe({ engrave: { ...burn, power: 0 }, after: [burn] });
    const wish = wishFor(machine(), cuts, piece, '', [machine()]);
    expect([wish.effect, wish.base.speed, wish.after]).toEqual(['cut', 9, undefined]);
  });
  it('is the same energy from another machine, without its further burns; something easy where that is not told', () => {
    const [strong, weak] = [machine(), machine({ power: 30 }, 'n')];
    const wish = wishFor(weak, recipe({ after: [burn] }), piece, '', [strong, weak]);
    expect([wish.base.speed, wish.base.power, wish.after]).toEqual([100, 0.4, undefined]);
    expect(beginning(recipe(), 'mark', strong, [strong, weak])).toBeNull();
    const blue = machine({ source: 'diode' }, 'o');
    expect(wishFor(blue, recipe(), piece, '', [strong, blue]).base).toMatchObject({ power: 0.45, speed: 150 });
    expect(wishFor(strong, undefined, piece, 'slate', [strong]).material).toBe('slate');
  });
});

describe('the plan of a wish', () => {
  const wish = wishFor(machine(), recipe(), piece, '', [machine()]);
  it('has the largest cells that the piece has room for, on its first free place, and can be burned', () => {
    const plan = planOf(wish, machine(), labels, []);
    expect(plan.columns.levels.length * plan.rows.levels.length).toBe(25);
    expect(plan.cell.width).toBeGreaterThanOrEqual(4);
    expect(planProblems(plan, { ...machine().profile, name: 'Bench m' })).toEqual([]);
    const beside = planOf(wish, machine(), labels, [[0, 0, 60, 60]]);
    expect(beside.onPiece.x).toBeGreaterThanOrEqual(60);
    expect(freePlace(piece, { width: 500, height: 1 }, []).ok).toBe(false);
  });
  it('letters slowly enough to be read, and never below what fires', () => {
    const plan = planOf({ ...wish, base: { ...burn, power: 0.05, speed: 480 } }, machine({ leastPower: 0.13 }), labels, []); // prettier-ignore
    expect([plan.label.power, plan.label.speed, plan.label.passes]).toEqual([0.13, 150, 1]);
  });
});
