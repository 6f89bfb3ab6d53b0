import { distance, type Vec } from '../geometry';
import type { Mm } from '../units';
import { fixed, mm, worked, type WorkedLine } from '../working';
import type { HoldSettings, TallThing } from './settings';

export interface HeadClearance {
  /** From focus surface to the lowest part of the head, mm. */
  readonly nozzleGap: Mm;
  readonly headRadius: Mm;
  /** Height over which the spot stays usable, mm in total. */
  readonly focusRange: Mm;
}

export interface Collision {
  readonly thing: TallThing;
  /** Room between the thing's top and the nozzle, mm; negative is a crash. */
  readonly room: Mm;
  /** Distance between the head's rim and the thing, along the path, mm; 0 or less is overlap. */
  readonly aside: Mm;
  readonly verdict: 'clear' | 'tight' | 'hits';
}

export interface Heights {
  /** Bed move after focusing on the board: positive lowers the bed, mm. */
  readonly bedMove: Mm;
  readonly collisions: readonly Collision[];
  readonly warpOk: boolean;
  readonly working: readonly WorkedLine[];
}

/** Least air between a tall thing and the nozzle, mm. */
const LEAST_AIR: Mm = 1;

/**
 * Heights of a nest: focus belongs on the blank, not on the board, and everything tall is checked
 * against the nozzle along the path the head takes.
 *
 * @param blankThickness mean, mm; blanks stand on the bed inside their cut-through pockets
 * @param path points the head passes, board frame, mm
 */
export const reckonHeights = (
  blankThickness: Mm,
  hold: HoldSettings,
  head: HeadClearance,
  path: readonly Vec[],
): Heights => {
  const bedMove = blankThickness - hold.boardThickness;
  const nozzle = blankThickness + head.nozzleGap;
  const collisions = hold.tallThings.map((thing): Collision => {
    const room = nozzle - thing.height;
    const nearest = path.reduce((least, p) => Math.min(least, distance(p, thing)), Infinity);
    const aside = nearest - head.headRadius - thing.radius;
    const verdict = aside > 0 ? 'clear' : room <= 0 ? 'hits' : room < LEAST_AIR ? 'tight' : 'clear';
    return { thing, room, aside, verdict };
  });
  const working = [
    worked(
      'bed move from board to blank',
      'blank top − board top',
      `${fixed(blankThickness)} − ${fixed(hold.boardThickness)}`,
      `${mm(Math.abs(bedMove))} ${bedMove >= 0 ? 'down' : 'up'}`,
      'geometry',
    ),
    worked(
      'nozzle above the bed',
      'blank top + nozzle gap',
      `${fixed(blankThickness)} + ${fixed(head.nozzleGap)}`,
      mm(nozzle),
      'geometry',
    ),
    worked(
      'warp against focus',
      'warp ≤ focus range / 2',
      `${fixed(hold.boardWarp)} against ${fixed(head.focusRange / 2)}`,
      hold.boardWarp <= head.focusRange / 2 ? 'in focus' : 'out of focus',
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
  return { bedMove, collisions, warpOk: hold.boardWarp <= head.focusRange / 2, working };
};
