import { convexHull, distance, distanceToSegment, insidePolygon, type Vec } from '../geometry';
import type { Mm } from '../units';
import { fixed, mm, worked, type WorkedLine } from '../working';
import { LEAST_AIR, type HeadClearance, type TallThing } from './tall';

export interface Collision {
  readonly thing: TallThing;
  /** Room between the thing's top and the nozzle, mm; negative is a crash. */
  readonly room: Mm;
  /** Distance between the head's rim and the thing, along the path, mm; 0 or less is overlap. */
  readonly aside: Mm;
  readonly verdict: 'clear' | 'tight' | 'hits';
}

export interface Heights {
  /** Bed move after focusing on the board: positive lowers the bed, mm; null where there is no board to focus on. */
  readonly bedMove: Mm | null;
  readonly collisions: readonly Collision[];
  readonly warpOk: boolean;
  readonly working: readonly WorkedLine[];
}

/** How work rests on the bed: in the pockets of a board, on a board, or by itself. */
export type Rests = 'in' | 'on' | 'alone';

/** What lies under the work and stands beside it. */
export interface Underneath {
  readonly rests: Rests;
  /** Null where no board holds the work. */
  readonly boardThickness: Mm | null;
  readonly boardWarp: Mm;
  readonly tallThings: readonly TallThing[];
  readonly stand: { readonly height: Mm } | null;
}

/** Work that lies on the bed by itself. */
export const bareBed = (beside: Pick<Underneath, 'boardWarp' | 'tallThings' | 'stand'>): Underneath => ({
  ...beside,
  rests: 'alone',
  boardThickness: null,
});

/** From a place to an area that the head passes over; 0 within it. */
const distanceTo = (area: readonly Vec[], p: Vec): Mm => {
  if (area.length >= 3 && insidePolygon(p, area)) return 0;
  if (area.length === 1) return distance(area[0]!, p);
  return area.reduce((least, a, i) => Math.min(least, distanceToSegment(p, a, area[(i + 1) % area.length]!)), Infinity);
};

/**
 * Heights of a nest: focus belongs on the blank, not on the board, and everything tall is checked
 * against the nozzle along the path the head takes.
 *
 * @param blankThickness mean, mm; blanks stand on the bed inside their cut-through pockets
 * @param path points the head passes, board frame, mm: it comes by everywhere between them
 * @param more tall things beside those that were typed: pegs and pins
 */
export const reckonHeights = (
  blankThickness: Mm,
  hold: Underneath,
  head: HeadClearance,
  path: readonly Vec[],
  more: readonly TallThing[] = [],
): Heights => {
  // In pockets blanks stand on the bed; laid to lines they lie on the board; a stand lifts both.
  const lift = hold.stand?.height ?? 0;
  const under = (hold.rests === 'on' ? (hold.boardThickness ?? 0) : 0) + lift;
  const top = blankThickness + under;
  const board = hold.boardThickness;
  const bedMove = board === null ? null : top - board - lift;
  const { lowered = 0 } = head;
  const nozzle = top + head.nozzleGap - lowered;
  const over = convexHull(path);
  const collisions = [...hold.tallThings, ...more].map((thing): Collision => {
    const room = nozzle - thing.height;
    const nearest = distanceTo(over, thing);
    const aside = nearest - head.headRadius - thing.radius;
    const verdict = aside > 0 ? 'clear' : room <= 0 ? 'hits' : room < LEAST_AIR ? 'tight' : 'clear';
    return { thing, room, aside, verdict };
  });
  const working = [
    ...(bedMove === null || board === null
      ? []
      : [
          worked(
            'bed move from board to blank',
            'blank top − board top',
            `${fixed(top)} − ${fixed(board + lift)}`,
            `${mm(Math.abs(bedMove))} ${bedMove >= 0 ? 'down' : 'up'}`,
            'geometry',
          ),
        ]),
    worked(
      'nozzle above the bed',
      `${lift > 0 ? 'stand + ' : ''}blank top + nozzle gap${lowered > 0 ? ' − lens below focus' : ''}`,
      `${fixed(top)} + ${fixed(head.nozzleGap)}${lowered > 0 ? ` − ${fixed(lowered)}` : ''}`,
      mm(nozzle),
      'geometry',
    ),
    worked(
      'warp against focus',
      'warp ≤ focus range / 2',
      `${fixed(hold.boardWarp)} against ${fixed(head.focusRange / 2)}`,
      hold.boardWarp <= head.focusRange / 2 + 1e-9 ? 'in focus' : 'out of focus',
      'geometry',
    ),
    ...collisions.map((c) =>
      worked(
        `${c.thing.label} under the nozzle`,
        'nozzle − height',
        `${fixed(nozzle)} − ${fixed(c.thing.height)}`,
        c.verdict === 'clear' && c.aside > 0 ? `off the path by ${mm(c.aside)}` : mm(c.room),
        'geometry',
      ),
    ),
  ];
  return { bedMove, collisions, warpOk: hold.boardWarp <= head.focusRange / 2 + 1e-9, working };
};
