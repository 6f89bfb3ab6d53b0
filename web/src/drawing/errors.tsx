import { useId, useMemo } from 'react';
import { contours } from 'd3-contour';
import { apply, bestFurtherMark, placeErrors, MOST_MARKS, type Vec } from '@bistre/core';
import type { SideShown } from '../data/shown';
import { matrix, type View } from './scale';

/** Squares of the grid along and across the work. */
const GRID = { x: 56, y: 40 };
/** Work smaller than this on the screen has no lines drawn over it, px. */
const LEAST_PX = 200;
/** Places tried for a further mark, each way. */
const TRIES = 9;

interface Line {
  readonly level: number;
  readonly d: string;
  /** Where the figure stands, board frame. */
  readonly at: Vec | null;
}

/** Steps of 1, 2 or 5 that make a handful of lines between two values. */
const levelsBetween = (low: number, high: number): number[] => {
  const power = 10 ** Math.floor(Math.log10(Math.max(1e-4, (high - low) / 4)));
  const step = [1, 2, 5, 10].map((m) => m * power).find((s) => (high - low) / s <= 5) ?? power;
  const first = Math.ceil(low / step + 1e-9);
  return Array.from({ length: Math.max(0, Math.floor(high / step) - first + 1) }, (_, i) => (first + i) * step);
};

/** Lines of equal error over the work, in its own frame; the grid stands a square beyond it. */
const errorLines = (width: number, height: number, radius: (p: Vec) => number): Line[] => {
  const [sx, sy] = [width / (GRID.x - 2), height / (GRID.y - 2)];
  const at = (i: number, j: number): Vec => ({ x: (i - 0.5) * sx, y: (j - 0.5) * sy });
  const values: number[] = [];
  for (let j = 0; j < GRID.y; j += 1) for (let i = 0; i < GRID.x; i += 1) values.push(radius(at(i, j)));
  const levels = levelsBetween(Math.min(...values), Math.max(...values));
  return contours()
    .size([GRID.x, GRID.y])
    .thresholds(levels)(values)
    .map(({ value, coordinates }): Line => {
      const rings = coordinates.flat().map((ring) => ring.map(([x, y]) => at(x! - 0.5, y! - 0.5)));
      const inside = rings
        .flat()
        .filter((p) => p.x > 0.04 * width && p.x < 0.96 * width && p.y > 0.06 * height && p.y < 0.94 * height);
      return {
        level: value,
        d: rings.map((r) => `M${r.map((p) => `${p.x.toFixed(2)} ${p.y.toFixed(2)}`).join('L')}Z`).join(''),
        at: inside.length > 0 ? inside.reduce((a, b) => (b.x - b.y > a.x - a.y ? b : a)) : null,
      };
    });
};

/** How well the placement is known over the work: lines of equal 95 % radius, and where one more mark would help most. */
export const ErrorLines = ({ view, shown }: { view: View; shown: SideShown }) => {
  const id = useId();
  const { board, place, boardToBed } = shown.reckoning;
  const drawn = place.pairs.map((p) => p.drawn);
  const model = place.placement?.model ?? 'rigid';
  const [width, height] = [board?.width ?? 1, board?.height ?? 1];
  const key = JSON.stringify([place.pairs, model, place.choice !== null, width, height, place.sigma]);
  const made = useMemo(() => {
    const map = placeErrors(place, drawn);
    if (!map) return null;
    const corners = [0, width].flatMap((x) => [0, height].map((y) => ({ x, y })));
    const tries = Array.from({ length: TRIES ** 2 }, (_, i) => ({
      x: width * (0.04 + (0.92 * (i % TRIES)) / (TRIES - 1)),
      y: height * (0.04 + (0.92 * Math.floor(i / TRIES)) / (TRIES - 1)),
    }));
    return {
      lines: errorLines(width, height, map.radius),
      further: drawn.length < MOST_MARKS ? bestFurtherMark(model, drawn, place.sigma, tries, corners) : null,
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the key says all that it follows from
  }, [key]);
  // On a small piece on a large bed there is no room for figures.
  if (!board || !place.placement || !made || Math.max(width, height) * view.k < LEAST_PX) return null;
  const put = (p: Vec): Vec => {
    const q = apply(boardToBed, p);
    return view.at(q.x, q.y);
  };
  // Marks that are there come first; readings that disagree want another look, not another mark.
  const settled = !place.gain && place.consistency?.verdict !== 'disagrees';
  const further = settled && made.further && made.further.then < 0.93 * made.further.now ? made.further : null;
  const spot = further && put(further.at);
  return (
    <g className="pointer-events-none">
      <clipPath id={id}>
        <rect width={board.width} height={board.height} />
      </clipPath>
      <g transform={view.group}>
        <g transform={matrix(boardToBed)}>
          <g clipPath={`url(#${id})`}>
            {made.lines.map((l) => (
              <path
                key={l.level}
                d={l.d}
                className="fill-none stroke-verdigris"
                strokeWidth={1}
                strokeDasharray="2 3"
                vectorEffect="non-scaling-stroke"
              />
            ))}
          </g>
        </g>
      </g>
      {made.lines.map((l) => {
        if (!l.at) return null;
        const p = put(l.at);
        return (
          <text
            key={l.level}
            x={p.x}
            y={p.y}
            textAnchor="middle"
            className="fill-verdigris stroke-sheet text-[11px]"
            strokeWidth={3}
            paintOrder="stroke"
          >
            ±{Number(l.level.toFixed(4))}
          </text>
        );
      })}
      {spot && further && (
        <g>
          <path
            d={`M${spot.x - 6} ${spot.y}h12M${spot.x} ${spot.y - 6}v12`}
            className="stroke-blue"
            strokeWidth={1.4}
            strokeDasharray="3 2"
          />
          <text
            x={spot.x + (further.at.x > board.width / 2 ? -10 : 10)}
            y={spot.y - 6}
            textAnchor={further.at.x > board.width / 2 ? 'end' : 'start'}
            className="fill-blue stroke-sheet text-[11px]"
            strokeWidth={3}
            paintOrder="stroke"
          >
            a further mark here: ±{further.now.toFixed(2)} → ±{further.then.toFixed(2)}
          </text>
        </g>
      )}
    </g>
  );
};
