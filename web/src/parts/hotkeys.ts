import { useEffect, useLayoutEffect, useRef } from 'react';

/** Parts that keys belong to while they have the focus: letters choose in a list, arrows go through choices. */
const KEYS_TAKEN =
  'input, textarea, select, [contenteditable="true"], [role="combobox"], [role="radio"], [role="option"]';

const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && target.closest(KEYS_TAKEN) !== null;

/** A key that works anywhere on the page except while somebody types or a dialog is open. */
export const useHotkey = (key: string, action: () => void): void => {
  const latest = useRef(action);
  // With the commit, not after the paint: a key pressed at once acts on what is shown.
  useLayoutEffect(() => {
    latest.current = action;
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      // Once a press, however long it is held.
      if (event.key !== key || event.repeat || event.ctrlKey || event.metaKey || event.altKey || typing(event.target))
        return;
      if (document.querySelector('[role="dialog"], [role="alertdialog"], [role="listbox"]')) return;
      event.preventDefault();
      latest.current();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [key]);
};
