import { memo, useState } from 'react';
import type { MachineDocument } from '@bistre/contract';
import { angleOf, apply, bedToFile, placedError, slotTransform, type Transform, type Vec } from '@bistre/core';
import type { Shown } from '../data/reckon.worker';
import { Drawing, fitView, Hatch, Legend, ScaleBar, useSize, type Extent, type View } from './scale';

const matrix = (m: Transform): string => `matrix(${m.a} ${m.b} ${m.c} ${m.d} ${m.e} ${m.f})`;

const Piece = memo(({ at, blank, fill, line }: { at: string; blank: string; fill: string; line: string }) => (
  <g transform={at}>
    <path
      d={blank}
      className="fill-sheet stroke-rim"
      fillRule="evenodd"
      strokeWidth={0.8}
      vectorEffect="non-scaling-stroke"
    />
    {fill && <path d={fill} className="fill-ink" />}
    {line && <path d={line} className="fill-none stroke-ink" strokeWidth={1} vectorEffect="non-scaling-stroke" />}
  </g>
));
Piece.displayName = 'Piece';

/** Marks of a steel rule along the bed's left and front edges, in the machine's own coordinates. */
const BedRulers = ({ view, machine }: { view: View; machine: MachineDocument }) => {
  const { bed } = machine.profile;
  const toFile = bedToFile(machine.profile);
  const step = view.k * 100 > 46 ? 100 : 200;
  const marks = (length: number): number[] => Array.from({ length: Math.floor(length / step) + 1 }, (_, i) => i * step);
  const fileX = (x: number): number => Math.round(apply(toFile, { x, y: 0 }).x);
  const fileY = (y: number): number => Math.round(apply(toFile, { x: 0, y }).y);
  return (
    <g className="stroke-rim text-[11px]" aria-hidden>
      {marks(bed.width).map((x) => {
        const p = view.at(x, 0);
        return (
          <g key={`x${x}`}>
            <line x1={p.x} x2={p.x} y1={p.y} y2={p.y + 7} />
            <text x={p.x} y={p.y + 19} textAnchor="middle" className="fill-soft stroke-none">
              {fileX(x)}
            </text>
          </g>
        );
      })}
      {marks(bed.height).map((y) => {
        const p = view.at(0, y);
        return (
          <g key={`y${y}`}>
            <line x1={p.x - 7} x2={p.x} y1={p.y} y2={p.y} />
            <text x={p.x - 10} y={p.y + 4} textAnchor="end" className="fill-soft stroke-none">
              {fileY(y)}
            </text>
          </g>
        );
      })}
    </g>
  );
};

/** Width and height with arrows, along the board's front and right edge. */
const BoardSize = ({ view, m, width, height }: { view: View; m: Transform; width: number; height: number }) => {
  const off = 14 / view.k;
  const line = (a: Vec, b: Vec, text: string, key: string) => {
    const p = apply(m, a);
    const q = apply(m, b);
    const u = view.at(p.x, p.y);
    const v = view.at(q.x, q.y);
    let turn = (Math.atan2(v.y - u.y, v.x - u.x) * 180) / Math.PI;
    if (turn > 90 || turn < -90) turn += 180;
    return (
      <g key={key}>
        <line x1={u.x} y1={u.y} x2={v.x} y2={v.y} className="stroke-blue" strokeWidth={1} />
        <text
          transform={`translate(${(u.x + v.x) / 2} ${(u.y + v.y) / 2}) rotate(${turn})`}
          y={-3}
          textAnchor="middle"
          className="fill-blue text-[12px]"
        >
          {text}
        </text>
      </g>
    );
  };
  return (
    <>
      {[
        line({ x: 0, y: -off }, { x: width, y: -off }, `${width.toFixed(1)} mm`, 'w'),
        line({ x: width + off, y: 0 }, { x: width + off, y: height }, `${height.toFixed(1)} mm`, 'h'),
      ]}
    </>
  );
};

export interface DrawnPiece {
  readonly slot: number;
  readonly state: 'done' | 'scrap' | 'next';
}

const NO_STATES: readonly DrawnPiece[] = [];

/** The bed from above, to scale: the board where it lies, blanks, art, marks and readings. */
export const BenchDrawing = memo(
  ({
    machine,
    shown,
    fit,
    states = NO_STATES,
    head,
    showOutline = false,
  }: {
    machine: MachineDocument;
    shown: Shown;
    fit: 'bed' | 'board';
    states?: readonly DrawnPiece[];
    head?: Vec | undefined;
    showOutline?: boolean;
  }) => {
    const [ref, size] = useSize();
    const [focus, setFocus] = useState<'bed' | 'board'>(fit);
    const { reckoning } = shown;
    const { board } = reckoning;
    const { bed } = machine.profile;
    const m = reckoning.boardToBed;
    const corners = board
      ? [
          apply(m, { x: 0, y: 0 }),
          apply(m, { x: board.width, y: 0 }),
          apply(m, { x: board.width, y: board.height }),
          apply(m, { x: 0, y: board.height }),
        ]
      : [];
    const extent: Extent =
      focus === 'bed' || !board
        ? { x: 0, y: 0, width: bed.width, height: bed.height }
        : {
            x: Math.min(...corners.map((c) => c.x)),
            y: Math.min(...corners.map((c) => c.y)),
            width: Math.max(...corners.map((c) => c.x)) - Math.min(...corners.map((c) => c.x)),
            height: Math.max(...corners.map((c) => c.y)) - Math.min(...corners.map((c) => c.y)),
          };
    const view = fitView(size, extent, { left: 52, right: 40, top: 24, bottom: 62 });
    const angle = (angleOf(m) * 180) / Math.PI;
    const bySlot = new Map(states.map((s) => [s.slot, s.state]));
    const onSlot = new Map(reckoning.onTheBoard.map((o) => [o.slot.slot, o.ordinal]));
    const spreads =
      board && reckoning.place.placement
        ? corners.map((c) => 1.731 * Math.SQRT2 * placedError(reckoning.place.placement!, c, reckoning.place.sigma))
        : [];
    const placed = reckoning.placed
      ? `Board lies turned ${angle.toFixed(2)}°, from its marks; dotted circles: where its corners are within 95 %, ±${Math.max(...spreads).toFixed(2)} mm, drawn 100 times as large.`
      : 'Board drawn square in the middle; its marks are not read yet.';
    const b0 = view.at(0, bed.height);
    return (
      <Drawing
        refTo={ref}
        label={`Bed of ${machine.name} with board ${board?.name ?? ''}`}
        caption={
          <>
            Bed {bed.width} × {bed.height} mm, seen from above, operator’s side below. {placed}
          </>
        }
        tools={
          <button className="link shrink-0" onClick={() => setFocus(focus === 'bed' ? 'board' : 'bed')}>
            {focus === 'bed' ? 'show the board' : 'show the bed'}
          </button>
        }
      >
        <Hatch />
        <rect
          x={b0.x}
          y={b0.y}
          width={bed.width * view.k}
          height={bed.height * view.k}
          className="fill-sheet stroke-ink"
          strokeWidth={1.2}
        />
        <BedRulers view={view} machine={machine} />
        {board && (
          <>
            <g transform={view.group}>
              <g transform={matrix(m)}>
                {shown.boardPaths
                  .filter((p) => p.name === 'outline')
                  .map((p) => (
                    <path
                      key={p.name}
                      d={p.d}
                      className="fill-film stroke-copper"
                      strokeWidth={1.3}
                      vectorEffect="non-scaling-stroke"
                    />
                  ))}
                {shown.boardPaths
                  .filter((p) => p.name === 'pockets')
                  .map((p) => (
                    <path
                      key={p.name}
                      d={p.d}
                      className="fill-sheet stroke-copper"
                      strokeWidth={1}
                      vectorEffect="non-scaling-stroke"
                    />
                  ))}
                {board.slots
                  .filter((s) => onSlot.has(s.slot))
                  .map((s) => {
                    const art = reckoning.art?.paths[onSlot.get(s.slot)!];
                    return (
                      <Piece
                        key={s.slot}
                        at={matrix(slotTransform(s))}
                        blank={shown.blankPath}
                        fill={art?.fill ?? ''}
                        line={art?.line ?? ''}
                      />
                    );
                  })}
                {shown.boardPaths
                  .filter((p) => p.name === 'marks' || p.name === 'labels')
                  .map((p) => (
                    <path
                      key={p.name}
                      d={p.d}
                      className="fill-none stroke-ink"
                      strokeWidth={0.8}
                      vectorEffect="non-scaling-stroke"
                    />
                  ))}
                {shown.boardPaths
                  .filter((p) => p.kind === 'fill')
                  .map((p) => (
                    <path key={p.name} d={p.d} className="fill-ink" />
                  ))}
              </g>
              {showOutline && shown.outline.length > 2 && (
                <path
                  d={`M${shown.outline.map((p) => `${p.x} ${p.y}`).join('L')}Z`}
                  className="fill-none stroke-blue"
                  strokeWidth={1.5}
                  strokeDasharray="12 6"
                  vectorEffect="non-scaling-stroke"
                />
              )}
            </g>
            {board.slots.map((s) => {
              const c = apply(m, s.centre);
              const p = view.at(c.x, c.y);
              const state = bySlot.get(s.slot);
              if (state)
                return (
                  <text
                    key={s.slot}
                    x={p.x}
                    y={p.y + 6}
                    textAnchor="middle"
                    className={`text-[17px] font-bold ${state === 'done' ? 'fill-verdigris' : state === 'scrap' ? 'fill-oxide' : 'fill-blue'}`}
                  >
                    {state === 'done' ? '✓' : state === 'scrap' ? '✕' : '▶'}
                  </text>
                );
              return onSlot.has(s.slot) || view.k * board.pocket.width < 9 ? null : (
                <text key={s.slot} x={p.x} y={p.y + 4} textAnchor="middle" className="fill-soft text-[11px]">
                  {s.slot}
                </text>
              );
            })}
            <BoardSize view={view} m={m} width={board.width} height={board.height} />
            {board.marks.map((mark) => {
              const c = apply(m, mark.at);
              const p = view.at(c.x, c.y);
              const pair = reckoning.place.pairs.find((x) => x.id === mark.id);
              const r = Math.max(11, 6.35 * view.k + 4);
              return (
                <g key={mark.id}>
                  <circle
                    cx={p.x}
                    cy={p.y}
                    r={r}
                    fill="none"
                    className={pair ? 'stroke-verdigris' : 'stroke-blue'}
                    strokeWidth={2}
                    strokeDasharray={pair ? undefined : '4 3'}
                  />
                  <text
                    x={p.x}
                    y={p.y + (mark.at.y > board.height / 2 ? -r - 5 : r + 14)}
                    textAnchor="middle"
                    className={`text-[12px] font-bold ${pair ? 'fill-verdigris' : 'fill-blue'}`}
                  >
                    {mark.id} {pair ? 'read' : mark.role === 'check' ? 'check' : 'aim here'}
                  </text>
                </g>
              );
            })}
            {reckoning.place.placement && <Uncertainty view={view} shown={shown} />}
          </>
        )}
        {head && <Head view={view} at={head} machine={machine} />}
        <Legend height={size.height} entries={['engrave', 'cut', 'guide', 'read']} />
        <ScaleBar view={view} />
      </Drawing>
    );
  },
);
BenchDrawing.displayName = 'BenchDrawing';

/** 95 % circles of the placed corners, a hundred times their size, so that they can be compared. */
const Uncertainty = ({ view, shown }: { view: View; shown: Shown }) => {
  const { board, place, boardToBed } = shown.reckoning;
  if (!board || !place.placement) return null;
  const corners = [
    { x: 0, y: 0 },
    { x: board.width, y: 0 },
    { x: board.width, y: board.height },
    { x: 0, y: board.height },
  ];
  const spread = place.placement;
  return (
    <g>
      {corners.map((c, i) => {
        const q = apply(boardToBed, c);
        const p = view.at(q.x, q.y);
        const r = 1.731 * Math.SQRT2 * placedError(spread, q, place.sigma);
        return (
          <g key={i} className="stroke-verdigris" fill="none">
            <ellipse
              cx={p.x}
              cy={p.y}
              rx={Math.min(60, r * 100 * view.k)}
              ry={Math.min(60, r * 100 * view.k)}
              strokeWidth={1.2}
              strokeDasharray="2 2"
            />
            <path d={`M${p.x - 4} ${p.y}h8M${p.x} ${p.y - 4}v8`} strokeWidth={1.2} />
          </g>
        );
      })}
    </g>
  );
};

const Head = ({ view, at, machine }: { view: View; at: Vec; machine: MachineDocument }) => {
  const p = view.at(at.x, at.y);
  const shown = apply(bedToFile(machine.profile), at);
  const right = p.x > view.width - 170;
  return (
    <g className="stroke-oxide" fill="none" strokeWidth={1.6}>
      <circle cx={p.x} cy={p.y} r={Math.max(9, machine.profile.headRadius * view.k)} strokeWidth={1} />
      <path d={`M${p.x - 8} ${p.y}h16M${p.x} ${p.y - 8}v16`} />
      <text
        x={p.x + (right ? -26 : 26)}
        y={p.y - 12}
        textAnchor={right ? 'end' : 'start'}
        className="fill-ink stroke-sheet text-[12px]"
        strokeWidth={4}
        paintOrder="stroke"
      >
        head {shown.x.toFixed(1)}, {shown.y.toFixed(1)}
      </text>
    </g>
  );
};
