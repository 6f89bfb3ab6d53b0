import { apply, determinant, type Transform } from './transform';
import type { Vec } from './vec';

/**
 * A corner of a contour and how the line goes on from it: `bulge` is the tangent of a quarter of
 * the included angle of the arc to the next corner, positive counter-clockwise, 0 or absent for a
 * straight line (the convention of DXF polylines). Lines and arcs survive turning, shifting and
 * mirroring exactly, so circles stay circles in every output.
 */
export interface Vertex extends Vec {
  readonly bulge?: number;
}

export interface Contour {
  readonly closed: boolean;
  readonly vertices: readonly Vertex[];
}

export interface Box {
  readonly minX: number;
  readonly minY: number;
  readonly maxX: number;
  readonly maxY: number;
}

export const emptyBox: Box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
export const boxWidth = (b: Box): number => b.maxX - b.minX;
export const boxHeight = (b: Box): number => b.maxY - b.minY;
export const boxCentre = (b: Box): Vec => ({ x: (b.minX + b.maxX) / 2, y: (b.minY + b.maxY) / 2 });
export const boxUnion = (a: Box, b: Box): Box => ({
  minX: Math.min(a.minX, b.minX),
  minY: Math.min(a.minY, b.minY),
  maxX: Math.max(a.maxX, b.maxX),
  maxY: Math.max(a.maxY, b.maxY),
});
/** Whether two boxes have more than an edge in common. */
export const boxesMeet = (a: Box, b: Box): boolean =>
  a.minX < b.maxX && b.minX < a.maxX && a.minY < b.maxY && b.minY < a.maxY;
export const boxContains = (outer: Box, inner: Box, slack = 1e-6): boolean =>
  inner.minX >= outer.minX - slack &&
  inner.minY >= outer.minY - slack &&
  inner.maxX <= outer.maxX + slack &&
  inner.maxY <= outer.maxY + slack;

export const boxOf = (points: readonly Vec[]): Box => {
  let { minX, minY, maxX, maxY } = emptyBox;
  for (const p of points) {
    if (p.x < minX) minX = p.x;
    if (p.y < minY) minY = p.y;
    if (p.x > maxX) maxX = p.x;
    if (p.y > maxY) maxY = p.y;
  }
  return { minX, minY, maxX, maxY };
};

/** Corners of a box, counter-clockwise from the lower left. */
export const boxCorners = (b: Box): Vec[] => [
  { x: b.minX, y: b.minY },
  { x: b.maxX, y: b.minY },
  { x: b.maxX, y: b.maxY },
  { x: b.minX, y: b.maxY },
];

/** An arc given by its ends and its bulge. Angles in radians, `sweep` signed. */
export interface Arc {
  readonly centre: Vec;
  readonly radius: number;
  readonly start: number;
  readonly sweep: number;
}

/** Centre, radius and angles of the arc from `from` to `to`. `bulge` must not be 0. */
export const arcOf = (from: Vec, to: Vec, bulge: number): Arc => {
  const sweep = 4 * Math.atan(bulge);
  const k = (1 - bulge * bulge) / (4 * bulge);
  const dx = to.x - from.x;
  const dy = to.y - from.y;
  const centre = { x: (from.x + to.x) / 2 - k * dy, y: (from.y + to.y) / 2 + k * dx };
  return {
    centre,
    radius: Math.hypot(from.x - centre.x, from.y - centre.y),
    start: Math.atan2(from.y - centre.y, from.x - centre.x),
    sweep,
  };
};

/** Calls back for every line or arc of the contour, the closing one included. */
export const eachSegment = (contour: Contour, visit: (from: Vertex, to: Vertex, bulge: number) => void): void => {
  const { vertices, closed } = contour;
  const last = closed ? vertices.length : vertices.length - 1;
  for (let i = 0; i < last; i += 1) {
    const from = vertices[i]!;
    visit(from, vertices[(i + 1) % vertices.length]!, from.bulge ?? 0);
  }
};

/** More chords than any arc on a bed needs at the finest tolerance: an arc that asks for more is no real one. */
const MOST_CHORDS = 20_000;

/**
 * The contour as straight lines.
 * @param tolerance greatest distance between a chord and its arc, mm
 * @returns the points; a closed contour does not repeat its first point
 */
export const flatten = (contour: Contour, tolerance = 0.005): Vec[] => {
  const first = contour.vertices[0];
  if (!first) return [];
  const points: Vec[] = [{ x: first.x, y: first.y }];
  eachSegment(contour, (from, to, bulge) => {
    if (bulge !== 0) {
      const arc = arcOf(from, to, bulge);
      const step = 2 * Math.acos(Math.max(-1, 1 - tolerance / Math.max(arc.radius, tolerance)));
      const count = Math.min(MOST_CHORDS, Math.max(2, Math.ceil(Math.abs(arc.sweep) / step)));
      for (let i = 1; i < count; i += 1) {
        const angle = arc.start + (arc.sweep * i) / count;
        points.push({ x: arc.centre.x + arc.radius * Math.cos(angle), y: arc.centre.y + arc.radius * Math.sin(angle) });
      }
    }
    points.push({ x: to.x, y: to.y });
  });
  if (contour.closed) points.pop();
  return points;
};

/** The contour moved by a similarity; a mirroring map turns its arcs the other way. */
export const transformContour = (m: Transform, contour: Contour): Contour => {
  const flip = determinant(m) < 0 ? -1 : 1;
  return {
    closed: contour.closed,
    vertices: contour.vertices.map((v) => {
      const p = apply(m, v);
      return v.bulge ? { ...p, bulge: v.bulge * flip } : p;
    }),
  };
};

/** The same line, run from its other end. */
export const reversedContour = ({ closed, vertices }: Contour): Contour => {
  const n = vertices.length;
  return {
    closed,
    vertices: vertices.map((_, i) => {
      const v = vertices[n - 1 - i]!;
      // A bulge belongs to the line that leaves its corner.
      const bulge = vertices[(2 * n - 2 - i) % n]!.bulge;
      return bulge && (closed || i < n - 1) ? { x: v.x, y: v.y, bulge: -bulge } : { x: v.x, y: v.y };
    }),
  };
};

/** Distance of a point from a straight line between two others, mm. */
export const distanceToSegment = (p: Vec, a: Vec, b: Vec): number => {
  const dx = b.x - a.x;
  const dy = b.y - a.y;
  const l = dx * dx + dy * dy;
  const t = l === 0 ? 0 : Math.min(1, Math.max(0, ((p.x - a.x) * dx + (p.y - a.y) * dy) / l));
  return Math.hypot(p.x - a.x - t * dx, p.y - a.y - t * dy);
};

/** Least distance of a point from a contour's line, mm. */
export const distanceToContour = (p: Vec, contour: Contour): number => {
  const points = flatten(contour, 0.002);
  let least = Infinity;
  for (let i = contour.closed ? 0 : 1; i < points.length; i += 1)
    least = Math.min(least, distanceToSegment(p, points[(i + points.length - 1) % points.length]!, points[i]!));
  return least;
};

/** Bounding box, exact for arcs. */
export const contourBox = (contour: Contour): Box => {
  let box = boxOf(contour.vertices);
  if (!contour.vertices.some((v) => v.bulge)) return box;
  eachSegment(contour, (from, to, bulge) => {
    if (bulge === 0) return;
    const { centre, radius, start, sweep } = arcOf(from, to, bulge);
    for (let quarter = 0; quarter < 4; quarter += 1) {
      const angle = (quarter * Math.PI) / 2;
      const turn = 2 * Math.PI;
      const along = sweep > 0 ? (((angle - start) % turn) + turn) % turn : (((start - angle) % turn) + turn) % turn;
      if (along <= Math.abs(sweep)) {
        const p = { x: centre.x + radius * Math.cos(angle), y: centre.y + radius * Math.sin(angle) };
        box = boxUnion(box, boxOf([p]));
      }
    }
  });
  return box;
};

export const contoursBox = (contours: readonly Contour[]): Box =>
  contours.reduce((box, contour) => boxUnion(box, contourBox(contour)), emptyBox);

/** Length of the line, mm, arcs exact. */
export const contourLength = (contour: Contour): number => {
  let total = 0;
  eachSegment(contour, (from, to, bulge) => {
    if (bulge === 0) total += Math.hypot(to.x - from.x, to.y - from.y);
    else {
      const arc = arcOf(from, to, bulge);
      total += Math.abs(arc.sweep) * arc.radius;
    }
  });
  return total;
};

/** Signed area by the shoelace rule, positive counter-clockwise. */
export const polygonArea = (points: readonly Vec[]): number => {
  let twice = 0;
  for (let i = 0, j = points.length - 1; i < points.length; j = i, i += 1) {
    twice += points[j]!.x * points[i]!.y - points[i]!.x * points[j]!.y;
  }
  return twice / 2;
};

/** Whether a point is inside, by crossing count; a point on the line may go either way. */
export const insidePolygon = (p: Vec, polygon: readonly Vec[]): boolean => {
  let inside = false;
  for (let i = 0, j = polygon.length - 1; i < polygon.length; j = i, i += 1) {
    const a = polygon[i]!;
    const b = polygon[j]!;
    if (a.y > p.y !== b.y > p.y && p.x < ((b.x - a.x) * (p.y - a.y)) / (b.y - a.y) + a.x) inside = !inside;
  }
  return inside;
};

/** Whether something comes into a disc: a contour runs through it, or areas, by the even-odd rule, lie about its middle. */
export const comesInto = (
  disc: Vec & { readonly diameter: number },
  contours: readonly Contour[],
  areas: readonly Contour[],
  by = 0.01,
): boolean => {
  const r = disc.diameter / 2 - by;
  const near = (c: Contour): boolean => {
    const { minX, minY, maxX, maxY } = contourBox(c);
    return minX < disc.x + r && maxX > disc.x - r && minY < disc.y + r && maxY > disc.y - r;
  };
  return (
    contours.some((c) => near(c) && distanceToContour(disc, c) < r) ||
    areas.filter((c) => near(c) && insidePolygon(disc, flatten(c))).length % 2 === 1
  );
};

/** A full circle as two half arcs, counter-clockwise. */
export const circle = (centre: Vec, radius: number): Contour => ({
  closed: true,
  vertices: [
    { x: centre.x + radius, y: centre.y, bulge: 1 },
    { x: centre.x - radius, y: centre.y, bulge: 1 },
  ],
});

export const polyline = (points: readonly Vec[], closed = false): Contour => ({
  closed,
  vertices: points.map((p) => ({ x: p.x, y: p.y })),
});

export const segment = (from: Vec, to: Vec): Contour => polyline([from, to]);

/** Bulge of a quarter turn, counter-clockwise. */
export const QUARTER = Math.tan(Math.PI / 8);

/** A rectangle about a centre with rounded corners, counter-clockwise. */
export const roundedRectangle = (centre: Vec, width: number, height: number, radius = 0): Contour => {
  const r = Math.max(0, Math.min(radius, width / 2, height / 2));
  const x0 = centre.x - width / 2;
  const x1 = centre.x + width / 2;
  const y0 = centre.y - height / 2;
  const y1 = centre.y + height / 2;
  if (r === 0)
    return polyline(
      [
        { x: x0, y: y0 },
        { x: x1, y: y0 },
        { x: x1, y: y1 },
        { x: x0, y: y1 },
      ],
      true,
    );
  return {
    closed: true,
    vertices: [
      { x: x0 + r, y: y0 },
      { x: x1 - r, y: y0, bulge: QUARTER },
      { x: x1, y: y0 + r },
      { x: x1, y: y1 - r, bulge: QUARTER },
      { x: x1 - r, y: y1 },
      { x: x0 + r, y: y1, bulge: QUARTER },
      { x: x0, y: y1 - r },
      { x: x0, y: y0 + r, bulge: QUARTER },
    ],
  };
};
