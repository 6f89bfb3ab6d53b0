import { Suspense, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import type { BatchDocument } from '@bistre/contract';
import { nextStation, routeOf, STATION_NAMES, type StationId } from '@bistre/core';
import { messageOf } from '../data/api';
import { useBatch, useShown, type BatchHandle } from '../data/use-batch';
import type { Picture } from '../ways/pages';
import { AtStation } from './AtStation';
import { BudgetLine } from '../parts/BudgetLine';
import { ClosedNote } from '../parts/ClosedNote';
import { stepOfNext } from '../data/go-on';
import { useHotkey } from '../parts/hotkeys';
import { NextLine } from '../parts/NextLine';
import { Rule } from '../parts/Rule';
import { TopBar } from '../parts/TopBar';
import { OneLine, Tip } from '../parts/Tip';

const SaveNote = ({ handle }: { handle: BatchHandle }) => {
  const { save } = handle;
  if (save.kind === 'saving')
    return (
      <span role="status" className="text-soft">
        saving …
      </span>
    );
  if (save.kind === 'saved')
    return (
      <span role="status" className="text-soft">
        saved {save.at}
      </span>
    );
  if (save.kind === 'waits') return null;
  const { contested, why, section } = save;
  return (
    <span role="status" className="flex min-w-0 items-baseline gap-3">
      <b className="max-w-60 text-oxide">
        <OneLine text={contested ? `${why.replace(/ at .*$/, '')} too` : `not saved: ${why}`} />
      </b>
      <button className="link" onClick={() => handle.settle(section, 'mine')}>
        {contested ? 'save mine' : 'try again'}
      </button>
      <button className="link" onClick={() => handle.settle(section, 'theirs')}>
        {contested ? 'take theirs' : 'let it go'}
      </button>
    </span>
  );
};

/** Which batch it is: its name, how many, on which machine, until when. */
const Named = ({ batch }: { batch: BatchDocument }) => (
  <>
    <h1 className="inline text-ink">{batch.name}</h1> · {batch.quantity} {batch.quantity === 1 ? 'piece' : 'pieces'}
    <span className="max-[1200px]:hidden">
      {' '}
      on {batch.machine.name}
      {batch.dueAt
        ? ` · due ${new Date(batch.dueAt).toLocaleString('en-GB', { weekday: 'short', hour: '2-digit', minute: '2-digit' })}`
        : ''}
    </span>
  </>
);

/** A batch at one station: the drawing pinned left, the station's sheet right, the budget below. */
export const Workspace = () => {
  const { id = '', station } = useParams();
  const navigate = useNavigate();
  const { handle, error } = useBatch(id);
  const shown = useShown(handle?.batch ?? null);
  const [picture, setPicture] = useState<Picture | null>(null);
  const route = handle ? routeOf(handle.batch) : [];
  const current = (route as readonly string[]).includes(station ?? '')
    ? (station as StationId)
    : shown
      ? nextStation(shown.stations).id
      : 'blank';
  const step = (by: 1 | -1): void => {
    const next = route[route.indexOf(current) + by];
    if (next) {
      setPicture(null);
      void navigate(`/batches/${id}/${next}`);
    }
  };
  useHotkey('[', () => step(-1));
  useHotkey(']', () => step(1));
  useHotkey('b', () => {
    const step = handle && shown ? stepOfNext(shown, handle.batch) : undefined;
    void navigate(`/batches/${id}/bench${step ? `?step=${step.id}` : ''}`);
  });
  useHotkey('u', () => {
    handle?.undo();
  });
  if (!handle || !shown) {
    return (
      <div className="flex h-dvh flex-col">
        <TopBar>{handle && <Named batch={handle.batch} />}</TopBar>
        <p role="status" className="p-8">
          {error ? `This batch cannot be shown: ${messageOf(error)}` : handle ? 'Reckoning …' : 'Opening the batch …'}
        </p>
      </div>
    );
  }
  const { batch } = handle;
  const open = batch.putbacks.filter((p) => p.restoredAt === null).length;
  return (
    <div className="flex h-dvh min-h-[560px] flex-col">
      <title>{`${STATION_NAMES[current]} · ${batch.name} · Bistre`}</title>
      <TopBar
        alarm={
          open > 0 ? (
            <span className="font-bold text-oxide">
              {open} {open === 1 ? 'setting' : 'settings'} to put back
            </span>
          ) : undefined
        }
        saved={
          <>
            <SaveNote handle={handle} />
            {batch.canUndo && (
              <Tip says={`Take back: ${batch.canUndo.summary} (${batch.canUndo.by})`}>
                <button className="min-h-11 min-w-11 text-blue" onClick={handle.undo}>
                  undo
                </button>
              </Tip>
            )}
          </>
        }
      >
        <Named batch={batch} />
      </TopBar>
      <ClosedNote handle={handle} />
      <Rule batchId={id} stations={shown.stations} current={current} />
      {/* At the desk the strip of the run says it. */}
      {!(current === 'run' && nextStation(shown.stations).id === 'run') && (
        <NextLine batchId={id} stations={shown.stations} />
      )}
      <Suspense fallback={<p className="flex-1 p-8 text-soft">Opening …</p>}>
        <AtStation handle={handle} shown={shown} current={current} picture={picture} draw={setPicture} />
      </Suspense>
      <BudgetLine budget={shown.reckoning.budget} />
    </div>
  );
};
