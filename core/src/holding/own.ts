import { roundedRectangle, type Vec } from '../geometry';
import { fail, ok, type Result } from '../result';
import { parseLength, type Mm } from '../units';
import type { Blank } from './blank';
import { nominalSize } from './nominal';
import type { Board, Pass } from './places';
import {
  FEWEST_MARKS,
  MARK_KINDS,
  MARK_WORDS,
  MOST_MARKS,
  type MarkKind,
  type MarkLook,
  type MarkPlace,
} from '../marks';
import { markContours } from '../marks';

/** A feature of a piece that can be aimed at, measured from the piece's front left corner, mm. */
export interface OwnMark extends Vec {
  readonly look: MarkLook;
}

/** Marks that pieces carry already: holes, crosses, printed corners, anything with a middle. */
export interface OwnMarks {
  readonly marks: readonly OwnMark[];
  /** Whether the piece may be stretched (print, cloth, leather) or is rigid (metal, wood, plastic). */
  readonly stretches: boolean;
}

export const freshOwn: OwnMarks = { marks: [], stretches: false };

/** Marks nearer together than this tell too little of an angle to be used without asking, mm. */
export const NEAR_MARKS: Mm = 20;

/** A piece with marks of its own, as a board of one place. */
export const ownBoard = (blank: Blank, { marks }: OwnMarks, name: string, revision: number): Result<Board> => {
  const { length, width } = nominalSize(blank.shape);
  if (marks.length < FEWEST_MARKS)
    return fail(
      'too-few-marks',
      'Say where the piece’s marks are: two at least, measured from its front left corner; holes, crosses, corners, anything with a middle.',
      'hold.own',
    );
  if (marks.length > MOST_MARKS)
    return fail('too-many-marks', `${marks.length} marks are more than are read; at most ${MOST_MARKS}.`, 'hold.own');
  for (const [i, a] of marks.entries())
    for (const [j, b] of marks.entries())
      if (j > i && Math.hypot(a.x - b.x, a.y - b.y) < 1)
        return fail('marks-on-one-point', `Marks ${i + 1} and ${j + 1} are at one place.`, `hold.own.${j}`);
  const places = marks.map(({ x, y, look }, i): MarkPlace => ({
    id: i + 1,
    at: { x, y },
    role: i < 2 ? 'place' : 'check',
    look,
  }));
  const middle = { x: length / 2, y: width / 2 };
  return ok(
    boardOfOne({ length, width }, name, revision, places, [
      { name: 'marks', kind: 'line', contours: places.flatMap(markContours) },
      { name: 'edge', kind: 'line', contours: [roundedRectangle(middle, length, width)] },
    ]),
  );
};

/** Work that lies on the bed by itself, as a board whose one place is all of it. */
export const boardOfOne = (
  { length, width }: { readonly length: Mm; readonly width: Mm },
  name: string,
  revision: number,
  marks: readonly MarkPlace[],
  passes: readonly Pass[],
): Board => ({
  name,
  revision,
  thickness: 0,
  pocket: { length, width },
  kerf: 0,
  width: length,
  height: width,
  columns: 1,
  rows: 1,
  turned: false,
  wall: 0,
  slots: [{ slot: 1, row: 0, column: 0, angle: 0, centre: { x: length / 2, y: width / 2 } }],
  marks,
  passes,
});

/** Farthest distance between two of the marks, mm. */
export const markReach = (marks: readonly Vec[]): Mm => {
  let most = 0;
  for (const a of marks) for (const b of marks) most = Math.max(most, Math.hypot(a.x - b.x, a.y - b.y));
  return most;
};

/** Most lines of a table of marks or readings. */
const MOST_ROWS = 400;

/** A line's cells: by tabs or semicolons where there are any, else by commas, else by blanks. */
const cells = (line: string): string[] =>
  (/[\t;]/.test(line)
    ? line.split(/[\t;]/)
    : line.includes(', ') || /^[^,]*,[^,]*,[^,]*$/.test(line)
      ? line.split(',')
      : line.split(/\s+/)
  )
    .map((c) => c.trim())
    .filter((c) => c !== '');

const eachRow = <T>(text: string, read: (row: readonly string[], line: number) => Result<T>): Result<T[]> => {
  const lines = text.split(/\r?\n/);
  if (lines.length > MOST_ROWS) return fail('too-many-rows', `The table has more than ${MOST_ROWS} lines.`, 'table');
  const out: T[] = [];
  for (const [i, line] of lines.entries()) {
    if (line.trim() === '' || /^\s*(#|mark\b|x\b|nr?\b)/i.test(line)) continue;
    const row = read(cells(line), i + 1);
    if (!row.ok) return row;
    out.push(row.value);
  }
  return out.length === 0 ? fail('empty-table', 'The table has no lines.', 'table') : ok(out);
};

const length = (cell: string | undefined, what: string, line: number): Result<Mm> => {
  if (cell === undefined) return fail('short-row', `Line ${line}: ${what} is missing.`, `line ${line}`);
  const read = parseLength(cell);
  return read.ok
    ? ok(read.value.mm)
    : fail('not-a-length', `Line ${line}, ${what}: ${read.problem.message}`, `line ${line}`);
};

const kindOf = (word: string): MarkKind | null => {
  const plain = word.toLowerCase();
  if (/hole|ring|bore/.test(plain)) return 'ring';
  return MARK_KINDS.find((k) => k === plain || MARK_WORDS[k] === plain) ?? null;
};

/**
 * Reads marks from a table, a line each: x, y and, if given, the form and size. Lengths as they are
 * typed anywhere; a heading and lines that begin with # are passed over. All or nothing.
 *
 * @example parseMarkTable('12.5; 10; hole; 6\n88, 60') // two marks
 * @returns the marks, or a problem naming the line and the cell
 */
export const parseMarkTable = (text: string): Result<OwnMark[]> =>
  eachRow(text, (row, line) => {
    const x = length(row[0], 'x', line);
    if (!x.ok) return x;
    const y = length(row[1], 'y', line);
    if (!y.ok) return y;
    const kind = row[2] === undefined ? 'cross' : kindOf(row[2]);
    if (!kind)
      return fail(
        'unknown-form',
        `Line ${line}: “${row[2]}” is no form of a mark. Write ${MARK_KINDS.map((k) => MARK_WORDS[k]).join(', ')}.`,
        `line ${line}`,
      );
    const size = row[3] === undefined ? ok(6) : length(row[3], 'size', line);
    if (!size.ok) return size;
    if (size.value < 0.5 || size.value > 100)
      return fail('mark-size', `Line ${line}: a mark is 0.5 to 100 mm across.`, `line ${line}`);
    return ok({ x: x.value, y: y.value, look: { kind, size: size.value } });
  });

/**
 * Reads readings from a table, a line each: number of the mark, x and y as the machine shows them.
 * All or nothing.
 * @param known numbers of the marks there are
 */
export const parseReadingTable = (
  text: string,
  known: readonly number[],
): Result<{ readonly mark: number; readonly x: Mm; readonly y: Mm }[]> => {
  const seen = new Set<number>();
  return eachRow(text, (row, line) => {
    const mark = Number(row[0]);
    if (!known.includes(mark))
      return fail(
        'no-such-mark',
        `Line ${line}: there is no mark “${row[0] ?? ''}”; marks are ${known.join(', ')}.`,
        `line ${line}`,
      );
    if (seen.has(mark))
      return fail('mark-twice', `Line ${line}: mark ${mark} stands in the table twice.`, `line ${line}`);
    seen.add(mark);
    const x = length(row[1], 'x', line);
    if (!x.ok) return x;
    const y = length(row[2], 'y', line);
    return y.ok ? ok({ mark, x: x.value, y: y.value }) : y;
  });
};
