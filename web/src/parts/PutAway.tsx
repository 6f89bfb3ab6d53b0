import type { AwayKind } from '@bistre/contract';
import { setAway, useAway } from '../data/away';
import { ask } from './ask';

/** Puts one thing away, after asking once. */
export const PutAway = ({
  kind,
  id,
  name,
  words = 'Put it away',
  className = 'act',
  after,
}: {
  kind: AwayKind;
  id: string;
  name: string;
  words?: string;
  className?: string;
  after?: () => void;
}) => (
  <button
    className={className}
    onClick={() =>
      void ask(
        `Put ${name} away?`,
        'It leaves the lists and cannot be used until it is brought back. Nothing of it is lost.',
        'Put it away',
      ).then(async (yes) => {
        if (yes && (await setAway(kind, id, name, true))) after?.();
      })
    }
  >
    {words}
  </button>
);

/** What of a kind was put away, to be brought back; nothing when there is none. */
export const PutAwayList = ({ kind }: { kind: AwayKind }) => {
  const { data = [] } = useAway();
  const rows = data.filter((r) => r.kind === kind);
  if (rows.length === 0) return null;
  return (
    <section aria-label="Put away" className="mt-8">
      <h2 className="part-title">Put away</h2>
      <ul>
        {rows.map((r) => (
          <li key={r.id} className="flex items-baseline justify-between gap-4 border-t border-hairline px-2 py-2.5">
            <span>
              {r.name}{' '}
              <span className="text-[13px] text-soft">
                by {r.by}, {new Date(r.at).toLocaleDateString('en-GB')}
              </span>
            </span>
            <button className="link" onClick={() => void setAway(kind, r.id, r.name, false)}>
              bring back
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
};
