import { lazy, Suspense, useEffect, useRef, useState, type ComponentType } from 'react';
import { useLocation } from 'react-router';
import type { SimRunView } from '@bistre/contract';
import type { StationId } from '@bistre/core';
import type { Shown } from '../data/shown';
import { focusNext } from '../data/go-on';
import type { BatchHandle } from '../data/use-batch';
import type { DrawnPiece } from '../drawing/board';
import { PlacingDrawing } from '../stations/run/contents/PlacingDrawing';
import { GatesOf } from '../parts/FileLinks';
import { Desk } from '../stations/run/desk/Desk';
import { useWayPages } from '../ways';
import type { BatchProps, Picture, StationProps } from '../ways/pages';

/** How the sheets of stations are fetched. */
const FETCH: { readonly [S in StationId]?: () => Promise<{ default: ComponentType<StationProps> }> } = {
  blank: async () => ({ default: (await import('../stations/BlankStation')).BlankStation }),
  hold: async () => ({ default: (await import('../stations/hold/HoldStation')).HoldStation }),
  place: async () => ({ default: (await import('../stations/PlaceStation')).AimedPlace }),
  burn: async () => ({ default: (await import('../stations/BurnStation')).BurnStation }),
  run: async () => ({ default: (await import('../stations/run/RunStation')).RunStation }),
  close: async () => ({ default: (await import('../stations/CloseStation')).CloseStation }),
};
/** The sheets of stations; a way may have one of its own in place of these. */
const SHEETS = Object.fromEntries(Object.entries(FETCH).map(([id, fetch]) => [id, lazy(fetch)])) as {
  readonly [S in StationId]?: ComponentType<StationProps>;
};

let fetched = false;
/** Fetches the other stations and the bench view once a batch is open: the server may be away when they are asked for. */
const fetchAhead = (): void => {
  if (fetched) return;
  fetched = true;
  const all = [...Object.values(FETCH), () => import('./Bench')];
  // What could not be fetched now is fetched when it is shown.
  void Promise.allSettled(all.map((fetch) => fetch()));
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
export const AtStation = ({
  handle,
  shown,
  current,
  picture,
  draw,
}: BatchProps & { current: StationId; picture: Picture | null; draw: (picture: Picture | null) => void }) => {
  const pages = useWayPages(handle.batch);
  useEffect(() => {
    const soon = setTimeout(fetchAhead, 50);
    return () => clearTimeout(soon);
  }, []);
  const Sheet = pages.stations?.[current] ?? SHEETS[current];
  const sheet = useRef<HTMLDivElement>(null);
  const desk = useRef<HTMLDivElement>(null);
  const { key, state } = useLocation();
  // eslint-disable-next-line react-hooks/exhaustive-deps -- once for each way there
  useEffect(() => focusNext(state, () => [desk.current, sheet.current]), [key]);
  const [run, setRun] = useState<SimRunView | null>(null);
  const turn = (): void => {
    draw(null);
    setRun(null);
  };
  return (
    <GatesOf value={shown.gates}>
      {current === 'run' && (
        <div ref={desk}>
          <Desk handle={handle} shown={shown} pages={pages} run={run} onTurn={turn} />
        </div>
      )}
      <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,58fr)_minmax(0,42fr)] max-[900px]:grid-cols-1 max-[900px]:overflow-auto">
        <div className="min-h-[300px] border-r border-hairline max-[900px]:h-[420px]">
          {current === 'run' && picture?.placing ? (
            <PlacingDrawing handle={handle} shown={shown} onClose={() => draw(null)} />
          ) : (
            ((current === 'run' ? picture?.node : null) ?? (
              <pages.Drawing
                handle={handle}
                shown={shown}
                station={current}
                step={null}
                states={current === 'run' ? runStates(handle, shown) : NO_STATES}
                head={current === 'place' ? picture?.head : undefined}
              />
            ))
          )}
        </div>
        <div key={current} ref={sheet} className="overflow-y-auto bg-sheet px-5 pt-3" tabIndex={-1}>
          <Suspense fallback={<p className="text-soft">Opening …</p>}>
            {Sheet && <Sheet handle={handle} shown={shown} pages={pages} draw={draw} onRun={setRun} />}
          </Suspense>
        </div>
      </main>
    </GatesOf>
  );
};
