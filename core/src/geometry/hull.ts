import { cross, sub, type Vec } from './vec';

/**
 * Convex hull, counter-clockwise, without points on its edges (Andrew's monotone chain, 1979).
 * @example convexHull([{x:0,y:0},{x:2,y:0},{x:1,y:1},{x:1,y:3}]) // the triangle
 */
export const convexHull = (points: readonly Vec[]): Vec[] => {
  const sorted = [...points].sort((a, b) => a.x - b.x || a.y - b.y);
  const chain = (list: readonly Vec[]): Vec[] => {
    const out: Vec[] = [];
    for (const p of list) {
      while (
        out.length >= 2 &&
        cross(sub(out[out.length - 1]!, out[out.length - 2]!), sub(p, out[out.length - 1]!)) <= 0
      )
        out.pop();
      out.push(p);
    }
    out.pop();
    return out;
  };
  if (sorted.length < 3) return sorted;
  return [...chain(sorted), ...chain([...sorted].reverse())];
};
