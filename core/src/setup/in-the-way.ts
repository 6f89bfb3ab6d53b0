import { bedToFile, type Machine, type Moves } from '../burn';
import { apply, distanceToSegment, flatten, type Contour, type Vec } from '../geometry';
import { airWords, LEAST_AIR } from '../holding';
import type { Problem } from '../result';
import type { Mm } from '../units';
import type { BatchReckoning } from './reckoned';

/** Something that the head does not pass over: it would be hit, or has less air than is kept. Bed frame, mm. */
export interface Obstacle extends Vec {
  readonly label: string;
  readonly radius: Mm;
  /** Air between its top and the nozzle; negative is a crash. */
  readonly room: Mm;
}

/** All that is set up and too tall to be passed over, where it stands on the bed. */
export const obstaclesOf = ({ heights, boardToBed }: Pick<BatchReckoning, 'heights' | 'boardToBed'>): Obstacle[] =>
  heights.collisions.flatMap(({ thing: { label, radius, x, y }, room }) =>
    room < LEAST_AIR ? [{ label, radius, room, ...apply(boardToBed, { x, y }) }] : [],
  );

/** Deviation at which an arc is walked in straight pieces, mm. */
const WALKED = 0.05;

/** Calls back with every straight stretch that a head goes, arcs in pieces; from its start to where it is left. */
const eachStretch = (moves: Moves, rests: Vec, call: (from: Vec, to: Vec) => boolean): void => {
  let at = rests;
  for (let i = 0; i < moves.count; i += 1) {
    const to = { x: moves.x[i]!, y: moves.y[i]! };
    const bulge = moves.bulge[i]!;
    const arc: Contour = { closed: false, vertices: [{ ...at, bulge }, to] };
    const way = bulge === 0 ? [at, to] : flatten(arc, WALKED);
    for (let k = 1; k < way.length; k += 1) if (call(way[k - 1]!, way[k]!)) return;
    at = to;
  }
  call(at, rests);
};

/**
 * What stands in the way of a head that goes through some moves, beam on or off: on its way there from where it rests,
 * run-ups, and back.
 *
 * @param rests where the head begins and is left; bed frame, as moves and obstacles are, mm
 * @returns the first that it comes nearer to than its own radius; null where all are clear
 */
export const hitOnTheWay = (
  moves: Moves,
  rests: Vec,
  obstacles: readonly Obstacle[],
  headRadius: Mm,
): { readonly obstacle: Obstacle; readonly from: Vec; readonly to: Vec } | null => {
  let hit: ReturnType<typeof hitOnTheWay> = null;
  if (obstacles.length > 0)
    eachStretch(moves, rests, (from, to) => {
      const obstacle = obstacles.find((o) => distanceToSegment(o, from, to) < headRadius + o.radius);
      if (obstacle) hit = { obstacle, from, to };
      return obstacle !== undefined;
    });
  return hit;
};

/** What stands in the way, told in the machine's own numbers. */
export const inTheWay = (
  machine: Machine,
  moves: Moves,
  rests: Vec,
  obstacles: readonly Obstacle[],
): Problem | null => {
  const hit = hitOnTheWay(moves, rests, obstacles, machine.headRadius);
  if (!hit) return null;
  const { obstacle, from, to } = hit;
  const toFile = bedToFile(machine);
  const place = (p: Vec): string => {
    const { x, y } = apply(toFile, p);
    return `x ${x.toFixed(0)}, y ${y.toFixed(0)}`.replace(/-(?=\d)/g, '−');
  };
  return {
    code: 'collision',
    message: `${obstacle.label} stands in the head’s way from ${place(from)} to ${place(to)}: ${airWords(obstacle.room)}. Put it elsewhere, or something lower.`,
    field: 'hold',
  };
};
