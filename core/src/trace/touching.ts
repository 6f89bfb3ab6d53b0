import { boxOf, flatten, offsetContours, polygonArea, polyline, simplifyContour, type Vec } from '../geometry';
import type { Mm } from '../units';

/** How near the outline is looked at, mm. */
const ROUGHLY: Mm = 0.03;
/** A part of less than this share of a shape is a spike, not a piece. */
const LEAST_SHARE = 0.1;

/**
 * The parts of an outline that hang together only by necks narrower than given: it is drawn in by
 * half the neck, and what falls apart is let out again.
 *
 * @returns one part, the outline itself, when nothing falls apart
 */
export const partsAtNecks = (points: readonly Vec[], neck: Mm): Vec[][] => {
  const whole = [[...points]];
  const box = boxOf(points);
  if (neck <= 0 || Math.min(box.maxX - box.minX, box.maxY - box.minY) < 2 * neck) return whole;
  // Every corner costs; necks are told as well from few.
  const plain = simplifyContour(polyline(points, true), ROUGHLY);
  const cores = offsetContours([plain], -neck / 2).filter(
    (c) => Math.abs(polygonArea(flatten(c))) > LEAST_SHARE * Math.abs(polygonArea(points)),
  );
  if (cores.length < 2) return whole;
  return cores.flatMap((core) => offsetContours([core], neck / 2).map((c) => flatten(c)));
};
