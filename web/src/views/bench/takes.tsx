import { useState } from 'react';
import { api } from '@bistre/contract';
import { firstIsApproved, type Step } from '@bistre/core';
import { call, messageOf } from '../../data/api';
import type { RoundShown } from '../../data/reckon.worker';
import type { BatchHandle } from '../../data/use-batch';
import { MeasureField } from '../../parts/fields';
import { useSimulated } from '../../parts/use-simulated';
import { CupPanel } from '../../stations/drive/CupPanel';
import { LetterStep, NumberStep, RingStep, RunOutStep, SlowStep } from '../../stations/drive/checks';
import { FeedReadings, SquareFields } from '../../stations/feed/FeedFields';
import { SimBurn } from '../../stations/sim/SimBurn';
import { SimPanel } from '../../stations/sim/SimPanel';

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
          <MeasureField
            label={`mark ${mark}, x on the machine`}
            value={null}
            draft={`bench.${handle.batch.id}.${step.id}.x`}
            onCommit={setX}
            autoFocus
          />
          <MeasureField
            label={`mark ${mark}, y on the machine`}
            value={null}
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

/** Lets the simulated drive burn the piece that lies on it, and says where it landed. */
const BurnOnDrive = ({ handle }: { handle: BatchHandle }) => {
  const [landed, setLanded] = useState<string | null>(null);
  if (sessionStorage.getItem('bistre.sim') !== 'yes') return null;
  const burn = async (): Promise<void> => {
    try {
      const run = await call(api.cupBurn, { params: { id: handle.batch.id }, body: { what: 'piece' } });
      setLanded(
        run.thrown
          ? 'The blank left the rollers: look at the axis acceleration.'
          : `Burned: off by ${run.dx?.toFixed(2) ?? '–'} mm around, ${run.dy?.toFixed(2) ?? '–'} mm along.`,
      );
    } catch (error) {
      setLanded(messageOf(error));
    }
  };
  return (
    <p className="my-3 flex flex-wrap items-center gap-4 text-xl">
      <button className={big} onClick={() => void burn()}>
        Burn it on the simulated drive
      </button>
      <span role="status">{landed}</span>
    </p>
  );
};

/** The simulated machine burns the file of this step, where it is in use. */
export const SimulatedBurn = ({ handle }: { handle: BatchHandle }) => {
  const [simulated, setSimulated] = useSimulated();
  return simulated ? (
    <SimBurn handle={handle} large />
  ) : (
    <button className="link mt-2" onClick={() => setSimulated(true)}>
      use the simulated machine
    </button>
  );
};

/** What a feeder's step takes: a long feed with what the tape shows, or two offsets from the guide. */
export const FeedTakes = ({ handle, kind }: { handle: BatchHandle; kind: 'feed' | 'square' }) => {
  const [simulated, setSimulated] = useSimulated();
  return (
    <>
      {kind === 'feed' ? (
        <FeedReadings handle={handle} simulated={simulated} large />
      ) : (
        <SquareFields
          key={handle.batch.setup.feed.squaring ? 'set' : 'open'}
          handle={handle}
          simulated={simulated}
          large
        />
      )}
      <button className="link mt-2" onClick={() => setSimulated(!simulated)}>
        {simulated ? 'type the reading' : 'use the simulated feeder'}
      </button>
    </>
  );
};

/** Where a run stands, with the two or three things that can be done next. */
export const RunStep = ({
  handle,
  openLoad,
  nextSlot,
  done,
  fed,
}: {
  handle: BatchHandle;
  openLoad: number | null;
  nextSlot: number | null;
  done: number;
  fed: boolean;
}) => {
  const { batch } = handle;
  if (openLoad === null && done > 0 && !firstIsApproved(batch.blank.spec.shape, batch))
    return (
      <p className="mt-5">
        <button
          className={`${big} act-main`}
          onClick={() => void handle.act(api.approveFirst, { body: { approved: true } })}
        >
          Approve the first piece
        </button>
      </p>
    );
  if (openLoad === null)
    return (
      <p className="mt-5">
        <button className={`${big} act-main`} onClick={() => void handle.act(api.startLoad)}>
          {fed ? 'It lies there' : 'It is loaded'}
        </button>
      </p>
    );
  const piece = batch.pieces.find((p) => p.state === 'loaded' && p.slot === nextSlot);
  return (
    <div className="mt-5">
      <p className="text-[40px] leading-tight font-bold">
        {batch.drive ? `Piece ${piece?.ordinal ?? ''}` : `${fed ? 'Place' : 'Slot'} ${nextSlot}`}
      </p>
      {batch.drive ? <BurnOnDrive key={piece?.id} handle={handle} /> : <SimulatedBurn handle={handle} />}
      <p className="text-2xl">{piece ? Object.values(batch.roster[piece.ordinal - 1] ?? {}).join(' · ') : ''}</p>
      <p className="mt-4 flex flex-wrap gap-3">
        <button
          className={`${big} act-main`}
          onClick={() =>
            void handle.act(api.judgePieces, { body: { pieces: [{ slot: nextSlot!, state: 'done', cause: null }] } })
          }
        >
          Done
        </button>
        {(['off position', 'mark too faint', 'moved while burning', 'blank flawed'] as const).map((cause) => (
          <button
            key={cause}
            className={`${big} act-danger`}
            onClick={() =>
              void handle.act(api.judgePieces, { body: { pieces: [{ slot: nextSlot!, state: 'scrap', cause }] } })
            }
          >
            Scrap: {cause}
          </button>
        ))}
      </p>
    </div>
  );
};

/** What a drive's step takes: the number, the lowered axis, a ring, the F; with the simulated drive beside it. */
export const DriveTakes = ({
  handle,
  round,
  kind,
  step,
}: {
  handle: BatchHandle;
  round: RoundShown;
  kind: string | undefined;
  step: string;
}) => {
  const [simulated, setSimulated] = useSimulated();
  const on = round.on!;
  if (!step.startsWith('drive.') || !kind) return null;
  return (
    <>
      {kind === 'number' && <NumberStep handle={handle} on={on} large />}
      {kind === 'slow' && <SlowStep handle={handle} on={on} large />}
      {kind === 'ring' && <RingStep handle={handle} on={on} large />}
      {kind === 'letter' && <LetterStep handle={handle} large />}
      {kind === 'run-out' && <RunOutStep handle={handle} />}
      {simulated && (
        <div className="mt-3 max-w-2xl">
          <CupPanel handle={handle} round={round} />
        </div>
      )}
      <button className="link mt-2" onClick={() => setSimulated(!simulated)}>
        {simulated ? 'leave the simulated drive' : 'use the simulated drive'}
      </button>
    </>
  );
};
