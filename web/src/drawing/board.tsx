import { PieceArt } from './PieceArt';
import type { PathsShown } from '../data/shown';
import { memo } from 'react';
import {
  apply,
  compose,
  slotTransform,
  type Pins as PinPlan,
  type Transform,
  type Vec,
  type SlotNumber,
} from '@bistre/core';
import type { SideShown } from '../data/shown';
import type { View } from './scale';

type BoardPath = SideShown['boardPaths'][number];

const PATH_STYLE: Readonly<Record<string, { className: string; strokeWidth: number }>> = {
  outline: { className: 'fill-film stroke-logwood', strokeWidth: 1.3 },
  pockets: { className: 'fill-sheet stroke-logwood', strokeWidth: 1 },
  grid: { className: 'fill-none stroke-rim', strokeWidth: 0.5 },
  lines: { className: 'fill-none stroke-ink', strokeWidth: 1.8 },
  edge: { className: 'fill-sheet stroke-soft', strokeWidth: 1 },
  pieces: { className: 'fill-none stroke-logwood', strokeWidth: 1 },
  code: { className: 'fill-ink', strokeWidth: 0 },
  'art-fill': { className: 'fill-ink', strokeWidth: 0 },
};
const ENGRAVED = { className: 'fill-none stroke-ink', strokeWidth: 0.8 };

const CUT = { className: 'fill-none stroke-logwood', strokeWidth: 1.2 };

const OnePath = memo(({ name, kind, d }: BoardPath) => (
  <path d={d} vectorEffect="non-scaling-stroke" {...(PATH_STYLE[name] ?? (kind === 'cut' ? CUT : ENGRAVED))} />
));
OnePath.displayName = 'OnePath';

/** Some of a board's passes, in the order of their names; board frame. */
export const BoardPaths = ({ paths, names }: { paths: readonly BoardPath[]; names: readonly string[] }) =>
  names.flatMap((name) => paths.filter((p) => p.name === name).map((p) => <OnePath key={name} {...p} />));

interface PieceProps {
  readonly at: string;
  readonly blank: string;
  readonly art: PathsShown | undefined;
}

/** A piece in its pocket with what is engraved on it, and what is cut through it. */
export const Piece = memo(({ at, blank, art }: PieceProps) => (
  <g transform={at}>
    <path
      d={blank}
      className="fill-sheet stroke-rim"
      fillRule="evenodd"
      strokeWidth={0.8}
      vectorEffect="non-scaling-stroke"
    />
    {art && <PieceArt art={art} />}
  </g>
));
Piece.displayName = 'Piece';

/** Width and height with arrows, along the board's front and right edge. */
export const BoardSize = ({ view, m, width, height }: { view: View; m: Transform; width: number; height: number }) => {
  // Below what the marks at the front edge are called.
  const [front, right] = [30 / view.k, 22 / view.k];
  const line = (a: Vec, b: Vec, text: string, key: 'w' | 'h') => {
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
          y={key === 'w' ? 16 : -3}
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
        line({ x: 0, y: -front }, { x: width, y: -front }, `${width.toFixed(1)} mm`, 'w'),
        line({ x: width + right, y: 0 }, { x: width + right, y: height }, `${height.toFixed(1)} mm`, 'h'),
      ]}
    </>
  );
};

export interface DrawnPiece {
  readonly slot: SlotNumber;
  readonly state: 'done' | 'scrap' | 'next';
}

const cornersOf = ({ length, width }: { length: number; width: number }): Vec[] =>
  [[-1, -1], [1, -1], [1, 1], [-1, 1]].map(([i, j]) => ({ x: (i! * length) / 2, y: (j! * width) / 2 })); // prettier-ignore

const SIGNS = {
  done: { words: 'done', mark: '✓', box: 'fill-sheet stroke-verdigris', text: 'fill-verdigris' },
  scrap: { words: 'scrapped', mark: '✕', box: 'fill-oxide stroke-sheet', text: 'fill-sheet' },
  next: { words: 'next', mark: '▶', box: 'fill-blue stroke-sheet', text: 'fill-on-blue' },
} as const;

/** What became of a piece, told by form: a tick in a box, a cross over all of it, a frame round the one that is next. */
const Sign = ({ state, at, corners, slot }: { state: DrawnPiece['state']; at: Vec; corners: readonly Vec[]; slot: SlotNumber }) => {
  const { words, mark, box, text } = SIGNS[state];
  const [a, b, c, d] = corners as [Vec, Vec, Vec, Vec];
  const side = Math.max(11, Math.min(24, 0.8 * Math.min(Math.hypot(b.x - a.x, b.y - a.y), Math.hypot(d.x - a.x, d.y - a.y))));
  return (
    <g role="img" aria-label={`slot ${slot} ${words}`} data-sign={state}>
      {state === 'scrap' && <path d={`M${a.x} ${a.y}L${c.x} ${c.y}M${b.x} ${b.y}L${d.x} ${d.y}`} className="fill-none stroke-oxide" strokeWidth={2} />}
      {state === 'next' && <polygon points={corners.map((p) => `${p.x},${p.y}`).join(' ')} className="fill-none stroke-blue" strokeWidth={4} />}
      <rect x={at.x - side / 2} y={at.y - side / 2} width={side} height={side} className={box} strokeWidth={1.5} />
      <text x={at.x} y={at.y + 0.34 * side} textAnchor="middle" className={`font-bold ${text}`} style={{ fontSize: 0.8 * side }}>
        {mark}
      </text>
    </g>
  );
}; // prettier-ignore

/** What became of the piece in each slot; the slot's number where it is still empty. */
export const SlotSigns = ({ view, shown, states }: { view: View; shown: SideShown; states: readonly DrawnPiece[] }) => {
  const { board, boardToBed, onTheBoard } = shown.reckoning;
  if (!board) return null;
  const bySlot = new Map(states.map((s) => [s.slot, s.state]));
  const filled = new Set(onTheBoard.map((o) => o.slot.slot));
  return (
    <>
      {board.slots.map((s) => {
        const c = apply(boardToBed, s.centre);
        const p = view.at(c.x, c.y);
        const state = bySlot.get(s.slot);
        if (state) {
          const m = compose(boardToBed, slotTransform(s));
          const corners = cornersOf(board.pocket).map((v) => {
            const q = apply(m, v);
            return view.at(q.x, q.y);
          });
          return <Sign key={s.slot} state={state} at={p} corners={corners} slot={s.slot} />;
        }
        return filled.has(s.slot) || view.k * board.pocket.width < 9 ? null : (
          <text key={s.slot} x={p.x} y={p.y + 4} textAnchor="middle" className="fill-soft text-[11px]">
            {s.slot}
          </text>
        );
      })}
    </>
  );
};

/** The registration marks: which are read, which to aim at. */
/**
 * Registration marks as they lie, each with its number.
 * @param aim the one that is aimed at now: it stands out, and the others say their number alone
 */
export const Marks = ({
  view,
  shown,
  aim = null,
}: {
  view: View;
  shown: SideShown;
  aim?: number | null | undefined;
}) => {
  const { board, boardToBed, place, face } = shown.reckoning;
  const { cutOut } = shown.reckoning.own;
  if (!board) return null;
  const cutFirst = Boolean(cutOut) && face.side === 'front';
  return (
    <>
      {board.marks.map((mark) => {
        const c = apply(boardToBed, mark.at);
        const p = view.at(c.x, c.y);
        const pair = place.pairs.find((x) => x.id === mark.id);
        const aimed = mark.id === aim;
        const r = Math.max(11, 6.35 * view.k + 4) + (aimed ? 6 : 0);
        const words = cutFirst
          ? 'is cut'
          : aimed
            ? 'aim here'
            : pair
              ? 'read'
              : aim !== null
                ? ''
                : mark.role === 'check'
                  ? 'check'
                  : 'aim here';
        return (
          <g key={mark.id}>
            <circle
              cx={p.x}
              cy={p.y}
              r={r}
              fill="none"
              className={pair && !aimed ? 'stroke-verdigris' : 'stroke-blue'}
              strokeWidth={aimed ? 5 : 2}
              strokeDasharray={pair || aimed ? undefined : '4 3'}
            />
            <text
              x={p.x}
              y={p.y + (mark.at.y > board.height / 2 ? -r - 5 : r + 14)}
              textAnchor="middle"
              className={`text-[12px] font-bold ${pair && !aimed ? 'fill-verdigris' : 'fill-blue'}`}
            >
              {mark.id} {words}
            </text>
          </g>
        );
      })}
    </>
  );
};

/** Pins that hold the work down, from above: shank outside the edge, hook over it; work's frame. */
export const Pins = ({ pins }: { pins: PinPlan | null }) =>
  pins?.places.map(({ at, way }, i) => {
    const half = pins.shank / 2;
    const reach = 4 + half;
    return (
      <g key={i} className="fill-copper stroke-sheet" strokeWidth={1}>
        <rect
          x={Math.min(at.x - half, at.x + way.x * reach)}
          y={Math.min(at.y - half, at.y + way.y * reach)}
          width={way.x === 0 ? pins.shank : half + reach}
          height={way.y === 0 ? pins.shank : half + reach}
          vectorEffect="non-scaling-stroke"
        />
      </g>
    );
  }) ?? null;
