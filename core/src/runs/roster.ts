import Papa from 'papaparse';
import { fail, ok, type Result } from '../result';

export interface Roster {
  readonly columns: readonly string[];
  readonly rows: readonly Readonly<Record<string, string>>[];
  /** Whether the first row names the columns. */
  readonly headings: boolean;
  readonly encoding: 'UTF-8' | 'UTF-16' | 'Windows-1252' | 'text';
  readonly delimiter: string;
  readonly notes: readonly string[];
}

export const ROSTER_LIMITS = { bytes: 8_000_000, rows: 20_000, columns: 40, cell: 200 } as const;

interface Decoder {
  decode(bytes: Uint8Array): string;
}
declare const TextDecoder: new (label: string, options?: { fatal?: boolean; ignoreBOM?: boolean }) => Decoder;

/**
 * Which way round a file of two-byte letters is written (Unicode 15, section 3.10): by its byte-order mark, or, without
 * one, by where the empty halves of its Latin letters stand. Null for any other file.
 */
const wideOrder = (bytes: Uint8Array): 'utf-16le' | 'utf-16be' | null => {
  const [a, b] = bytes;
  if (a === 0xff && b === 0xfe) return 'utf-16le';
  if (a === 0xfe && b === 0xff) return 'utf-16be';
  const pairs = Math.min(bytes.length, 400) >> 1;
  let [even, odd] = [0, 0];
  for (let i = 0; i < pairs; i += 1) {
    if (bytes[2 * i] === 0) even += 1;
    if (bytes[2 * i + 1] === 0) odd += 1;
  }
  // No other text has noughts in it.
  if (pairs < 2 || Math.max(even, odd) < 0.6 * pairs) return null;
  return odd > even ? 'utf-16le' : 'utf-16be';
};

/** Bytes of a CSV to text: UTF-8 when they are valid UTF-8, else Windows-1252. */
export const decodeRoster = (bytes: Uint8Array): { text: string; encoding: Exclude<Roster['encoding'], 'text'> } => {
  const wide = wideOrder(bytes);
  if (wide) return { text: new TextDecoder(wide).decode(bytes), encoding: 'UTF-16' };
  try {
    return { text: new TextDecoder('utf-8', { fatal: true }).decode(bytes), encoding: 'UTF-8' };
  } catch {
    return { text: new TextDecoder('windows-1252').decode(bytes), encoding: 'Windows-1252' };
  }
};

/** Words that head a column; nobody is called so [common practice]. */
const KNOWN =
  /^(name|names|slot|no|nr|number|lane|seat|crew|team|title|text|line ?\d*|first|last|surname|club|date|customer|boat|design|artwork|logo|kind|code|serial|#)$/i;

/** Whether a first row looks like headings: a word in every cell, and one of them a known one. */
const looksLikeHeadings = (cells: readonly string[]): boolean =>
  cells.every((c) => c !== '') && cells.some((c) => KNOWN.test(c));

/** Names of columns, each its own: a second of the same heading is numbered, and said. */
const distinct = (headings: readonly string[]): { names: string[]; notes: string[] } => {
  const names: string[] = [];
  const notes: string[] = [];
  for (const [i, heading] of headings.entries()) {
    const own = heading || `column ${i + 1}`;
    let name = own;
    for (let n = 2; names.some((other) => other.toLowerCase() === name.toLowerCase()); n += 1) name = `${own} ${n}`;
    if (name !== own) notes.push(`Two columns are called “${own}”: the later one is “${name}” here.`);
    names.push(name);
  }
  return { names, notes };
};

const columnNames = (
  first: readonly string[],
  said: boolean | null,
): { names: string[]; isHeader: boolean; notes: string[] } => {
  const cells = first.map((c) => c.trim());
  const isHeader = said ?? looksLikeHeadings(cells);
  const { names, notes } = distinct(isHeader ? cells : cells.map(() => ''));
  return { names, isHeader, notes };
};

/**
 * Reads a roster from CSV text or cells pasted from a spreadsheet: comma, semicolon or tab,
 * quoted fields, byte-order mark. A first row of headings names the columns.
 *
 * @param headings whether the first row is headings; null to tell by its words
 * @returns all rows, or a problem naming the row; never half of them
 */
export const readRoster = (
  text: string,
  encoding: Roster['encoding'] = 'text',
  headings: boolean | null = null,
): Result<Roster> => {
  if (text.length > ROSTER_LIMITS.bytes)
    return fail(
      'too-large',
      `The list is ${(text.length / 1e6).toFixed(1)} MB; at most ${ROSTER_LIMITS.bytes / 1e6} MB are read.`,
      'roster',
    );
  const clean = text.replace(/^\uFEFF/, '');
  if (clean.trim() === '') return fail('empty', 'The list is empty. Paste one row for each piece.', 'roster');
  const parsed = Papa.parse<string[]>(clean, {
    skipEmptyLines: 'greedy',
    delimiter: clean.includes('\t') ? '\t' : '',
    delimitersToGuess: [',', ';', '\t', '|'],
  });
  const quotes = parsed.errors.find((e) => e.type === 'Quotes');
  if (quotes)
    return fail(
      'broken-quotes',
      `Row ${(quotes.row ?? 0) + 1}: a quoted field is not closed, or has text after its closing quote.`,
      `row ${(quotes.row ?? 0) + 1}`,
    );
  const grid = parsed.data;
  const { names, isHeader, notes: said } = columnNames(grid[0] ?? [], headings);
  if (names.length > ROSTER_LIMITS.columns)
    return fail(
      'too-many-columns',
      `The list has ${names.length} columns; at most ${ROSTER_LIMITS.columns} are read.`,
      'row 1',
    );
  const body = isHeader ? grid.slice(1) : grid;
  if (body.length > ROSTER_LIMITS.rows)
    return fail(
      'too-many-rows',
      `The list has ${body.length} rows; at most ${ROSTER_LIMITS.rows} are read. Split it into batches.`,
      `row ${ROSTER_LIMITS.rows + 1}`,
    );
  if (body.length === 0) return fail('empty', 'The list has headings but no rows.', 'row 1');
  const first = isHeader ? 2 : 1;
  const rows: Record<string, string>[] = [];
  const notes: string[] = [];
  for (const [index, cells] of body.entries()) {
    if (cells.length > names.length)
      return fail(
        'too-many-cells',
        `Row ${index + first}: ${cells.length} cells where the first row has ${names.length}. Put text with “${parsed.meta.delimiter}” in quotes.`,
        `row ${index + first}`,
      );
    const long = cells.findIndex((c) => c.length > ROSTER_LIMITS.cell);
    if (long >= 0)
      return fail(
        'cell-too-long',
        `Row ${index + first}, ${names[long]}: ${cells[long]!.length} characters; at most ${ROSTER_LIMITS.cell} are engraved.`,
        `row ${index + first}`,
      );
    if (cells.length < names.length) notes.push(`Row ${index + first} has ${cells.length} of ${names.length} cells.`);
    rows.push(Object.fromEntries(names.map((name, i) => [name, (cells[i] ?? '').trim()])));
  }
  const slot = names.find((name) => /^slot$/i.test(name));
  if (slot) {
    const seen = new Map<string, number>();
    for (const [index, row] of rows.entries()) {
      const number = row[slot]!;
      const before = seen.get(number);
      if (number !== '' && before !== undefined)
        return fail(
          'duplicate-slot',
          `Rows ${before + first} and ${index + first} both ask for slot ${number}.`,
          `row ${index + first}`,
        );
      if (number !== '' && !/^[1-9]\d*$/.test(number))
        return fail('bad-slot', `Row ${index + first}: “${number}” is not a slot number.`, `row ${index + first}`);
      seen.set(number, index);
    }
    rows.sort((a, b) => (Number(a[slot]) || Infinity) - (Number(b[slot]) || Infinity));
  }
  return ok({
    columns: names,
    rows,
    headings: isHeader,
    encoding,
    delimiter: parsed.meta.delimiter,
    notes: [
      ...said,
      ...(notes.length > 5 ? [...notes.slice(0, 5), `and ${notes.length - 5} more short rows.`] : notes),
    ],
  });
};

const NUMBER = /^[+-]?\d+([.,]\d+)?(e[+-]?\d+)?$/i;
/** What a spreadsheet may take for the beginning of a formula, plain or full-width, also behind blanks. */
const FORMULA = /^(\s*[=+\-@\uFF1D\uFF0B\uFF0D\uFF20]|[\t\r\n])/;

/**
 * A cell for CSV output that a spreadsheet will not take for a formula (common practice: an apostrophe
 * before it). A number keeps its sign.
 *
 * @example safeCell('=1+1') // "'=1+1"
 */
export const safeCell = (value: string): string => {
  const guarded = FORMULA.test(value) && !NUMBER.test(value) ? `'${value}` : value;
  return /[",;\n\r]/.test(guarded) ? `"${guarded.replaceAll('"', '""')}"` : guarded;
};
