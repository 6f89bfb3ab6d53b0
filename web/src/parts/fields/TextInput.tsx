import { useEffect, useId, useRef, useState, type ReactNode } from 'react';
import type { TextField } from '@bistre/contract';
import { Labelled, tied } from './Labelled';

/** A line of text, taken as it is typed; what may not be empty keeps the last words while it is. */
export const TextInput = ({
  field,
  value,
  onCommit,
  label = field.label,
  hint = field.hint,
  suggest = [],
  error,
}: {
  field: TextField;
  value: string;
  onCommit: (value: string) => void;
  label?: string | undefined;
  hint?: ReactNode;
  /** Words that are offered while it is typed. */
  suggest?: readonly string[] | undefined;
  error?: string | undefined;
}) => {
  const id = useId();
  const [text, setText] = useState(value);
  const editing = useRef(false);
  useEffect(() => {
    if (!editing.current) setText(value);
  }, [value]);
  const emptied = !field.mayBeEmpty && text.trim() === '' && value !== '';
  const refused = text.trim() === '' ? null : field.problem(text);
  const wrong = refused ?? (emptied ? 'Empty: the last value is kept.' : null) ?? error;
  return (
    <Labelled id={id} label={label} wrong={wrong} note={hint}>
      <input
        {...tied(id, wrong !== null && wrong !== undefined)}
        className="field"
        value={text}
        maxLength={field.most}
        list={suggest.length > 0 ? `${id}-suggest` : undefined}
        onFocus={() => {
          editing.current = true;
        }}
        onBlur={() => {
          editing.current = false;
        }}
        onChange={(e) => {
          setText(e.target.value);
          if (field.problem(e.target.value) === null) onCommit(e.target.value);
        }}
      />
      {suggest.length > 0 && (
        <datalist id={`${id}-suggest`}>
          {suggest.map((words) => (
            <option key={words} value={words} />
          ))}
        </datalist>
      )}
    </Labelled>
  );
};
