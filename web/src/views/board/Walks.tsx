import { useState } from 'react';
import { useNavigate } from 'react-router';
import { DEMO_CUSTOMER, type BatchRow } from '@bistre/contract';
import { setSimulated } from '../../parts/use-simulated';

/** The three that are offered: by how they are held, what they are, and what they show. */
const WALKS = [
  ['pockets', 'A board', 'Tags in pockets: aim at three marks, lay them in, judge.'],
  ['drive', 'A flask', 'On rollers: one ring on tape tells how far it turns.'],
  ['sheet', 'A print', 'Decals cut out by the marks that were printed with them.'],
] as const;

const DECLINED = 'bistre.walks';

/** On a first visit to the demo shop: three walks at the bench, the stand-ins switched on. Never again once they are declined. */
export const Walks = ({ rows }: { rows: readonly BatchRow[] }) => {
  const navigate = useNavigate();
  const [declined, setDeclined] = useState(() => localStorage.getItem(DECLINED) !== null);
  const demo = rows.filter((r) => r.customer === DEMO_CUSTOMER && r.done === 0);
  const walks = WALKS.flatMap(([way, name, words]) => {
    const row = demo.find((r) => r.way === way);
    return row ? [{ way, name, words, row }] : [];
  });
  if (declined || walks.length < WALKS.length) return null;
  return (
    <section aria-label="First walks" className="mb-6 print:hidden border border-rim bg-sheet px-5 py-4">
      <p className="text-lg">
        <b>New here?</b> Walk one of these through at the bench, step by step. A simulated machine stands in for a real
        one.
      </p>
      <ul className="mt-3 grid grid-cols-3 gap-4 max-[900px]:grid-cols-1">
        {walks.map(({ way, name, words, row }) => (
          <li key={way}>
            <button
              className="act !block w-full !py-2.5 text-left"
              onClick={() => {
                setSimulated(true);
                void navigate(`/batches/${row.id}/bench`);
              }}
            >
              <span className="block text-lg">{name}</span>
              <span className="block font-normal text-ink">{words}</span>
            </button>
          </li>
        ))}
      </ul>
      <p className="mt-3">
        <button
          className="link"
          onClick={() => {
            localStorage.setItem(DECLINED, 'declined');
            setDeclined(true);
          }}
        >
          No, thank you
        </button>
      </p>
    </section>
  );
};
