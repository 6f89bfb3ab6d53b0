import { z } from 'zod';
import { SHOWN, type Reads, type Says } from './limits';

interface Common {
  readonly label: string;
  readonly hint: string | undefined;
  /** What is wrong with a value, in words; null when it is taken. */
  readonly problem: (value: unknown) => string | null;
}
export interface NumberField extends Common {
  readonly kind: 'number';
  readonly reads: Reads;
  /** As it is shown. */
  readonly unit: string;
  readonly digits: number | undefined;
  /** What an empty field means; undefined where it may not be empty. */
  readonly empty: string | undefined;
}
export interface ChoiceField extends Common {
  readonly kind: 'choice';
  /** What may be chosen, with its words; the value of nothing is ''. */
  readonly options: readonly (readonly [string, string])[];
  /** The value that stands for what was chosen. */
  readonly valueOf: (chosen: string) => unknown;
}
export interface TextField extends Common {
  readonly kind: 'text';
  readonly most: number;
  readonly mayBeEmpty: boolean;
}
export interface TickField extends Common {
  readonly kind: 'tick';
}
/** A day and an hour, or none. */
export interface TimeField extends Common {
  readonly kind: 'time';
}
export type Field = NumberField | ChoiceField | TextField | TickField | TimeField;

/** A field of a form that its schema does not have: a mistake in the page, not in what was typed. */
class NoSuchField extends Error {
  constructor(path: string, step: string) {
    super(`The contract has no field ${path}: nothing is known of “${step}”.`);
  }
}

const saidOf = (schema: z.ZodType): Says => (schema.meta() ?? {}) as Says;

/** What is said of a field and the schema it stands on, without what may be left out or cannot be changed. */
const bare = (schema: z.ZodType): { readonly inner: z.ZodType; readonly says: Says; readonly nullable: boolean } => {
  let inner = schema;
  let says = saidOf(schema);
  let nullable = false;
  while (inner instanceof z.ZodNullable || inner instanceof z.ZodOptional || inner instanceof z.ZodReadonly) {
    nullable ||= inner instanceof z.ZodNullable;
    inner = inner.unwrap() as z.ZodType;
    says = { ...saidOf(inner), ...says };
  }
  return { inner, says, nullable };
};

const entry = (value: unknown, key: string): unknown =>
  typeof value === 'object' && value !== null ? (value as Record<string, unknown>)[key] : undefined;

/** What stands under a key; undefined where the schema has no such key. */
const under = (schema: z.ZodType, key: string, value: unknown): z.ZodType | undefined => {
  const { inner } = bare(schema);
  if (inner instanceof z.ZodObject) return (inner.shape as Record<string, z.ZodType>)[key];
  if (inner instanceof z.ZodArray) return /^\d+$/.test(key) ? (inner.element as z.ZodType) : undefined;
  if (inner instanceof z.ZodTuple) return (inner.def.items as z.ZodType[])[Number(key)];
  if (inner instanceof z.ZodIntersection)
    return under(inner.def.left as z.ZodType, key, value) ?? under(inner.def.right as z.ZodType, key, value);
  if (inner instanceof z.ZodDiscriminatedUnion) {
    const by = inner.def.discriminator;
    const chosen = (inner.options as z.ZodObject[]).find((o) => o.shape[by]!.safeParse(entry(value, by)).success);
    return chosen && under(chosen, key, value);
  }
  return undefined;
};

/**
 * The schema under a path. Where it depends on a choice, on the one that was made.
 * @param path keys and places in lists, with points between: `bed.width`, `holes.0.x`
 * @throws where the schema has no such field
 */
export const schemaAt = (schema: z.ZodType, path: string, value: unknown): z.ZodType => {
  let here = schema;
  let held = value;
  for (const key of path.split('.')) {
    const next = under(here, key, held);
    if (!next) throw new NoSuchField(path, key);
    here = next;
    held = entry(held, key);
  }
  return here;
};

const literals = (schema: z.ZodType): readonly (string | number)[] | null => {
  if (schema instanceof z.ZodEnum) return schema.options as (string | number)[];
  if (schema instanceof z.ZodLiteral) return [...(schema.values as Set<string | number>)];
  if (!(schema instanceof z.ZodUnion)) return null;
  const each = (schema.options as z.ZodType[]).map(literals);
  return each.every((e) => e !== null) ? each.flat() : null;
};

/**
 * A field as a form shows it: all of it from the contract, so that no page repeats a limit, a unit or a label.
 *
 * @param value what the form holds now: it says which case of a union the field stands in
 * @throws where the schema has no such field
 * @example fieldAt(machineProfile, 'bed.width', profile) // { kind: 'number', label: 'Bed width', unit: 'mm', … }
 */
export const fieldAt = (schema: z.ZodType, path: string, value: unknown): Field => {
  const at = schemaAt(schema, path, value);
  const { inner, says, nullable } = bare(at);
  const { label = path, hint } = says;
  const common: Common = {
    label,
    hint,
    problem: (v) => {
      const read = at.safeParse(v);
      return read.success ? null : read.error.issues[0]!.message;
    },
  };
  if (inner instanceof z.ZodNumber) {
    const reads = says.reads ?? 'number';
    const unit = SHOWN[reads]?.unit ?? says.unit ?? '';
    const empty = nullable ? (says.empty ?? 'Empty: not known.') : undefined;
    return { ...common, kind: 'number', reads, unit, digits: says.digits, empty };
  }
  if (inner instanceof z.ZodBoolean) return { ...common, kind: 'tick' };
  if (inner instanceof z.ZodISODateTime) return { ...common, kind: 'time' };
  if (inner instanceof z.ZodString)
    return { ...common, kind: 'text', most: inner.maxLength ?? 200, mayBeEmpty: (inner.minLength ?? 0) === 0 };
  const values = literals(inner);
  if (!values) throw new NoSuchField(path, 'a field that can be typed or chosen');
  const options = says.options ?? values.map((v): [string, string] => [String(v), String(v)]);
  const none = at.safeParse(null).success ? null : undefined;
  return {
    ...common,
    kind: 'choice',
    options: at.safeParse(none).success ? [['', says.empty ?? 'none'], ...options] : options,
    valueOf: (chosen) => values.find((v) => String(v) === chosen) ?? none,
  };
};
