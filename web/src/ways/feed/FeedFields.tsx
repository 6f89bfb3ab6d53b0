import { heldIn } from '../held';
import { useState } from 'react';
import { useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, type Setup } from '@bistre/contract';
import { adopt, nominalSize, otherWork, WAYS, type UsedPatch } from '@bistre/core';
import { call, messageOf } from '../../data/api';
import { useFeeders } from '../../data/queries';
import type { BatchHandle } from '../../data/use-batch';
import { Choice, MeasureField, Select, TextField, Tick } from '../../parts/fields';
import { LongFields } from '../segments/LongFields';

/** What goes into which feeder, and how it lies there. */
export const FeedFields = ({ handle, more }: { handle: BatchHandle; more: boolean }) => {
  const { batch } = handle;
  const { choice: feed, found, put: set, note, renew } = heldIn(handle, 'feed');
  const { work } = feed;
  const { data: feeders = [] } = useFeeders();
  const { length, width } = nominalSize(batch.blank.spec.shape);
  const along = feed.turned ? width : length;
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-2">
      <Select
        label="Feeder"
        value={feed.feederId ?? ''}
        options={[['', 'none: on the bed'], ...feeders.map((f) => [f.id, f.name] as const)]}
        onChange={(id) =>
          id === ''
            ? handle.update('held', adopt(batch.setup.held, WAYS.pockets) as Setup['held'])
            : renew({ feederId: id }, { squaring: null })
        }
      />
      <div className="mt-5">
        <Tick label="on rails" checked={feed.rails} onChange={(rails) => set({ rails })} />
      </div>
      <div className="col-span-2">
        <Choice
          label="Work"
          value={work.kind}
          options={[
            ['row', 'blanks in a row'],
            ['parts', 'parts of a strip'],
            ['long', 'one long piece'],
          ]}
          onChange={(kind) => set(otherWork(feed, kind))}
        />
      </div>
      {work.kind === 'long' ? (
        more && (
          <>
            <LongFields
              handle={handle}
              long={work.long}
              set={(part) => set({ work: { ...work, long: { ...work.long, ...part } } })}
              fed
            />
            <TextField label="Name of the work" value={feed.name} most={24} onCommit={(name) => set({ name })} />
          </>
        )
      ) : (
        <>
          <MeasureField
            label={work.kind === 'row' ? 'Row in the feeder, length' : 'Strip, length'}
            value={feed.strip.length}
            min={20}
            max={10_000}
            onCommit={(v) => set({ strip: { ...feed.strip, length: v } })}
          />
          <MeasureField
            label={work.kind === 'row' ? 'Row or carrier, width' : 'Strip, width'}
            value={feed.strip.width}
            min={5}
            max={5_000}
            onCommit={(v) => set({ strip: { ...feed.strip, width: v } })}
          />
          <MeasureField
            label={work.kind === 'row' ? 'Pitch, piece to piece' : 'Gap between parts'}
            value={work.kind === 'row' ? (feed.pitch ?? along + feed.gap) : feed.gap}
            min={work.kind === 'row' ? 1 : 0}
            max={5_000}
            hint={
              work.kind === 'row'
                ? `a piece and ${Math.max(0, (feed.pitch ?? along + feed.gap) - along).toFixed(1)} mm`
                : 'kerf and a little'
            }
            onCommit={(v) => set(work.kind === 'row' ? { pitch: v } : { gap: v })}
          />
          <Choice
            label="Along the feed lies"
            value={feed.turned ? 'width' : 'length'}
            options={[
              ['length', `length ${length.toFixed(0)}`],
              ['width', `width ${width.toFixed(0)}`],
            ]}
            onChange={(v) => set({ turned: v === 'width', pitch: null })}
          />
        </>
      )}
      {more && (
        <>
          {work.kind === 'row' && (
            <MeasureField
              label="Blanks are laid within ±"
              value={work.laid}
              min={0}
              max={10}
              onCommit={(laid) => set({ work: { ...work, laid } })}
            />
          )}
          {work.kind === 'parts' && batch.blank.spec.shape.kind === 'outline' && (
            <Tick
              label="parts lie into each other, every second one turned round where that saves"
              checked={work.interlock}
              onChange={(interlock) => set({ work: { ...work, interlock } })}
            />
          )}
          {work.kind !== 'long' && <UsedPatches used={found.used} set={(used) => note({ used })} />}
        </>
      )}
    </div>
  );
};

/** Places of the strip that were burned before. */
const UsedPatches = ({ used, set }: { used: readonly UsedPatch[]; set: (used: readonly UsedPatch[]) => void }) => (
  <div className="col-span-2">
    <p className="text-[13px] text-soft">
      Used places of the strip: from its leading end and from the guide, and their size
    </p>
    {used.map((u, i) => {
      const change = (part: Partial<typeof u>): void => set(used.map((v, k) => (k === i ? { ...v, ...part } : v)));
      return (
        <div key={i} className="mt-1 grid grid-cols-[1fr_1fr_1fr_1fr_2.2rem] gap-1.5">
          <MeasureField label="from the end" value={u.x} onCommit={(x) => change({ x })} />
          <MeasureField label="from the guide" value={u.y} onCommit={(y) => change({ y })} />
          <MeasureField label="long" value={u.width} min={1} max={5_000} onCommit={(w) => change({ width: w })} />
          <MeasureField label="across" value={u.height} min={1} max={5_000} onCommit={(h) => change({ height: h })} />
          <button
            className="act mt-[1.3rem] justify-center !px-0"
            aria-label={`Take out used place ${i + 1}`}
            onClick={() => set(used.filter((_, k) => k !== i))}
          >
            ✕
          </button>
        </div>
      );
    })}
    <button className="link mt-1" onClick={() => set([...used, { x: 40, y: 5, width: 40, height: 30 }])}>
      add one
    </button>
  </div>
);

/** A long feed and what the tape shows; the simulated feeder beside it. */
export const FeedReadings = ({
  handle,
  large = false,
  simulated,
}: {
  handle: BatchHandle;
  large?: boolean;
  simulated: boolean;
}) => {
  const { batch } = handle;
  const readings = batch.feeder?.readings ?? [];
  return (
    <div className={large ? 'mt-5 max-w-2xl text-lg' : ''}>
      <FeedEntryFields handle={handle} simulated={simulated} />
      {readings.length > 0 && (
        <details open={large} className="mt-1 text-[13px]">
          <summary className="cursor-pointer text-blue">
            {readings.length} {readings.length === 1 ? 'feed' : 'feeds'} measured
          </summary>
          <ol className="flex flex-wrap gap-x-4" aria-label="feed readings">
            {readings.map((r) => (
              <li key={r.id}>
                {r.commanded.toFixed(0)} → {r.measured.toFixed(1)} mm
                {r.missed === null ? '' : `, back ${r.missed.toFixed(1)} off`}{' '}
                <button
                  className="link"
                  aria-label={`take out feed ${r.measured.toFixed(1)}`}
                  onClick={() => void handle.act(api.dropFeed, { params: { feed: r.id } })}
                >
                  ✕
                </button>
              </li>
            ))}
          </ol>
        </details>
      )}
    </div>
  );
};

const FeedEntryFields = ({ handle, simulated }: { handle: BatchHandle; simulated: boolean }) => {
  const { batch } = handle;
  const client = useQueryClient();
  const [commanded, setCommanded] = useState<number>(500);
  const [measured, setMeasured] = useState<number | null>(null);
  const [missed, setMissed] = useState<number | null>(null);
  const [round, setRound] = useState(0);
  const take = async (m: number, back: number | null): Promise<void> => {
    if (await handle.act(api.takeFeed, { body: { commanded, measured: m, missed: back } })) {
      setMeasured(null);
      setMissed(null);
      setRound(round + 1);
    }
  };
  const simulate = async (): Promise<void> => {
    try {
      const view = await call(api.simDo, { params: { id: batch.id }, body: { act: 'feed', commanded } });
      void client.invalidateQueries({ queryKey: ['sim', batch.id] });
      if (view.feeder?.moved) await take(view.feeder.moved.measured, view.feeder.moved.missed);
    } catch (error) {
      toast.error(messageOf(error));
    }
  };
  return (
    <div
      className="grid grid-cols-[1fr_1fr_1fr_auto] items-start gap-2"
      onKeyDown={(e) => {
        if (e.key === 'Enter' && measured !== null) void take(measured, missed);
      }}
    >
      <MeasureField label="told to feed" value={commanded} min={50} max={10_000} onCommit={setCommanded} />
      <MeasureField
        key={`m${round}`}
        label="tape shows"
        value={null}
        draft={`feed.${batch.id}.measured`}
        onCommit={setMeasured}
      />
      <MeasureField
        key={`b${round}`}
        label="back, missed by"
        value={null}
        draft={`feed.${batch.id}.missed`}
        onCommit={setMissed}
      />
      <span className="mt-5 flex gap-2">
        <button className="act" disabled={measured === null} onClick={() => void take(measured!, missed)}>
          Keep
        </button>
        {simulated && (
          <button className="act" onClick={() => void simulate()}>
            Feed it
          </button>
        )}
      </span>
    </div>
  );
};

/** The edge from the guide at two stations. */
export const SquareFields = ({
  handle,
  large = false,
  simulated,
}: {
  handle: BatchHandle;
  large?: boolean;
  simulated: boolean;
}) => {
  const { batch } = handle;
  const { found, note } = heldIn(handle, 'feed');
  const client = useQueryClient();
  const [apart, setApart] = useState(found.squaring?.apart ?? 400);
  const [first, setFirst] = useState<number | null>(found.squaring?.first ?? null);
  const [second, setSecond] = useState<number | null>(found.squaring?.second ?? null);
  const keep = (squaring: { apart: number; first: number; second: number }): void => note({ squaring });
  const simulate = async (): Promise<void> => {
    try {
      const view = await call(api.simDo, { params: { id: batch.id }, body: { act: 'square', apart } });
      void client.invalidateQueries({ queryKey: ['sim', batch.id] });
      if (view.feeder?.offsets) {
        setFirst(view.feeder.offsets.first);
        setSecond(view.feeder.offsets.second);
        keep(view.feeder.offsets);
      }
    } catch (error) {
      toast.error(messageOf(error));
    }
  };
  const set = (part: Partial<{ apart: number; first: number | null; second: number | null }>): void => {
    const next = { apart, first, second, ...part };
    setApart(next.apart);
    setFirst(next.first);
    setSecond(next.second);
    if (next.first !== null && next.second !== null)
      keep({ apart: next.apart, first: next.first, second: next.second });
  };
  return (
    <div className={`grid grid-cols-[1fr_1fr_1fr_auto] items-start gap-2 ${large ? 'mt-5 max-w-2xl text-lg' : ''}`}>
      <MeasureField label="stations apart" value={apart} min={50} max={5_000} onCommit={(v) => set({ apart: v })} />
      <MeasureField label="leading, off guide" value={first} min={-20} max={50} onCommit={(v) => set({ first: v })} />
      <MeasureField label="behind, off guide" value={second} min={-20} max={50} onCommit={(v) => set({ second: v })} />
      {simulated && (
        <button className="act mt-5" onClick={() => void simulate()}>
          Measure it
        </button>
      )}
    </div>
  );
};
