import { z } from 'zod';

/** How a number is read from what is typed, and written again. */
export type Reads = 'length' | 'capacity' | 'speed' | 'interval' | 'angle' | 'percent' | 'count' | 'number';

/** What a form says beside a field. It stands on the field's schema as Zod's `.meta`. */
export interface Says {
  /** The field's label, where it is not its name. */
  readonly label?: string;
  /** What helps to fill it in. */
  readonly hint?: string;
  /** Unit as it is shown, where nothing else says it. */
  readonly unit?: string;
  readonly reads?: Reads;
  /** Places behind the point that are shown. */
  readonly digits?: number;
  /** What may be chosen, and the words for each. */
  readonly options?: readonly (readonly [string, string])[];
  /** What an empty field means, where it may be left empty. */
  readonly empty?: string;
}

const UNIT_READS: Readonly<Record<string, Reads>> = { mm: 'length', l: 'capacity', 'mm/s': 'speed', rad: 'angle' };
/** What a number is multiplied by to be shown, and its unit then. */
export const SHOWN: Readonly<Partial<Record<Reads, { readonly times: number; readonly unit: string }>>> = {
  percent: { times: 100, unit: '%' },
  angle: { times: 180 / Math.PI, unit: '°' },
};

const round = (value: number): number => Number(value.toFixed(6));

const message = (name: string, low: number, high: number, unit: string, whole: boolean): string =>
  `${name} must be a ${whole ? 'whole ' : ''}number between ${round(low)} and ${round(high)}${unit === '' ? '' : ` ${unit}`}.`;

const number = (name: string, low: number, high: number, unit: string, reads: Reads): z.ZodNumber => {
  const { times, unit: shown } = SHOWN[reads] ?? { times: 1, unit };
  const words = message(name, low * times, high * times, shown, reads === 'count');
  return z.number({ error: words }).min(low, words).max(high, words);
};

/**
 * A finite number in a range, with a sentence that names it as the form does.
 * @param unit millimetres, millimetres a second and radians say how the number is read from what is typed
 */
export const inRange = (name: string, low: number, high: number, unit = '', says: Says = {}): z.ZodNumber => {
  const reads = says.reads ?? UNIT_READS[unit] ?? 'number';
  return number(name, low, high, unit, reads).meta({ label: name, unit, ...says, reads });
};

export const wholeNumber = (name: string, low: number, high: number, says: Says = {}): z.ZodNumber =>
  number(name, low, high, '', 'count')
    .int(message(name, low, high, '', true))
    .meta({ label: name, unit: '', reads: 'count', ...says });

/** Printable text in one line. */
export const line = (name: string, least: number, most: number, says: Says = {}): z.ZodString =>
  z
    .string()
    .trim()
    .min(least, `${name} is empty.`)
    .max(most, `${name} is longer than ${most} characters.`)
    .regex(/^[^\u0000-\u001f\u007f]*$/u, `${name} has a character that cannot be printed.`)
    .meta({ label: name, ...says });

/** One of a few words, with what the form calls each. */
export const oneOf = <const T extends Readonly<Record<string, string>>>(name: string, words: T, says: Says = {}) =>
  z
    .enum(Object.keys(words) as [keyof T & string, ...(keyof T & string)[]])
    .meta({ label: name, options: Object.entries(words), ...says });

/** Yes or no. */
export const yesNo = (name: string, says: Says = {}): z.ZodBoolean => z.boolean().meta({ label: name, ...says });

/** The corners of a bed or a board, in words. */
export const CORNERS = {
  'front-left': 'front left',
  'front-right': 'front right',
  'back-left': 'back left',
  'back-right': 'back right',
} as const;

export const id = z.uuid('This address is of nothing that is kept here.');
export const time = z.iso.datetime();
/** Two marks a seam, and no more seams than 10 m of work can have. */
export const HIGHEST_MARK = 400;

/**
 * One piece's words by column, at most so many letters each. Built entry by entry: a column may be called
 * anything, `__proto__` too, which a plain record would drop or take for something else.
 */
export const rosterRow = z.unknown().transform((value, context): Record<string, string> => {
  const refuse = (message: string, path: string[] = []): never => {
    context.addIssue({ code: 'custom', message, path });
    return z.NEVER;
  };
  if (typeof value !== 'object' || value === null || Array.isArray(value))
    return refuse('A row must be columns and words.');
  const entries = Object.entries(value as Record<string, unknown>);
  if (entries.length > MOST_COLUMNS) return refuse(`A row has more than ${MOST_COLUMNS} columns.`);
  for (const [column, words] of entries) {
    if (column.length > LONGEST_COLUMN) return refuse(`A column’s name is longer than ${LONGEST_COLUMN} letters.`);
    if (typeof words !== 'string') return refuse(`${column} must be words.`, [column]);
    if (words.length > LONGEST_WORDS) return refuse(`${column} is longer than ${LONGEST_WORDS} letters.`, [column]);
  }
  return Object.fromEntries(entries as [string, string][]);
});
export const MOST_COLUMNS = 40;
export const LONGEST_COLUMN = 100;
const LONGEST_WORDS = 200;
