import { addEquation, boxOf, insidePolygon, polygonArea, solveLinear, zeros, type Box, type Vec } from '../geometry';
import { areaCentre, inReadingOrder } from '../trace';
import type { Mm, Rad } from '../units';
import type { CameraPlace } from './camera';
import type { SeenShape } from './seen';
import { sweptFrom, type Beside, type Pose } from './sweep';

/** A blank that was found lying on the bed. */
export interface FoundBlank {
  readonly centre: Vec;
  readonly angle: Rad;
  /** Root of the mean square between the drawn outline and the seen one, mm. */
  readonly miss: Mm;
  /**
   * Standard uncertainty of its middle, per axis, mm, and of its angle; and `foot`, how far it may lie aside per axis, ± mm,
   * because nobody knows just where the point under the camera is.
   */
  readonly doubt: { readonly centre: Mm; readonly angle: Rad; readonly foot: Mm };
  readonly verdict: 'sure' | 'ask';
  readonly why: string;
}

/** A thing on the bed that is not one of the blanks. */
export interface Stranger {
  readonly outline: readonly Vec[];
  readonly why: string;
}

const resample = (points: readonly Vec[], n: number): Vec[] => {
  const all = [...points, points[0]!];
  const lengths = all.slice(1).map((p, i) => Math.hypot(p.x - all[i]!.x, p.y - all[i]!.y));
  const total = lengths.reduce((s, l) => s + l, 0);
  const out: Vec[] = [];
  let i = 0;
  let done = 0;
  for (let k = 0; k < n; k += 1) {
    const wanted = (k * total) / n;
    while (i < lengths.length - 1 && done + lengths[i]! < wanted) {
      done += lengths[i]!;
      i += 1;
    }
    const t = lengths[i] === 0 ? 0 : (wanted - done) / lengths[i]!;
    const [a, b] = [all[i]!, all[i + 1]!];
    out.push({ x: a.x + t * (b.x - a.x), y: a.y + t * (b.y - a.y) });
  }
  return out;
};

/** Nearest point of a closed line, and the line's direction there. */
const nearest = (p: Vec, line: readonly Vec[]): { x: number; y: number; nx: number; ny: number; d2: number } => {
  // The innermost loop of a match: nothing is made in it, and nothing global is looked up.
  let [bx, by, bdx, bdy, d2] = [0, 0, 1, 0, 1e30];
  let a = line[line.length - 1]!;
  for (let i = 0; i < line.length; i += 1) {
    const b = line[i]!;
    const dx = b.x - a.x;
    const dy = b.y - a.y;
    const l2 = dx * dx + dy * dy;
    const along = (p.x - a.x) * dx + (p.y - a.y) * dy;
    const t = along <= 0 || l2 === 0 ? 0 : along >= l2 ? 1 : along / l2;
    const x = a.x + t * dx;
    const y = a.y + t * dy;
    const d = (p.x - x) * (p.x - x) + (p.y - y) * (p.y - y);
    if (d < d2) {
      d2 = d;
      bx = x;
      by = y;
      bdx = dx;
      bdy = dy;
    }
    a = b;
  }
  const l = Math.hypot(bdx, bdy) || 1;
  return { x: bx, y: by, nx: -bdy / l, ny: bdx / l, d2 };
};

/** Angles tried to begin with, and points of an outline that are compared. */
const ANGLES = 60;
const COARSE = 48;
const FINE = 180;
/** Points that a seen outline is drawn with, to begin with and at last. */
const ROUGH = 90;
const LINE = 360;

const placed = (p: Vec, { x, y, angle }: Pose): Vec => {
  const c = Math.cos(angle);
  const s = Math.sin(angle);
  return { x: x + c * p.x - s * p.y, y: y + s * p.x + c * p.y };
};

const missOf = (points: readonly Vec[], pose: Pose, line: readonly Vec[]): number =>
  points.reduce((s, p) => s + nearest(placed(p, pose), line).d2, 0) / points.length;

/** Slides a pose until the drawn outline lies on the seen one: distances across the line, least squares. */
const settle = (points: readonly Vec[], start: Pose, line: readonly Vec[], rounds: number): Pose => {
  let pose = start;
  for (let i = 0; i < rounds; i += 1) {
    const ata = zeros(3);
    const atb = [0, 0, 0];
    for (const p of points) {
      const q = placed(p, pose);
      const n = nearest(q, line);
      const d = (n.x - q.x) * n.nx + (n.y - q.y) * n.ny;
      // A point that lies far off is another thing's edge.
      const w = 1 / (1 + (d / 1.5) ** 2);
      const turn = -(q.y - pose.y) * n.nx + (q.x - pose.x) * n.ny;
      addEquation(ata, atb, [w * n.nx, w * n.ny, w * turn], w * d);
    }
    for (let k = 0; k < 3; k += 1) ata[k]![k]! += 1e-9;
    const by = solveLinear(ata, atb);
    if (!by) break;
    pose = { x: pose.x + by[0]!, y: pose.y + by[1]!, angle: pose.angle + by[2]! };
    if (Math.hypot(by[0]!, by[1]!) < 1e-4 && Math.abs(by[2]!) < 1e-6) break;
  }
  return pose;
};

/** What is looked for: a blank's outline and its holes, blank frame. */
export interface WantedBlank {
  readonly outline: readonly Vec[];
  readonly holes: readonly { readonly x: Mm; readonly y: Mm; readonly diameter: Mm }[];
}

/**
 * How far edges that are seen beside a wall or a shadow put a thing off its place, standard, as a share of a dot [measured on
 * simulated pictures of blanks 0.8 to 6 mm thick, by room light, beside what the sweeps and the camera leave: 0.065 to 0.077].
 */
const EDGE = 0.08;
/** A shadow falls as far as so many times the height: light from 18° over the bed. */
const LONGEST_SHADOW = 3;

/** Sizes may be off by this share of the area, and outlines by so many mm, and it is still the same blank. */
const OTHER_AREA = 0.12;
const SAME: Mm = 0.9;
const OTHER: Mm = 2;
/** Half a shadow that is longer than this leaves a place open. */
const SHADOW_ASKS: Mm = 0.3;

const turnOf = (a: Rad): Rad => Math.atan2(Math.sin(a), Math.cos(a));

/** From where a thing is seen that stands over the bed; mm. */
export interface SeenFrom {
  readonly camera: CameraPlace;
  readonly above: Mm;
  /** Size of a dot of the picture from above. */
  readonly dot: Mm;
  /** How far the point under the camera may be off, ±: see `footDoubt`. */
  readonly foot: Mm;
}

/** What may be seen beside a thing that stands at a place. */
const besideOf = (at: Vec, from: SeenFrom | null, darker: boolean): Beside => {
  if (!from) return { way: { x: 1, y: 0 }, wall: 0, shadow: 0 };
  const { camera, above } = from;
  const away = Math.hypot(camera.x - at.x, camera.y - at.y);
  const way = away < 1e-6 ? { x: 1, y: 0 } : { x: (camera.x - at.x) / away, y: (camera.y - at.y) / away };
  // In the plane of its upper side the foot of its wall is seen nearer to the camera, by the share of the heights.
  return { way, wall: (away * above) / Math.max(above, camera.height), shadow: darker ? LONGEST_SHADOW * above : 0 };
};

/**
 * Whether a seen thing is one of the batch's blanks, and how it lies. Where its outline is the same
 * after a turn, its holes tell; where nothing tells, it is taken the way that lies most upright.
 *
 * @param doubt standard uncertainty of the seen outline as a whole (camera), per axis, mm
 * @param from where the camera stands, and how high the thing stands over the bed: its wall is seen, its shadow falls
 */
export const matchBlank = (
  shape: SeenShape,
  wanted: WantedBlank,
  doubt: Mm,
  from: SeenFrom | null = null,
): FoundBlank | Stranger => {
  const area =
    Math.abs(polygonArea(wanted.outline)) - wanted.holes.reduce((s, h) => s + (Math.PI * h.diameter ** 2) / 4, 0);
  const share = shape.area / area;
  // A wall that is seen belongs to it: as wide as it is seen, along half of the outline at the most.
  const { wall } = besideOf(areaCentre(shape.outline), from, false);
  const walled = (2 * wall * Math.sqrt(area)) / area;
  if (share > 1.6)
    return {
      outline: shape.outline,
      why: `as large as ${share.toFixed(1)} blanks: they touch or overlap. Draw them apart`,
    };
  if (share < 1 - OTHER_AREA || share > 1 + OTHER_AREA + walled)
    return {
      outline: shape.outline,
      why: `${(100 * share).toFixed(0)} % of a blank’s area: another kind, ${share > 1 ? 'or a shadow beside it' : 'or partly hidden'}`,
    };
  const line = resample(shape.outline, LINE);
  const rough = resample(shape.outline, ROUGH);
  const middle = areaCentre(line);
  const own = areaCentre(wanted.outline);
  const coarse = resample(wanted.outline, COARSE);
  const fine = resample(wanted.outline, FINE);
  const at = (angle: Rad): Pose => {
    const c = placed(own, { x: 0, y: 0, angle });
    return { x: middle.x - c.x, y: middle.y - c.y, angle };
  };
  const tried = Array.from({ length: ANGLES }, (_, i) => (2 * Math.PI * i) / ANGLES)
    .map((angle) => ({ pose: at(angle), miss: missOf(coarse, at(angle), rough) }))
    .sort((a, b) => a.miss - b.miss);
  // The best few that are not neighbours of each other.
  const starts: Pose[] = [];
  for (const t of tried) {
    if (starts.length >= 4) break;
    if (starts.every((s) => Math.abs(turnOf(s.angle - t.pose.angle)) > 0.3)) starts.push(t.pose);
  }
  const rests = starts
    .map((s) => settle(coarse, s, rough, 8))
    .map((pose) => ({ pose, miss: Math.sqrt(missOf(coarse, pose, rough)) }))
    .sort((a, b) => a.miss - b.miss);
  const ends = rests
    .filter((e) => e.miss < rests[0]!.miss + 0.6)
    .map(({ pose }) => settle(fine, pose, line, 6))
    .map((pose) => ({ pose, miss: Math.sqrt(missOf(fine, pose, line)) }))
    .sort((a, b) => a.miss - b.miss);
  const best = ends[0]!;
  if (best.miss > OTHER)
    return {
      outline: shape.outline,
      why: `its outline is off by ${best.miss.toFixed(1)} mm: another kind, or two that overlap`,
    };
  const alike = ends.filter((e) => e.miss < best.miss + 0.25);
  const turned = (points: readonly Vec[]): number => {
    const mirrored = points.map((p) => ({ x: -p.x, y: p.y }));
    const c = areaCentre(mirrored);
    let least = Infinity;
    const few = resample(mirrored, 24);
    const many = resample(mirrored, FINE);
    for (let i = 0; i < ANGLES; i += 2) {
      const angle = (2 * Math.PI * i) / ANGLES;
      const q = placed(c, { x: 0, y: 0, angle });
      const start = { x: middle.x - q.x, y: middle.y - q.y, angle };
      if (missOf(few, start, rough) > 9) continue;
      const end = settle(few, start, rough, 8);
      least = Math.min(least, Math.sqrt(missOf(many, end, line)));
    }
    return least;
  };
  // A hole seen where one belongs tells which of the turns it is.
  const holeMiss = ({ pose }: { pose: Pose }): number => {
    if (wanted.holes.length === 0) return 0;
    if (shape.holes.length === 0) return 0;
    return (
      wanted.holes.reduce((s, h) => {
        const p = placed(h, pose);
        return (
          s +
          Math.min(
            ...shape.holes.map((o) => {
              const c = areaCentre(o);
              return Math.hypot(c.x - p.x, c.y - p.y);
            }),
          )
        );
      }, 0) / wanted.holes.length
    );
  };
  const told = wanted.holes.length > 0 && shape.holes.length > 0;
  const upright = (p: Pose): number => Math.abs(turnOf(p.angle));
  const chosen = [...alike].sort((a, b) =>
    told && Math.abs(holeMiss(a) - holeMiss(b)) > 1 ? holeMiss(a) - holeMiss(b) : upright(a.pose) - upright(b.pose),
  )[0]!;
  // Roughness of the outline averages out over its independent stretches of a few millimetres.
  const stretches = Math.max(6, fine.length / 6);
  const counterClockwise = polygonArea(fine) < 0 ? [...fine].reverse() : fine;
  const beside = besideOf(chosen.pose, from, shape.darker ?? false);
  const lies = sweptFrom(counterClockwise, chosen.pose, (p) => nearest(p, line), beside, stretches);
  const { pose, miss, shadow, doubt: unswept } = lies;
  const radius = Math.sqrt(fine.reduce((s, p) => s + (p.x - own.x) ** 2 + (p.y - own.y) ** 2, 0) / fine.length);
  // A wall or a shadow beside an edge moves it by a part of a dot.
  const edge = from ? EDGE * from.dot : 0;
  const foot = from ? (from.foot * from.above) / from.camera.height : 0;
  const ragged = miss / Math.sqrt(stretches);
  const uneven = Math.hypot(ragged, unswept, edge);
  const found = {
    centre: { x: pose.x, y: pose.y },
    angle: turnOf(pose.angle),
    miss,
    doubt: { centre: Math.hypot(doubt, uneven), angle: Math.hypot(ragged, doubt / 2) / Math.max(1, radius), foot },
  };
  if (told && holeMiss(chosen) > 3)
    return { ...found, verdict: 'ask', why: 'its hole is not where this blank has one: does it lie face down?' };
  if (miss > 0.25 && turned(wanted.outline) < miss - 0.2)
    return { ...found, verdict: 'ask', why: 'its mirror image fits better: does it lie face down?' };
  if (shadow / 2 > SHADOW_ASKS)
    return {
      ...found,
      verdict: 'ask',
      why: `a shadow seems to lie beside it, ${shadow.toFixed(1)} mm long: light it from all sides, or lay it on a sheet darker than it is`,
    };
  if (miss > SAME) return { ...found, verdict: 'ask', why: `its outline is off by ${miss.toFixed(1)} mm` };
  if (alike.length > 1 && wanted.holes.length > 0 && !told)
    return { ...found, verdict: 'ask', why: 'its hole cannot be seen, and without it more than one way round fits' };
  return { ...found, verdict: 'sure', why: '' };
};

/** Whether two seen things meet: a corner of one lies in the other. */
export const overlaps = (a: readonly Vec[], b: readonly Vec[]): boolean => {
  const [p, q]: [Box, Box] = [boxOf(a), boxOf(b)];
  if (p.maxX < q.minX || p.minX > q.maxX || p.maxY < q.minY || p.minY > q.maxY) return false;
  return a.some((v) => insidePolygon(v, b)) || b.some((v) => insidePolygon(v, a));
};

/** Things in the order they are read: row by row from the back, each from the left. */
export const readingOrder = <T extends { readonly centre: Vec }>(things: readonly T[], height: Mm): T[] =>
  inReadingOrder(things.map((thing) => ({ centre: thing.centre, height, thing }))).map(({ thing }) => thing);
