import type { ReactNode } from 'react';

/** The name of a field, above it: whole, on more than one line where it has to be. */
export const FieldLabel = ({ id, label, hidden }: { id: string; label: string; hidden: boolean }) => (
  <label htmlFor={id} className={hidden ? 'sr-only' : 'block text-[13px] leading-[1.35] break-words text-soft'}>
    {label}
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
}) => (
  <div className="min-w-0">
    <FieldLabel id={id} label={label} hidden={hideLabel} />
    {children}
    <p id={`${id}-note`} className={`min-h-0 text-[13px] ${wrong ? 'text-oxide' : 'text-soft'}`}>
      {wrong ?? note}
    </p>
  </div>
);

/** The attributes that tie an input to its note. */
export const tied = (id: string, wrong: boolean) => ({ id, 'aria-invalid': wrong, 'aria-describedby': `${id}-note` });
