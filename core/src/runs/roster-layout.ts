import type { Roster } from './roster';

type List = Pick<Roster, 'columns' | 'rows'>;

/**
 * Lays a list out whose columns are customers, each heading one of them and each cell below a piece of theirs: a row for
 * every piece, customer by customer; empty cells are none.
 *
 * @example byCustomer({ columns: ['Kestrel', 'Knot'], rows: [{ Kestrel: 'ANNA', Knot: 'BEN' }, { Kestrel: 'CLEO', Knot: '' }] })
 * // rows: Kestrel ANNA, Kestrel CLEO, Knot BEN
 */
export const byCustomer = ({ columns, rows }: List): List => ({
  columns: ['customer', 'name'],
  rows: columns.flatMap((customer) =>
    rows.flatMap((row) => {
      const name = row[customer] ?? '';
      return name === '' ? [] : [{ customer, name }];
    }),
  ),
});

/** Which column of a list stands for each that is wanted; null where none does. */
export type Mapping = Readonly<Record<string, string | null>>;

/**
 * Which columns of a new list stand for those that the lettering takes: of the same name, whatever its case; else the next
 * that stands for none yet, in their order.
 */
export const guessMapping = (wanted: readonly string[], columns: readonly string[]): Mapping => {
  const same = (a: string): string | null => columns.find((c) => c.trim().toLowerCase() === a.trim().toLowerCase()) ?? null; // prettier-ignore
  const named = new Map(wanted.map((w) => [w, same(w)]));
  const spare = columns.filter((c) => ![...named.values()].includes(c) && !/^(slot|no|nr|#|customer)$/i.test(c));
  return Object.fromEntries(wanted.map((w) => [w, named.get(w) ?? spare.shift() ?? null]));
};

/**
 * A list with its columns called as the lettering asks for them. A column that only has a wanted name and does not stand
 * for it keeps its words under “name (list)”.
 */
export const mapped = ({ columns, rows }: List, mapping: Mapping): List => {
  const wantedOf = new Map(Object.entries(mapping).flatMap(([wanted, from]) => (from === null ? [] : [[from, wanted] as const]))); // prettier-ignore
  const taken = new Set(wantedOf.values());
  const names = columns.map((c) => wantedOf.get(c) ?? (taken.has(c) ? `${c} (list)` : c));
  return {
    columns: names,
    rows: rows.map((row) => Object.fromEntries(columns.map((c, i) => [names[i]!, row[c] ?? '']))),
  };
};

/** A cell that was put right in place: its row, from 0, its column, and what stands there now. */
export interface Fix {
  readonly row: number;
  readonly column: string;
  readonly value: string;
}

/** A list with single cells put right; the last of two for one cell counts. */
export const corrected = <L extends List>(list: L, fixes: readonly Fix[]): L => {
  if (fixes.length === 0) return list;
  const rows = [...list.rows];
  for (const { row, column, value } of fixes) {
    const old = rows[row];
    if (old && list.columns.includes(column)) rows[row] = { ...old, [column]: value };
  }
  return { ...list, rows };
};

/** What a list of another length than the batch comes to; null where they agree. */
export const countWords = (rows: number, quantity: number): string | null => {
  if (rows === quantity) return null;
  const pieces = (from: number, to: number): string => (from === to ? `piece ${from}` : `pieces ${from} to ${to}`);
  return rows < quantity
    ? `The batch has ${quantity} pieces: ${quantity - rows} more ${quantity - rows === 1 ? 'row is' : 'rows are'} missing, ${pieces(rows + 1, quantity)} would have none.`
    : `The batch has ${quantity} pieces: the last ${rows - quantity === 1 ? 'row is' : `${rows - quantity} rows are`} not engraved.`;
};
