import {
  apply,
  boxOf,
  flatten,
  offsetContours,
  polygonArea,
  polyline,
  rotation,
  simplifyContour,
  type Vec,
} from '../geometry';
import type { Mm } from '../units';

/** How columns of parts follow each other along a strip: cycled through, first to last. */
export interface ColumnStep {
  /** From this column to the next, mm. */
  readonly pitch: Mm;
  /** Turned by half a turn. */
  readonly half: boolean;
}

/** Outlines are taken this much simpler than they are drawn, on the safe side, mm. */
const SAFE: Mm = 0.05;

/** An outline grown by half a gap, so that two of them that touch lie a gap apart. */
const grown = (outline: readonly Vec[], gap: Mm): Vec[] =>
  offsetContours([polyline(outline, true)], gap / 2 + 2 * SAFE)
    .map((c) => flatten(simplifyContour(c, SAFE), SAFE))
    .sort((a, b) => Math.abs(polygonArea(b)) - Math.abs(polygonArea(a)))[0] ?? [...outline];

/** Farthest x of a polygon at a height, right or left; null where it has none. */
const reachAt = (polygon: readonly Vec[], y: number, side: 1 | -1): number | null => {
  let far: number | null = null;
  for (let i = 0; i < polygon.length; i += 1) {
    const a = polygon[i]!;
    const b = polygon[(i + 1) % polygon.length]!;
    if ((a.y > y && b.y > y) || (a.y < y && b.y < y)) continue;
    const x =
      a.y === b.y
        ? side === 1
          ? Math.max(a.x, b.x)
          : Math.min(a.x, b.x)
        : a.x + ((y - a.y) / (b.y - a.y)) * (b.x - a.x);
    if (far === null || side * x > side * far) far = x;
  }
  return far;
};

/**
 * How near two outlines can follow each other along the feed: what the first reaches to the right and
 * the second to the left, at the height where they meet first. Hooks count as filled, which is safe.
 */
const follow = (a: readonly Vec[], b: readonly Vec[]): Mm => {
  const boxA = boxOf(a);
  const boxB = boxOf(b);
  const [low, high] = [Math.max(boxA.minY, boxB.minY), Math.min(boxA.maxY, boxB.maxY)];
  let most = 0;
  // Both reaches are straight between corners: the greatest sum lies at one.
  for (const { y } of [...a, ...b])
    for (const at of [y - 1e-7, y, y + 1e-7]) {
      if (at < low || at > high) continue;
      const right = reachAt(a, at, 1);
      const left = reachAt(b, at, -1);
      if (right !== null && left !== null) most = Math.max(most, right - left);
    }
  return most;
};

/**
 * The closest way for equal parts to follow each other along a strip: straight one after the other, or
 * every second one turned by half a turn, whichever takes less.
 *
 * @param outline as it lies on the strip, its box about the origin, mm
 * @param gap free between neighbours, measured square to their edges, mm
 * @example closestSteps(arrow, 2) // each point in the notch of the one before
 */
export const closestSteps = (outline: readonly Vec[], gap: Mm): readonly ColumnStep[] => {
  const half = rotation(Math.PI);
  const a = grown(outline, gap);
  const b = grown(
    outline.map((p) => apply(half, p)),
    gap,
  );
  const straight = follow(a, a);
  const there = follow(a, b);
  const turnedOnes = follow(b, b);
  // Two columns on, parts must not meet either.
  const back = Math.max(follow(b, a), straight - there, turnedOnes - there);
  return there + back < 2 * straight - 0.01
    ? [
        { pitch: there, half: false },
        { pitch: back, half: true },
      ]
    : [{ pitch: straight, half: false }];
};
