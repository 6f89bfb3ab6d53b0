import { useState, type ReactNode } from 'react';
import { OneLine } from '../Tip';

/** The name of a field, above it. */
export const FieldLabel = ({
  id,
  label,
  hidden,
  focused,
}: {
  id: string;
  label: string;
  hidden: boolean;
  /** Whether its field has the focus. */
  focused: boolean;
}) => (
  <label htmlFor={id} className={hidden ? 'sr-only' : 'block text-[13px] text-soft'}>
    {hidden ? label : <OneLine text={label} focused={focused} />}
  </label>
);

/** A field with its label above and what is to be said of it below: what is wrong before all else. */
export const Labelled = ({
  id,
  label,
  hideLabel = false,
  wrong,
  note,
  children,
}: {
  id: string;
  label: string;
  hideLabel?: boolean | undefined;
  wrong: string | null | undefined;
  note?: ReactNode;
  children: ReactNode;
}) => {
  const [focused, setFocused] = useState(false);
  return (
    <div className="min-w-0" onFocus={() => setFocused(true)} onBlur={() => setFocused(false)}>
      <FieldLabel id={id} label={label} hidden={hideLabel} focused={focused} />
      {children}
      <p id={`${id}-note`} className={`min-h-0 text-[13px] ${wrong ? 'text-oxide' : 'text-soft'}`}>
        {wrong ?? note}
      </p>
    </div>
  );
};

/** The attributes that tie an input to its note. */
export const tied = (id: string, wrong: boolean) => ({ id, 'aria-invalid': wrong, 'aria-describedby': `${id}-note` });
