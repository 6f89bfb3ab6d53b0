import { createContext, useContext, useEffect, useRef, useState, type ReactNode } from 'react';
import { useForm, useWatch, type FieldPath, type FieldValues, type UseFormReturn } from 'react-hook-form';
import { replaceEqualDeep } from '@tanstack/react-query';
import { zodResolver } from '@hookform/resolvers/zod';
import type { z } from 'zod';

interface Here {
  readonly schema: z.ZodType;
  readonly form: UseFormReturn;
  /** Called when a field took a value. */
  readonly taken: () => void;
  /** Names of the fields that are on the page. */
  readonly names: Set<string>;
  /** What stands before the names of the fields. */
  readonly prefix: string;
}

const Context = createContext<Here | null>(null);

/** The form that a field stands in. */
export const useHere = (): Here => {
  const here = useContext(Context);
  if (!here) throw new Error('A field stands in no form.');
  return here;
};

/** Fields that lie deeper: `<Within at="bed"><Field at="width" /></Within>` is `bed.width`. */
export const Within = ({ at, children }: { at: string; children: ReactNode }) => {
  const here = useHere();
  return <Context value={{ ...here, prefix: `${here.prefix}${at}.` }}>{children}</Context>;
};

const same = (a: unknown, b: unknown): boolean => replaceEqualDeep(a, b) === a;

const resolverOf = <T extends FieldValues>(schema: z.ZodType<T, T>) => zodResolver<T, unknown, T>(schema);

/** A form that is filled in first and saved then, checked by the schema that the server checks with. */
export const useDraftForm = <T extends FieldValues>(schema: z.ZodType<T, T>, start: T): UseFormReturn<T> =>
  useForm<T>({ defaultValues: start as never, resolver: resolverOf(schema), mode: 'onChange' });

/** The first thing that is wrong with a form as a whole, in words. */
export const firstError = (errors: object): string => {
  for (const value of Object.values(errors) as unknown[]) {
    if (typeof value !== 'object' || value === null) continue;
    const { message } = value as { message?: unknown };
    if (typeof message === 'string' && message !== '') return message;
    const deeper = firstError(value);
    if (deeper !== '') return deeper;
  }
  return '';
};

/** Fields of a form that is saved by a button. */
export const DraftFields = <T extends FieldValues>({
  form,
  schema,
  children,
}: {
  form: UseFormReturn<T>;
  schema: z.ZodType<T, T>;
  children: ReactNode;
}) => {
  const { trigger } = form;
  const [names] = useState(() => new Set<string>());
  return (
    <Context
      value={{
        schema,
        form: form as unknown as UseFormReturn,
        // What was wrong beside another may be right now; what nobody typed in yet is not complained of.
        taken: () => {
          const wrong = [...names].filter((name) => form.getFieldState(name as FieldPath<T>).error);
          if (wrong.length > 0) void trigger(wrong as FieldPath<T>[]);
        },
        names,
        prefix: '',
      }}
    >
      {children}
    </Context>
  );
};

/**
 * Fields that take effect as they are typed. What is wrong with one that is on the page stays in it with the reason,
 * and nothing is handed on; what is wrong elsewhere is said by the server, which names the place.
 */
export const LiveFields = <T extends FieldValues>({
  schema,
  value,
  onChange,
  children,
}: {
  schema: z.ZodType<T, T>;
  value: T;
  onChange: (value: T) => void;
  children: ReactNode;
}) => {
  const form = useForm<T>({ defaultValues: value as never, resolver: resolverOf(schema), mode: 'onChange' });
  const [names] = useState(() => new Set<string>());
  const latest = useRef(onChange);
  useEffect(() => {
    latest.current = onChange;
  });
  // What was handed on comes back a little later: more may have been typed by then, and must not go back to it.
  const outside = useRef({ seen: value, given: [] as T[] });
  useEffect(() => {
    const now = outside.current;
    if (same(now.seen, value)) return;
    now.seen = value;
    const own = now.given.findIndex((given) => same(given, value));
    now.given = own < 0 ? [] : now.given.slice(own + 1);
    if (own < 0) form.reset(value);
  }, [form, value]);
  const taken = async (): Promise<void> => {
    if (!(await form.trigger([...names] as FieldPath<T>[]))) return;
    // The form goes on with its own; what was handed on stays as it was.
    const given = structuredClone(form.getValues());
    outside.current.given.push(given);
    latest.current(given);
  };
  return (
    <Context value={{ schema, form: form as unknown as UseFormReturn, taken: () => void taken(), names, prefix: '' }}>
      {children}
    </Context>
  );
};

/** Sets a part of the form that no single field stands for: another kind, one more of a list. */
export const usePart = <V,>(at: string): readonly [V, (value: V) => void] => {
  const { form, taken, prefix } = useHere();
  const name = prefix + at;
  const value = useWatch({ control: form.control, name }) as V;
  return [
    value,
    (next) => {
      form.setValue(name, next, { shouldDirty: true });
      taken();
    },
  ];
};
