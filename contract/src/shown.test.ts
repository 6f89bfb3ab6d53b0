import { testBatch } from '../../core/src/test-batch';
import { differences } from './differ';
import { waitsForCustomer } from './input';
import { shownOtherwise, shownToCustomer, type ShownToCustomer } from './shown';
import { recipeSpec } from './things';

type Batch = Parameters<typeof shownToCustomer>[0];

/** What of a batch a proof is drawn from: boat tags with a boat and a lane, and a column that nothing is filled from. */
const batch = (change: Partial<Batch> = {}): Batch => {
  const { setup, blank } = testBatch();
  const { id, name, samples: _samples, ...spec } = blank;
  return {
    quantity: 3,
    blank: { id, name, version: 1, spec, samples: [], usedBy: [] } as unknown as Batch['blank'],
    artworks: [{ id: 'a1', name: 'Gull', revision: 1, roles: {}, unit: 'mm', scale: null, doubt: '' } as unknown as Batch['artworks'][number]],
    setup: setup as unknown as Batch['setup'],
    columns: ['boat', 'lane', 'paid'],
    roster: [
      { boat: 'KESTREL', lane: 'LANE 1', paid: 'yes' },
      { boat: 'PUFFIN', lane: 'LANE 2', paid: 'no' },
      { boat: 'OSPREY', lane: 'LANE 3', paid: 'no' },
    ],
    ...change,
  };
}; // prettier-ignore

const lettered = (columns: readonly string[]): Batch['setup'] => {
  const { setup } = batch();
  const [line] = setup.lettering.lines;
  return {
    ...setup,
    lettering: { ...setup.lettering, lines: columns.map((column) => ({ ...line!, column, capHeight: 4 })) },
  };
};
const SETUP = lettered(['boat', 'lane']);
const seen = (change: Partial<Batch> = {}): ShownToCustomer => shownToCustomer(batch({ setup: SETUP, ...change }));
const since = (change: Partial<Batch>): string[] => shownOtherwise(seen(), seen(change));

describe('what a customer is shown', () => {
  it('is the same while nothing of it is changed, and is kept as JSON', () => {
    expect(since({})).toEqual([]);
    expect(shownOtherwise(JSON.parse(JSON.stringify(seen())) as ShownToCustomer, seen())).toEqual([]);
  });

  it('holds the columns that pieces are filled from, in the list’s order, and no other', () => {
    expect(seen().columns).toEqual(['boat', 'lane']);
    expect(seen().rows[1]).toEqual(['PUFFIN', 'LANE 2']);
    expect(seen({ setup: lettered([]) }).columns).toEqual([]);
    const roster = batch().roster.map((row) => ({ ...row, paid: 'yes' }));
    expect(since({ roster })).toEqual([]);
  });

  it('tells a changed letter, a piece more and a piece less by its number', () => {
    const { roster } = batch();
    const spelled = roster.map((row, i) => (i === 1 ? { ...row, boat: 'PUFFINS' } : row));
    expect(since({ roster: spelled })).toEqual(['Piece 2, boat: “PUFFIN” → “PUFFINS”.']);
    const more = [...roster, { boat: 'TERN', lane: 'LANE 4', paid: '' }];
    expect(since({ roster: more, quantity: 4 })).toEqual(['Pieces: 3 → 4.', 'Piece 4 is new in the list: TERN · LANE 4.']); // prettier-ignore
    expect(since({ roster: roster.slice(0, 2) })).toEqual(['Piece 3 is not in the list any more: OSPREY · LANE 3.']);
  });

  it('tells a column that came to be lettered, piece by piece', () => {
    const said = since({ setup: lettered(['boat', 'lane', 'paid']) });
    expect(said).toContain('Piece 1, paid: “” → “yes”.');
    expect(said.some((words) => words.startsWith('Lettering 3, '))).toBe(true);
  });

  it('tells the size of the letters in millimetres, by the words of its field', () => {
    const setup = { ...SETUP, lettering: { ...SETUP.lettering, lines: SETUP.lettering.lines.map((l) => ({ ...l, capHeight: 5 })) } }; // prettier-ignore
    expect(since({ setup })).toEqual([
      'Lettering 1, Cap height: 4 mm → 5 mm.',
      'Lettering 2, Cap height: 4 mm → 5 mm.',
    ]);
  });

  it('tells art by its name and revision: newer, come in, gone', () => {
    const [gull] = batch().artworks;
    expect(since({ artworks: [{ ...gull!, revision: 2 }] })).toEqual(['Art: Gull r1 → Gull r2.']);
    expect(since({ artworks: [] })).toEqual(['Art: Gull r1 is gone.']);
    expect(since({ artworks: [gull!, { ...gull!, id: 'a2', name: 'Tern' }] })).toEqual(['Art: Tern r1 is new.']);
  });

  it('tells another blank, and another size of the same', () => {
    const { blank } = batch();
    expect(since({ blank: { ...blank, name: 'Ash tag' } })).toEqual([`Blank: ${blank.name} → Ash tag.`]);
    const shape = { ...blank.spec.shape, length: 61 } as Batch['blank']['spec']['shape'];
    const [said] = since({ blank: { ...blank, spec: { ...blank.spec, shape } } });
    expect(said).toMatch(new RegExp(`^${blank.name}, .*→ 61 mm\\.$`));
  });

  it('does not ask again for what nobody sees: how it is held, placed and burned', () => {
    const setup = { ...SETUP, burn: { ...SETUP.burn, sweep: 'row' as const }, close: { notes: 'x', keep: '' } };
    expect(since({ setup })).toEqual([]);
  });
});

describe('whether a batch waits for its customer', () => {
  const given = { revision: 1, at: '2026-11-20T08:00:00.000Z', by: 'Odile', signedBy: 'the committee', note: '' };
  it.each([
    ['nobody is asked', false, null, 0, false],
    ['nobody is asked, though much changed', false, given, 9, false],
    ['nobody answered yet', true, null, 0, true],
    ['approved as it is', true, given, 0, false],
    ['changed since', true, given, 1, true],
  ])('%s', (_, wanted, kept, differ, waits) => {
    expect(waitsForCustomer({ wanted, revision: 1, given: kept, differs: [], differences: differ })).toBe(waits);
  });
});

describe('differences of two values', () => {
  const recipe = (speed: number) => ({ engrave: { speed, power: 0.4, interval: 0.1, passes: 1 } });

  it('are told by label, in the unit that is shown', () => {
    const [one, ...more] = differences(recipeSpec, recipe(300), recipe(320));
    expect(more).toEqual([]);
    expect(one!.theirs).toMatch(/^300 mm\/s$/);
    expect(one!.mine).toMatch(/^320 mm\/s$/);
  });

  it('are none of two that are the same, and nothing where one has it not', () => {
    expect(differences(recipeSpec, recipe(1), recipe(1))).toEqual([]);
    expect(differences(recipeSpec, {}, { name: 'a' })).toEqual([
      { path: 'name', label: 'name', theirs: 'nothing', mine: 'a' },
    ]);
    expect(differences(recipeSpec, { a: { b: null } }, { a: { b: 0 } })).toEqual([{ path: 'a.b', label: 'a.b', theirs: 'nothing', mine: '0' }]); // prettier-ignore
  });
});
