import type { z } from 'zod';
import { differences } from '@bistre/contract';
import { outbox, useWaiting, type Kept } from '../../data/outbox';
import { Finding } from '../../parts/Part';

/** What of two values differs, side by side. */
export const Differences = ({ schema, theirs, mine }: { schema: z.ZodType; theirs: unknown; mine: unknown }) => {
  const found = differences(schema, theirs, mine);
  if (found.length === 0) return <p className="mt-1 text-[13px]">Both are the same.</p>;
  return (
    <table className="mt-2 text-[13px]">
      <thead>
        <tr className="text-left text-soft">
          <th className="pr-6 font-normal" />
          <th className="pr-6 font-normal">stored now</th>
          <th className="font-normal">typed here</th>
        </tr>
      </thead>
      <tbody>
        {found.slice(0, 12).map((d) => (
          <tr key={d.label + d.mine} className="border-t border-hairline">
            <td className="pr-6">{d.label}</td>
            <td className="pr-6">{d.theirs}</td>
            <td className="font-bold">{d.mine}</td>
          </tr>
        ))}
        {found.length > 12 && (
          <tr>
            <td colSpan={3}>and {found.length - 12} more</td>
          </tr>
        )}
      </tbody>
    </table>
  );
};

/** A write of a whole thing that was refused after its form was left. */
const useNotTaken = (scope: string, call: string): Kept | undefined =>
  useWaiting().kept.find((k) => k.whole && k.refused && k.scope === scope && k.call === call);

/** What was typed here earlier and was refused while nobody was here: to be taken up or let go. */
export const NotTaken = <T,>({
  scope,
  call,
  schema,
  stored,
  onTake,
}: {
  scope: string;
  call: string;
  schema: z.ZodType;
  stored: T;
  onTake: (typed: T) => void;
}) => {
  const kept = useNotTaken(scope, call);
  if (!kept?.refused) return null;
  const typed = { ...stored, ...(kept.body as Partial<T>) };
  return (
    <div role="status" className="my-3">
      <Finding tone="attention">
        What {kept.by} typed at {new Date(kept.madeAt).toTimeString().slice(0, 5)} was not taken:{' '}
        {kept.refused.problem.message}
      </Finding>
      <Differences schema={schema} theirs={stored} mine={typed} />
      <p className="mt-2 flex gap-3">
        <button
          type="button"
          className="act"
          onClick={() => {
            onTake(typed);
            void outbox.letGo(kept);
          }}
        >
          Put it in the form
        </button>
        <button type="button" className="act" onClick={() => void outbox.letGo(kept)}>
          Let it go
        </button>
      </p>
    </div>
  );
};
