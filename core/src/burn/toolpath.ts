import { apply, eachSegment, rigid, scanFill, type Contour, type Vec } from '../geometry';
import type { Mm, Rad } from '../units';
import type { BurnSetting } from './machine';
import { Moves } from './moves';
import { anglesOf } from './program';

/** Run-up before a filled line: the length in which the head reaches its speed, v²/2a, mm. */
export const runUp = (setting: BurnSetting, acceleration: number): Mm => setting.speed ** 2 / (2 * acceleration);

/**
 * The same burn slow enough to run up within some room, its power lowered with its speed, so that the fluence stays.
 *
 * @param room before and behind a line, mm
 * @example slowedTo({ power: 0.4, speed: 400, … }, 5000, 4) // { power: 0.2, speed: 200, … }: 200² / (2 · 5000) = 4
 */
export const slowedTo = (setting: BurnSetting, acceleration: number, room: Mm): BurnSetting => {
  const speed = Math.min(setting.speed, Math.sqrt(2 * acceleration * Math.max(0, room)));
  return { ...setting, speed, power: (setting.power * speed) / setting.speed };
};

/**
 * Adds a filled area as lines, there and back unless its setting says otherwise, with the beam off in the run-ups, over gaps
 * and between lines. They run along the machine's x axis, or as its setting turns them, pass by pass.
 * One row is one sweep: the head does not stop at gaps.
 *
 * @param polygons closed, bed frame, mm
 * @param bothWays rows there and back; otherwise all in the same direction
 */
export const addFill = (
  moves: Moves,
  polygons: readonly (readonly Vec[])[],
  setting: BurnSetting,
  acceleration: number,
  bothWays = setting.oneWay !== true,
): void => {
  moves.standFor(setting);
  for (const [angle, passes] of anglesByPasses(setting)) {
    if (angle === 0) {
      addAlongX(moves, polygons, { ...setting, passes }, acceleration, bothWays);
      continue;
    }
    const back = rigid(-angle, 0, 0);
    const turned = new Moves();
    addAlongX(turned, polygons.map((line) => line.map((p) => apply(back, p))), { ...setting, passes }, acceleration, bothWays); // prettier-ignore
    moves.append(turned, rigid(angle, 0, 0));
  }
};

/** The angles of a fill with how many passes each has, so that passes that do not turn are worked out once. */
const anglesByPasses = (setting: BurnSetting): readonly (readonly [Rad, number])[] =>
  setting.turn ? anglesOf(setting).map((angle) => [angle, 1] as const) : [[setting.angle ?? 0, setting.passes]];

const addAlongX = (
  moves: Moves,
  polygons: readonly (readonly Vec[])[],
  setting: BurnSetting,
  acceleration: number,
  bothWays: boolean,
): void => {
  const rows = scanFill(polygons, setting.interval);
  const lead = runUp(setting, acceleration);
  for (let pass = 0; pass < setting.passes; pass += 1)
    rows.forEach(({ spans, y }, index) =>
      addRow(moves, { spans, grid: null, y, setting, lead, forward: !bothWays || index % 2 === 0 }),
    );
};

/** One filled line along x. */
export interface FilledRow {
  /** Burned stretches as pairs, ascending: from, to, from, to, …; at least one. In steps of `grid`, or mm. */
  readonly spans: ArrayLike<number>;
  /** Places on which all ends lie: whole steps of `pitch` mm, from `first` to `last`. */
  readonly grid: { readonly pitch: Mm; readonly first: number; readonly last: number } | null;
  readonly y: Mm;
  readonly setting: BurnSetting;
  /** Run-up and run-out with the beam off, mm. */
  readonly lead: Mm;
  readonly forward: boolean;
}

/** Adds one filled line: a run-up with the beam off, its burned stretches, and a run-out. */
export const addRow = (moves: Moves, { spans, grid, y, setting, lead, forward }: FilledRow): void => {
  const { speed, power } = setting;
  const last = spans.length - 1;
  const at = (i: number): Mm => spans[i]! * (grid?.pitch ?? 1);
  moves.rapid(forward ? at(0) - lead : at(last) + lead, y);
  if (forward) {
    for (let i = 0; i < last; i += 2) {
      moves.push(at(i), y, speed, 0);
      moves.push(at(i + 1), y, speed, power);
    }
    moves.push(at(last) + lead, y, speed, 0);
  } else {
    for (let i = last - 1; i >= 0; i -= 2) {
      moves.push(at(i + 1), y, speed, 0);
      moves.push(at(i), y, speed, power);
    }
    moves.push(at(0) - lead, y, speed, 0);
  }
};

/** Adds contours as drawn or cut lines, nearest start first within the list's order. */
export const addLines = (moves: Moves, contours: readonly Contour[], setting: BurnSetting): void => {
  moves.standFor(setting);
  for (const contour of contours) {
    const start = contour.vertices[0];
    if (!start) continue;
    for (let pass = 0; pass < setting.passes; pass += 1) {
      if (pass === 0 || !contour.closed) moves.rapid(start.x, start.y);
      eachSegment(contour, (_from, to, bulge) => moves.push(to.x, to.y, setting.speed, setting.power, bulge));
    }
  }
};

/** Maps contours and returns them in the order of a nearest-neighbour tour from `start`. */
export const ordered = (contours: readonly Contour[], start: Vec): Contour[] => {
  const left = [...contours];
  const out: Contour[] = [];
  let at = start;
  while (left.length > 0) {
    let best = 0;
    let least = Infinity;
    left.forEach((c, i) => {
      const v = c.vertices[0]!;
      const d = (v.x - at.x) ** 2 + (v.y - at.y) ** 2;
      if (d < least) {
        least = d;
        best = i;
      }
    });
    const [next] = left.splice(best, 1);
    out.push(next!);
    const end = next!.closed ? next!.vertices[0]! : next!.vertices[next!.vertices.length - 1]!;
    at = end;
  }
  return out;
};
