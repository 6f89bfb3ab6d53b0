import fc, { type Arbitrary } from 'fast-check';
import type { z } from 'zod';

/** What a schema of the contract is made of, as Zod keeps it. */
interface Def {
  readonly type: string;
  readonly shape?: Record<string, z.ZodType>;
  readonly element?: z.ZodType;
  readonly innerType?: z.ZodType;
  readonly options?: readonly z.ZodType[];
  readonly values?: readonly unknown[];
  readonly entries?: Record<string, string>;
  readonly items?: readonly z.ZodType[];
  readonly in?: z.ZodType;
  readonly left?: z.ZodType;
  readonly right?: z.ZodType;
  readonly format?: string;
  readonly checks?: readonly { readonly _zod: { readonly def: Check } }[];
}
interface Check {
  readonly check: string;
  readonly value?: number;
  readonly minimum?: number;
  readonly maximum?: number;
  readonly format?: string;
  readonly pattern?: RegExp;
}

const defOf = (schema: z.ZodType): Def => (schema as unknown as { _zod: { def: Def } })._zod.def;
const checksOf = (def: Def): Check[] => (def.checks ?? []).map((c) => c._zod.def);
const limit = (checks: readonly Check[], name: string): number | undefined => {
  const found = checks.find((c) => c.check === name);
  return found?.value ?? found?.minimum ?? found?.maximum;
};

/** Strings that programs trip over. */
export const NASTY_TEXT = [
  '',
  ' ',
  '\u0000',
  'a\u0000b',
  '\ud800',
  'x\udfff',
  '%',
  '%zz',
  '-'.repeat(36),
  '__proto__',
  'constructor',
  '../../etc/passwd',
  "'; drop table batches; --",
  '=1+1',
  '𝔘𝔫𝔦\u202e',
  'e\u0301'.repeat(40),
  'x'.repeat(5_000),
  '1e999',
  '00000000-0000-0000-0000-000000000000',
] as const;
const NASTY_NUMBERS = [NaN, Infinity, -Infinity, -0, 1e308, -1e308, 5e-324, 2 ** 31, 2 ** 53, 3e9, 0.1 + 0.2, -1];

/** Any JSON, with what programs trip over in it. */
export const hostile: Arbitrary<unknown> = fc.letrec((tie) => ({
  value: fc.oneof(
    { maxDepth: 4 },
    fc.constantFrom<unknown>(...NASTY_TEXT),
    fc.constantFrom<unknown>(...NASTY_NUMBERS, null, true, false),
    fc.string({ unit: 'binary', maxLength: 30 }),
    fc.double(),
    fc.array(tie('value'), { maxLength: 6 }),
    fc
      .array(fc.tuple(fc.oneof(fc.constantFrom(...NASTY_TEXT), fc.string({ maxLength: 8 })), tie('value')), {
        maxLength: 6,
      })
      .map((entries) => Object.fromEntries(entries)),
  ),
})).value;

const ofString = (def: Def, ids: readonly string[]): Arbitrary<unknown> => {
  const checks = checksOf(def);
  const format = def.format ?? checks.find((c) => c.check === 'string_format')?.format;
  if (format === 'uuid') return fc.oneof(fc.constantFrom(...ids), fc.uuid({ version: 4 }));
  if (format === 'datetime')
    return fc.date({ min: new Date(0), max: new Date(4e12), noInvalidDate: true }).map((d) => d.toISOString());
  const least = limit(checks, 'min_length') ?? 0;
  const most = Math.min(limit(checks, 'max_length') ?? 40, 300);
  const pattern = checks.find((c) => c.format === 'regex')?.pattern;
  if (pattern && /\{1,60\}/.test(pattern.source))
    return fc.constantFrom('place.home', 'hold.cut', 'run.segment-1', 'place.turned', 'close.putback', 'x.y');
  return fc
    .string({ minLength: Math.max(1, least), maxLength: Math.max(1, most) })
    .map((s) => s.trim() || 'x'.repeat(Math.max(1, least)));
};

const ofNumber = (def: Def): Arbitrary<unknown> => {
  const checks = checksOf(def);
  const low =
    limit(
      checks.filter((c) => c.check === 'greater_than'),
      'greater_than',
    ) ?? -1e6;
  const high =
    limit(
      checks.filter((c) => c.check === 'less_than'),
      'less_than',
    ) ?? 1e6;
  const whole = checks.some((c) => c.check === 'number_format') || def.format === 'safeint';
  if (whole)
    return fc.integer({ min: Math.ceil(Math.max(low, -(2 ** 31))), max: Math.floor(Math.min(high, 2 ** 31 - 1)) });
  return fc.oneof(fc.double({ min: low, max: high, noNaN: true }), fc.constantFrom(low, high));
};

/** Values that a schema takes; ids are drawn from those that exist, too. */
export const valid = (schema: z.ZodType, ids: readonly string[]): Arbitrary<unknown> => {
  const def = defOf(schema);
  const inner = (s: z.ZodType): Arbitrary<unknown> => valid(s, ids);
  switch (def.type) {
    case 'object':
      return fc
        .record(Object.fromEntries(Object.entries(def.shape!).map(([k, s]) => [k, inner(s)])))
        .map((v) => Object.fromEntries(Object.entries(v).filter(([, x]) => x !== undefined)));
    case 'array':
      return fc.array(inner(def.element!), {
        minLength: limit(checksOf(def), 'min_length') ?? 0,
        maxLength: Math.max(
          limit(checksOf(def), 'min_length') ?? 0,
          Math.min(4, limit(checksOf(def), 'max_length') ?? 4),
        ),
      });
    case 'tuple':
      return fc.tuple(...def.items!.map(inner));
    case 'string':
      return ofString(def, ids);
    case 'number':
    case 'int':
      return ofNumber(def);
    case 'boolean':
      return fc.boolean();
    case 'enum':
      return fc.constantFrom(...Object.values(def.entries!));
    case 'literal':
      return fc.constantFrom(...def.values!);
    case 'union':
      return fc.oneof(...def.options!.map(inner));
    case 'intersection':
      return fc.tuple(inner(def.left!), inner(def.right!)).map(([a, b]) => ({ ...(a as object), ...(b as object) }));
    case 'nullable':
      return fc.oneof(fc.constant(null), inner(def.innerType!));
    case 'readonly':
      return inner(def.innerType!);
    case 'optional':
    case 'default':
      return fc.oneof(fc.constant(undefined), inner(def.innerType!));
    case 'pipe':
      return inner(def.in!);
    case 'record':
    case 'unknown':
    case 'transform':
      return fc.dictionary(fc.string({ minLength: 1, maxLength: 8 }), fc.string({ maxLength: 12 }), { maxKeys: 4 });
    default:
      throw new Error(`the fuzzing does not know ${def.type} yet`);
  }
};

/** A value with one place in it put out of joint: another kind of thing, something hostile, or gone. */
const disjointed = (value: unknown, path: readonly number[], poison: unknown): unknown => {
  if (typeof value !== 'object' || value === null || path.length === 0) return poison;
  const keys = Object.keys(value);
  if (keys.length === 0) return poison;
  const key = keys[path[0]! % keys.length]!;
  if (path[0]! % 7 === 0 && !Array.isArray(value))
    return Object.fromEntries(Object.entries(value).filter(([k]) => k !== key));
  const copy: Record<string, unknown> = Array.isArray(value) ? ([...value] as never) : { ...value };
  copy[key] = disjointed(copy[key], path.slice(1), poison);
  return copy;
};

/** Values that a schema takes, nearly takes, or that nobody would take. */
export const near = (schema: z.ZodType, ids: readonly string[]): Arbitrary<unknown> => {
  const good = valid(schema, ids);
  return fc.oneof(
    { weight: 4, arbitrary: good },
    {
      weight: 4,
      arbitrary: fc
        .tuple(good, fc.array(fc.nat(30), { minLength: 1, maxLength: 4 }), hostile)
        .map(([value, path, poison]) => disjointed(value, path, poison)),
    },
    { weight: 2, arbitrary: hostile },
  );
};
