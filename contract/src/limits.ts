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
