import { useId, useState } from 'react';
import type { SimRunView } from '@bistre/contract';
import { apply, rigid, type Transform, type Vec } from '@bistre/core';
import type { PathsShown, Shown } from '../../data/shown';
import { PieceArt } from '../../drawing/PieceArt';
import { Drawing, fitView, Legend, matrix, ScaleBar, useSize } from '../../drawing/scale';

type Landed = SimRunView['landed'][number];

/** Radius of what a seam's loupe shows, mm. */
const LOUPE: number = 3;

/** Where a segment really lies, about the middle of the work. */
const landedMap = (landed: readonly Landed[] | undefined, segment: number, middle: Vec): Transform => {
  const l = landed?.find((x) => x.segment === segment);
  if (!l) return rigid(0, 0, 0);
  const turn = rigid(l.yaw, 0, 0);
  const back = apply(turn, middle);
  return { ...turn, e: middle.x + l.dx - back.x, f: middle.y + l.dy - back.y };
};

/** A place where a seam meets a stroke, magnified, both segments as they lie. */
const SeamLoupe = ({
  at,
  cx,
  cy,
  r,
  paths,
  maps,
}: {
  at: Vec;
  cx: number;
  cy: number;
  r: number;
  paths: readonly [PathsShown, PathsShown];
  maps: readonly [Transform, Transform];
}) => {
  const id = useId();
  const k = r / LOUPE;
  return (
    <g>
      <clipPath id={id}>
        <circle cx={cx} cy={cy} r={r} />
      </clipPath>
      <circle cx={cx} cy={cy} r={r} className="fill-sheet" />
      <g clipPath={`url(#${id})`}>
        <g transform={`translate(${cx} ${cy}) scale(${k} ${-k}) translate(${-at.x} ${-at.y})`}>
          {paths.map((p, i) => (
            <g key={i} transform={matrix(maps[i]!)}>
              <PieceArt art={p} width={0.2 * k} />
            </g>
          ))}
        </g>
        <line x1={cx} x2={cx} y1={cy - r} y2={cy + r} className="stroke-blue" strokeWidth={1} strokeDasharray="8 4" />
      </g>
      <circle cx={cx} cy={cy} r={r} className="fill-none stroke-ink" strokeWidth={1.5} />
    </g>
  );
};

/** Distance between what two neighbouring segments make of the same point, mm. */
const stepAt = (maps: readonly [Transform, Transform], p: Vec): number => {
  const [a, b] = maps.map((m) => apply(m, p)) as [Vec, Vec];
  return Math.hypot(a.x - b.x, a.y - b.y);
};

/**
 * A long piece from above, to scale: its art, the seams and what they cross, the marks that carry it
 * over, and below it each seam through a loupe; after a simulated run as the segments really landed.
 */
export const LongDrawing = ({
  shown,
  landed,
  onClose,
}: {
  shown: Shown;
  landed?: readonly Landed[];
  onClose?: () => void;
}) => {
  const [ref, size] = useSize();
  const [wanted, setWanted] = useState(0);
  const { board } = shown.reckoning;
  const { long } = shown.reckoning.own;
  const plan = long?.plan;
  if (!board || !long || !plan)
    return (
      <Drawing refTo={ref} label="Long work" caption={shown.reckoning.boardProblem?.message ?? 'No segments yet.'}>
        {null}
      </Drawing>
    );
  const upper = Math.max(170, size.height * 0.46);
  const view = fitView(
    { width: size.width, height: upper },
    { x: 0, y: 0, width: board.width, height: board.height },
    { left: 22, right: 22, top: 34, bottom: 46 },
  );
  const middle = { x: board.width / 2, y: board.height / 2 };
  const map = (i: number): Transform => landedMap(landed, i, middle);
  const columns = Math.max(1, plan.seams.length);
  const r = Math.min(92, (size.width - 40) / columns / 2 - 8, (size.height - upper - 96) / 2);
  return (
    <Drawing
      refTo={ref}
      label="The whole work with its seams"
      caption={
        <>
          {board.width.toFixed(0)} × {board.height.toFixed(0)} mm from above,{' '}
          {landed ? 'as its segments landed' : 'seams dashed'}; below, where each seam meets a stroke,{' '}
          {(r / LOUPE / view.k).toFixed(0)} times as large as above.
        </>
      }
      tools={
        <span className="flex gap-4">
          <button className="link" onClick={() => setWanted(wanted + 1)}>
            next stroke
          </button>
          {onClose && (
            <button className="link" onClick={onClose}>
              back to the bed
            </button>
          )}
        </span>
      }
    >
      <g transform={view.group}>
        <rect width={board.width} height={board.height} className="fill-sheet" />
        {plan.segments
          .filter((s) => s.index === long.current && !long.burned)
          .map((s) => (
            <rect
              key={s.index}
              x={s.from}
              width={s.to - s.from}
              height={board.height}
              className="fill-blue"
              opacity={0.08}
            />
          ))}
        <rect
          width={board.width}
          height={board.height}
          className="fill-none stroke-soft"
          vectorEffect="non-scaling-stroke"
        />
        {shown.longPaths.map((p, i) => (
          <g key={i} transform={matrix(map(i + 1))}>
            <PieceArt art={p} />
          </g>
        ))}
      </g>
      {plan.segments.map((s, i) => {
        const p = view.at((s.from + s.to) / 2, 0);
        const burned = s.index < long.current || long.burned;
        return (
          <g key={s.index}>
            <text
              x={p.x}
              y={p.y + 18}
              textAnchor="middle"
              className={`text-[13px] font-bold ${burned ? 'fill-verdigris' : 'fill-ink'}`}
            >
              {s.index}
              {burned ? ' burned' : ''}
            </text>
            <text x={p.x} y={p.y + 34} textAnchor="middle" className="fill-soft text-[12px]">
              {(s.to - s.from).toFixed(0)} mm, ±{long.errors[i]?.fromStart.toFixed(2)}
            </text>
          </g>
        );
      })}
      {plan.marks.flatMap((pair, i) =>
        pair.map((at, k) => {
          const p = view.at(at.x, at.y);
          return (
            <g key={`${i}-${k}`}>
              <circle
                cx={p.x}
                cy={p.y}
                r={Math.max(4, 6.35 * view.k)}
                className="fill-none stroke-blue"
                strokeWidth={1.5}
              />
              <text x={p.x + 7} y={p.y + (k === 0 ? 4 : 4)} className="fill-blue text-[11px] font-bold">
                {2 * i + 1 + k}
              </text>
            </g>
          );
        }),
      )}
      {plan.seams.map((seam, i) => {
        const top = view.at(seam.at, board.height);
        const bottom = view.at(seam.at, 0);
        const crossings = plan.crossings[i] ?? [];
        const cx = ((i + 0.5) / columns) * (size.width - 40) + 20;
        const cy = upper + r + 26;
        const y = crossings.length > 0 ? crossings[wanted % crossings.length]! : board.height / 2;
        const at = { x: seam.at, y };
        const maps = [map(i + 1), map(i + 2)] as const;
        const dot = view.at(seam.at, y);
        const both = landed?.some((l) => l.segment === i + 1) && landed.some((l) => l.segment === i + 2);
        return (
          <g key={i}>
            <line
              x1={top.x}
              x2={bottom.x}
              y1={top.y - 6}
              y2={bottom.y + 6}
              className={seam.words > 0 ? 'stroke-oxide' : 'stroke-blue'}
              strokeWidth={1.6}
              strokeDasharray="8 4"
            />
            <text x={top.x} y={top.y - 12} textAnchor="middle" className="fill-blue text-[12px] font-bold">
              seam {i + 1} at {seam.at.toFixed(0)}
            </text>
            <circle cx={dot.x} cy={dot.y} r={4} className="fill-none stroke-oxide" strokeWidth={1.5} />
            {r > 20 && (
              <>
                <SeamLoupe
                  at={at}
                  cx={cx}
                  cy={cy}
                  r={r}
                  paths={[shown.longPaths[i]!, shown.longPaths[i + 1]!]}
                  maps={maps}
                />
                <text x={cx} y={cy + r + 16} textAnchor="middle" className="fill-ink text-[13px]">
                  seam {i + 1}:{' '}
                  {both
                    ? `step ${stepAt(maps, at).toFixed(2)} mm`
                    : `± ${long.errors[i + 1]?.step?.toFixed(2) ?? '–'} mm predicted`}
                </text>
                <text x={cx} y={cy + r + 32} textAnchor="middle" className="fill-soft text-[12px]">
                  {seam.words > 0
                    ? 'through lettering'
                    : crossings.length === 0
                      ? 'crosses nothing'
                      : `${seam.lines} ${seam.lines === 1 ? 'line' : 'lines'}${seam.filled > 0 ? `, ${seam.filled.toFixed(1)} mm filled` : ''}`}
                </text>
              </>
            )}
          </g>
        );
      })}
      <Legend height={size.height} entries={['engrave', 'cut', 'guide']} />
      <ScaleBar view={{ ...view, height: size.height }} />
    </Drawing>
  );
};
