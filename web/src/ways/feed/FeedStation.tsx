import { heldIn } from '../held';
import { useState } from 'react';
import { api } from '@bistre/contract';
import { fixed, feedMarkWords, windowLength, type FeedReckoning } from '@bistre/core';
import type { Shown } from '../../data/shown';
import { Choice, Measure, Select } from '../../parts/fields';
import { FileLinks } from '../../parts/FileLinks';
import { BurnCaution, Finding, Part } from '../../parts/Part';
import { Reading, ROW_SIZE } from '../../parts/Reading';
import { Steps } from '../../parts/Steps';
import { useSimulated } from '../../parts/use-simulated';
import type { StationProps } from '../pages';
import { CutOutReckon } from '../segments/CutOutReckon';
import { PartBurn } from '../segments/SegmentPlace';
import { SimPanel } from '../../stations/sim/SimPanel';
import { FeedFields, FeedReadings, GuideFields, SquareFields } from './FeedFields';

/** What follows: stops, what the feeder is told, what is lost, the error at the far end. */
const FeedReckon = ({ shown, feed }: { shown: Shown; feed: FeedReckoning }) => {
  const { calibration, skew, guide, layout, stops } = feed;
  const { budget } = shown.reckoning;
  const far = stops[stops.length - 1];
  const next = stops[feed.current - 1];
  // Parts are cut beside their own engraving: however the guide stands.
  const guided = feed.work !== 'parts';
  const drift = skew.measured ? `${Math.abs(skew.drift).toFixed(1)} mm over the work, turned out` : 'not measured';
  return (
    <div className="readings">
      <Reading
        label="feed factor"
        size={ROW_SIZE}
        value={calibration.factor.toFixed(4)}
        note={
          calibration.readings === 0
            ? 'not measured: ± 0.5 % is carried'
            : `± ${(2 * calibration.uncertainty).toFixed(4)}, ${calibration.readings} feeds`
        }
        tone={calibration.readings === 0 ? 'attention' : 'plain'}
        working={calibration.working}
      />
      <Reading
        label="skew"
        size={ROW_SIZE}
        value={fixed(skew.angle * 1000)}
        unit="mm/m"
        note={guided ? `${drift}; guide ${guide.measured ? fixed(guide.angle * 1000) : '± 1 carried'}` : drift}
        tone={skew.measured && (guide.measured || !guided) ? 'plain' : 'attention'}
        working={[...skew.working, ...(guided ? guide.working : [])]}
      />
      <Reading
        label={feed.current > 1 ? `command to stop ${feed.current}` : 'command to the first stop'}
        size={ROW_SIZE}
        value={next ? next.command.toFixed(2) : '–'}
        unit="mm"
        note={calibration.slip === null ? undefined : `going back slips ${Math.abs(calibration.slip).toFixed(1)} mm`}
        working={calibration.working}
      />
      <Reading
        label="stops"
        size={ROW_SIZE}
        value={String(stops.length)}
        unit={layout ? `a strip, ${layout.places.length} places` : 'windows'}
        note={
          layout
            ? `${feed.strips} ${feed.strips === 1 ? 'strip' : 'strips'}, ${stops
                .map((s) => s.count)
                .slice(0, 6)
                .join(' + ')}${stops.length > 6 ? ' …' : ''}`
            : `of at most ${feed.feeder ? windowLength(feed.feeder) : 0} mm`
        }
        working={feed.counts.filter((w) => w.label === 'stops' || w.label === 'strips')}
      />
      <Reading
        label={layout ? 'lost at the ends' : 'feeding, in all'}
        size={ROW_SIZE}
        value={
          layout ? `${layout.lostFront.toFixed(0)} + ${layout.lostBack.toFixed(0)}` : `${Math.round(feed.feeding)}`
        }
        unit={layout ? 'mm' : 's'}
        note={
          layout
            ? `${(100 * layout.filled).toFixed(0)} % of the strip is pieces; feeding ${feed.feeding < 90 ? `${feed.feeding.toFixed(0)} s` : `${(feed.feeding / 60).toFixed(0)} min`}`
            : undefined
        }
        working={feed.counts.filter((w) => w.label !== 'stops' && w.label !== 'strips')}
      />
      <Reading
        label="at the last stop, 95 %"
        size={ROW_SIZE}
        value={far ? `± ${far.error.toFixed(2)}` : '–'}
        unit="mm"
        tone={!far ? 'plain' : far.error <= budget.tolerance ? 'inside' : 'out'}
        note={feed.step === null ? `tolerance ± ${budget.tolerance}` : `windows meet to ± ${feed.step.toFixed(2)}`}
        working={[...feed.stepWorking, ...budget.working]}
      />
    </div>
  );
};

const aimWords = (feed: FeedReckoning): string =>
  feed.proposed === null
    ? 'every stop, and it is still over'
    : feed.proposed === 0
      ? 'once, at the first stop'
      : feed.work === 'long' || feed.proposed === 1
        ? 'at every stop'
        : `every ${feed.proposed} stops`;

/** How often the head aims at the strip: as rarely as the tolerance allows, or as chosen. */
const AimChoice = ({ handle, feed }: Pick<StationProps, 'handle'> & { feed: FeedReckoning }) => {
  const { choice: settings, put } = heldIn(handle, 'feed');
  const set = (aimEvery: number | null): void => put({ aimEvery });
  if (feed.work === 'parts')
    return <p className="text-soft">Parts are engraved and cut out at one stop: nothing is aimed at between stops.</p>;
  return feed.work === 'long' ? (
    <Choice
      label={`Windows are joined (proposed: ${feed.proposed === 0 ? 'by the feed' : 'by marks'})`}
      value={settings.aimEvery === null ? 'auto' : settings.aimEvery > 0 ? 'marks' : 'feed'}
      options={[
        ['auto', 'as proposed'],
        ['feed', 'by the feed alone'],
        ['marks', 'by marks at each seam'],
      ]}
      onChange={(v) => set(v === 'auto' ? null : v === 'marks' ? 1 : 0)}
    />
  ) : (
    <Select
      label="Aim at the strip again"
      value={settings.aimEvery === null ? 'auto' : String(settings.aimEvery)}
      options={[
        ['auto', `as proposed: ${aimWords(feed)}`],
        ['0', 'never: only at the first stop'],
        ...[1, 2, 3, 4, 5, 6, 8, 10].map((n) => [String(n), n === 1 ? 'at every stop' : `every ${n} stops`] as const),
      ]}
      onChange={(v) => set(v === 'auto' ? null : Number(v))}
    />
  );
};

/** What the strip is aimed by at this stop: typed, or with the simulated machine. */
const FeedAim = ({
  handle,
  feed,
  simulated,
}: Pick<StationProps, 'handle'> & { feed: FeedReckoning; simulated: boolean }) => {
  const { batch } = handle;
  const stop = feed.stops[feed.current - 1];
  const [x, setX] = useState<number | null>(null);
  const [y, setY] = useState<number | null>(null);
  if (!stop || stop.marks.length === 0)
    return stop ? <p className="text-soft">Stop {stop.index} is not aimed at: the feed is trusted.</p> : null;
  const next = feed.unread[0];
  const take = (mark: number, nx: number, ny: number, source: 'typed' | 'simulated machine'): void =>
    void handle.act(api.takeReading, { body: { mark, x: nx, y: ny, source, purpose: 'place' } }).then((good) => {
      if (!good) return;
      setX(null);
      setY(null);
    });
  return (
    <div>
      <ul>
        {stop.marks.map((m) => {
          const last = batch.readings.filter((r) => r.mark === m && r.purpose === 'place').at(-1);
          return (
            <li key={m} className="flex justify-between gap-3 border-t border-hairline py-1">
              <span>
                Stop {stop.index}: {feedMarkWords(feed, m)}
              </span>
              {last ? (
                <span className="text-soft">
                  {last.x.toFixed(2)}, {last.y.toFixed(2)}{' '}
                  <button
                    className="link"
                    aria-label={`take out reading of mark ${m}`}
                    onClick={() => void handle.act(api.dropReading, { params: { reading: last.id } })}
                  >
                    ✕
                  </button>
                </span>
              ) : (
                <b className="text-ochre">to be read</b>
              )}
            </li>
          );
        })}
      </ul>
      {next !== undefined &&
        (simulated ? (
          <div className="mt-2">
            <SimPanel
              handle={handle}
              mark={next}
              purpose="place"
              onHead={() => undefined}
              onReading={(nx, ny) => take(next, nx, ny, 'simulated machine')}
            />
          </div>
        ) : (
          <div
            key={next}
            className="mt-1 grid grid-cols-[1fr_1fr_auto] items-start gap-2"
            onKeyDown={(e) => {
              if (e.key === 'Enter' && x !== null && y !== null) take(next, x, y, 'typed');
            }}
          >
            <Measure
              of={api.takeReading.body}
              at="x"
              label="x on the machine"
              draft={`feed.${batch.id}.${next}.x`}
              onCommit={setX}
            />
            <Measure
              of={api.takeReading.body}
              at="y"
              label="y on the machine"
              draft={`feed.${batch.id}.${next}.y`}
              onCommit={setY}
            />
            <button
              className="act mt-5"
              disabled={x === null || y === null}
              onClick={() => take(next, x!, y!, 'typed')}
            >
              Keep
            </button>
          </div>
        ))}
    </div>
  );
};

/** Work that reaches out of an open machine. */
const OPEN = 'Where work reaches out of an open machine, its maker and the shop’s laser-safety officer say how.';

/** The window of a long piece that is under the head. */
const WindowBurn = ({ handle, shown, feed }: Pick<StationProps, 'handle' | 'shown'> & { feed: FeedReckoning }) => {
  const { run, own } = shown.reckoning;
  if (!own.long || run.openLoad === null || own.long.burned || feed.unread.length > 0) return null;
  return (
    <PartBurn
      handle={handle}
      part="Stop"
      index={feed.current}
      next={feed.current < feed.stops.length ? ', fed on' : ''}
      more={feed.feeder?.word && feed.aimEvery === 0 ? [['strip.gcode', 'all stops, one file']] : []}
      caution={OPEN}
    />
  );
};

/** Feed: a strip through a conveyor, from what fits to the stop that is burned now. */
export const FeedStation = ({ handle, shown }: StationProps) => {
  const { batch } = handle;
  const { run } = shown.reckoning;
  const { feed } = shown.reckoning.own;
  const [more, setMore] = useState(false);
  const [simulated, setSimulated] = useSimulated();
  if (!feed) return null;
  const misfit = feed.misfits[0];
  const ofNow = shown.steps.filter((s) => !/^feed\.(aim|calibrate|square)/.test(s.id));
  return (
    <>
      <Part
        name="Measure"
        aside={
          <span className="flex gap-4">
            <button className="link" onClick={() => setSimulated(!simulated)}>
              {simulated ? 'type readings' : 'use the simulated feeder'}
            </button>
            <button className="link" onClick={() => setMore(!more)}>
              {more ? 'fewer settings' : 'more settings'}
            </button>
          </span>
        }
      >
        <FeedFields handle={handle} more={more} />
        {feed.misfits.map((m) => (
          <div key={m.limit} className="mt-2">
            <Finding tone="out">
              {m.message} {m.ways.length > 0 && <b>{m.ways.join(' ')}</b>}
            </Finding>
          </div>
        ))}
        {feed.problem && !misfit && (
          <div className="mt-2">
            <Finding tone={feed.feeder ? 'out' : 'attention'}>{feed.problem.message}</Finding>
          </div>
        )}
        {feed.stops.length > 0 && (
          <div className="mt-2">
            <FeedReadings handle={handle} simulated={simulated} />
            {feed.work !== 'parts' && (
              <GuideFields key={feed.guide.measured ? 'read' : 'unread'} handle={handle} simulated={simulated} />
            )}
            <SquareFields key={feed.skew.measured ? 'set' : 'open'} handle={handle} simulated={simulated} />
          </div>
        )}
      </Part>
      {feed.stops.length > 0 && (
        <>
          <Part name="Reckon">
            <FeedReckon shown={shown} feed={feed} />
            {feed.work === 'long' && <CutOutReckon handle={handle} />}
            {shown.reckoning.warnings
              .filter((w) => w.station === 'feed')
              .map((w) => (
                <div key={w.message} className="mt-2">
                  <Finding tone={w.danger ? 'out' : 'attention'}>{w.message}</Finding>
                </div>
              ))}
          </Part>
          <Part name="Do">
            <AimChoice handle={handle} feed={feed} />
            <Steps handle={handle} steps={ofNow} station="feed" part="do" />
            {run.openLoad === null ? (
              <p>
                <button className="act act-main" disabled={run.finished} onClick={() => void handle.act(api.startLoad)}>
                  {shown.reckoning.own.long
                    ? 'Take the work'
                    : feed.current === 1
                      ? 'It lies in the feeder: begin'
                      : `It is fed on to stop ${feed.current}`}
                </button>
              </p>
            ) : (
              <FeedAim handle={handle} feed={feed} simulated={simulated} />
            )}
            <WindowBurn handle={handle} shown={shown} feed={feed} />
            {!shown.reckoning.own.long && run.openLoad !== null && feed.unread.length === 0 && (
              <>
                <FileLinks
                  batchId={batch.id}
                  files={[
                    ['load.gcode', 'G-code'],
                    ['load.svg', 'SVG'],
                    ['load.dxf', 'DXF'],
                    ...(feed.feeder?.word && feed.aimEvery === 0 && batch.firstApproved
                      ? ([['strip.gcode', 'the rest of the strip, one file']] as const)
                      : []),
                  ]}
                  label={`Stop ${feed.current}`}
                />
                <BurnCaution>{OPEN}</BurnCaution>
              </>
            )}
          </Part>
          <Part name="Check">
            <FileLinks batchId={batch.id} files={[['walk.gcode', 'Walk file']]} label="True outline, beam off" />
            <Steps handle={handle} steps={ofNow} station="feed" part="check" />
          </Part>
        </>
      )}
    </>
  );
};
