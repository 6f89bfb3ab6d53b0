import { boxHeight, boxOf, boxWidth, insidePolygon, polygonArea, type Box, type Vec } from '../geometry';
import type { MarkKind } from '../marks';
import type { Mm } from '../units';
import { measureRing, type Ring } from './rings';

/** A closed line of a print, sheet frame (origin at the lower left corner, y up), mm. */
export interface Line {
  readonly points: readonly Vec[];
  readonly box: Box;
  /** Enclosed, mm². */
  readonly area: number;
  readonly length: Mm;
}

/** What stands by itself on the paper: its outer line and the holes in it. */
export interface Shape extends Line {
  readonly holes: readonly Line[];
}

const lineOf = (ring: Ring, dot: Mm, height: Mm, area: number, length: Mm): Line => {
  const points: Vec[] = [];
  for (let i = 0; i < ring.points.length; i += 2)
    points.push({ x: ring.points[i]! * dot, y: height - ring.points[i + 1]! * dot });
  return { points, box: boxOf(points), area, length };
};

const inBox = (inner: Box, outer: Box): boolean =>
  inner.minX >= outer.minX && inner.maxX <= outer.maxX && inner.minY >= outer.minY && inner.maxY <= outer.maxY;

/**
 * Sorts rings into shapes.
 *
 * @param dot size of a dot, mm
 * @param height of the picture, mm
 * @param least shapes and holes of less area are specks, mm²
 */
export const shapesOf = (rings: readonly Ring[], dot: Mm, height: Mm, least: number): Shape[] => {
  const outer: Line[] = [];
  const inner: Line[] = [];
  for (const ring of rings) {
    const { area, length } = measureRing(ring);
    const real = Math.abs(area) * dot * dot;
    if (real < least) continue;
    (area > 0 ? outer : inner).push(lineOf(ring, dot, height, real, length * dot));
  }
  return shapesOfLines(outer, inner);
};

/**
 * Sorts closed lines into shapes: outer lines that lie in no other, largest first, each with the holes
 * directly in it; print inside a hole belongs to the shape around it.
 */
export const shapesOfLines = (outer: Line[], inner: Line[]): Shape[] => {
  outer.sort((a, b) => b.area - a.area);
  const shapes: (Line & { holes: Line[] })[] = [];
  const holder = (line: Line): (Line & { holes: Line[] }) | undefined =>
    shapes.find((s) => inBox(line.box, s.box) && insidePolygon(line.points[0]!, s.points));
  for (const line of outer) if (!holder(line)) shapes.push({ ...line, holes: [] });
  // Holes of letters inside a piece lie in the piece's own holes or its print; the largest come first.
  for (const hole of inner.sort((a, b) => b.area - a.area)) {
    const within = holder(hole);
    if (within && !within.holes.some((h) => inBox(hole.box, h.box) && insidePolygon(hole.points[0]!, h.points)))
      within.holes.push(hole);
  }
  return shapes;
};

/** Middle of an enclosed area. */
export const areaCentre = (points: readonly Vec[]): Vec => {
  const area = polygonArea(points);
  const o = points[0]!;
  let x = 0;
  let y = 0;
  for (let i = 0, j = points.length - 1; i < points.length; j = i, i += 1) {
    const [ax, ay] = [points[j]!.x - o.x, points[j]!.y - o.y];
    const [bx, by] = [points[i]!.x - o.x, points[i]!.y - o.y];
    const cross = ax * by - bx * ay;
    x += (ax + bx) * cross;
    y += (ay + by) * cross;
  }
  return { x: o.x + x / (6 * area), y: o.y + y / (6 * area) };
};

/** Sizes between which something printed may be a mark, mm. */
const SMALLEST_MARK: Mm = 2.5;
const LARGEST_MARK: Mm = 20;
/** A full round of more than this is a piece, not a mark, mm. */
const LARGEST_DOT: Mm = 8;

export interface FoundMark {
  readonly kind: MarkKind;
  readonly at: Vec;
  /** Width over all, mm. */
  readonly size: Mm;
}

/**
 * Recognises a registration mark by its form alone: a cross in a circle, a cross, a ring, a dot, a
 * corner. @returns null for anything else
 */
export const markOf = (shape: Shape): FoundMark | null => {
  const w = boxWidth(shape.box);
  const h = boxHeight(shape.box);
  const size = Math.max(w, h);
  if (size > LARGEST_MARK || Math.min(w, h) < SMALLEST_MARK || Math.max(w, h) > 1.2 * Math.min(w, h)) return null;
  const centre = areaCentre(shape.points);
  const middle = { x: (shape.box.minX + shape.box.maxX) / 2, y: (shape.box.minY + shape.box.maxY) / 2 };
  const near = (p: Vec, by: number): boolean => Math.hypot(p.x - middle.x, p.y - middle.y) < by * size;
  // A disc fills π/4 of its box and its line is as long as its width says.
  const round = Math.abs(shape.area / ((Math.PI * w * h) / 4) - 1) < 0.06 && near(centre, 0.04);
  if (round) {
    const holes = shape.holes.filter((x) => x.area > 0.02 * shape.area);
    if (holes.length === 4 && holes[3]!.area > 0.7 * holes[0]!.area) {
      const at = { x: 0, y: 0 };
      for (const hole of holes) {
        const c = areaCentre(hole.points);
        at.x += c.x / 4;
        at.y += c.y / 4;
      }
      return near(at, 0.08) ? { kind: 'cross-circle', at, size } : null;
    }
    if (holes.length === 1 && near(areaCentre(holes[0]!.points), 0.06) && holes[0]!.area > 0.15 * shape.area)
      return { kind: 'ring', at: centre, size };
    return holes.length === 0 && size <= LARGEST_DOT ? { kind: 'dot', at: centre, size } : null;
  }
  if (shape.holes.length > 0) return null;
  const fills = shape.area / (w * h);
  const inside = (fx: number, fy: number): boolean =>
    insidePolygon({ x: shape.box.minX + fx * w, y: shape.box.minY + fy * h }, shape.points);
  const quarters = [
    [0.2, 0.2],
    [0.8, 0.2],
    [0.8, 0.8],
    [0.2, 0.8],
  ] as const;
  if (fills < 0.55 && near(centre, 0.05) && inside(0.5, 0.5) && quarters.every(([x, y]) => !inside(x, y)))
    return { kind: 'cross', at: centre, size };
  if (fills < 0.5) {
    // Two strokes of width t: area = t·(w + h − t).
    const t = (w + h - Math.sqrt((w + h) ** 2 - 4 * shape.area)) / 2;
    for (const right of [false, true])
      for (const up of [false, true]) {
        const corner = {
          x: right ? shape.box.maxX - t / 2 : shape.box.minX + t / 2,
          y: up ? shape.box.maxY - t / 2 : shape.box.minY + t / 2,
        };
        const [fx, fy] = [right ? 0.75 : 0.25, up ? 0.75 : 0.25];
        const arms =
          insidePolygon({ x: middle.x, y: corner.y }, shape.points) &&
          insidePolygon({ x: corner.x, y: middle.y }, shape.points) &&
          insidePolygon(corner, shape.points);
        if (arms && !inside(0.5, 0.5) && !inside(1 - fx, 1 - fy)) return { kind: 'corner', at: corner, size };
      }
  }
  return null;
};
