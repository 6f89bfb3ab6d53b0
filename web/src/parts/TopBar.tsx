import type { ReactNode } from 'react';
import { Link, NavLink, useOutletContext } from 'react-router';
import { Waits } from './Waits';
import { newerPages } from '../data/api';
import { Operator } from './Operator';
import { Tip } from './Tip';

const place = ({ isActive }: { isActive: boolean }): string =>
  `flex min-h-11 min-w-11 items-center justify-center px-1 ${isActive ? 'font-bold text-ink' : 'text-blue'}`;

const toggleLamp = (): void => {
  const next = document.documentElement.dataset.theme === 'off' ? 'on' : 'off';
  document.documentElement.dataset.theme = next;
  localStorage.setItem('bistre.theme', next);
};

/** The thin bar: where we are, alarms, saved state, the lamp, who is at the bench. */
export const TopBar = ({ children, alarm, saved }: { children?: ReactNode; alarm?: ReactNode; saved?: ReactNode }) => {
  const { find } = useOutletContext<{ find: () => void }>();
  return (
    <header className="flex min-h-11 shrink-0 flex-wrap items-center gap-x-5 border-b border-hairline bg-sheet px-5">
      <Link to="/" className="flex min-h-11 min-w-11 items-center text-base font-bold">
        Bistre
      </Link>
      <div className="min-w-0 flex-1 basis-48 py-1 leading-tight text-soft">{children}</div>
      {newerPages.use() && (
        <Tip says="Nothing that was typed is lost.">
          <button className="link font-bold" onClick={() => location.reload()}>
            a newer Bistre is there: renew the page
          </button>
        </Tip>
      )}
      <Waits />
      {alarm}
      {saved}
      <nav className="flex gap-1" aria-label="Main">
        <NavLink className={place} to="/" end>
          Board
        </NavLink>
        <NavLink className={place} to="/shelf/blanks">
          Shelf
        </NavLink>
        <NavLink className={place} to="/log">
          Log
        </NavLink>
      </nav>
      <button className="min-h-11 text-blue" onClick={find}>
        <kbd className="mr-1.5 border border-rim px-1.5">/</kbd>find
      </button>
      <button className="min-h-11 min-w-11 text-blue" onClick={toggleLamp}>
        lamp
      </button>
      <Operator />
    </header>
  );
};
