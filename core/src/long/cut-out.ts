import {
  boxCentre,
  boxHeight,
  boxOf,
  boxWidth,
  flatten,
  insidePolygon,
  offsetContours,
  polygonArea,
  polyline,
  uniteContours,
  type Contour,
  type Vec,
} from '../geometry';
import type { Mm } from '../units';
import type { LongShape } from './art';

/** Something that is cut free: a counter's slug, or a dot that nothing joins to the rest. */
export interface FallOut {
  readonly kind: 'counter' | 'dot';
  readonly at: Vec;
  readonly width: Mm;
  readonly height: Mm;
}

/** What is left when cut lines were followed: pieces, what falls out, and where it is thinnest. */
export interface CutOut {
  /** Pieces that hang together by themselves, the largest first. */
  readonly pieces: number;
  /** Pieces before overlapping letters are united. */
  readonly before: number;
  readonly falls: readonly FallOut[];
  /** Thinnest place of the largest piece; null when it is thicker than what was looked for. */
  readonly neck: { readonly width: Mm; readonly at: Vec } | null;
}

interface Ring {
  readonly points: readonly Vec[];
  readonly area: number;
  readonly depth: number;
}

/** Closed lines with how many others they lie in, largest first. */
const nested = (contours: readonly Contour[]): Ring[] => {
  const rings = contours
    .filter((c) => c.closed)
    .map((c) => flatten(c, 0.05))
    .filter((p) => p.length >= 3)
    .map((points) => ({ points, area: Math.abs(polygonArea(points)) }))
    .sort((a, b) => b.area - a.area);
  return rings.map((r, i) => ({
    ...r,
    // Letters that overlap lie in each other with some of their corners only.
    depth: rings.slice(0, i).filter((o) => r.points.every((p) => insidePolygon(p, o.points))).length,
  }));
};

const turned = (points: readonly Vec[], anticlockwise: boolean): Contour =>
  polyline(polygonArea(points) > 0 === anticlockwise ? points : [...points].reverse(), true);

/** Lines turned so that material is on their left, whatever way round they were drawn. */
const oriented = (rings: readonly Ring[]): Contour[] => rings.map((r) => turned(r.points, r.depth % 2 === 0));

/** Letters that overlap or touch as one outline; counters stay holes. */
export const uniteLetters = (contours: readonly Contour[]): Contour[] =>
  // Where areas overlap, a counter of one is filled by the other; islands inside counters stay islands.
  uniteContours(oriented(nested(contours)));

/** Widest neck that is looked for, mm. */
const WIDEST: Mm = 20;

/** What is in one piece when everything is made narrower from both sides. */
const partsAt = (piece: readonly Contour[], width: Mm): readonly (readonly Vec[])[] =>
  nested(offsetContours(piece, -width / 2))
    // A crumb of a corner is not a part.
    .filter((r) => r.depth === 0 && r.area > 0.05)
    .map((r) => r.points);

/** Middle of the shortest way between two outlines. */
const between = (a: readonly Vec[], b: readonly Vec[]): Vec => {
  let best = { d: Infinity, at: a[0]! };
  for (const p of a)
    for (const q of b) {
      const d = (p.x - q.x) ** 2 + (p.y - q.y) ** 2;
      if (d < best.d) best = { d, at: { x: (p.x + q.x) / 2, y: (p.y + q.y) / 2 } };
    }
  return best.at;
};

/**
 * The thinnest place by which two parts of a piece hang together: shrunk from both sides by a little
 * more than half of it, the piece falls in two.
 */
const neckOf = (piece: readonly Contour[]): CutOut['neck'] => {
  let high: Mm = 0;
  for (let w = 0.5; w <= WIDEST; w *= 1.3) {
    const n = partsAt(piece, w).length;
    if (n > 1) {
      high = w;
      break;
    }
    if (n === 0) return null;
  }
  if (high === 0) return null;
  let low = high / 1.3 < 0.5 ? 0 : high / 1.3;
  for (let i = 0; i < 12; i += 1) {
    const middle = (low + high) / 2;
    if (partsAt(piece, middle).length > 1) high = middle;
    else low = middle;
  }
  const [a, b] = [...partsAt(piece, high)].sort((p, q) => Math.abs(polygonArea(q)) - Math.abs(polygonArea(p)));
  return a && b ? { width: high, at: between(a, b) } : null;
};

/**
 * Looks at what is cut out: whether it hangs together, what falls out of it, and its thinnest neck.
 *
 * @param shapes of which only cut ones count, work frame
 */
export const reckonCutOut = (shapes: readonly LongShape[]): CutOut | null => {
  const cut = shapes.filter((s) => s.kind === 'cut' && s.contour.closed).map((s) => s.contour);
  if (cut.length === 0) return null;
  const united = nested(uniteLetters(cut));
  const pieces = united.filter((r) => r.depth % 2 === 0);
  const main = pieces[0]!;
  const own = united.filter((r) => r.depth === 1 && insidePolygon(r.points[0]!, main.points));
  const fall =
    (kind: FallOut['kind']) =>
    (r: Ring): FallOut => {
      const box = boxOf(r.points);
      return { kind, at: boxCentre(box), width: boxWidth(box), height: boxHeight(box) };
    };
  return {
    pieces: pieces.length,
    before: nested(cut).filter((r) => r.depth % 2 === 0).length,
    falls: [...pieces.slice(1).map(fall('dot')), ...united.filter((r) => r.depth % 2 === 1).map(fall('counter'))],
    neck: neckOf(oriented([main, ...own])),
  };
};
