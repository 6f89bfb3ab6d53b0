import { useEffect } from 'react';
import { useController } from 'react-hook-form';
import { fieldAt } from '@bistre/contract';
import { Choice, Select, Tick } from './choices';
import { useHere } from './Form';
import { NumberInput, type NumberInputProps } from './NumberInput';
import { TextInput } from './TextInput';
import { TimeInput } from './TimeInput';

/** How a field looks where it stands; what it is says its contract. */
type Look = Pick<NumberInputProps, 'hint' | 'hideLabel' | 'autoFocus' | 'placeholder'> & {
  readonly label?: string;
  /** All that may be chosen is visible at once. */
  readonly open?: boolean;
  /** What a text is chosen from, with its words, where only the page knows it: columns, zones, alphabets. */
  readonly of?: readonly (readonly [string, string])[] | undefined;
  /** Words that are offered while a text is typed. */
  readonly suggest?: readonly string[] | undefined;
  /** What else changes with what was typed or chosen. */
  readonly then?: (value: unknown) => void;
};

/**
 * A field by its place in the form’s schema, '' for all of what it stands in: label, unit, limits, words and help come from there.
 * @example <Field at="bed.width" />
 */
export const Field = ({
  at,
  label: own,
  hint,
  hideLabel,
  autoFocus,
  placeholder,
  open = false,
  of,
  suggest,
  then,
}: Look & { at: string }) => {
  const { schema, form, taken, names, prefix } = useHere();
  const name = (prefix + at).replace(/\.$/, '');
  const { field, fieldState } = useController({ control: form.control, name });
  useEffect(() => {
    names.add(name);
    return () => {
      names.delete(name);
      // A row that was taken out is not brought back, empty, when the form is given its value anew.
      form.unregister(name, { keepValue: true, keepDefaultValue: true, keepDirty: true, keepIsValid: true });
    };
  }, [form, names, name]);
  const spec = fieldAt(schema, name, form.getValues());
  const label = own ?? spec.label;
  const give = (value: unknown): void => {
    field.onChange(value);
    then?.(value);
    taken();
  };
  const error = fieldState.error?.message;
  switch (spec.kind) {
    case 'number':
      return (
        <NumberInput
          field={spec}
          value={field.value as number | null}
          onCommit={give}
          {...{ label, hint, hideLabel, autoFocus, placeholder, error }}
        />
      );
    case 'text':
      return of ? (
        <Select label={label} value={field.value as string} options={of} onChange={give} hideLabel={hideLabel} />
      ) : (
        <TextInput
          field={spec}
          value={(field.value as string | undefined) ?? ''}
          onCommit={give}
          {...{ label, hint, suggest, error }}
        />
      );
    case 'time':
      return <TimeInput label={label} value={field.value as string | null} onCommit={give} error={error} />;
    case 'tick':
      return <Tick label={label} checked={field.value === true} onChange={give} />;
    case 'choice': {
      const value = field.value === null || field.value === undefined ? '' : String(field.value);
      const Chosen = open ? Choice : Select;
      return (
        <Chosen
          label={label}
          value={value}
          options={spec.options}
          onChange={(v: string) => give(spec.valueOf(v))}
          {...(open ? {} : { hideLabel })}
        />
      );
    }
  }
};

/**
 * Several fields, one after the other, as they are.
 * @param at their paths, with spaces between
 * @example <Fields at="bed.width bed.height zeroCorner" />
 */
export const Fields = ({ at }: { at: string }) => at.split(' ').map((one) => <Field key={one} at={one} />);
