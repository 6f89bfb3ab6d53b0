import { fieldAt, holdTest, machineProfile, proveBody, recipeSpec, trialSpec } from '.';
import { freshMachine } from '@bistre/core';

const burn = { power: 0.4, speed: 200, interval: 0.1, passes: 1 };
const recipe = { material: 'oak', engrave: burn, cut: burn, note: '' };
const profile = { ...freshMachine };
const second = { source: 'fibre', power: 20, leastPower: 0, offset: { x: 42, y: -8 } };
const said = (
  schema: {
    safeParse: (v: unknown) => { success: boolean; error?: { issues: { path: PropertyKey[]; message: string }[] } };
  },
  v: unknown,
): string => {
  // prettier-ignore
  const read = schema.safeParse(v);
  return read.success ? 'taken' : `${read.error!.issues[0]!.path.join('.')}: ${read.error!.issues[0]!.message}`;
};

describe('a recipe as it is kept', () => {
  it('is a plain one where nobody said more, and keeps nothing that it was not told', () => {
    expect(recipeSpec.parse(recipe)).toEqual(recipe);
    expect(recipeSpec.parse({ ...recipe, engrave: { ...burn, angle: null, air: null } }).engrave).toEqual({ ...burn, angle: null, air: null }); // prettier-ignore
  });
  it.each([
    [{ angle: 4 }, 'engrave.angle: Lines run at must be a number between -180 and 180 °.'],
    [{ turn: -3.2 }, 'engrave.turn: Each pass turns by must be a number between -180 and 180 °.'],
    [{ focus: 101 }, 'engrave.focus: Lens above focus must be a number between -100 and 100 mm.'],
    [{ power: 1.1 }, 'engrave.power: Power must be a number between 0 and 100 %.'],
    [{ angle: 0.5, turn: Math.PI / 2, oneWay: true, focus: -2, air: 'off', source: 'second' }, 'taken'],
  ])('takes %j only within its limits, by its field', (part, words) => {
    expect(said(recipeSpec, { ...recipe, engrave: { ...burn, ...part } })).toBe(words);
  });
  it('has a place of its own for every burn that follows, and no more than six', () => {
    expect(said(recipeSpec, { ...recipe, after: [burn, { ...burn, speed: 0 }] })).toMatch(
      /^after\.1\.speed: Speed must be/,
    );
    expect(said(recipeSpec, { ...recipe, after: Array.from({ length: 7 }, () => burn) })).toBe('after: At most 6 burns follow the first.'); // prettier-ignore
  });
  it('offers in its forms what is not said as what is plain', () => {
    const field = (path: string) => fieldAt(recipeSpec, path, { ...recipe, after: [burn] });
    expect(field('after.0.air')).toMatchObject({ kind: 'choice', options: [['', 'as it stands'], ['on', 'on'], ['off', 'off']] }); // prettier-ignore
    expect(field('engrave.source')).toMatchObject({ options: [['', 'the first'], ['second', 'the second']] }); // prettier-ignore
    expect(field('engrave.angle')).toMatchObject({
      kind: 'number',
      reads: 'angle',
      unit: '°',
      empty: 'Empty: along x.',
    });
    expect(field('engrave.oneWay').kind).toBe('tick');
  });
});

describe('a machine as it is kept', () => {
  it('may carry a second source, whole or not at all, and a rule of how long a proof holds', () => {
    expect(machineProfile.parse({ ...profile, second, proofDays: 90 })).toMatchObject({ second, proofDays: 90 });
    expect(machineProfile.parse({ ...profile, second: null }).second).toBeNull();
    expect(said(machineProfile, { ...profile, second: { ...second, power: 0 } })).toMatch(/^second\.power: Power of the second must be/); // prettier-ignore
    expect(said(machineProfile, { ...profile, second: { ...second, offset: { x: 0 } } })).toMatch(
      /^second\.offset\.y: /,
    );
    expect(said(machineProfile, { ...profile, proofDays: 0 })).toMatch(/^proofDays: A proof holds for must be/);
  });
});

describe('whether a cell held', () => {
  const rub = { kind: 'rub', times: 20, with: 'a cloth', holds: true };
  it.each([
    [{}, 'taken'],
    [{ times: 0 }, 'times: Times must be a whole number between 1 and 10000.'],
    [{ holds: undefined }, 'holds: Say whether it holds.'],
    [{ with: 'x'.repeat(61) }, 'with: With what is longer than 60 characters.'],
  ])('with %j', (part, words) => expect(said(holdTest, { ...rub, ...part })).toBe(words));
  it('goes with a proof, or is left out', () => {
    const body = { cell: 3, recipeId: null, name: 'Oak' };
    expect(proveBody.parse(body)).toEqual(body);
    expect(said(proveBody, { ...body, tests: [rub, { ...rub, kind: 'scratch' }] })).toMatch(/^tests\.1\.kind: /);
  });
  it('and a trial burns what follows in every cell', () => {
    expect(trialSpec.shape.after.safeParse([{ ...burn, angle: 1 }]).success).toBe(true);
    expect(trialSpec.shape.after.safeParse([{ ...burn, angle: 9 }]).success).toBe(false);
  });
});
