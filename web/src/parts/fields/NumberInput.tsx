import { useEffect, useId, useRef, useState, type KeyboardEvent, type ReactNode, type Ref } from 'react';
import type { NumberField } from '@bistre/contract';
import { Labelled, tied } from './Labelled';
import { takeNumber, writeNumber } from './number';

export interface NumberInputProps {
  field: NumberField;
  value: number | null | undefined;
  onCommit: (value: number | null) => void;
  /** What is wrong with it beside others, though by itself it is taken. */
  error?: string | undefined;
  label?: string | undefined;
  hint?: ReactNode;
  /** Says nothing below but what is wrong: its place is narrow, or it may be left empty. */
  bare?: boolean | undefined;
  hideLabel?: boolean | undefined;
  autoFocus?: boolean | undefined;
  placeholder?: string | undefined;
  /** Keeps what is typed but not yet taken under this name, so that a reload loses nothing. */
  draft?: string | undefined;
  /** Takes the value on Enter only and empties the field afterwards. */
  list?: boolean | undefined;
  /** Enter in it, once what stands there is taken: where the work goes on. */
  onEnter?: (() => void) | undefined;
  inputRef?: Ref<HTMLInputElement> | undefined;
  /** Whether the page has keys of its own for it, so that the tablet need not show its. */
  keypad?: boolean | undefined;
}

/**
 * A number as it is typed at the bench. Shows at once what it understood; a wrong entry is named and stays in the
 * field.
 */
export const NumberInput = (props: NumberInputProps) => {
  const { field, value, onCommit, draft, list = false } = props;
  const { reads, digits } = field;
  const id = useId();
  const key = draft ? `bistre.field.${draft}` : null;
  const [text, setText] = useState(
    () => (key ? sessionStorage.getItem(key) : null) ?? (list ? '' : writeNumber(reads, value, digits)),
  );
  const [touched, setTouched] = useState(false);
  const editing = useRef(false);
  useEffect(() => {
    if (!editing.current && !list && !(key && sessionStorage.getItem(key))) setText(writeNumber(reads, value, digits));
  }, [value, reads, list, key, digits]);
  const taken = takeNumber(field, text);
  const emptied = taken.kind === 'empty' && !list && value !== null && value !== undefined;
  const refused = taken.kind === 'refused' ? taken.why : null;
  const wrong = refused ?? (emptied && touched ? 'Empty: the last value is kept.' : null) ?? props.error ?? null;
  const give = (number: number | null): void => {
    if (key) sessionStorage.removeItem(key);
    onCommit(number);
  };
  const change = (next: string): void => {
    setText(next);
    if (key) sessionStorage.setItem(key, next);
    const result = takeNumber(field, next);
    if (!list && result.kind === 'value') give(result.value);
  };
  const onKey = (event: KeyboardEvent): void => {
    // Leaving a field of a list by the keyboard keeps what was typed in it.
    const leaves = list && event.key === 'Tab' && !event.shiftKey;
    if (event.key !== 'Enter' && !leaves) return;
    const empty = taken.kind === 'empty' || (taken.kind === 'value' && taken.value === null);
    if (list && taken.kind === 'value' && taken.value !== null) {
      setText('');
      give(taken.value);
    } else if (refused !== null || (!empty && list)) return setTouched(true);
    if (event.key === 'Enter' && props.onEnter) props.onEnter();
    else setTouched(true);
  };
  return (
    <Labelled
      id={id}
      label={props.label ?? field.label}
      hideLabel={props.hideLabel}
      wrong={wrong}
      note={props.bare ? undefined : (taken.kind === 'value' && taken.note) || (props.hint ?? field.hint)}
    >
      <div className="relative">
        <input
          {...tied(id, wrong !== null || emptied)}
          className="field pr-10"
          ref={props.inputRef}
          inputMode={props.keypad === undefined ? 'text' : props.keypad ? 'none' : 'decimal'}
          autoComplete="off"
          value={text}
          autoFocus={props.autoFocus}
          placeholder={props.placeholder}
          onFocus={() => {
            editing.current = true;
          }}
          onBlur={() => {
            editing.current = false;
            setTouched(true);
          }}
          onChange={(e) => change(e.target.value)}
          onKeyDown={onKey}
        />
        <span className="pointer-events-none absolute top-1/2 right-2.5 -translate-y-1/2 text-[13px] text-soft">
          {field.unit}
        </span>
      </div>
    </Labelled>
  );
};
