import fc from 'fast-check';
import { byCustomer, corrected, countWords, guessMapping, mapped } from './roster-layout';

const list = { columns: ['Kestrel', 'Knot'], rows: [{ Kestrel: 'ANNA', Knot: 'BEN' }, { Kestrel: 'CLEO', Knot: '' }, { Kestrel: '', Knot: 'DORA' }] }; // prettier-ignore

describe('a column a customer', () => {
  it('is laid out into a row a piece, customer by customer', () => {
    expect(byCustomer(list)).toEqual({
      columns: ['customer', 'name'],
      rows: [
        { customer: 'Kestrel', name: 'ANNA' },
        { customer: 'Kestrel', name: 'CLEO' },
        { customer: 'Knot', name: 'BEN' },
        { customer: 'Knot', name: 'DORA' },
      ],
    });
  });
  it('loses no cell and makes none up', () => {
    const cells = fc.array(fc.array(fc.constantFrom('', 'A', 'B', 'C'), { minLength: 3, maxLength: 3 }), { maxLength: 8 }); // prettier-ignore
    fc.assert(
      fc.property(cells, (grid) => {
        const columns = ['x', 'y', '__proto__'];
        const rows = grid.map((row) => Object.fromEntries(columns.map((c, i) => [c, row[i]!])));
        const laid = byCustomer({ columns, rows }).rows.map((r) => `${r['customer']}: ${r['name']}`).sort(); // prettier-ignore
        const whole = grid.flatMap((row) => row.flatMap((c, i) => (c === '' ? [] : [`${columns[i]}: ${c}`]))).sort();
        expect(laid).toEqual(whole);
      }),
    );
  });
});

describe('columns that are called otherwise', () => {
  it('stand for those of their name, else for what is left, in their order; slots for nothing', () => {
    expect(guessMapping(['name', 'seat'], ['No', 'Seat', 'boat', 'crew'])).toEqual({ name: 'boat', seat: 'Seat' });
    expect(guessMapping(['name', 'seat'], ['boat'])).toEqual({ name: 'boat', seat: null });
    expect(guessMapping(['name', 'seat'], ['customer', 'name'])).toEqual({ name: 'name', seat: null });
    expect(guessMapping([], ['boat'])).toEqual({});
  });
  it('are called as they are wanted, and none is lost', () => {
    const given = { columns: ['boat', 'name', 'seat'], rows: [{ boat: 'KESTREL', name: 'ANNA', seat: '3' }] };
    expect(mapped(given, { name: 'boat', seat: 'seat' })).toEqual({
      columns: ['name', 'name (list)', 'seat'],
      rows: [{ name: 'KESTREL', 'name (list)': 'ANNA', seat: '3' }],
    });
    expect(mapped(given, { name: 'name', seat: null })).toEqual(given);
    // Two that stand for each other's.
    expect(mapped(given, { name: 'boat', boat: 'name' }).rows).toEqual([{ name: 'KESTREL', boat: 'ANNA', seat: '3' }]);
  });
});

describe('single cells', () => {
  it('are put right where they stand, the last of two; the list that was read stays as it was', () => {
    const fixes = [
      { row: 1, column: 'Kestrel', value: 'CLEA' },
      { row: 1, column: 'Kestrel', value: 'CLIO' },
      { row: 9, column: 'Kestrel', value: 'x' },
      { row: 0, column: 'gone', value: 'x' },
    ];
    const put = corrected(list, fixes);
    expect(put.rows).toEqual([list.rows[0], { Kestrel: 'CLIO', Knot: '' }, list.rows[2]]);
    expect(list.rows[1]!.Kestrel).toBe('CLEO');
    expect(corrected(list, [])).toBe(list);
  });
});

describe('how many rows there are', () => {
  it.each([
    [24, null],
    [20, 'The batch has 24 pieces: 4 more rows are missing, pieces 21 to 24 would have none.'],
    [23, 'The batch has 24 pieces: 1 more row is missing, piece 24 would have none.'],
    [25, 'The batch has 24 pieces: the last row is not engraved.'],
    [30, 'The batch has 24 pieces: the last 6 rows are not engraved.'],
  ])('%d of 24', (rows, words) => expect(countWords(rows, 24)).toBe(words));
});
