import { ChoiceFields, FoundFields } from '../fields';
import { heldIn } from '../held';
import { Fragment, useState } from 'react';
import { useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, choiceOf, findingsOf, type BodyOf, type Setup, type SimView } from '@bistre/contract';
import { adopt, nominalSize, otherWork, WAYS, type FeedSettings } from '@bistre/core';
import { call, messageOf } from '../../data/api';
import { useFeeders } from '../../data/queries';
import type { BatchHandle } from '../../data/use-batch';
import { Choice, Field, FieldList, Fields, Measure, Select, Within } from '../../parts/fields';
import { LongFields } from '../segments/LongFields';

type Work = FeedSettings['work'];

/** A row or a strip: how large, and how the pieces follow each other. */
const StripFields = ({ handle, row }: { handle: BatchHandle; row: boolean }) => {
  const { choice: feed, put: set } = heldIn(handle, 'feed');
  const { length, width } = nominalSize(handle.batch.blank.spec.shape);
  const along = feed.turned ? width : length;
  const pitch = feed.pitch ?? along + feed.gap;
  return (
    <>
      <Field at="strip.length" label={row ? 'Row in the feeder, length' : 'Strip, length'} />
      <Field at="strip.width" label={row ? 'Row or carrier, width' : 'Strip, width'} />
      {row ? (
        <Measure
          of={choiceOf('feed')}
          at="pitch"
          value={pitch}
          hint={`a piece and ${Math.max(0, pitch - along).toFixed(1)} mm`}
          onCommit={(v) => set({ pitch: v })}
        />
      ) : (
        <Field at="gap" />
      )}
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
  );
};

/** What is asked of the work itself, once more is wanted. */
const MoreOfWork = ({ handle, work }: { handle: BatchHandle; work: Work }) => {
  switch (work.kind) {
    case 'row':
      return <Field at="work.laid" />;
    case 'parts':
      return handle.batch.blank.spec.shape.kind === 'outline' ? <Field at="work.interlock" /> : null;
    case 'long':
      return (
        <>
          <Within at="work.long">
            <LongFields handle={handle} fed />
          </Within>
          <Field at="name" />
        </>
      );
  }
};

/** What goes into which feeder, and how it lies there. */
export const FeedFields = ({ handle, more }: { handle: BatchHandle; more: boolean }) => {
  const { batch } = handle;
  const { choice: feed, put: set, renew } = heldIn(handle, 'feed');
  const { work } = feed;
  const { data: feeders = [] } = useFeeders();
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-2">
      <ChoiceFields handle={handle} way="feed">
        <Select
          label="Feeder"
          value={feed.feederId ?? ''}
          options={[['', 'none: on the bed'], ...feeders.map((f) => [f.id, f.name] as const)]}
          onChange={(id) =>
            id === ''
              ? handle.update('held', adopt(batch.setup.held, WAYS.pockets) as Setup['held'])
              : renew({ feederId: id }, { squaring: null, guide: null })
          }
        />
        <div className="mt-5">
          <Field at="rails" />
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
        {work.kind !== 'long' && <StripFields handle={handle} row={work.kind === 'row'} />}
        {more && <MoreOfWork handle={handle} work={work} />}
      </ChoiceFields>
      {more && work.kind !== 'long' && <UsedPatches handle={handle} />}
    </div>
  );
};

/** Places of the strip that were burned before. */
const UsedPatches = ({ handle }: { handle: BatchHandle }) => (
  <div className="col-span-2">
    <p className="text-[13px] text-soft">
      Used places of the strip: from its leading end and from the guide, and their size
    </p>
    <FoundFields handle={handle} way="feed">
      <FieldList
        at="used"
        one="used place"
        add="add one"
        most={60}
        fresh={() => ({ x: 40, y: 5, width: 40, height: 30 })}
        className="mt-1 grid grid-cols-[1fr_1fr_1fr_1fr_2.75rem] gap-1.5"
        row={() => (
          <>
            <Fields at="x y width height" />
          </>
        )}
      />
    </FoundFields>
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
          <summary className="cursor-pointer py-3 text-blue">
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

/** Does something on the simulated feeder: what it shows then; nothing where it was refused, which is said. */
const useFeederAct = (batchId: string): ((act: BodyOf<typeof api.simDo>) => Promise<SimView['feeder']>) => {
  const client = useQueryClient();
  return async (act) => {
    try {
      const { feeder } = await call(api.simDo, { params: { id: batchId }, body: act });
      void client.invalidateQueries({ queryKey: ['sim', batchId] });
      return feeder;
    } catch (error) {
      toast.error(messageOf(error));
      return null;
    }
  };
};

const FeedEntryFields = ({ handle, simulated }: { handle: BatchHandle; simulated: boolean }) => {
  const { batch } = handle;
  const act = useFeederAct(batch.id);
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
    const moved = (await act({ act: 'feed', commanded }))?.moved;
    if (moved) await take(moved.measured, moved.missed);
  };
  return (
    <div
      className="grid grid-cols-[1fr_1fr_1fr_auto] items-start gap-2"
      onKeyDown={(e) => {
        if (e.key === 'Enter' && measured !== null) void take(measured, missed);
      }}
    >
      <Measure of={api.takeFeed.body} at="commanded" label="told to feed" value={commanded} onCommit={setCommanded} />
      <Measure
        of={api.takeFeed.body}
        at="measured"
        key={`m${round}`}
        label="tape shows"
        draft={`feed.${batch.id}.measured`}
        onCommit={setMeasured}
      />
      <Measure
        of={api.takeFeed.body}
        at="missed"
        key={`b${round}`}
        label="back, missed by"
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

/** The guide's edge under the pointer at two places, as the machine shows them. */
export const GuideFields = ({
  handle,
  large = false,
  simulated,
}: {
  handle: BatchHandle;
  large?: boolean;
  simulated: boolean;
}) => {
  const { found, note } = heldIn(handle, 'feed');
  const act = useFeederAct(handle.batch.id);
  const [ends, setEnds] = useState<Partial<Record<'a.x' | 'a.y' | 'b.x' | 'b.y', number | null>>>(() =>
    found.guide
      ? { 'a.x': found.guide.a.x, 'a.y': found.guide.a.y, 'b.x': found.guide.b.x, 'b.y': found.guide.b.y }
      : {},
  );
  const [again, setAgain] = useState(false);
  const simulate = async (): Promise<void> => {
    const guide = (await act({ act: 'guide' }))?.guide;
    if (guide) note({ guide });
  };
  const set = (at: 'a.x' | 'a.y' | 'b.x' | 'b.y', value: number | null): void => {
    const next = { ...ends, [at]: value };
    setEnds(next);
    const [ax, ay, bx, by] = [next['a.x'], next['a.y'], next['b.x'], next['b.y']];
    if (typeof ax === 'number' && typeof ay === 'number' && typeof bx === 'number' && typeof by === 'number')
      note({ guide: { a: { x: ax, y: ay }, b: { x: bx, y: by } } });
  };
  if (!large && found.guide && !again)
    return (
      <p className="my-1.5 text-[13px]">
        Guide read at {found.guide.a.x}, {found.guide.a.y} and {found.guide.b.x}, {found.guide.b.y}.{' '}
        <button className="link" onClick={() => setAgain(true)}>
          read it again
        </button>
      </p>
    );
  return (
    <div
      className={`grid items-end gap-2 ${large ? 'mt-5 max-w-4xl grid-cols-[1fr_1fr_1fr_1fr_auto] text-lg' : 'grid-cols-[1fr_1fr_auto]'}`}
    >
      {(['a.x', 'a.y', 'b.x', 'b.y'] as const).map((at) => (
        <Fragment key={at}>
          <Measure of={findingsOf('feed')} at={`guide.${at}`} value={ends[at] ?? null} onCommit={(v) => set(at, v)} />
          {at === 'a.y' && !large && <span />}
        </Fragment>
      ))}
      {simulated && (
        <button className="act" onClick={() => void simulate()}>
          Read it
        </button>
      )}
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
  const { found, note } = heldIn(handle, 'feed');
  const act = useFeederAct(handle.batch.id);
  const [apart, setApart] = useState(found.squaring?.apart ?? 400);
  const [first, setFirst] = useState<number | null>(found.squaring?.first ?? null);
  const [second, setSecond] = useState<number | null>(found.squaring?.second ?? null);
  const keep = (squaring: { apart: number; first: number; second: number }): void => note({ squaring });
  const simulate = async (): Promise<void> => {
    const offsets = (await act({ act: 'square', apart }))?.offsets;
    if (!offsets) return;
    setFirst(offsets.first);
    setSecond(offsets.second);
    keep(offsets);
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
      <Measure of={findingsOf('feed')} at="squaring.apart" value={apart} onCommit={(v) => set({ apart: v })} />
      <Measure of={findingsOf('feed')} at="squaring.first" value={first} onCommit={(v) => set({ first: v })} />
      <Measure of={findingsOf('feed')} at="squaring.second" value={second} onCommit={(v) => set({ second: v })} />
      {simulated && (
        <button className="act mt-5" onClick={() => void simulate()}>
          Measure it
        </button>
      )}
    </div>
  );
};
