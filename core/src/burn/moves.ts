import { contourBox, rigid, type Box, type Transform, type Vec } from '../geometry';
import type { Mm, MmPerS, Seconds } from '../units';
import type { BurnSetting, Machine } from './machine';
import { sameStand, standOf, type BurnStand } from './stand';

/**
 * A list of head moves in typed arrays: target, speed, power and bulge of the arc that leads there.
 * Power 0 is beam off. A negative speed marks a rapid move at the machine's own speed. Beside it, how the machine stands
 * from which move on.
 */
export class Moves {
  private capacity = 1024;
  x = new Float64Array(this.capacity);
  y = new Float64Array(this.capacity);
  speed = new Float64Array(this.capacity);
  power = new Float64Array(this.capacity);
  bulge = new Float64Array(this.capacity);
  count = 0;
  readonly stands: { readonly before: number; readonly stand: BurnStand }[] = [];

  /** What follows is burned as a setting stands. */
  standFor(setting: BurnSetting): void {
    this.standAt(standOf(setting));
  }

  private standAt(stand: BurnStand): void {
    const last = this.stands.at(-1);
    if (last && sameStand(last.stand, stand)) return;
    if (last?.before === this.count) this.stands.pop();
    this.stands.push({ before: this.count, stand });
  }

  push(x: Mm, y: Mm, speed: MmPerS, power: number, bulge = 0): void {
    if (this.count === this.capacity) this.grow();
    const i = this.count;
    this.x[i] = x;
    this.y[i] = y;
    this.speed[i] = speed;
    this.power[i] = power;
    this.bulge[i] = bulge;
    this.count += 1;
  }

  /** Forgets every move and keeps the room for as many. */
  clear(): void {
    this.count = 0;
    this.stands.length = 0;
  }

  /** Adds other moves, each put somewhere else where a map says so: one that turns and shifts alone. */
  append(other: Moves, at: Transform = rigid(0, 0, 0)): void {
    let next = 0;
    for (let i = 0; i < other.count; i += 1) {
      while (other.stands[next]?.before === i) this.standAt(other.stands[next++]!.stand);
      const [x, y] = [other.x[i]!, other.y[i]!];
      this.push(at.a * x + at.c * y + at.e, at.b * x + at.d * y + at.f, other.speed[i]!, other.power[i]!, other.bulge[i]!); // prettier-ignore
    }
  }

  rapid(x: Mm, y: Mm): void {
    this.push(x, y, -1, 0);
  }

  private grow(): void {
    this.capacity *= 2;
    for (const key of ['x', 'y', 'speed', 'power', 'bulge'] as const) {
      const larger = new Float64Array(this.capacity);
      larger.set(this[key]);
      this[key] = larger;
    }
  }
}

/**
 * Where the head goes for some moves of beams: what a second source burns is burned with the head beside it.
 *
 * @returns the same list where one source burns all of it
 */
export const headMoves = (moves: Moves, { second }: Pick<Machine, 'second'>): Moves => {
  if (!second || moves.stands.every(({ stand }) => stand.source === 'first')) return moves;
  const out = new Moves();
  out.append(moves);
  const { x, y } = second.offset;
  moves.stands.forEach(({ before, stand }, i) => {
    if (stand.source === 'first') return;
    const end = moves.stands[i + 1]?.before ?? moves.count;
    for (let k = before; k < end; k += 1) {
      out.x[k]! -= x;
      out.y[k]! -= y;
    }
  });
  return out;
};

/** The box of everything that a head passes by these moves, arcs with their bows; mm. */
export const reachOf = (moves: Moves): Box => {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  const reach = (x: Mm, y: Mm): void => {
    if (x < minX) minX = x;
    if (x > maxX) maxX = x;
    if (y < minY) minY = y;
    if (y > maxY) maxY = y;
  };
  for (let i = 0; i < moves.count; i += 1) {
    const x = moves.x[i]!;
    const y = moves.y[i]!;
    reach(x, y);
    const bulge = moves.bulge[i]!;
    if (bulge === 0 || i === 0) continue;
    const from = { x: moves.x[i - 1]!, y: moves.y[i - 1]!, bulge };
    const { minX: a, minY: b, maxX: c, maxY: d } = contourBox({ closed: false, vertices: [from, { x, y }] });
    reach(a, b);
    reach(c, d);
  }
  return { minX, minY, maxX, maxY };
};

/** Everything that is burned by some moves, from both ends of each; mm. */
export const burnedPlaces = (moves: Moves): Vec[] => {
  const out: Vec[] = [];
  for (let i = 0; i < moves.count; i += 1)
    if (moves.power[i]! > 0) {
      out.push({ x: moves.x[i]!, y: moves.y[i]! });
      if (i > 0) out.push({ x: moves.x[i - 1]!, y: moves.y[i - 1]! });
    }
  return out;
};

/**
 * Time for one straight move from rest to rest (trapezoid, or triangle when it is too short).
 * @example restToRest(200, 400, 5000) // 0.58 s
 */
export const restToRest = (length: Mm, speed: MmPerS, acceleration: number): Seconds =>
  length >= (speed * speed) / acceleration
    ? length / speed + speed / acceleration
    : 2 * Math.sqrt(length / acceleration);

/** What a machine can do with its head, and with what it carries along y where that is another thing. */
export interface Dynamics {
  /** mm/s² */
  readonly acceleration: number;
  readonly rapidSpeed: MmPerS;
  /** Of the y axis, mm/s²: a drive that turns a blank in its place; the machine's own when absent. */
  readonly accelerationY?: number;
}

/** The acceleration along a direction: as much as the axis lets through that is short of it first. */
const along = ({ acceleration, accelerationY = acceleration }: Dynamics, x: number, y: number): number =>
  accelerationY === acceleration
    ? acceleration
    : Math.min(acceleration / Math.max(Math.abs(x), 1e-9), accelerationY / Math.max(Math.abs(y), 1e-9));

/** How long some moves take, and what the time goes to. */
export interface PlannedTime {
  readonly total: Seconds;
  readonly burning: Seconds;
  /** On rapid moves from one burn to the next; what is left of the total are run-ups, gaps and turns. */
  readonly between: Seconds;
  /** Seconds of fire by the first source at each share of full power. */
  readonly fired: ReadonlyMap<number, Seconds>;
}

/** Sideways deviation that sets the cornering speed, mm. */
const JUNCTION_DEVIATION = 0.02;

/**
 * Time for a list of moves by a look-ahead planner: constant acceleration, speed limits per move,
 * corners taken at the speed whose centripetal acceleration over a small deviation is the limit, curves no faster than
 * √(a·r), where the way round takes all of it: arcs by their radius, chords of a curve by the one they follow.
 *
 * @param start where the head stands, mm
 * @returns seconds in all, with the beam on, and on rapid moves; and how long the first source fires at which power
 */
export const planTime = (moves: Moves, machine: Dynamics, start = { x: 0, y: 0 }): PlannedTime => {
  const n = moves.count;
  const length = new Float64Array(n);
  const limit = new Float64Array(n + 1);
  const fastest = new Float64Array(n);
  const accel = new Float64Array(n);
  const least = Math.min(machine.acceleration, machine.accelerationY ?? Infinity);
  let px = start.x;
  let py = start.y;
  let ux = 0;
  let uy = 0;
  let lastX = 0;
  let lastY = 0;
  for (let i = 0; i < n; i += 1) {
    const dx = moves.x[i]! - px;
    const dy = moves.y[i]! - py;
    const chord = Math.hypot(dx, dy);
    const bulge = moves.bulge[i]!;
    const sweep = 4 * Math.atan(bulge);
    const radius = bulge === 0 || chord === 0 ? Infinity : chord / 2 / Math.sin(Math.abs(sweep) / 2);
    length[i] = radius === Infinity ? chord : radius * Math.abs(sweep);
    // An arc takes every direction; a straight move its own.
    const a = radius === Infinity && chord > 0 ? along(machine, dx / chord, dy / chord) : least;
    accel[i] = a;
    const speed = Math.min(moves.speed[i]! < 0 ? machine.rapidSpeed : moves.speed[i]!, Math.sqrt(a * radius));
    fastest[i] = speed;
    let vx = ux;
    let vy = uy;
    if (chord > 0) {
      const lean = Math.atan2(dy, dx);
      vx = Math.cos(lean - sweep / 2);
      vy = Math.sin(lean - sweep / 2);
      ux = Math.cos(lean + sweep / 2);
      uy = Math.sin(lean + sweep / 2);
    }
    // Speed at the corner before this move.
    const before = i === 0 ? 0 : fastest[i - 1]!;
    const cosine = i === 0 ? 1 : lastX * vx + lastY * vy;
    let corner = Math.min(before, speed);
    if (cosine < 0.9999) {
      const sinHalf = Math.sqrt(Math.max(0, (1 + cosine) / 2));
      if (sinHalf <= 0.9999)
        corner = Math.min(corner, Math.sqrt((least * JUNCTION_DEVIATION * sinHalf) / (1 - sinHalf)));
    }
    if (cosine < 1 - 1e-9 && i > 0) {
      const follows = (length[i - 1]! + length[i]!) / 2 / Math.acos(Math.max(-1, cosine));
      corner = Math.min(corner, Math.sqrt(least * follows));
    }
    limit[i] = corner;
    lastX = ux;
    lastY = uy;
    px = moves.x[i]!;
    py = moves.y[i]!;
  }
  limit[0] = 0;
  limit[n] = 0;
  for (let i = n - 1; i >= 0; i -= 1)
    limit[i] = Math.min(limit[i]!, Math.sqrt(limit[i + 1]! ** 2 + 2 * accel[i]! * length[i]!));
  let total = 0;
  let burning = 0;
  let between = 0;
  const fired = new Map<number, Seconds>();
  let next = 0;
  let first = true;
  let [level, atLevel] = [0, 0];
  const kept = (): void => void (level > 0 && fired.set(level, (fired.get(level) ?? 0) + atLevel));
  for (let i = 0; i < n; i += 1) {
    while (moves.stands[next]?.before === i) first = moves.stands[next++]!.stand.source === 'first';
    const a = accel[i]!;
    const v0 = limit[i]!;
    limit[i + 1] = Math.min(limit[i + 1]!, Math.sqrt(v0 ** 2 + 2 * a * length[i]!));
    const v1 = limit[i + 1]!;
    const top = Math.max(v0, v1, Math.min(fastest[i]!, Math.sqrt((v0 ** 2 + v1 ** 2) / 2 + a * length[i]!)));
    const cruise = length[i]! - (2 * top ** 2 - v0 ** 2 - v1 ** 2) / (2 * a);
    const time = length[i] === 0 ? 0 : (2 * top - v0 - v1) / a + Math.max(0, cruise) / Math.max(top, 1e-9);
    total += time;
    const power = moves.power[i]!;
    if (power > 0) {
      burning += time;
      // Powers repeat from move to move: kept when they change.
      if (first && power !== level) {
        kept();
        [level, atLevel] = [power, 0];
      }
      if (first) atLevel += time;
    } else if (moves.speed[i]! < 0) between += time;
  }
  kept();
  return { total, burning, between, fired };
};

/** Times of several lists, one after the other. */
export const plansTogether = (plans: readonly PlannedTime[]): PlannedTime => {
  const sum = (of: 'total' | 'burning' | 'between'): Seconds => plans.reduce((s, p) => s + p[of], 0);
  const fired = new Map<number, Seconds>();
  for (const plan of plans) for (const [power, time] of plan.fired) fired.set(power, (fired.get(power) ?? 0) + time);
  return { total: sum('total'), burning: sum('burning'), between: sum('between'), fired };
};
