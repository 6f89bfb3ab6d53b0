import { useEffect, useLayoutEffect, useRef } from 'react';

const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName));

/** A key that works anywhere on the page except while somebody types or a dialog is open. */
export const useHotkey = (key: string, action: () => void): void => {
  const latest = useRef(action);
  // With the commit, not after the paint: a key pressed at once acts on what is shown.
  useLayoutEffect(() => {
    latest.current = action;
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (event.key !== key || event.ctrlKey || event.metaKey || event.altKey || typing(event.target)) return;
      if (document.querySelector('[role="dialog"]')) return;
      event.preventDefault();
      latest.current();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [key]);
};
