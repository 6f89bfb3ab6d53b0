import { useEffect, useState } from 'react';

const ROWS = [
  ['7', '8', '9', '⌫'],
  ['4', '5', '6', '/'],
  ['1', '2', '3', 'space'],
  ['0', '.', 'in', 'Keep'],
] as const;
type Key = (typeof ROWS)[number][number];

/** How a key is said aloud where its sign alone says too little. */
const WORDS: Readonly<Partial<Record<Key, string>>> = {
  '⌫': 'take the last sign back',
  '/': 'over, for a fraction',
  in: 'inches',
};

const value = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!;

/** Types into a field as a keyboard does. */
const put = (field: HTMLInputElement, text: string): void => {
  value.set!.call(field, text);
  field.dispatchEvent(new Event('input', { bubbles: true }));
};

/** Keeps what stands in a field, as Enter does. */
export const pressEnter = (field: HTMLInputElement): void => {
  field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
};

const press = (field: HTMLInputElement, key: Key): void => {
  if (key === 'Keep') pressEnter(field);
  else if (key === '⌫') put(field, field.value.slice(0, -1));
  else put(field, field.value + (key === 'space' ? ' ' : key));
};

/**
 * Large keys for a hand in a glove: figures, fractions and inches, into the field that had the focus last. The field keeps it.
 *
 * @param within selector of what the fields lie in
 */
export const Keypad = ({ within }: { within: string }) => {
  const [last, setLast] = useState<HTMLInputElement | null>(null);
  useEffect(() => {
    const seen = (target: EventTarget | null): void => {
      if (target instanceof HTMLInputElement && target.closest(within)) setLast(target);
    };
    seen(document.activeElement);
    const onFocus = (e: FocusEvent): void => seen(e.target);
    document.addEventListener('focusin', onFocus);
    return () => document.removeEventListener('focusin', onFocus);
  }, [within]);
  return (
    <div role="group" aria-label="Keypad" className="mt-2 grid max-w-md grid-cols-4 gap-2">
      {ROWS.flat().map((key) => (
        <button
          key={key}
          type="button"
          className={`act !min-h-14 justify-center !px-2 !text-[19px] ${key === 'Keep' ? 'act-main' : ''}`}
          aria-label={WORDS[key]}
          // The field stays where the keys go.
          onPointerDown={(e) => e.preventDefault()}
          onMouseDown={(e) => e.preventDefault()}
          onClick={() => {
            const field = last?.isConnected ? last : document.querySelector<HTMLInputElement>(`${within} input`);
            if (!field) return;
            field.focus();
            press(field, key);
          }}
        >
          {key}
        </button>
      ))}
    </div>
  );
}; // prettier-ignore
