import { useId, type ReactNode } from 'react';
import { Checkbox, RadioGroup, Select as Radix } from 'radix-ui';
import { FieldLabel } from './Labelled';

type Options<T extends string> = readonly (readonly [T, string])[];

/** One of a few: all of them visible; arrow keys go through them. */
export const Choice = <T extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: T;
  options: Options<T>;
  onChange: (value: T) => void;
}) => {
  const id = useId();
  return (
    <div className="min-w-0">
      <p id={id} className="text-[13px] text-soft">
        {label}
      </p>
      <RadioGroup.Root
        className="flex flex-wrap"
        aria-labelledby={id}
        value={value}
        onValueChange={(v) => onChange(v as T)}
      >
        {options.map(([key, word]) => (
          <RadioGroup.Item
            key={key}
            value={key}
            className="-ml-px flex min-h-11 items-center border border-rim px-3 text-left text-blue first:ml-0 focus-visible:outline-2 focus-visible:outline-blue data-[state=checked]:z-10 data-[state=checked]:border-blue data-[state=checked]:bg-blue data-[state=checked]:font-bold data-[state=checked]:text-on-blue"
          >
            {word}
          </RadioGroup.Item>
        ))}
      </RadioGroup.Root>
    </div>
  );
};

/** Radix keeps '' for “nothing chosen”: a choice of nothing needs a name of its own. */
const NOTHING = '·nothing·';

/** One of many, in a list that opens and is never cut. */
export const Select = ({
  label,
  value,
  options,
  onChange,
  hideLabel = false,
}: {
  label: string;
  value: string;
  options: Options<string>;
  onChange: (value: string) => void;
  hideLabel?: boolean | undefined;
}) => {
  const id = useId();
  return (
    <div className="min-w-0">
      <FieldLabel id={id} label={label} hidden={hideLabel} />
      <Radix.Root value={value || NOTHING} onValueChange={(v) => onChange(v === NOTHING ? '' : v)}>
        <Radix.Trigger
          id={id}
          className="field flex !h-auto min-h-11 items-center justify-between gap-2 !py-1 text-left leading-tight"
        >
          <span className="min-w-0 break-words">
            <Radix.Value />
          </span>
          <Radix.Icon className="text-soft">▾</Radix.Icon>
        </Radix.Trigger>
        <Radix.Portal>
          <Radix.Content
            position="popper"
            sideOffset={2}
            className="z-50 max-h-(--radix-select-content-available-height) min-w-(--radix-select-trigger-width) overflow-hidden border border-rim bg-sheet"
          >
            <Radix.Viewport>
              {options.map(([key, word]) => (
                <Radix.Item
                  key={key}
                  value={key || NOTHING}
                  className="flex min-h-11 cursor-pointer items-center px-2.5 outline-none data-highlighted:bg-blue data-highlighted:text-on-blue data-[state=checked]:font-bold"
                >
                  <Radix.ItemText>{word}</Radix.ItemText>
                </Radix.Item>
              ))}
            </Radix.Viewport>
          </Radix.Content>
        </Radix.Portal>
      </Radix.Root>
    </div>
  );
};

/** Yes or no; the words beside it belong to it. */
export const Tick = ({
  label,
  checked,
  onChange,
}: {
  label: ReactNode;
  checked: boolean;
  onChange: (checked: boolean) => void;
}) => {
  const id = useId();
  return (
    <div className="flex min-h-11 items-center gap-2.5">
      <Checkbox.Root
        id={id}
        className="grid size-6 shrink-0 place-items-center border border-rim bg-sheet text-on-blue focus-visible:outline-2 focus-visible:outline-blue data-[state=checked]:border-blue data-[state=checked]:bg-blue"
        checked={checked}
        onCheckedChange={(c) => onChange(c === true)}
      >
        <Checkbox.Indicator className="text-sm leading-none font-bold">✓</Checkbox.Indicator>
      </Checkbox.Root>
      <label htmlFor={id} className="flex min-h-11 cursor-pointer items-center">
        <span>{label}</span>
      </label>
    </div>
  );
};
