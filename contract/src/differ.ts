import type { z } from 'zod';
import { fieldAt, type Field } from './fields';
import { SHOWN } from './limits';

/** One place at which two values of a thing differ, as people read it. */
export interface Difference {
  /** Where, as a path with dots. */
  readonly path: string;
  readonly label: string;
  readonly theirs: string;
  readonly mine: string;
}

const leaves = (value: unknown, path: readonly string[] = []): [string, unknown][] =>
  typeof value === 'object' && value !== null
    ? Object.entries(value).flatMap(([key, inner]) => leaves(inner, [...path, key]))
    : value === undefined
      ? []
      : [[path.join('.'), value]];

/** How a place is called and its value shown, from the contract; a place that is no field is called by its path. */
const named = (
  schema: z.ZodType,
  path: string,
  whole: unknown,
): { label: string; shown: (value: unknown) => string } => {
  const plain = (value: unknown): string =>
    value === undefined || value === null || value === '' ? 'nothing' : String(value);
  let field: Field;
  try {
    field = fieldAt(schema, path, whole);
  } catch {
    return { label: path, shown: plain };
  }
  const { label } = field;
  if (field.kind === 'choice') {
    const { options } = field;
    return { label, shown: (value) => options.find(([v]) => v === String(value))?.[1] ?? plain(value) };
  }
  if (field.kind !== 'number') return { label, shown: plain };
  const { unit } = field;
  const times = SHOWN[field.reads]?.times ?? 1;
  return {
    label,
    shown: (value) =>
      typeof value === 'number' ? `${Number((value * times).toFixed(6))} ${unit}`.trim() : plain(value),
  };
};

/** Where two values of a thing differ, in the words of its form. */
export const differences = (schema: z.ZodType, theirs: unknown, mine: unknown): Difference[] => {
  const [a, b] = [new Map(leaves(theirs)), new Map(leaves(mine))];
  return [...new Set([...a.keys(), ...b.keys()])].flatMap((path) => {
    if (a.get(path) === b.get(path)) return [];
    const { label, shown } = named(schema, path, b.has(path) ? mine : theirs);
    return [{ path, label, theirs: shown(a.get(path)), mine: shown(b.get(path)) }];
  });
};
