import { useId } from 'react';
import { Labelled, tied } from './Labelled';

const two = (n: number): string => String(n).padStart(2, '0');

/** A time as the browser's own field wants it: on this machine's clock, to the minute. */
export const localTime = (iso: string | null): string => {
  if (iso === null) return '';
  const at = new Date(iso);
  return `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}T${two(at.getHours())}:${two(at.getMinutes())}`;
};

/** A day and an hour, or none. */
export const TimeInput = ({
  label,
  value,
  error,
  onCommit,
}: {
  label: string;
  value: string | null;
  error?: string | undefined;
  onCommit: (value: string | null) => void;
}) => {
  const id = useId();
  return (
    <Labelled id={id} label={label} wrong={error}>
      <input
        {...tied(id, error !== undefined)}
        className="field"
        type="datetime-local"
        defaultValue={localTime(value)}
        onChange={(e) => onCommit(e.target.value ? new Date(e.target.value).toISOString() : null)}
      />
    </Labelled>
  );
};
