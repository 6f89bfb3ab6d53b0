import { Link, useRouteError } from 'react-router';
import { messageOf } from '../data/api';

/** A page that broke: what happened, what is safe, what to do. */
export const Failed = () => {
  const error = useRouteError();
  return (
    <main className="mx-auto max-w-xl p-10">
      <h1 className="text-2xl font-bold">This page failed</h1>
      <p className="mt-3">{messageOf(error)}</p>
      <p className="mt-3">
        Everything that was shown as saved is safe, and what was typed since is kept in this browser. Renew the page; if
        it fails again, go to the Board.
      </p>
      <p className="mt-5 flex gap-3">
        <button className="act act-main" onClick={() => location.reload()}>
          Load again
        </button>
        <a className="act" href="/">
          Board
        </a>
      </p>
    </main>
  );
};

export const NotHere = () => (
  <main className="mx-auto max-w-xl p-10">
    <h1 className="text-2xl font-bold">There is nothing at this address</h1>
    <p className="mt-3">The batch may have been closed or the address mistyped.</p>
    <p className="mt-5">
      <Link className="act act-main" to="/">
        Board
      </Link>
    </p>
  </main>
);
