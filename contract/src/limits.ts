import { z } from 'zod';

const message = (name: string, low: number, high: number, unit: string): string =>
  `${name} must be a number between ${low} and ${high}${unit === '' ? '' : ` ${unit}`}.`;

/** A finite number in a range, with a sentence that names it. */
export const inRange = (name: string, low: number, high: number, unit = ''): z.ZodNumber =>
  z
    .number({ error: message(name, low, high, unit) })
    .min(low, message(name, low, high, unit))
    .max(high, message(name, low, high, unit));

export const wholeNumber = (name: string, low: number, high: number): z.ZodNumber =>
  inRange(name, low, high).int(`${name} must be a whole number.`);

/** Printable text in one line. */
export const line = (name: string, least: number, most: number): z.ZodString =>
  z
    .string()
    .trim()
    .min(least, `${name} is empty.`)
    .max(most, `${name} is longer than ${most} characters.`)

    .regex(/^[^\u0000-\u001f\u007f]*$/u, `${name} has a character that cannot be printed.`);

export const id = z.uuid();
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
