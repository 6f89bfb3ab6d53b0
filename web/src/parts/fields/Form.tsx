import { createContext, useContext, useEffect, useRef, type ReactNode } from 'react';
import { useForm, useWatch, type FieldValues, type UseFormReturn } from 'react-hook-form';
import { zodResolver } from '@hookform/resolvers/zod';
import type { z } from 'zod';

interface Here {
  readonly schema: z.ZodType;
  readonly form: UseFormReturn;
  /** Called when a field took a value. */
  readonly taken: () => void;
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

const NOTHING = (): void => undefined;

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
  return (
    <Context
      value={{
        schema,
        form: form as unknown as UseFormReturn,
        // A field may be wrong beside another that was just changed.
        taken: () => (form.formState.isValid ? NOTHING() : void trigger()),
        prefix: '',
      }}
    >
      {children}
    </Context>
  );
};

/**
 * Fields that take effect as they are typed: what the schema takes as a whole is handed on, what it refuses stays in
 * its field with the reason.
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
  const form = useForm<T>({ values: value, resolver: resolverOf(schema), mode: 'onChange' });
  const latest = useRef(onChange);
  useEffect(() => {
    latest.current = onChange;
  });
  const taken = async (): Promise<void> => {
    if (await form.trigger()) latest.current(form.getValues());
  };
  return (
    <Context value={{ schema, form: form as unknown as UseFormReturn, taken: () => void taken(), prefix: '' }}>
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
