import type { ZonePicture } from '../picture';
import { contourBox, eachSegment, flatten, polyline, type Box, type Contour, type Vec } from '../geometry';
import type { Mm } from '../units';

/** What the beam does along a contour of long work. */
export type LongKind = 'fill' | 'line' | 'cut';

/** One shape of long work, in the work's frame: x along its length from one end, y across, mm. */
export interface LongShape {
  readonly kind: LongKind;
  readonly contour: Contour;
  /** Goes by another recipe than the batch’s. */
  readonly recipeId?: string;
  /** A picture in this rim, work's frame: its dots are burned of it, not its area, and no seam goes through it. */
  readonly picture?: ZonePicture;
}

/** A shape with what the search asks of it again and again. */
export interface MeasuredShape extends LongShape {
  readonly box: Box;
}

export const measureShapes = (shapes: readonly LongShape[]): MeasuredShape[] =>
  shapes.map((s) => ({ ...s, box: contourBox(s.contour) }));

/** Calls back with every straight stretch of a contour, arcs as chords. */
export const eachChord = (contour: Contour, visit: (a: Vec, b: Vec) => void): void => {
  if (contour.vertices.every((v) => !v.bulge)) {
    eachSegment(contour, visit);
    return;
  }
  const points = flatten(contour, 0.02);
  for (let i = 1; i < points.length; i += 1) visit(points[i - 1]!, points[i]!);
  if (contour.closed && points.length > 1) visit(points[points.length - 1]!, points[0]!);
};

/** Where a straight line crosses the plane at x. */
const at = (a: Vec, b: Vec, x: Mm): Vec => ({ x, y: a.y + ((x - a.x) / (b.x - a.x)) * (b.y - a.y) });

/** Heights at which a seam at x meets the shapes, ascending, mm. */
export const crossingsAt = (shapes: readonly MeasuredShape[], x: Mm): Mm[] => {
  const found: Mm[] = [];
  for (const { box, contour } of shapes)
    if (box.minX < x && box.maxX > x)
      eachChord(contour, (a, b) => {
        if (a.x < x !== b.x < x) found.push(at(a, b, x).y);
      });
  return found.sort((p, q) => p - q);
};

/** The part of a straight-sided polygon on one side of x. Edges along x are left in: they enclose nothing. */
const halfPlane = (points: readonly Vec[], x: Mm, side: 1 | -1): Vec[] => {
  const out: Vec[] = [];
  points.forEach((b, i) => {
    const a = points[(i + points.length - 1) % points.length]!;
    const inA = side * (a.x - x) >= 0;
    const inB = side * (b.x - x) >= 0;
    if (inA !== inB) out.push(at(a, b, x));
    if (inB) out.push(b);
  });
  return out;
};

/** The pieces of a line inside a strip, its crossings as ends; never joined along the strip's edges. */
const insideStrip = (points: readonly Vec[], closed: boolean, from: Mm, to: Mm): Vec[][] => {
  const pieces: Vec[][] = [];
  let piece: Vec[] = [];
  const end = (): void => {
    if (piece.length > 1) pieces.push(piece);
    piece = [];
  };
  const n = closed ? points.length : points.length - 1;
  for (let i = 0; i < n; i += 1) {
    const a = points[i]!;
    const b = points[(i + 1) % points.length]!;
    const dx = b.x - a.x;
    let t0 = 0;
    let t1 = 1;
    if (dx === 0) {
      if (a.x < from || a.x > to) {
        end();
        continue;
      }
    } else {
      const u = (from - a.x) / dx;
      const v = (to - a.x) / dx;
      t0 = Math.max(0, Math.min(u, v));
      t1 = Math.min(1, Math.max(u, v));
      if (t0 >= t1) {
        end();
        continue;
      }
    }
    const p = (t: number): Vec => (t === 0 ? a : t === 1 ? b : { x: a.x + t * dx, y: a.y + t * (b.y - a.y) });
    if (t0 > 0) end();
    if (piece.length === 0) piece.push(p(t0));
    piece.push(p(t1));
    if (t1 < 1) end();
  }
  end();
  const first = pieces[0];
  const last = pieces[pieces.length - 1];
  const start = points[0]!;
  // A closed line that begins inside the strip was cut open at its first point: put it together again.
  if (closed && first && last && first !== last && first[0] === start && last[last.length - 1] === start) {
    pieces.shift();
    pieces[pieces.length - 1] = [...last, ...first.slice(1)];
  }
  return pieces;
};

/**
 * The part of a shape that lies between two seams. Lines and cuts are opened there and never closed
 * along the seam; filled shapes are cut off straight. Shapes that cross neither seam stay as they
 * are, arcs and all.
 */
export const betweenSeams = (shape: MeasuredShape, from: Mm, to: Mm): LongShape[] => {
  const { box, contour, kind, recipeId } = shape;
  const its = recipeId === undefined ? { kind } : { kind, recipeId };
  if (box.maxX <= from || box.minX >= to) return [];
  if (box.minX >= from && box.maxX <= to) return [{ ...its, contour }];
  const points = flatten(contour, 0.005);
  if (kind === 'fill') {
    const rest = halfPlane(halfPlane(points, from, 1), to, -1);
    return rest.length < 3 ? [] : [{ ...its, contour: polyline(rest, true) }];
  }
  return insideStrip(points, contour.closed, from, to).map((piece) => ({ ...its, contour: polyline(piece) }));
};
