import { lazy, Suspense, useState, type ComponentType } from 'react';
import { useNavigate, useParams } from 'react-router';
import { nextStation, routeOf, type StationId } from '@bistre/core';
import type { DrawnPiece } from '../drawing/board';
import { messageOf } from '../data/api';
import type { Shown } from '../data/shown';
import { useBatch, useShown, type BatchHandle } from '../data/use-batch';
import { useWayPages } from '../ways';
import type { BatchProps, Picture, StationProps } from '../ways/pages';
import { BudgetLine } from '../parts/BudgetLine';
import { ClosedNote } from '../parts/ClosedNote';
import { useHotkey } from '../parts/hotkeys';
import { Rule } from '../parts/Rule';
import { TopBar } from '../parts/TopBar';

/** The sheets of stations; a way may have one of its own in place of these. */
const SHEETS: { readonly [S in StationId]?: ComponentType<StationProps> } = {
  blank: lazy(async () => ({ default: (await import('../stations/BlankStation')).BlankStation })),
  hold: lazy(async () => ({ default: (await import('../stations/hold/HoldStation')).HoldStation })),
  place: lazy(async () => ({ default: (await import('../stations/PlaceStation')).AimedPlace })),
  burn: lazy(async () => ({ default: (await import('../stations/BurnStation')).BurnStation })),
  run: lazy(async () => ({ default: (await import('../stations/run/RunStation')).RunStation })),
  close: lazy(async () => ({ default: (await import('../stations/CloseStation')).CloseStation })),
};

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
  const { contested } = save;
  if (contested)
    return (
      <span role="status" className="flex items-baseline gap-3">
        <b className="text-oxide" title={save.why}>
          {save.why.replace(/ at .*$/, '')} too
        </b>
        <button className="link" onClick={() => handle.settle(contested, 'mine')}>
          save mine
        </button>
        <button className="link" onClick={() => handle.settle(contested, 'theirs')}>
          take theirs
        </button>
      </span>
    );
  return (
    <span role="status" className="max-w-60 truncate font-bold text-oxide" title={save.why}>
      not saved: {save.why}
    </span>
  );
};

const NO_STATES: readonly DrawnPiece[] = [];

const runStates = (handle: BatchHandle, shown: Shown): readonly DrawnPiece[] => {
  const open = shown.reckoning.run.openLoad;
  if (open === null) return NO_STATES;
  return handle.batch.pieces
    .filter((p) => p.load === open)
    .map((p) => ({ slot: p.slot, state: p.state === 'loaded' ? ('next' as const) : p.state }))
    .filter((p) => p.state !== 'next' || p.slot === shown.reckoning.run.nextSlot);
};

/** The drawing pinned left, the station's sheet right. */
const AtStation = ({
  handle,
  shown,
  current,
  picture,
  draw,
}: BatchProps & { current: StationId; picture: Picture | null; draw: (picture: Picture | null) => void }) => {
  const pages = useWayPages(handle.batch);
  const Sheet = pages.stations?.[current] ?? SHEETS[current];
  return (
    <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,58fr)_minmax(0,42fr)] max-[900px]:grid-cols-1 max-[900px]:overflow-auto">
      <div className="min-h-[300px] border-r border-hairline max-[900px]:h-[420px]">
        {(current === 'run' ? picture?.node : null) ?? (
          <pages.Drawing
            handle={handle}
            shown={shown}
            station={current}
            step={null}
            states={current === 'run' ? runStates(handle, shown) : NO_STATES}
            head={current === 'place' ? picture?.head : undefined}
          />
        )}
      </div>
      <div key={current} className="overflow-y-auto bg-sheet px-5 pt-3" tabIndex={-1}>
        <Suspense fallback={<p className="text-soft">Opening …</p>}>
          {Sheet && <Sheet handle={handle} shown={shown} pages={pages} draw={draw} />}
        </Suspense>
      </div>
    </main>
  );
};

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
  useHotkey('b', () => void navigate(`/batches/${id}/bench`));
  useHotkey('u', () => {
    handle?.undo();
  });
  if (!handle || !shown) {
    return (
      <div className="flex h-dvh flex-col">
        <TopBar />
        <p className="p-8">{error ? `This batch cannot be shown: ${messageOf(error)}` : 'Opening the batch …'}</p>
      </div>
    );
  }
  const { batch } = handle;
  const open = batch.putbacks.filter((p) => p.restoredAt === null).length;
  return (
    <div className="flex h-dvh min-h-[560px] flex-col">
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
              <button
                className="text-blue"
                title={`Take back: ${batch.canUndo.summary} (${batch.canUndo.by})`}
                onClick={handle.undo}
              >
                undo
              </button>
            )}
          </>
        }
      >
        <h1 className="inline text-ink">{batch.name}</h1> · {batch.quantity} {batch.quantity === 1 ? 'piece' : 'pieces'}{' '}
        on {batch.machine.name}
        {batch.dueAt
          ? ` · due ${new Date(batch.dueAt).toLocaleString('en-GB', { weekday: 'short', hour: '2-digit', minute: '2-digit' })}`
          : ''}
      </TopBar>
      <ClosedNote handle={handle} />
      <Rule batchId={id} stations={shown.stations} current={current} />
      <Suspense fallback={<p className="flex-1 p-8 text-soft">Opening …</p>}>
        <AtStation handle={handle} shown={shown} current={current} picture={picture} draw={setPicture} />
      </Suspense>
      <BudgetLine budget={shown.reckoning.budget} />
    </div>
  );
};
