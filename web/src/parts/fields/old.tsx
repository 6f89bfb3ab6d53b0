import { useEffect, useId, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { bothUnits, parseInterval, parseLength, parseSpeed, type Result } from '@bistre/core';

interface FieldProps {
  label: string;
  value: number | null;
  onCommit: (value: number) => void;
  /** Read and written text; millimetres by default. */
  kind?: 'length' | 'speed' | 'interval' | 'count' | 'percent' | 'number';
  unit?: string;
  hint?: ReactNode;
  min?: number;
  max?: number;
  /** Keeps what is typed but not yet taken under this name, so that a reload loses nothing. */
  draft?: string;
  /** Takes the value on Enter only and empties the field afterwards. */
  list?: boolean;
  autoFocus?: boolean;
  placeholder?: string;
  hideLabel?: boolean;
  digits?: number;
}

const parseNumber = (text: string): Result<number> => {
  const value = Number(text.trim().replace(',', '.').replace(/\s*%$/, ''));
  return text.trim() === '' || !Number.isFinite(value)
    ? { ok: false, problem: { code: 'not-a-number', message: `“${text.trim()}” is not a number.` } }
    : { ok: true, value };
};

const read = (kind: FieldProps['kind'], text: string): Result<number> => {
  switch (kind) {
    case 'speed':
      return parseSpeed(text);
    case 'interval':
      return parseInterval(text);
    case 'count': {
      const result = parseNumber(text);
      return result.ok && !Number.isInteger(result.value)
        ? { ok: false, problem: { code: 'not-whole', message: `“${text.trim()}” is not a whole number.` } }
        : result;
    }
    case 'percent': {
      const result = parseNumber(text);
      return result.ok ? { ok: true, value: result.value / 100 } : result;
    }
    case 'number':
      return parseNumber(text);
    default: {
      const result = parseLength(text);
      return result.ok ? { ok: true, value: result.value.mm } : result;
    }
  }
};

const write = (kind: FieldProps['kind'], value: number | null, digits = 3): string => {
  if (value === null) return '';
  const shown = kind === 'percent' ? value * 100 : value;
  return String(Number(shown.toFixed(digits)));
};

const UNITS: Readonly<Record<NonNullable<FieldProps['kind']>, string>> = {
  length: 'mm',
  speed: 'mm/s',
  interval: 'mm',
  count: '',
  percent: '%',
  number: '',
};

/**
 * A measurement as it is typed at the bench. Shows at once what it understood; a wrong entry is
 * named and stays in the field.
 */
export const MeasureField = ({
  label,
  value,
  onCommit,
  kind = 'length',
  unit,
  hint,
  min,
  max,
  draft,
  list = false,
  autoFocus,
  placeholder,
  hideLabel,
  digits,
}: FieldProps) => {
  const id = useId();
  const key = draft ? `bistre.field.${draft}` : null;
  const [text, setText] = useState(
    () => (key ? sessionStorage.getItem(key) : null) ?? (list ? '' : write(kind, value, digits)),
  );
  const [touched, setTouched] = useState(false);
  const editing = useRef(false);
  useEffect(() => {
    if (!editing.current && !list && !(key && sessionStorage.getItem(key))) setText(write(kind, value, digits));
  }, [value, kind, list, key, digits]);
  const parsed = read(kind, text);
  const range =
    parsed.ok && ((min !== undefined && parsed.value < min) || (max !== undefined && parsed.value > max))
      ? `${label} must be between ${write(kind, min ?? 0)} and ${write(kind, max ?? 0)}${UNITS[kind] ? ` ${UNITS[kind]}` : ''}.`
      : null;
  const empty = text.trim() === '' && !list && value !== null;
  const wrong =
    text.trim() === ''
      ? touched && empty
        ? 'Empty: the last value is kept.'
        : null
      : parsed.ok
        ? range
        : parsed.problem.message;
  const set = (next: string): void => {
    setText(next);
    if (key) sessionStorage.setItem(key, next);
    const result = read(kind, next);
    const fits = result.ok && !(min !== undefined && result.value < min) && !(max !== undefined && result.value > max);
    if (!list && fits) {
      if (key) sessionStorage.removeItem(key);
      onCommit(result.value);
    }
  };
  const onKey = (event: KeyboardEvent): void => {
    if (event.key !== 'Enter') return;
    if (list && parsed.ok && !range) {
      onCommit(parsed.value);
      setText('');
      if (key) sessionStorage.removeItem(key);
    } else setTouched(true);
  };
  const spelled =
    kind === 'length' && parsed.ok && !range && /[a-z"/½¼¾⅛⅜⅝⅞]/i.test(text)
      ? bothUnits(parsed.value)
      : kind === 'interval' && parsed.ok && /[a-z]/i.test(text)
        ? `${parsed.value.toFixed(5)} mm`
        : kind === 'speed' && parsed.ok && /[a-z]/i.test(text)
          ? `${parsed.value.toFixed(2)} mm/s`
          : null;
  return (
    <div className="min-w-0">
      <label htmlFor={id} className={hideLabel ? 'sr-only' : 'block truncate text-[13px] text-soft'}>
        {label}
      </label>
      <div className="relative">
        <input
          id={id}
          className="field pr-12"
          inputMode="text"
          autoComplete="off"
          value={text}
          autoFocus={autoFocus}
          placeholder={placeholder}
          aria-invalid={wrong !== null || empty}
          aria-describedby={`${id}-note`}
          onFocus={() => {
            editing.current = true;
          }}
          onBlur={() => {
            editing.current = false;
            setTouched(true);
          }}
          onChange={(e) => set(e.target.value)}
          onKeyDown={onKey}
        />
        <span className="pointer-events-none absolute top-1/2 right-2.5 -translate-y-1/2 text-[13px] text-soft">
          {unit ?? UNITS[kind]}
        </span>
      </div>
      <p id={`${id}-note`} className={`min-h-0 text-[13px] ${wrong ? 'text-oxide' : 'text-soft'}`}>
        {wrong ?? spelled ?? hint}
      </p>
    </div>
  );
};

/** A line of text saved as it is typed. */
export const TextField = ({
  label,
  value,
  onCommit,
  most = 200,
  hint,
}: {
  label: string;
  value: string;
  onCommit: (value: string) => void;
  most?: number;
  hint?: string;
}) => {
  const id = useId();
  const [text, setText] = useState(value);
  const editing = useRef(false);
  useEffect(() => {
    if (!editing.current) setText(value);
  }, [value]);
  const empty = text.trim() === '' && value !== '';
  return (
    <div className="min-w-0">
      <label htmlFor={id} className="block truncate text-[13px] text-soft">
        {label}
      </label>
      <input
        id={id}
        className="field"
        value={text}
        maxLength={most}
        aria-invalid={empty}
        aria-describedby={`${id}-note`}
        onFocus={() => {
          editing.current = true;
        }}
        onBlur={() => {
          editing.current = false;
        }}
        onChange={(e) => {
          setText(e.target.value);
          if (e.target.value.trim() !== '') onCommit(e.target.value);
        }}
      />
      <p id={`${id}-note`} className={`text-[13px] ${empty ? 'text-oxide' : 'text-soft'}`}>
        {empty ? 'Empty: the last value is kept.' : hint}
      </p>
    </div>
  );
};
