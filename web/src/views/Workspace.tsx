import { lazy, Suspense, useState, type ComponentType } from 'react';
import { useNavigate, useParams } from 'react-router';
import { effectiveHold, markDefect, nextStation, routeOf, type StationId } from '@bistre/core';
import { BenchDrawing } from '../drawing/BenchDrawing';
import type { DrawnPiece } from '../drawing/board';
import { LocatorDrawing } from '../drawing/LocatorDrawing';
import { SeatDrawing } from '../drawing/SeatDrawing';
import { BlankDrawing } from '../drawing/BlankDrawing';
import { FeedDrawing } from '../drawing/FeedDrawing';
import { PhotoDrawing } from '../drawing/PhotoDrawing';
import { LongDrawing } from '../drawing/LongDrawing';
import { SheetDrawing } from '../drawing/SheetDrawing';
import { RoundDrawing } from '../drawing/round/RoundDrawing';
import { messageOf } from '../data/api';
import type { Shown } from '../data/reckon.worker';
import { useBatch, useShown, type BatchHandle } from '../data/use-batch';
import type { Picture, StationProps } from '../stations/props';
import { BudgetLine } from '../parts/BudgetLine';
import { ClosedNote } from '../parts/ClosedNote';
import { useHotkey } from '../parts/hotkeys';
import { Rule } from '../parts/Rule';
import { TopBar } from '../parts/TopBar';

const SHEETS: Readonly<Record<StationId, ComponentType<StationProps>>> = {
  blank: lazy(async () => ({ default: (await import('../stations/BlankStation')).BlankStation })),
  hold: lazy(async () => ({ default: (await import('../stations/hold/HoldStation')).HoldStation })),
  drive: lazy(async () => ({ default: (await import('../stations/drive/DriveStation')).DriveStation })),
  feed: lazy(async () => ({ default: (await import('../stations/feed/FeedStation')).FeedStation })),
  place: lazy(async () => ({ default: (await import('../stations/PlaceStation')).PlaceStation })),
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

/** A batch at one station: the drawing pinned left, the station's sheet right, the budget below. */
export const Workspace = () => {
  const { id = '', station } = useParams();
  const navigate = useNavigate();
  const { handle, error } = useBatch(id);
  const shown = useShown(handle?.batch ?? null);
  const [picture, setPicture] = useState<Picture | null>(null);
  const route = handle ? routeOf({ shape: handle.batch.blank.spec.shape }, handle.batch) : [];
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
  const Sheet = SHEETS[current];
  const hold = effectiveHold(batch);
  const traced = hold.method === 'sheet' ? hold.sheet.traced : null;
  const firstPath = shown.reckoning.art?.paths[shown.reckoning.onTheBoard[0]?.ordinal ?? -1];
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
      <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,58fr)_minmax(0,42fr)] max-[900px]:grid-cols-1 max-[900px]:overflow-auto">
        <div className="min-h-[300px] border-r border-hairline max-[900px]:h-[420px]">
          {(current === 'run' ? picture?.node : null) ??
            (shown.reckoning.round ? (
              <RoundDrawing
                handle={handle}
                round={shown.reckoning.round}
                first={current === 'drive' ? 'drive' : 'wrap'}
              />
            ) : current === 'blank' ? (
              <BlankDrawing
                spec={batch.blank.spec}
                sizes={shown.reckoning.sizes}
                path={shown.blankPath}
                art={firstPath}
              />
            ) : traced && current === 'hold' ? (
              <SheetDrawing
                sheet={traced}
                inner={hold.sheet.inner}
                onChange={
                  batch.fixture
                    ? undefined
                    : (next) =>
                        handle.update('hold', {
                          ...batch.setup.hold,
                          sheet: { ...batch.setup.hold.sheet, traced: next },
                        })
                }
              />
            ) : shown.reckoning.fixings.locator && (current === 'hold' || current === 'burn') ? (
              <LocatorDrawing batch={batch} shown={shown} />
            ) : shown.reckoning.fixings.lines && current === 'hold' ? (
              <SeatDrawing
                batch={batch}
                shown={shown}
                onContacts={
                  batch.fixture
                    ? undefined
                    : (contacts) =>
                        handle.update('hold', {
                          ...batch.setup.hold,
                          lines: { ...batch.setup.hold.lines, contacts },
                        })
                }
              />
            ) : shown.reckoning.photo &&
              current !== 'close' &&
              !(shown.reckoning.photo.onSheet && (current === 'place' || current === 'run')) ? (
              <PhotoDrawing
                batch={batch}
                shown={shown}
                onDefect={
                  current === 'hold' && shown.reckoning.run.openLoad === null
                    ? (at) =>
                        handle.update('hold', {
                          ...batch.setup.hold,
                          photo: {
                            ...batch.setup.hold.photo,
                            offcuts: markDefect(batch.setup.hold.photo.offcuts, at),
                          },
                        })
                    : undefined
                }
              />
            ) : shown.reckoning.feed && current !== 'close' ? (
              <FeedDrawing key={batch.id} batch={batch} shown={shown} />
            ) : shown.reckoning.long && (current === 'hold' || current === 'burn') ? (
              <LongDrawing shown={shown} />
            ) : (
              <BenchDrawing
                key={current}
                machine={batch.machine}
                shown={shown}
                fit={current === 'place' || current === 'run' ? 'bed' : 'board'}
                states={current === 'run' ? runStates(handle, shown) : NO_STATES}
                head={current === 'place' ? picture?.head : undefined}
                showOutline={current === 'place'}
              />
            ))}
        </div>
        <div key={current} className="overflow-y-auto bg-sheet px-5 pt-3" tabIndex={-1}>
          <Suspense fallback={<p className="text-soft">Opening …</p>}>
            <Sheet handle={handle} shown={shown} draw={setPicture} />
          </Suspense>
        </div>
      </main>
      <BudgetLine budget={shown.reckoning.budget} />
    </div>
  );
};
