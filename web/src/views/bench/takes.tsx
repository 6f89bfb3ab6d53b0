import { lazy, useState } from 'react';
import { api } from '@bistre/contract';
import type { Step } from '@bistre/core';
import type { BatchHandle } from '../../data/use-batch';
import { Calipers, dimensionsOf } from '../../stations/blank/Calipers';
import { CloseBatch } from '../../stations/close/CloseBatch';
import { Putbacks } from '../../stations/close/Putbacks';
import { FitCheck, ShankCheck } from '../../stations/hold/Findings';
import { KerfCheck } from '../../stations/hold/KerfCheck';
import { Looks } from '../../stations/run/Looks';
import { RecipeChoice } from '../../parts/RecipeChoice';
import { Desk } from '../../stations/run/desk/Desk';
import { Measure } from '../../parts/fields';
import { useSimulated } from '../../parts/use-simulated';
import { SimPanel } from '../../stations/sim/SimPanel';
import type { BatchProps, WayPages } from '../../ways/pages';

export const big = 'act !min-h-14 !px-8 !text-lg justify-center';

/** A mark's reading at the bench: typed, or aimed at on the simulated machine. */
export const TakeReading = ({
  handle,
  step,
  onTaken,
  onHead,
}: {
  handle: BatchHandle;
  step: Step & { takes: { kind: 'reading'; mark: number; purpose: 'place' | 'reread' } };
  onTaken: () => void;
  onHead: (at: { x: number; y: number }) => void;
}) => {
  const { mark, purpose } = step.takes;
  const [x, setX] = useState<number | null>(null);
  const [y, setY] = useState<number | null>(null);
  const [simulated, setSimulated] = useSimulated();
  const last = handle.batch.readings.filter((r) => r.mark === mark && r.purpose === purpose).at(-1);
  const take = async (nx: number, ny: number, source: 'typed' | 'simulated machine'): Promise<void> => {
    if (!(await handle.act(api.takeReading, { body: { mark, x: nx, y: ny, source, purpose } }))) return;
    await handle.act(api.tick, { params: { step: step.id }, body: { done: true } });
    onTaken();
  };
  return (
    <div className="mt-5">
      {last && (
        <p className="mb-2 text-lg">
          Last read {last.x.toFixed(2)}, {last.y.toFixed(2)} by {last.by}.
        </p>
      )}
      {simulated ? (
        <div className="max-w-2xl">
          <SimPanel
            handle={handle}
            mark={mark}
            purpose={purpose}
            onHead={onHead}
            onReading={(nx, ny) => void take(nx, ny, 'simulated machine')}
          />
        </div>
      ) : (
        <div
          className="grid max-w-xl grid-cols-[1fr_1fr_auto] items-end gap-3"
          onKeyDown={(e) => {
            if (e.key === 'Enter' && x !== null && y !== null) void take(x, y, 'typed');
          }}
        >
          <Measure
            of={api.takeReading.body}
            at="x"
            label={`mark ${mark}, x on the machine`}
            draft={`bench.${handle.batch.id}.${step.id}.x`}
            onCommit={setX}
            autoFocus
          />
          <Measure
            of={api.takeReading.body}
            at="y"
            label={`mark ${mark}, y on the machine`}
            draft={`bench.${handle.batch.id}.${step.id}.y`}
            onCommit={setY}
          />
          <button className={big} disabled={x === null || y === null} onClick={() => void take(x!, y!, 'typed')}>
            Keep
          </button>
        </div>
      )}
      <button className="link mt-2" onClick={() => setSimulated(!simulated)}>
        {simulated ? 'type the reading' : 'use the simulated machine'}
      </button>
    </div>
  );
};

/** Where a run stands, with the two or three things that can be done next; and the simulated machine for it. */
export const RunStep = ({ handle, shown, pages }: BatchProps & { pages: WayPages }) => {
  const piece = handle.batch.pieces.find((p) => p.state === 'loaded');
  return (
    <div className="mt-5 border border-rim">
      <Desk handle={handle} shown={shown} pages={pages} run={null} onTurn={() => undefined} laid={pages.run.laid} />
      {piece && (
        <div className="px-4 pb-3">
          <pages.run.Burn key={piece.id} handle={handle} />
        </div>
      )}
    </div>
  );
};

const Roster = lazy(async () => ({ default: (await import('../../stations/run/RosterDialog')).RosterDialog }));

/** The names, brought in from the bench. */
const TakeRoster = ({ handle }: { handle: BatchHandle }) => {
  const [bringing, setBringing] = useState(false);
  const none = handle.batch.roster.length === 0;
  return (
    <p className="mt-5">
      <button className={`${big} ${none ? 'act-main' : ''}`} onClick={() => setBringing(true)}>
        {none ? 'Bring it in' : 'Put names right'}
      </button>
      {bringing && <Roster handle={handle} now={!none} onClose={() => setBringing(false)} />}
    </p>
  );
};

/** Saving the board or sheet to the Shelf. */
const TakeSave = ({ handle }: { handle: BatchHandle }) => {
  const { fixture } = handle.batch;
  return (
    <p className="mt-5 text-xl">
      {fixture ? (
        `Saved as ${fixture.name} r${fixture.revision}.`
      ) : (
        <button className={`${big} act-main`} onClick={() => void handle.act(api.saveFixture)}>
          Save it
        </button>
      )}
    </p>
  );
};

const large = 'mt-5 max-w-2xl text-lg [&_.act]:min-h-14 [&_.field]:min-h-14 [&_.field]:text-[24px] [&_p]:text-lg';

/** What a step takes that is the same in every way of holding; nothing for what only one way asks. */
export const TakeAnyway = ({ handle, shown, step }: BatchProps & { step: Step }) => {
  switch (step.takes?.kind) {
    case 'samples':
      return (
        <div className="mt-5 max-w-2xl [&_.field]:h-14 [&_.field]:text-[24px]">
          <Calipers handle={handle} dimensions={dimensionsOf(handle.batch.blank.spec.shape)} large />
        </div>
      );
    case 'kerf':
      return (
        <div className={large}>
          <KerfCheck handle={handle} />
        </div>
      );
    case 'shank':
    case 'fit':
      return (
        <div className={large}>
          {step.takes.kind === 'shank' ? <ShankCheck handle={handle} /> : <FitCheck handle={handle} />}
        </div>
      );
    case 'look':
      return <Looks handle={handle} shown={shown} large />;
    case 'recipe':
      return (
        <div className={large}>
          <RecipeChoice handle={handle} />
        </div>
      );
    case 'roster':
      return <TakeRoster handle={handle} />;
    case 'save':
      return <TakeSave handle={handle} />;
    case 'putback':
      return (
        <div className={large}>
          <Putbacks handle={handle} />
        </div>
      );
    case 'close':
      return (
        <div className={large}>
          <CloseBatch handle={handle} shown={shown} className={big} />
        </div>
      );
    default:
      return null;
  }
};
