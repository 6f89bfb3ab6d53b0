import {
  boxCentre,
  boxOf,
  distanceToSegment,
  flatten,
  insidePolygon,
  offsetContours,
  polygonArea,
  polyline,
  type Box,
  type Contour,
  type Vec,
} from '../geometry';
import { fail, ok, type Result } from '../result';
import type { Mm } from '../units';
import { fixed, mm, worked, type WorkedLine } from '../working';
import { bearsOnBoth, edgeMove, freeMove, seatOf, seatSpread, type EdgeSeat, type SeatPoint } from './seat';

/** A fixture for odd shapes: two pegs that the edge bears against, and lines that it is laid to by eye. */
export interface LinesSettings {
  /** Diameter of the pegs, mm. */
  readonly peg: Mm;
  /** How far pegs stand up from the board, mm. */
  readonly pegHeight: Mm;
  /** Where the edge meets the pegs, mm along the outline from its first point; null to let Bistre choose. */
  readonly contacts: readonly [Mm, Mm] | null;
  /** How closely an edge is laid to a line by eye, mm either way [common practice: 0.2]. */
  readonly eye: Mm;
  /** Radius of the rounding along the edge, mm; 0 for a square edge. */
  readonly shoulder: Mm;
}

export const freshLines: LinesSettings = { peg: 6, pegHeight: 3, contacts: null, eye: 0.2, shoulder: 0 };

/** How far the outline may be off while no trial in card was compared, mm [assumed]. */
export const UNTRIED_OUTLINE: Mm = 0.3;
/** Lines are engraved this far outside the edge, so that they stay in sight, mm. */
const LINE_GAP: Mm = 0.2;
/** Half the length of an engraved stretch, mm. */
const LINE_REACH: Mm = 14;
/** Places along the outline that are tried for contacts. */
const TRIED = 110;
/** An edge that turns more than this over a peg's foot is a corner: nothing bears well on it, rad. */
const CORNER = 0.45;

export interface LineSeat {
  readonly seat: EdgeSeat;
  /** Middles of the pegs, blank frame, mm. */
  readonly pegs: readonly [Vec, Vec];
  /** Where along the outline they touch, mm. */
  readonly contacts: readonly [Mm, Mm];
  /** Stretches of the outline to engrave, blank frame. */
  readonly lines: readonly Contour[];
  /** From where a thumb pushes, and which way. */
  readonly push: { readonly from: Vec; readonly way: Vec };
  /** Radial standard uncertainty at the worst corner of the art from eye and outline together, mm. */
  readonly spread: Mm;
  readonly tried: number;
  readonly working: readonly WorkedLine[];
}

/** An outline as even steps, counter-clockwise, with its outward normals. */
interface Edge {
  readonly polygon: readonly Vec[];
  readonly length: Mm;
  readonly at: (s: Mm) => Vec;
  readonly normal: (s: Mm) => Vec;
}

const edgeOf = (outline: Contour): Edge => {
  const flat = flatten(outline, 0.01);
  const polygon = polygonArea(flat) < 0 ? [...flat].reverse() : flat;
  const upTo = [0];
  for (let i = 0; i < polygon.length; i += 1) {
    const next = polygon[(i + 1) % polygon.length]!;
    upTo.push(upTo[i]! + Math.hypot(next.x - polygon[i]!.x, next.y - polygon[i]!.y));
  }
  const length = upTo[polygon.length]!;
  const at = (s: Mm): Vec => {
    const t = ((s % length) + length) % length;
    let low = 0,
      high = polygon.length - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (upTo[middle]! <= t) low = middle;
      else high = middle - 1;
    }
    const a = polygon[low]!;
    const b = polygon[(low + 1) % polygon.length]!;
    const step = upTo[low + 1]! - upTo[low]!;
    const share = step === 0 ? 0 : (t - upTo[low]!) / step;
    return { x: a.x + (b.x - a.x) * share, y: a.y + (b.y - a.y) * share };
  };
  const chord = (s: Mm, by: Mm): Vec => {
    const a = at(s - by);
    const b = at(s + by);
    const l = Math.hypot(b.x - a.x, b.y - a.y) || 1;
    return { x: (b.y - a.y) / l, y: -(b.x - a.x) / l };
  };
  return { polygon, length, at, normal: (s) => chord(s, 1) };
};

const distanceToEdge = (p: Vec, polygon: readonly Vec[]): Mm =>
  polygon.reduce(
    (least, a, i) => Math.min(least, distanceToSegment(p, a, polygon[(i + 1) % polygon.length]!)),
    Infinity,
  );

const pegAt = (point: SeatPoint, radius: Mm): Vec => ({
  x: point.at.x + point.normal.x * radius,
  y: point.at.y + point.normal.y * radius,
});

/** Why a peg does not bear at a place of the edge; null when it does. */
const pegProblem = (edge: Edge, s: Mm, radius: Mm): 'corner' | 'no room' | null => {
  const foot = Math.max(1.5, radius / 2);
  const a = edge.normal(s - foot);
  const b = edge.normal(s + foot);
  if (Math.acos(Math.max(-1, Math.min(1, a.x * b.x + a.y * b.y))) > CORNER) return 'corner';
  const centre = pegAt({ at: edge.at(s), normal: edge.normal(s), by: 'contact' }, radius);
  return distanceToEdge(centre, edge.polygon) < radius - 0.15 || insidePolygon(centre, edge.polygon) ? 'no room' : null;
};

/** Where a thumb pushes a piece onto both contacts: a place at the far edge, and the way; null when there is none. */
const pushOf = (edge: Edge, a: SeatPoint, b: SeatPoint, far: readonly SeatPoint[]): LineSeat['push'] | null => {
  const sum = { x: a.normal.x + b.normal.x, y: a.normal.y + b.normal.y };
  const size = Math.hypot(sum.x, sum.y);
  if (size < 0.8) return null;
  const way = { x: sum.x / size, y: sum.y / size };
  // The push must pass where the two normals meet, or between the contacts where they run alike.
  const det = a.normal.x * b.normal.y - a.normal.y * b.normal.x;
  const t = Math.abs(det) < 0.05 ? 0 : ((b.at.x - a.at.x) * b.normal.y - (b.at.y - a.at.y) * b.normal.x) / det;
  const through =
    Math.abs(det) < 0.05
      ? { x: (a.at.x + b.at.x) / 2, y: (a.at.y + b.at.y) / 2 }
      : { x: a.at.x + a.normal.x * t, y: a.at.y + a.normal.y * t };
  let best: { from: Vec; off: number } | null = null;
  for (const p of far) {
    if (p.normal.x * way.x + p.normal.y * way.y > -0.8) continue;
    const off = Math.abs((p.at.x - through.x) * way.y - (p.at.y - through.y) * way.x);
    if (off < edge.length / 40 && (best === null || off < best.off)) best = { from: p.at, off };
  }
  return best && bearsOnBoth(a, b, best.from, way) ? { from: best.from, way } : null;
};

interface Chosen {
  readonly seat: EdgeSeat;
  readonly at: readonly [number, number];
  readonly lines: readonly [number, number];
  readonly push: LineSeat['push'];
  readonly spread: Mm;
}

/** The two lines that see best what the contacts leave free, apart from each other. */
const linesFor = (points: readonly SeatPoint[], a: SeatPoint, b: SeatPoint): readonly [number, number] => {
  const free = freeMove(a, b);
  let first = 0,
    most = -1;
  for (let i = 0; i < points.length; i += 1) {
    const sees = Math.abs(edgeMove(points[i]!, free));
    if (sees > most) [first, most] = [i, sees];
  }
  let second = first,
    next = -1;
  for (let i = 0; i < points.length; i += 1) {
    const apart = Math.min(Math.abs(i - first), points.length - Math.abs(i - first));
    const sees = Math.abs(edgeMove(points[i]!, free));
    if (apart > points.length / 6 && sees > next) [second, next] = [i, sees];
  }
  return [first, second];
};

/**
 * Chooses where two pegs bear on an odd outline and which stretches of it become lines: of all pairs
 * on which the edge bears and a thumb can push it onto both, the one that leaves the art's worst
 * corner the least error by eye and outline.
 *
 * @param outline closed, blank frame, mm
 * @param art on the blank, mm
 * @returns the seat, or a problem naming what cannot be held
 */
export const chooseLines = (
  outline: Contour,
  settings: Pick<LinesSettings, 'peg' | 'contacts' | 'eye'> & { readonly card: Mm | null },
  art: Box,
): Result<LineSeat> => {
  const edge = edgeOf(outline);
  const radius = settings.peg / 2;
  const step = edge.length / TRIED;
  const all = Array.from({ length: TRIED }, (_, i): SeatPoint => ({
    at: edge.at(i * step),
    normal: edge.normal(i * step),
    by: 'line',
  }));
  const card = settings.card ?? UNTRIED_OUTLINE;
  const deviation = { contact: card / Math.sqrt(3), line: Math.hypot(card, settings.eye) / Math.sqrt(3) };
  const contact = (p: SeatPoint): SeatPoint => ({ ...p, by: 'contact' });
  // A thumb slips off a corner.
  const pushed = all.filter((_, i) => pegProblem(edge, i * step, radius) !== 'corner');
  const judge = (a: SeatPoint, b: SeatPoint, at: readonly [number, number]): Chosen | null => {
    const push = pushOf(edge, a, b, pushed);
    if (!push) return null;
    const lines = linesFor(all, a, b);
    const seat = seatOf([a, b, all[lines[0]]!, all[lines[1]]!]);
    if (!seat.ok) return null;
    const spread = seatSpread(
      seat.value,
      seat.value.points.map((p) => deviation[p.by]),
      art,
    );
    return { seat: seat.value, at, lines, push, spread };
  };
  let best: Chosen | null = null;
  let tried = 0;
  if (settings.contacts) {
    const points = settings.contacts.map((s): SeatPoint => ({ at: edge.at(s), normal: edge.normal(s), by: 'contact' }));
    for (const [i, s] of settings.contacts.entries()) {
      const problem = pegProblem(edge, s, radius);
      if (problem)
        return fail(
          'contact',
          problem === 'corner'
            ? `Contact ${i + 1} lies at a corner of the outline, where nothing bears well. Move it along the edge.`
            : `A peg of ${mm(settings.peg)} has no room at contact ${i + 1}: the outline is hollow there. Move it, or take thinner pegs.`,
          'hold.lines.contacts',
        );
    }
    best = judge(points[0]!, points[1]!, settings.contacts);
    if (!best)
      return fail(
        'contacts',
        'These two contacts do not hold it: no push brings the edge against both, or it could still slide. Move one, or let Bistre choose.',
        'hold.lines.contacts',
      );
    tried = 1;
  } else {
    const good = all.flatMap((p, i) => (pegProblem(edge, i * step, radius) === null ? [{ p: contact(p), i }] : []));
    for (let j = 0; j < good.length; j += 1)
      for (let k = 0; k < j; k += 1) {
        const a = good[k]!;
        const b = good[j]!;
        if (Math.hypot(a.p.at.x - b.p.at.x, a.p.at.y - b.p.at.y) < 2 * settings.peg) continue;
        tried += 1;
        const made = judge(a.p, b.p, [a.i * step, b.i * step]);
        if (made && (best === null || made.spread < best.spread)) best = made;
      }
    if (!best)
      return fail(
        'no-contacts',
        `No two places of this outline take pegs of ${mm(settings.peg)} and hold it. Take thinner pegs, or cut pockets for it.`,
        'hold.lines',
      );
  }
  const stretch = (i: number): Contour => {
    const s = i * step;
    const steps = 14;
    return polyline(
      Array.from({ length: steps + 1 }, (_, k) => {
        const at = s + ((k / steps) * 2 - 1) * Math.min(LINE_REACH, edge.length / 12);
        const n = edge.normal(at);
        const p = edge.at(at);
        return { x: p.x + n.x * LINE_GAP, y: p.y + n.y * LINE_GAP };
      }),
    );
  };
  const [a, b] = best.seat.points;
  const eye = seatSpread(
    best.seat,
    best.seat.points.map((p) => (p.by === 'line' ? settings.eye / Math.sqrt(3) : 0)),
    art,
  );
  return ok({
    seat: best.seat,
    pegs: [pegAt(a!, radius), pegAt(b!, radius)],
    contacts: [best.at[0], best.at[1]],
    lines: best.lines.map(stretch),
    push: best.push,
    spread: best.spread,
    tried,
    working: [
      worked(
        'contacts',
        'of all pairs that a push holds, the one with the least error at the art’s worst corner',
        `${tried.toLocaleString('en')} pairs of ${TRIED} places, ${fixed(step, 1)} mm apart`,
        `± ${mm(best.spread)} standard`,
        'geometry',
      ),
      worked(
        'by eye to the lines',
        'response of the seat × eye / √3 at the art’s worst corner',
        `eye ± ${fixed(settings.eye)} at two lines`,
        mm(eye, 3),
        'common practice',
      ),
      worked(
        'outline against the blank',
        'response of the seat × gap / √3',
        `± ${fixed(card)} at contacts and lines`,
        mm(
          seatSpread(
            best.seat,
            best.seat.points.map(() => card / Math.sqrt(3)),
            art,
          ),
          3,
        ),
        settings.card === null ? 'assumed' : 'measured on the trial in card',
      ),
    ],
  });
};

/**
 * How far in from the edge a rounded shoulder falls out of focus: `r − √(2rs − s²)` for a rounding of
 * radius r and a depth s below the top that still burns well.
 * @example shoulderInset(5, 0.5) // 2.82 mm
 */
export const shoulderInset = (radius: Mm, depth: Mm): Mm =>
  radius <= 0 || depth >= radius ? 0 : radius - Math.sqrt(2 * radius * depth - depth * depth);

/** The part of a blank that lies flat enough to be engraved: its outline less rounded shoulders, and its holes. */
export interface UsableArea {
  readonly inset: Mm;
  readonly area: readonly Contour[];
  readonly holes: readonly Contour[];
  readonly working: readonly WorkedLine[];
}

/**
 * @param outline of the blank, and after it the openings in it; drilled holes are keep-outs of its zones
 * @param depth below the top that still burns well, mm: half the focus range
 */
export const usableArea = (outline: readonly Contour[], shoulder: Mm, depth: Mm): UsableArea => {
  const inset = shoulderInset(shoulder, depth);
  return {
    inset,
    area: inset > 0 ? offsetContours(outline.slice(0, 1), -inset) : outline.slice(0, 1),
    holes: outline.slice(1),
    working: [
      worked(
        'shoulder out of focus',
        shoulder > 0 ? 'r − √(2rs − s²)' : 'square edge',
        shoulder > 0 ? `${fixed(shoulder)} − √(2 × ${fixed(shoulder)} × ${fixed(depth)} − ${fixed(depth)}²)` : '0',
        mm(inset),
        'geometry',
      ),
    ],
  };
};

/** Whether a straight line enters a box: cut off at one side after the other [Liang and Barsky 1984]. */
const entersBox = (p: Vec, q: Vec, { minX, minY, maxX, maxY }: Box): boolean => {
  // Most lines of an outline pass by on one side.
  if ((p.x <= minX && q.x <= minX) || (p.x >= maxX && q.x >= maxX)) return false;
  if ((p.y <= minY && q.y <= minY) || (p.y >= maxY && q.y >= maxY)) return false;
  let [from, to] = [0, 1];
  for (const [step, room] of [
    [p.x - q.x, p.x - minX],
    [q.x - p.x, maxX - p.x],
    [p.y - q.y, p.y - minY],
    [q.y - p.y, maxY - p.y],
  ] as const) {
    if (step === 0) {
      if (room <= 0) return false;
    } else if (step < 0) from = Math.max(from, room / step);
    else to = Math.min(to, room / step);
  }
  return to - from > 1e-9;
};

/** Whether rectangles of art lie in the usable area as a whole, clear of its edge, its notches and its openings. */
export const insideUsable = ({ area, holes }: Pick<UsableArea, 'area' | 'holes'>): ((box: Box) => boolean) => {
  const lineOf = (c: Contour): Vec[] => flatten(c, 0.02);
  const [edges, openings] = [area.map(lineOf), holes.map(lineOf)];
  return (box) => {
    const middle = boxCentre(box);
    const crossed = (line: readonly Vec[]): boolean =>
      line.some((p, i) => entersBox(p, line[(i + 1) % line.length]!, box));
    return (
      edges.some((line) => insidePolygon(middle, line) && !crossed(line)) &&
      openings.every((line) => !insidePolygon(middle, line) && !crossed(line))
    );
  };
};

/** Room that a place of the fixture takes: the outline with pegs all round, mm. */
export const linesRoom = (outline: readonly Contour[], peg: Mm): { length: Mm; width: Mm } => {
  const box = boxOf(outline.flatMap((c) => flatten(c, 0.1)));
  return { length: box.maxX - box.minX + 2 * (peg + 1), width: box.maxY - box.minY + 2 * (peg + 1) };
};

/** The place of an outline nearest to a point, mm along it as contacts are counted. */
export const alongOutline = (outline: Contour, p: Vec): Mm => {
  const edge = edgeOf(outline);
  const steps = Math.max(200, Math.ceil(edge.length));
  let best = 0,
    least = Infinity;
  for (let i = 0; i < steps; i += 1) {
    const s = (i * edge.length) / steps;
    const q = edge.at(s);
    const d = Math.hypot(q.x - p.x, q.y - p.y);
    if (d < least) [best, least] = [s, d];
  }
  return best;
};
