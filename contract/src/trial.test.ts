import { cellScore, proveBody, recipeSpec, trialDocument, trialFilePath, trialSpec, type TrialSpec } from './index';

const setting = { power: 0.4, speed: 150, interval: 0.1, passes: 1 };
const spec: TrialSpec = {
  material: 'slate',
  effect: 'mark',
  base: setting,
  label: setting,
  columns: { number: 'speed', levels: [100, 200] },
  rows: { number: 'power', levels: [0.3, 0.6] },
  cell: { width: 6, height: 6 },
  gap: 1.5,
  piece: { name: 'Tile 3', width: 90, height: 90 },
  onPiece: { x: 0, y: 0 },
  onBed: { x: 40, y: 40 },
};
/** What is wrong with a value, and where. */
const wrong = (
  schema: {
    safeParse: (v: unknown) => { success: boolean; error?: { issues: { path: PropertyKey[]; message: string }[] } };
  },
  value: unknown,
): string => {
  // prettier-ignore
  const { error } = schema.safeParse(value);
  const issue = error?.issues[0];
  return issue ? `${issue.path.join('.')}: ${issue.message}` : '';
};

describe('a trial as it is sent', () => {
  it('is taken as it is planned', () => {
    expect(trialSpec.parse(spec)).toEqual(spec);
  });

  it.each([
    ['a material without a name', { material: ' ' }, /^material: Material is empty\./],
    ['an effect that there is not', { effect: 'melt' }, /^effect: /],
    ['no level', { rows: { number: 'power', levels: [] } }, /^rows\.levels: Rows go through has no level\./],
    ['a level of nought', { rows: { number: 'power', levels: [0] } }, /^rows\.levels\.0: Rows go through must be above nought\./], // prettier-ignore
    ['words for a level', { columns: { number: 'speed', levels: ['fast'] } }, /^columns\.levels\.0: Columns go through must be numbers\./], // prettier-ignore
    ['26 levels', { columns: { number: 'speed', levels: Array.from({ length: 26 }, (_, i) => i + 1) } }, /more than 25 levels/], // prettier-ignore
    ['a number that is none of a setting', { columns: { number: 'colour', levels: [1] } }, /^columns\.number: /],
    ['percent over 100', { base: { ...setting, power: 1.2 } }, /^base\.power: Power must be a number between 0 and 100 %/], // prettier-ignore
    ['a cell of nothing', { cell: { width: 0, height: 6 } }, /^cell\.width: Cell width must be a number between 1 and 100 mm/], // prettier-ignore
    ['a piece without a name', { piece: { ...spec.piece, name: '' } }, /^piece\.name: Piece is empty\./],
    ['a place before the bed', { onBed: { x: -1, y: 0 } }, /^onBed\.x: Piece on the bed, x must be/],
  ])('with %s is refused by its place', (_what, part, words) => {
    expect(wrong(trialSpec, { ...spec, ...part })).toMatch(words);
  });

  it('has its files under its own address', () => {
    expect(trialFilePath('7', 'walk.gcode')).toBe('/api/trials/7/files/walk.gcode');
  });
});

describe('what is said of a cell', () => {
  it.each([
    [{ cell: 3, grade: 7, tell: 'right' }, ''],
    [{ cell: 3, grade: 11, tell: 'right' }, 'grade: Grade must be a number between 0 and 10.'],
    [{ cell: -1, grade: 7, tell: 'right' }, 'cell: There is no such cell.'],
    [{ cell: 3, grade: 7, tell: 'fine' }, 'tell: Say whether it was too weak, right or too strong.'],
    [{ grade: 7, tell: 'right' }, 'cell: Which cell must be said.'],
  ])('%j', (said, words) => {
    expect(wrong(cellScore, said)).toBe(words);
  });

  it('makes a recipe of a cell, by the name of a new one or the address of one that there is', () => {
    expect(wrong(proveBody, { cell: 3, recipeId: null, name: 'Slate, dark' })).toBe('');
    expect(wrong(proveBody, { cell: 3, recipeId: 'x', name: '' })).toMatch(/^recipeId: /);
  });

  it('is no part of a recipe’s own words: they are a note', () => {
    const recipe = { material: 'slate', engrave: setting, cut: setting, note: 'from the neighbour' };
    expect(recipeSpec.parse(recipe)).toEqual(recipe);
    expect(wrong(recipeSpec, { ...recipe, note: 'x'.repeat(301) })).toMatch(/^note: Where it comes from is longer/);
  });

  it('is kept with who said it and when', () => {
    const id = 'a0000000-0000-4000-8000-000000000001';
    const at = '2026-11-24T09:10:00.000Z';
    const document = { id, name: 'T', version: 1, machineId: id, spec, follows: null, at, by: 'Imre', burned: { at, by: 'Imre', simulated: false }, photo: null, scores: [{ id, cell: 1, grade: 6.5, tell: 'weak', by: 'Odile', at }], heldBack: null, proves: [] }; // prettier-ignore
    expect(trialDocument.parse(document)).toEqual(document);
    expect(wrong(trialDocument, { ...document, scores: [{ ...document.scores[0], at: 'yesterday' }] })).toMatch(/^scores\.0\.at: /); // prettier-ignore
  });
});
