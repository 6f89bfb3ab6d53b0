import { PieceArt } from '../../drawing/PieceArt';
import { useEffect, useRef, useState } from 'react';
import type { BatchDocument } from '@bistre/contract';
import {
  heldAs,
  apply,
  boxCorners,
  boxOf,
  compose,
  invert,
  rigid,
  slotTransform,
  stripToBed,
  type Box,
  type FeedReckoning,
  type Transform,
  type StopNumber,
} from '@bistre/core';
import type { Shown } from '../../data/shown';
import { Drawing, fitView, Hatch, Legend, matrix, ScaleBar, useSize, type View } from '../../drawing/scale';

/** Time for one feed of the picture, ms; a real one takes longer. */
const FEED_TIME = 900;
const STAND_TIME = 700;

const calm = (): boolean => window.matchMedia('(prefers-reduced-motion: reduce)').matches;

const rectOf = (b: Box): { x: number; y: number; width: number; height: number } => ({
  x: b.minX,
  y: b.minY,
  width: b.maxX - b.minX,
  height: b.maxY - b.minY,
});

/** The strip with everything on it, in its own frame. */
const Strip = ({ batch, shown, stop }: { batch: BatchDocument; shown: Shown; stop: StopNumber }) => {
  const { reckoning } = shown;
  const feed = reckoning.own.feed!;
  const { size, feeder } = feed;
  const ordinals = new Map(feed.roster.map((o) => [o.slot, o.ordinal]));
  const here = feed.stops[stop - 1];
  const scrap = new Set(batch.pieces.filter((p) => p.state === 'scrap').map((p) => p.slot));
  const first = feed.stops[feed.current - 1]?.first ?? 0;
  return (
    <>
      <rect width={size.length} height={size.width} className="fill-sheet" />
      {feed.work !== 'long' && feeder && (
        <>
          <rect width={Math.min(feeder.deadFront, size.length)} height={size.width} fill="url(#hatch)" opacity={0.5} />
          <rect
            x={size.length - feeder.deadBack}
            width={feeder.deadBack}
            height={size.width}
            fill="url(#hatch)"
            opacity={0.5}
          />
        </>
      )}
      {here && (
        <rect x={here.from} width={here.to - here.from} height={size.width} className="fill-blue" opacity={0.1} />
      )}
      {feed.work === 'long'
        ? shown.longPaths.map((p, i) => (
            <g key={i} opacity={i < stop ? 1 : 0.3}>
              <PieceArt art={p} />
            </g>
          ))
        : (reckoning.board?.slots ?? []).map((s) => {
            const ordinal = ordinals.get(s.slot);
            const art = ordinal === undefined ? undefined : reckoning.art?.paths[ordinal];
            const burned = here !== undefined && s.slot <= here.first + here.count;
            return (
              <g key={s.slot} transform={matrix(slotTransform(s))}>
                <path
                  d={shown.blankPath}
                  className={`${feed.work === 'parts' ? 'stroke-logwood' : 'stroke-soft'} ${scrap.has(s.slot) && s.slot <= first ? 'fill-hairline' : 'fill-film'}`}
                  strokeWidth={1}
                  vectorEffect="non-scaling-stroke"
                />
                {art && (
                  <g opacity={burned ? 1 : 0.35}>
                    <PieceArt art={art} />
                  </g>
                )}
              </g>
            );
          })}
      {heldAs(batch, 'feed').found.used.map((u, i) => (
        <rect
          key={i}
          x={u.x}
          y={u.y}
          width={u.width}
          height={u.height}
          fill="url(#hatch)"
          className="stroke-oxide"
          strokeWidth={1}
          vectorEffect="non-scaling-stroke"
        />
      ))}
      {feed.patch && (
        <rect
          {...rectOf(feed.patch)}
          className="fill-none stroke-verdigris"
          strokeWidth={1.4}
          strokeDasharray="4 3"
          vectorEffect="non-scaling-stroke"
        />
      )}
      <rect
        width={size.length}
        height={size.width}
        className="fill-none stroke-ink"
        strokeWidth={1.2}
        vectorEffect="non-scaling-stroke"
      />
    </>
  );
};

/** What stands still: bed, guide, rollers, bars under the work, and the window. Bed frame. */
const Machine = ({ feed, bed }: { feed: FeedReckoning; bed: { width: number; height: number } }) => {
  const feeder = feed.feeder!;
  const x = feeder.along === 'x';
  const width = feed.size.width;
  /** A bar across the feed from the guide over the work's width. */
  const across = (at: number, thick: number, beyond: number): Box =>
    x
      ? {
          minX: at - thick / 2,
          maxX: at + thick / 2,
          minY: feeder.guideAt - beyond,
          maxY: feeder.guideAt + width + beyond,
        }
      : {
          minY: at - thick / 2,
          maxY: at + thick / 2,
          minX: feeder.guideAt - beyond,
          maxX: feeder.guideAt + width + beyond,
        };
  return (
    <>
      <rect
        width={bed.width}
        height={bed.height}
        className="fill-film stroke-ink"
        strokeWidth={1.2}
        vectorEffect="non-scaling-stroke"
      />
      {feeder.supports.map((s, i) => (
        <rect
          key={`s${i}`}
          {...rectOf(across(s.at, s.width, 12))}
          className="fill-hairline stroke-soft"
          strokeWidth={1}
          vectorEffect="non-scaling-stroke"
        />
      ))}
    </>
  );
};

const Rollers = ({ feed, view }: { feed: FeedReckoning; view: View }) => {
  const feeder = feed.feeder!;
  const x = feeder.along === 'x';
  const end = feeder.guideAt + feed.size.width + 14;
  const line = (at: number, from: number, to: number): { x1: number; y1: number; x2: number; y2: number } => {
    const a = x ? view.at(at, from) : view.at(from, at);
    const b = x ? view.at(at, to) : view.at(to, at);
    return { x1: a.x, y1: a.y, x2: b.x, y2: b.y };
  };
  const g1 = x ? view.at(feeder.window.from - 60, feeder.guideAt) : view.at(feeder.guideAt, feeder.window.from - 60);
  const g2 = x ? view.at(feeder.window.to + 60, feeder.guideAt) : view.at(feeder.guideAt, feeder.window.to + 60);
  return (
    <g>
      {feeder.rollers.map((at, i) => (
        <line
          key={i}
          {...line(at, feeder.guideAt - 14, end)}
          className="stroke-soft"
          strokeWidth={Math.max(3, 18 * view.k)}
          opacity={0.55}
        />
      ))}
      {[feeder.window.from, feeder.window.to].map((at) => (
        <line
          key={at}
          {...line(at, feeder.guideAt - 20, end + 6)}
          className="stroke-blue"
          strokeWidth={1.5}
          strokeDasharray="8 4"
        />
      ))}
      <line x1={g1.x} y1={g1.y} x2={g2.x} y2={g2.y} className="stroke-blue" strokeWidth={3} />
    </g>
  );
};

/** Strip to bed at a feed between stops; on the current strip from where it was read. */
const mapAt = (shown: Shown, batch: BatchDocument, fed: number): Transform => {
  const feed = shown.reckoning.own.feed!;
  const meant = (f: number): Transform =>
    compose(
      stripToBed(feed.feeder!, f, feed.guide.angle),
      rigid(feed.skew.angle, 0, heldAs(batch, 'feed').found.squaring?.first ?? 0),
    );
  const now = feed.stops[feed.current - 1]?.fed ?? 0;
  return compose(meant(fed), invert(meant(now)), shown.reckoning.boardToBed);
};

/** A strip through the machine, from above and to scale: all of it, and below what lies under the head; it can be fed through. */
export const FeedDrawing = ({ batch, shown }: { batch: BatchDocument; shown: Shown }) => {
  const [ref, size] = useSize();
  const feed = shown.reckoning.own.feed!;
  const { current, stops } = feed;
  const [wanted, setWanted] = useState<number | null>(null);
  const [playing, setPlaying] = useState(false);
  const stop = Math.min(stops.length, Math.max(1, wanted ?? current));
  const target = stops[stop - 1]?.fed ?? 0;
  const [fed, setFed] = useState(target);
  const from = useRef(target);
  useEffect(() => {
    if (calm() || Math.abs(from.current - target) < 0.01) {
      from.current = target;
      setFed(target);
      return;
    }
    const start = performance.now();
    const begin = from.current;
    let frame = 0;
    const tick = (t: number): void => {
      const s = Math.min(1, (t - start) / FEED_TIME);
      from.current = begin + (target - begin) * (s * s * (3 - 2 * s));
      setFed(from.current);
      if (s < 1) frame = requestAnimationFrame(tick);
    };
    frame = requestAnimationFrame(tick);
    return () => cancelAnimationFrame(frame);
  }, [target]);
  useEffect(() => {
    if (!playing) return;
    const timer = setTimeout(
      () => {
        if (stop >= stops.length) setPlaying(false);
        else setWanted(stop + 1);
      },
      calm() ? STAND_TIME : FEED_TIME + STAND_TIME,
    );
    return () => clearTimeout(timer);
  }, [playing, stop, stops.length]);
  if (!feed.feeder || stops.length === 0)
    return (
      <Drawing
        refTo={ref}
        label="Strip in the feeder"
        caption={feed.problem?.message ?? 'Nothing lies in a feeder yet.'}
      >
        {null}
      </Drawing>
    );
  const { bed } = batch.machine.profile;
  const along = feed.feeder.along;
  const map = mapAt(shown, batch, fed);
  const whole = [0, ...stops.map((s) => s.fed)].map((f) =>
    boxOf(
      boxCorners({ minX: 0, minY: 0, maxX: feed.size.length, maxY: feed.size.width }).map((c) =>
        apply(mapAt(shown, batch, f), c),
      ),
    ),
  );
  const all = {
    minX: Math.min(0, ...whole.map((b) => b.minX)),
    maxX: Math.max(bed.width, ...whole.map((b) => b.maxX)),
    minY: Math.min(0, ...whole.map((b) => b.minY)),
    maxY: Math.max(bed.height, ...whole.map((b) => b.maxY)),
  };
  const side = along === 'y';
  const over = side
    ? { width: Math.max(150, size.width * 0.34), height: size.height - 40 }
    : { width: size.width, height: Math.max(110, size.height * 0.3) };
  const upper = fitView(over, rectOf(all), { left: 16, right: 16, top: 26, bottom: 14 });
  const near = side
    ? {
        x: feed.feeder.guideAt - 60,
        y: feed.feeder.window.from - 70,
        width: feed.size.width + 120,
        height: feed.feeder.window.to - feed.feeder.window.from + 140,
      }
    : {
        x: feed.feeder.window.from - 70,
        y: feed.feeder.guideAt - 60,
        width: feed.feeder.window.to - feed.feeder.window.from + 140,
        height: feed.size.width + 120,
      };
  const pane = side
    ? { x: over.width, y: 0, width: size.width - over.width, height: size.height - 44 }
    : { x: 0, y: over.height, width: size.width, height: size.height - over.height - 44 };
  const lower = fitView(pane, near, { left: 18, right: 18, top: 22, bottom: 24 });
  const here = stops[stop - 1]!;
  const { room } = feed;
  const edgeIn = side ? upper.at(bed.width / 2, all.minY) : upper.at(all.maxX, bed.height / 2);
  const edgeOut = side ? upper.at(bed.width / 2, all.maxY) : upper.at(all.minX, bed.height / 2);
  // Words beside each other, and the scale beside the legend, need this much.
  const narrow = size.width < 470;
  return (
    <Drawing
      refTo={ref}
      label={`Strip in ${feed.feeder.name}, stop ${stop} of ${stops.length}`}
      caption={
        <>
          {feed.feeder.name} on {batch.machine.name}, from above; the strip moves{' '}
          {side ? 'from front to back' : 'from right to left'}. Stop {stop} of {stops.length}
          {stop === current ? ', the one that is on' : ''}, fed {here.fed.toFixed(1)} mm.
        </>
      }
      tools={
        <span className="flex shrink-0 gap-4">
          <button className="link" disabled={stop <= 1} onClick={() => setWanted(stop - 1)}>
            stop before
          </button>
          <button className="link" disabled={stop >= stops.length} onClick={() => setWanted(stop + 1)}>
            next stop
          </button>
          <button
            className="link"
            onClick={() => {
              if (!playing && stop >= stops.length) setWanted(1);
              setPlaying(!playing);
            }}
          >
            {playing ? 'hold' : 'feed it through'}
          </button>
        </span>
      }
    >
      <Hatch />
      <defs>
        <clipPath id="feed-near">
          <rect x={pane.x} y={pane.y} width={pane.width} height={pane.height} />
        </clipPath>
      </defs>
      <g transform={upper.group}>
        <Machine feed={feed} bed={bed} />
        <g transform={matrix(map)}>
          <Strip batch={batch} shown={shown} stop={stop} />
        </g>
      </g>
      <Rollers feed={feed} view={upper} />
      {room.before > 0.5 && (
        <text
          x={side ? edgeIn.x : size.width - 16}
          y={side ? edgeIn.y + 12 : narrow ? 33 : 16}
          textAnchor={side ? 'middle' : 'end'}
          className="fill-ink text-[13px]"
        >
          {Math.ceil(room.before / 10)} cm free where it goes in
        </text>
      )}
      {room.behind > 0.5 && (
        <text
          x={side ? edgeOut.x : 16}
          y={side ? edgeOut.y - 6 : 16}
          textAnchor={side ? 'middle' : 'start'}
          className="fill-ink text-[13px]"
        >
          {Math.ceil(room.behind / 10)} cm free where it comes out
        </text>
      )}
      <line
        x1={pane.x}
        y1={pane.y}
        x2={side ? pane.x : size.width}
        y2={side ? pane.height : pane.y}
        className="stroke-hairline"
      />
      <g clipPath="url(#feed-near)">
        <g transform={`translate(${pane.x} ${pane.y})`}>
          <g transform={lower.group}>
            <Machine feed={feed} bed={bed} />
            <g transform={matrix(map)}>
              <Strip batch={batch} shown={shown} stop={stop} />
            </g>
          </g>
          <Rollers feed={feed} view={lower} />
          {feed.work !== 'long' &&
            (shown.reckoning.board?.slots ?? []).map((s) => {
              const p = apply(map, { x: s.centre.x, y: 0 });
              const q = lower.at(p.x, p.y);
              const on = s.slot > here.first && s.slot <= here.first + here.count;
              return s.row > 0 ? null : (
                <text
                  key={s.slot}
                  x={side ? q.x - 8 : q.x}
                  y={side ? q.y + 4 : q.y + 15}
                  textAnchor={side ? 'end' : 'middle'}
                  className={`text-[12px] ${on ? 'fill-blue font-bold' : 'fill-soft'}`}
                >
                  {s.slot}
                </text>
              );
            })}
          {shown.reckoning.board?.marks
            .filter(() => stop === current)
            .map((m) => {
              const p = apply(map, m.at);
              const q = lower.at(p.x, p.y);
              return (
                <g key={m.id} className="stroke-oxide" strokeWidth={1.6} fill="none">
                  <circle cx={q.x} cy={q.y} r={8} />
                  <path d={`M${q.x - 12} ${q.y}h24M${q.x} ${q.y - 12}v24`} />
                </g>
              );
            })}
        </g>
      </g>
      <Legend height={size.height - (narrow ? 22 : 0)} entries={['engrave', 'cut', 'guide', 'keep-out']} />
      <ScaleBar view={{ ...lower, width: size.width, height: size.height }} />
    </Drawing>
  );
};
