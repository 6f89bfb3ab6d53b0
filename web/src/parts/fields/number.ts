import { bothUnits, parseCapacity, parseInterval, parseLength, parseSpeed, type Result } from '@bistre/core';
import type { NumberField, Reads } from '@bistre/contract';

const DEGREE = Math.PI / 180;

const plain = (text: string, sign: RegExp): Result<number> => {
  const value = Number(text.trim().replace(',', '.').replace(sign, ''));
  return text.trim() === '' || !Number.isFinite(value)
    ? { ok: false, problem: { code: 'not-a-number', message: `“${text.trim()}” is not a number.` } }
    : { ok: true, value };
};

const times = (result: Result<number>, factor: number): Result<number> =>
  result.ok ? { ok: true, value: result.value * factor } : result;

/** Without the last digits that binary fractions leave behind: 3 in are 76.2 mm, 70 % are 0.7. */
const tidy = (value: number): number => Number(value.toPrecision(12));

const READ: Readonly<Record<Reads, (text: string) => Result<number>>> = {
  length: (text) => {
    const result = parseLength(text);
    return result.ok ? { ok: true, value: tidy(result.value.mm) } : result;
  },
  capacity: (text) => {
    const result = parseCapacity(text);
    return result.ok ? { ok: true, value: tidy(result.value) } : result;
  },
  speed: parseSpeed,
  interval: parseInterval,
  angle: (text) => times(plain(text, /\s*°$/), DEGREE),
  percent: (text) => {
    const result = plain(text, /\s*%$/);
    return result.ok ? { ok: true, value: tidy(result.value / 100) } : result;
  },
  count: (text) => plain(text, /$^/),
  number: (text) => plain(text, /$^/),
};

/** What was typed, in the unit that is stored: mm, mm/s, radians, a share, or as it stands. */
export const readNumber = (reads: Reads, text: string): Result<number> => READ[reads](text);

const SHOWN: Readonly<Record<Reads, { readonly factor: number; readonly digits: number }>> = {
  length: { factor: 1, digits: 3 },
  capacity: { factor: 1, digits: 4 },
  speed: { factor: 1, digits: 3 },
  interval: { factor: 1, digits: 5 },
  angle: { factor: 1 / DEGREE, digits: 1 },
  percent: { factor: 100, digits: 3 },
  count: { factor: 1, digits: 3 },
  number: { factor: 1, digits: 5 },
};

/** A stored number as the field shows it; nothing for none. */
export const writeNumber = (reads: Reads, value: number | null | undefined, digits = SHOWN[reads].digits): string =>
  value === null || value === undefined ? '' : String(Number((value * SHOWN[reads].factor).toFixed(digits)));

/** How a value that was typed in another unit is understood; null where nothing needs to be said. */
const understood = (reads: Reads, text: string, value: number): string | null => {
  if (reads === 'length' && /[a-z"/½¼¾⅛⅜⅝⅞]/i.test(text)) return bothUnits(value);
  if (reads === 'capacity' && /[a-z]/i.test(text)) return `${value.toFixed(3)} l`;
  if (reads === 'interval' && /[a-z]/i.test(text)) return `${value.toFixed(5)} mm`;
  if (reads === 'speed' && /[a-z]/i.test(text)) return `${value.toFixed(2)} mm/s`;
  return null;
};

export type Taken =
  | { readonly kind: 'value'; readonly value: number | null; readonly note: string | null }
  | { readonly kind: 'refused'; readonly why: string }
  /** Nothing stands in a field that may not be empty. */
  | { readonly kind: 'empty' };

/** What a field makes of a text: a value with what it understood, or why it is refused. */
export const takeNumber = (field: NumberField, text: string): Taken => {
  if (text.trim() === '')
    return field.empty === undefined ? { kind: 'empty' } : { kind: 'value', value: null, note: field.empty };
  const read = readNumber(field.reads, text);
  if (!read.ok) return { kind: 'refused', why: read.problem.message };
  const why = field.problem(read.value);
  return why === null
    ? { kind: 'value', value: read.value, note: understood(field.reads, text, read.value) }
    : { kind: 'refused', why };
};
