import { addEquation, solveLinear, zeros, type Vec } from '../geometry';
import type { Mm, Rad } from '../units';

/** How a thing lies. */
export interface Pose {
  readonly x: Mm;
  readonly y: Mm;
  readonly angle: Rad;
}

/** A drawn outline brought onto a seen one that may be swept to one side: by a wall that is seen, or a shadow. */
export interface Swept {
  readonly pose: Pose;
  /** How far its wall is seen beside it, and how far a shadow seems to lie there; mm. */
  readonly wall: Mm;
  readonly shadow: Mm;
  /** Root of the mean square of what is left, mm. */
  readonly miss: Mm;
  /** What the sweep leaves not known of the place, standard, per axis, mm. */
  readonly doubt: Mm;
}

/** What may be seen beside a thing: its wall on the side of the camera, so wide at the most, and a shadow, so long. */
export interface Beside {
  /** Towards the camera’s foot, of length 1. */
  readonly way: Vec;
  readonly wall: Mm;
  /** Nought where shadows stand out the other way than the thing. */
  readonly shadow: Mm;
}

/** Directions of a shadow that are tried, over half a turn: which of its ends the thing lies at is not seen. */
const DIRECTIONS = 12;
const ROUNDS = 5;

/** A place of the drawn outline with its outward normal, in the frame of the thing; mm. */
interface Edge {
  readonly at: Vec;
  readonly out: Vec;
}

/** Outward normals along a closed line that runs counter-clockwise. */
const edgesOf = (points: readonly Vec[]): Edge[] =>
  points.map((at, i) => {
    const a = points[(i + points.length - 1) % points.length]!;
    const b = points[(i + 1) % points.length]!;
    const l = Math.hypot(b.x - a.x, b.y - a.y) || 1;
    return { at, out: { x: (b.y - a.y) / l, y: -(b.x - a.x) / l } };
  });

type Nearest = (p: Vec) => { readonly x: number; readonly y: number; readonly nx: number; readonly ny: number };

/** A sweep of the outline: towards where, and how far already. */
interface Sweep {
  readonly way: Vec;
  readonly far: Mm;
}

interface Fitted {
  readonly pose: Pose;
  readonly swept: Mm;
  readonly cost: number;
  /** Standard error of the sweep for an error of one at each place. */
  readonly factor: number;
}

/**
 * Least squares of pose and growth all round, with sweeps that stand, and of one more towards `way` where there is one.
 * Growth is let free: a thing that came larger than it was drawn is not swept.
 */
const fitted = (
  edges: readonly Edge[],
  start: Pose,
  nearest: Nearest,
  stand: readonly Sweep[],
  way: Vec | null,
): Fitted => {
  const n = way ? 5 : 4;
  let pose = start;
  let [grown, swept] = [0, 0];
  let cost = Infinity;
  let factor = 0;
  for (let round = 0; round < ROUNDS; round += 1) {
    const ata = zeros(n);
    const atb = new Array<number>(n).fill(0);
    const [c, s] = [Math.cos(pose.angle), Math.sin(pose.angle)];
    let [sum, weights] = [0, 0];
    for (const { at, out } of edges) {
      const nx = c * out.x - s * out.y;
      const ny = s * out.x + c * out.y;
      const lean = way ? Math.max(0, nx * way.x + ny * way.y) : 0;
      let more = grown + swept * lean;
      for (const { way: w, far } of stand) more += far * Math.max(0, nx * w.x + ny * w.y);
      const q = { x: pose.x + c * at.x - s * at.y + more * nx, y: pose.y + s * at.x + c * at.y + more * ny };
      const to = nearest(q);
      // What is left, along this outline's own normal; a place that lies far off is another thing's edge.
      const d = (to.x - q.x) * nx + (to.y - q.y) * ny;
      const w = 1 / (1 + (d / 1.5) ** 2);
      const turn = -(q.y - pose.y) * nx + (q.x - pose.x) * ny;
      const row = [nx, ny, turn, 1, lean].slice(0, n).map((v) => v * w);
      addEquation(ata, atb, row, w * d);
      sum += w * d * d;
      weights += w;
    }
    cost = sum / Math.max(1e-9, weights);
    for (let k = 0; k < n; k += 1) ata[k]![k]! += 1e-9;
    const solve = (b: readonly number[]): number[] | null => solveLinear(ata.map((r) => [...r]), [...b]); // prettier-ignore
    const by = solve(atb);
    if (!by) break;
    if (way) factor = Math.sqrt(Math.max(0, solve([0, 0, 0, 0, 1])?.[4] ?? 0));
    if (round === ROUNDS - 1) break;
    pose = { x: pose.x + by[0]!, y: pose.y + by[1]!, angle: pose.angle + by[2]! };
    grown += by[3]!;
    swept += by[4] ?? 0;
  }
  return { pose, swept, cost, factor };
};

/** Stretches of an outline that err independently, less what is fitted. */
const freedom = (stretches: number): number => Math.max(2, stretches - 5);

/** What an estimate and “anywhere from nothing to so much” come to together: mean and standard error. */
const within = (seen: Mm, error: Mm, most: Mm): { far: Mm; error: Mm } => {
  const [a, b] = [1 / Math.max(1e-9, error) ** 2, 12 / Math.max(1e-9, most) ** 2];
  return { far: Math.min(most, Math.max(0, (a * seen + (b * most) / 2) / (a + b))), error: 1 / Math.sqrt(a + b) };
};

/**
 * Where a thing lies whose outline is seen swept to a side: the camera sees its wall on the side that faces it, and a
 * shadow may look like a part of it. A sweep makes it longer one way alone, which tells it from a thing that came larger;
 * at which end of a sweep the thing lies is known of a wall, and not of a shadow.
 *
 * @param points the drawn outline, counter-clockwise, frame of the thing
 * @param nearest place of the seen outline nearest to one
 * @param stretches how many stretches of the outline err independently of each other
 */
export const sweptFrom = (
  points: readonly Vec[],
  start: Pose,
  nearest: Nearest,
  { way, wall, shadow }: Beside,
  stretches: number,
): Swept => {
  const edges = edgesOf(points);
  const free = freedom(stretches);
  const errorOf = (f: Fitted): Mm => f.factor * Math.sqrt(f.cost) * Math.sqrt(edges.length / free);
  const lit = fitted(edges, start, nearest, [], way);
  const seen = wall > 0 ? within(lit.swept, errorOf(lit), wall) : { far: 0, error: 0 };
  const stand = [{ way, far: seen.far }];
  const plain = fitted(edges, start, nearest, stand, null);
  const walled = { pose: plain.pose, wall: seen.far, shadow: 0, miss: Math.sqrt(plain.cost), doubt: seen.error / 2 };
  if (shadow <= 0) return walled;
  const best = Array.from({ length: DIRECTIONS }, (_, i) => (Math.PI * i) / DIRECTIONS)
    .map((a) => ({ x: Math.cos(a), y: Math.sin(a) }))
    .map((to) => ({ to, ...fitted(edges, plain.pose, nearest, stand, to) }))
    .filter((f) => f.swept > 0)
    .sort((a, b) => a.cost - b.cost)[0];
  // Two numbers more must gain more than chance does [F test, 2 and so many degrees of freedom, about 99 %].
  if (!best || plain.cost / Math.max(1e-12, best.cost) < 1 + 10 / free) return walled;
  const far = Math.min(shadow, best.swept);
  // Its middle lies at either end: half a sweep from the middle of what is seen.
  const pose = { ...best.pose, x: best.pose.x + (far / 2) * best.to.x, y: best.pose.y + (far / 2) * best.to.y };
  return { pose, wall: seen.far, shadow: far, miss: Math.sqrt(best.cost), doubt: Math.hypot(seen.error, far) / 2 };
};
