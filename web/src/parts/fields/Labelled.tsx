import type { ReactNode } from 'react';

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
}) => (
  <div className="min-w-0">
    <label htmlFor={id} title={label} className={hideLabel ? 'sr-only' : 'block truncate text-[13px] text-soft'}>
      {label}
    </label>
    {children}
    <p id={`${id}-note`} className={`min-h-0 text-[13px] ${wrong ? 'text-oxide' : 'text-soft'}`}>
      {wrong ?? note}
    </p>
  </div>
);

/** The attributes that tie an input to its note. */
export const tied = (id: string, wrong: boolean) => ({ id, 'aria-invalid': wrong, 'aria-describedby': `${id}-note` });
