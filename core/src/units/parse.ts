import { fail, ok, type Result } from '../result';
import { MM_PER_INCH, type Mm, type MmPerS, type Rad } from './brands';

export type LengthUnit = 'mm' | 'cm' | 'm' | 'in';

const LENGTH_UNITS: Readonly<Record<string, LengthUnit>> = {
  mm: 'mm',
  millimetre: 'mm',
  millimetres: 'mm',
  millimeter: 'mm',
  millimeters: 'mm',
  cm: 'cm',
  m: 'm',
  in: 'in',
  inch: 'in',
  inches: 'in',
  '"': 'in',
  '″': 'in',
  '”': 'in',
  "''": 'in',
};
const MM_PER: Readonly<Record<LengthUnit, number>> = { mm: 1, cm: 10, m: 1000, in: MM_PER_INCH };
const SINGLE_FRACTIONS: Readonly<Record<string, string>> = {
  '½': '1/2',
  '¼': '1/4',
  '¾': '3/4',
  '⅛': '1/8',
  '⅜': '3/8',
  '⅝': '5/8',
  '⅞': '7/8',
  '⅓': '1/3',
  '⅔': '2/3',
};

export interface ReadLength {
  readonly mm: Mm;
  /** The unit that was written, or the default that was applied to a bare number. */
  readonly unit: LengthUnit;
  readonly assumedUnit: boolean;
}

const tidy = (text: string): string =>
  text
    .trim()
    .replace(/[½¼¾⅛⅜⅝⅞⅓⅔]/g, (c) => ` ${SINGLE_FRACTIONS[c]}`)
    .replace(/[−–]/g, '-')
    .replace(/⁄/g, '/')
    .replace(/\s+/g, ' ')
    .trim();

/** Reads `10`, `10.5`, `10,5`, `.3`, `7/8`, `10 7/8` and `10-7/8`. */
const readNumber = (text: string): number | null => {
  const mixed = /^([+-]?)(?:(\d+)[ -])?(\d+)\/(\d+)$/.exec(text);
  if (mixed) {
    const [, sign, whole = '0', top, bottom] = mixed;
    if (Number(bottom) === 0) return null;
    const size = Number(whole) + Number(top) / Number(bottom);
    return sign === '-' ? -size : size;
  }
  if (!/^[+-]?(\d+([.,]\d*)?|[.,]\d+)$/.test(text)) return null;
  return Number(text.replace(',', '.'));
};

const split = (text: string): { number: string; unit: string } => {
  const match = /^([+-]?[\d.,/ -]*\d[.,]?)\s*(.*)$/.exec(text);
  return match ? { number: match[1]!.trim(), unit: match[2]!.trim() } : { number: '', unit: text };
};

/**
 * Reads a length as it is typed at the bench.
 *
 * @param text e.g. `10 7/8`, `10-7/8 in`, `4 1/4"`, `276,2 mm`, `.3in`, `27.6 cm`
 * @param bareUnit the shop's default unit, for a number without one
 * @returns millimetres, or a problem that says what could not be read
 * @example parseLength('10 7/8 in', 'mm') // { ok: true, value: { mm: 276.225, … } }
 */
export const parseLength = (text: string, bareUnit: LengthUnit = 'mm'): Result<ReadLength> => {
  const clean = tidy(text);
  if (clean === '') return fail('empty', 'Type a length, for example 60, 2 3/8 in or 27.6 cm.');
  const parts = split(clean);
  const number = readNumber(parts.number);
  if (number === null) {
    return /\/\s*0+(\D|$)/.test(clean)
      ? fail('zero-division', `“${text.trim()}” divides by zero.`)
      : fail('not-a-length', `“${text.trim()}” is not a length. Write it like 60, 60,5 mm or 2 3/8 in.`);
  }
  const unit = parts.unit === '' ? bareUnit : LENGTH_UNITS[parts.unit.toLowerCase()];
  if (!unit) return fail('unknown-unit', `“${parts.unit}” is not a unit of length. Use mm, cm, m or in.`);
  const mm = number * MM_PER[unit];
  if (!Number.isFinite(mm) || Math.abs(mm) > 1e6) {
    return fail('out-of-range', `“${text.trim()}” is more than a kilometre. Check the unit.`);
  }
  return ok({ mm, unit, assumedUnit: parts.unit === '' });
};

/**
 * Reads an angle. Bare numbers are degrees.
 * @example parseAngle('90°') // π/2
 */
export const parseAngle = (text: string): Result<Rad> => {
  const parts = split(tidy(text));
  const number = readNumber(parts.number);
  if (number === null) return fail('not-an-angle', `“${text.trim()}” is not an angle. Write it like 3.5 or 3.5°.`);
  switch (parts.unit.toLowerCase()) {
    case '':
    case '°':
    case 'deg':
    case 'degrees':
      return ok((number * Math.PI) / 180);
    case 'rad':
      return ok(number);
    default:
      return fail('unknown-unit', `“${parts.unit}” is not a unit of angle. Use ° or rad.`);
  }
};

const SPEEDS: Readonly<Record<string, number>> = {
  'mm/s': 1,
  'mm/sec': 1,
  'mm/min': 1 / 60,
  'in/s': MM_PER_INCH,
  'in/sec': MM_PER_INCH,
  'in/min': MM_PER_INCH / 60,
  ipm: MM_PER_INCH / 60,
  'm/s': 1000,
};

/**
 * Reads a speed. Bare numbers are mm/s.
 * @example parseSpeed('600 mm/min') // 10
 */
export const parseSpeed = (text: string): Result<MmPerS> => {
  const parts = split(tidy(text));
  const number = readNumber(parts.number);
  if (number === null) return fail('not-a-speed', `“${text.trim()}” is not a speed. Write it like 250 mm/s.`);
  const factor = parts.unit === '' ? 1 : SPEEDS[parts.unit.toLowerCase().replace(/\s/g, '')];
  if (factor === undefined)
    return fail('unknown-unit', `“${parts.unit}” is not a unit of speed. Use mm/s, mm/min, in/s or in/min.`);
  return ok(number * factor);
};

/**
 * Reads a line density as the interval between lines. Bare numbers are millimetres of interval;
 * `lpi` and `dpi` count lines or dots to the inch.
 * @example parseInterval('300 lpi') // 0.084667 mm
 */
export const parseInterval = (text: string): Result<Mm> => {
  const parts = split(tidy(text));
  const number = readNumber(parts.number);
  if (number === null || number <= 0) {
    return fail('not-a-density', `“${text.trim()}” is not a line density. Write it like 0.1 mm, 254 lpi or 300 dpi.`);
  }
  const unit = parts.unit.toLowerCase().replace(/\s/g, '');
  if (['lpi', 'dpi', 'lines/in', 'dots/in', 'l/in'].includes(unit)) return ok(MM_PER_INCH / number);
  if (['lines/mm', 'l/mm', 'dots/mm'].includes(unit)) return ok(1 / number);
  const length = parseLength(text, 'mm');
  return length.ok ? ok(length.value.mm) : length;
};

/** Litres. US fluid ounces by the gallon of 231 in³ in 128 parts [NIST Handbook 44, appendix C]; imperial ones as 28.4130625 ml [UK Weights and Measures Act 1985, mem]. */
const LITRES_PER: Readonly<Record<string, number>> = {
  l: 1,
  litre: 1,
  litres: 1,
  liter: 1,
  liters: 1,
  dl: 0.1,
  cl: 0.01,
  ml: 0.001,
  cc: 0.001,
  oz: (231 * MM_PER_INCH ** 3) / 128e6,
  imp: 0.0284130625,
};

/**
 * Reads what a vessel holds, in litres. Bare numbers are litres; ounces are US fluid ounces unless `imp` says otherwise.
 * @example parseCapacity('67 fl oz') // 1.981
 */
export const parseCapacity = (text: string): Result<number> => {
  const parts = split(tidy(text));
  const number = readNumber(parts.number);
  if (number === null)
    return fail('not-a-capacity', `“${text.trim()}” is not a capacity. Write it like 0.75, 750 ml or 67 fl oz.`);
  const unit = parts.unit.toLowerCase().replace(/[.\s]/g, '');
  const ounces = /^(us)?(fl|fluid)?(oz|ounces?)$/.test(unit) ? 'oz' : /^(imp|uk)(fl|fluid)?(oz|ounces?)$/.test(unit) ? 'imp' : unit; // prettier-ignore
  const litres = unit === '' ? 1 : LITRES_PER[ounces];
  if (litres === undefined || unit === 'imp')
    return fail('unknown-unit', `“${parts.unit}” is not a unit of capacity. Use l, cl, ml, fl oz or imp fl oz.`);
  return ok(number * litres);
};
