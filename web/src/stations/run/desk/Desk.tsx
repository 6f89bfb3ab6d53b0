import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { api, waitsForCustomer, type SimRunView } from '@bistre/contract';
import { customerHolds, firstIsApproved, needsRoster } from '@bistre/core';
import { AT_NEXT } from '../../../data/at-next';
import { Held, useAgainst } from '../../../parts/FileLinks';
import { Finding } from '../../../parts/Part';
import type { BatchProps, WayPages } from '../../../ways/pages';
import { approveFirst } from '../approve';
import { JudgeNext } from './JudgeNext';
import { DESK } from './look';
import { loadedSlots } from './verdicts';

/** The one next action of a run, in a strip that stays: take a load, judge its pieces, approve the first. */
export const Desk = ({
  handle,
  shown,
  pages,
  run,
  onTurn,
  laid,
}: BatchProps & {
  readonly pages: WayPages;
  /** How the simulated machine burned the load. */
  readonly run: SimRunView | null;
  /** Told when another load is taken, or the first is approved. */
  readonly onTurn: () => void;
  /** What a hand says that has laid the load there; the load's own words where it is planned at a desk. */
  readonly laid?: string;
}) => {
  const { batch } = handle;
  const made = pages.run;
  const { run: summary } = shown.reckoning;
  const [slot] = loadedSlots(handle);
  const first = !firstIsApproved(batch);
  const isDone = batch.pieces.some((p) => p.state === 'done');
  // Marks that disagree, work that moved: nobody forgot anything, and the pieces may lie elsewhere.
  const doubts = useAgainst()('load.gcode').filter((r) => !r.waits);
  const customer = customerHolds({ ...batch, customerWaits: waitsForCustomer(batch.approval) }, summary.done);
  const take = (): void => {
    onTurn();
    void handle.act(api.startLoad);
  };
  const body = (): ReactNode => {
    const elsewhere = made.elsewhere?.({ handle, shown }) ?? null;
    if (slot !== undefined && elsewhere) return elsewhere;
    if (slot !== undefined)
      return <JudgeNext handle={handle} shown={shown} slot={slot} pages={made} run={run} doubted={doubts.length > 0} />;
    if (first && isDone)
      return (
        <div className="flex flex-wrap items-center gap-x-5 gap-y-2">
          <p className="min-w-0 flex-1 basis-80 text-[21px] leading-tight">
            The first piece is done. Is it as the customer wants it: place, size, depth, spelling?
          </p>
          <button
            data-next
            className={`${DESK} act-main`}
            onClick={() => {
              onTurn();
              void approveFirst(handle);
            }}
          >
            Approve the first piece
          </button>
          {!customer && (
            <button className={DESK} onClick={take}>
              Make another first piece
            </button>
          )}
        </div>
      );
    if (summary.finished)
      return (
        <div className="flex flex-wrap items-center gap-x-5 gap-y-2">
          <Finding tone="inside">All {batch.quantity} pieces are done.</Finding>
          <Link className={DESK} to={`/batches/${batch.id}/close`}>
            Put things back and close
          </Link>
        </div>
      );
    if (customer)
      return (
        <p className="text-[21px] leading-tight">
          {summary.done} of {batch.quantity} done. The rest waits for the customer’s approval of proof revision{' '}
          {batch.approval.revision}.{' '}
          <Link className="link" to={`/batches/${batch.id}/run`} state={AT_NEXT}>
            Keep it at Run
          </Link>
        </p>
      );
    return (
      <div className="flex flex-wrap items-center gap-x-5 gap-y-2">
        <p className="min-w-0 flex-1 basis-80 text-[21px] leading-tight">
          {summary.done} of {batch.quantity} done.
          {first && <span className="block text-[15px] text-soft">the rest is held until it is approved</span>}
        </p>
        <button
          data-next
          className={`${DESK} act-main`}
          disabled={(batch.roster.length === 0 && needsRoster(batch)) || made.ready?.(shown) === false}
          onClick={take}
        >
          {laid ?? shown.load.take}
        </button>
      </div>
    );
  };
  return (
    <section aria-label="Next at the desk" className="border-b border-ink bg-sheet px-4 py-2.5">
      {slot !== undefined && doubts.length > 0 && <Held batchId={batch.id} reasons={doubts} />}
      {body()}
    </section>
  );
};
