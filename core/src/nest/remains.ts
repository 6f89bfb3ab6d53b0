import {
  apply,
  boxOf,
  centroid,
  flatten,
  insidePolygon,
  offsetContours,
  polygonArea,
  polyline,
  rigid,
  simplifyContour,
  subtractContours,
  type Vec,
} from '../geometry';
import type { Mm, Rad } from '../units';
import type { Offcut } from './nest';

/** A part where it was cut, stock's frame. */
export interface CutPartPlace {
  readonly outline: readonly Vec[];
  readonly x: Mm;
  readonly y: Mm;
  readonly angle: Rad;
}

/** Remains narrower than twice this, or smaller than so many square millimetres, are scrap. */
const NARROW: Mm = 8;
const LEAST_AREA = 1_500;
/** Corners of a remainder lie within this of where they were cut, on the safe side, mm. */
const SIMPLE: Mm = 0.4;

/** A stock's outline less its defects, in square millimetres. */
export const stockArea = ({ outline, defects }: Offcut): number =>
  Math.abs(polygonArea(outline)) - defects.reduce((s, d) => s + Math.abs(polygonArea(d)), 0);

/**
 * What is left of stock when parts were cut from it and is worth keeping: outlines with their holes
 * and knots, narrow necks and small bits left out. Moved so that each begins at its own corner.
 *
 * @param kerf of the cut round each part, mm
 */
export const remainsOf = (stock: readonly Offcut[], parts: readonly CutPartPlace[], kerf: Mm): Offcut[] => {
  const cut = parts.map((p) => {
    const m = rigid(p.angle, p.x, p.y);
    return polyline(
      p.outline.map((v) => apply(m, v)),
      true,
    );
  });
  const grown = offsetContours(cut, kerf);
  return stock.flatMap(({ outline, defects }) => {
    const left = subtractContours([polyline(outline, true)], grown);
    // Opened by half the narrowest worth having: necks fall away, what stays keeps its size.
    const thin = offsetContours(left, -NARROW);
    const kept = offsetContours(thin, NARROW - SIMPLE).map((c) => flatten(simplifyContour(c, SIMPLE), 0.05));
    const outer = kept.filter((c) => polygonArea(c) > 0);
    const holes = kept.filter((c) => polygonArea(c) < 0);
    return outer
      .filter((c) => polygonArea(c) >= LEAST_AREA)
      .map((c): Offcut => {
        const box = boxOf(c);
        const move = (points: readonly Vec[]): Vec[] => points.map((p) => ({ x: p.x - box.minX, y: p.y - box.minY }));
        return {
          outline: move(c),
          defects: [...holes, ...defects].filter((d) => d.some((p) => insidePolygon(p, c))).map(move),
        };
      });
  });
};

/**
 * Stock with places that are spent: each outline becomes a defect of the piece of stock that it lies
 * on, so that nothing is laid there again.
 */
export const spendStock = <T extends Offcut>(stock: readonly T[], spent: readonly (readonly Vec[])[]): T[] =>
  stock.map((o) => {
    const here = spent.filter((s) => insidePolygon(centroid(s), o.outline));
    return here.length === 0 ? o : { ...o, defects: [...o.defects, ...here] };
  });

/** Whether a part lies over a defect: a corner of one inside the other, or edges that cross. */
export const liesOver = (part: readonly Vec[], defect: readonly Vec[]): boolean =>
  part.some((p) => insidePolygon(p, defect)) ||
  defect.some((p) => insidePolygon(p, part)) ||
  part.some((a, i) => {
    const b = part[(i + 1) % part.length]!;
    return defect.some((c, k) => segmentsCross(a, b, c, defect[(k + 1) % defect.length]!));
  });

const side = (a: Vec, b: Vec, p: Vec): number => (b.x - a.x) * (p.y - a.y) - (b.y - a.y) * (p.x - a.x);
const segmentsCross = (a: Vec, b: Vec, c: Vec, d: Vec): boolean =>
  side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0;
