import { useEffect, useRef } from 'react';
import { ask } from './ask';

/** Whether a form may be left: at once where nothing was typed, else once somebody said so. */
export const mayLeave = (typed: boolean): Promise<boolean> =>
  typed
    ? ask('Leave what you typed?', 'It is not saved yet, and is gone then.', 'Leave it', 'Stay')
    : Promise.resolve(true);

/** A page that Esc leaves; while a list or a dialog is open, Esc is theirs. */
export const useEscape = (leave: () => void): void => {
  const latest = useRef(leave);
  useEffect(() => {
    latest.current = leave;
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (event.key !== 'Escape' || event.defaultPrevented || event.repeat) return;
      if (document.querySelector('[role="dialog"], [role="alertdialog"], [role="listbox"]')) return;
      latest.current();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
};
