import { api, approvalTaken, waitsForCustomer } from '@bistre/contract';
import type { BatchHandle } from '../../data/use-batch';
import { DraftFields, Fields, Tick, useDraftForm } from '../../parts/fields';
import { Finding } from '../../parts/Part';

const date = (at: string): string =>
  new Date(at).toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' });

/** Who approved it, and their words as somebody read or heard them. */
const Take = ({ handle }: { handle: BatchHandle }) => {
  const { approval } = handle.batch;
  const form = useDraftForm(approvalTaken, { signedBy: approval.given?.signedBy ?? '', note: '' });
  const keep = async (body: { signedBy: string; note: string }): Promise<void> => {
    if (await handle.act(api.takeApproval, { body })) form.reset();
  };
  return (
    <form noValidate className="mt-2 max-w-xl" onSubmit={(e) => void form.handleSubmit(keep)(e)}>
      <DraftFields form={form} schema={approvalTaken}>
        <div className="grid grid-cols-2 gap-3 max-[700px]:grid-cols-1">
          <Fields at="signedBy note" />
        </div>
      </DraftFields>
      <button className="act act-main mt-2 min-h-11">Keep the approval of revision {approval.revision}</button>
    </form>
  );
};

/** Whether the customer approved what the proof shows: who, when and which revision; what is shown otherwise since. */
export const Approval = ({ handle }: { handle: BatchHandle }) => {
  const { approval, closedAt } = handle.batch;
  const { given, wanted, differs, differences, revision } = approval;
  const waits = waitsForCustomer(approval);
  return (
    <section aria-label="The customer’s approval" className="my-2">
      <Tick
        label="The customer approves the proof before more than the first piece is burned"
        checked={wanted}
        onChange={(next) => void handle.act(api.askApproval, { body: { wanted: next } })}
      />
      {given && (
        <Finding tone={differences > 0 ? 'attention' : 'inside'}>
          Revision {given.revision} was approved by {given.signedBy} on {date(given.at)}, kept by {given.by}
          {given.note && `: ${given.note}`}.
          {differences > 0 &&
            ` Since then ${differences === 1 ? 'one thing is' : `${differences} things are`} shown otherwise:`}
        </Finding>
      )}
      {differs.length > 0 && (
        <ul aria-label="Shown otherwise since" className="ml-6 list-disc">
          {differs.map((words) => (
            <li key={words}>{words}</li>
          ))}
          {differences > differs.length && <li>and {differences - differs.length} more.</li>}
        </ul>
      )}
      {waits && !closedAt && (
        <>
          <p className="mt-1">
            Proof revision {revision} waits for it: print it or send it, then keep who approved it. Until then no more
            than the first piece is burned.
          </p>
          <Take handle={handle} />
        </>
      )}
    </section>
  );
};
