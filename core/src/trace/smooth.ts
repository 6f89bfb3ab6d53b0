import { type Vec } from '../geometry';
import type { Mm } from '../units';

/**
 * A closed line as points at equal steps along it.
 * @param step wanted, mm; the real one divides the line evenly
 */
export const evenly = (points: readonly Vec[], step: Mm): Vec[] => {
  const n = points.length;
  const ends = new Float64Array(n + 1);
  for (let i = 0; i < n; i += 1) {
    const a = points[i]!;
    const b = points[(i + 1) % n]!;
    ends[i + 1] = ends[i]! + Math.hypot(b.x - a.x, b.y - a.y);
  }
  const length = ends[n]!;
  const count = Math.max(8, Math.round(length / step));
  const out: Vec[] = [];
  let k = 0;
  for (let i = 0; i < count; i += 1) {
    const at = (length * i) / count;
    while (k < n - 1 && ends[k + 1]! <= at) k += 1;
    const a = points[k]!;
    const b = points[(k + 1) % n]!;
    const span = ends[k + 1]! - ends[k]!;
    const t = span === 0 ? 0 : (at - ends[k]!) / span;
    out.push({ x: a.x + t * (b.x - a.x), y: a.y + t * (b.y - a.y) });
  }
  return out;
};

/**
 * A closed line with its roughness taken out: every point becomes the mean of its neighbours along
 * the line, weighed by a normal curve. A circle of radius r shrinks by about σ²/2r.
 *
 * @param points a closed line, mm
 * @param sigma of the weights along the line, mm; 0 leaves it as it is
 */
export const smoothed = (points: readonly Vec[], sigma: Mm): Vec[] => {
  if (sigma <= 0 || points.length < 8) return [...points];
  const even = evenly(points, sigma / 2);
  const n = even.length;
  const reach = Math.min(6, Math.floor((n - 1) / 2));
  const weights = Array.from({ length: reach + 1 }, (_, k) => Math.exp(-((k / 2) ** 2) / 2));
  const total = weights[0]! + 2 * weights.slice(1).reduce((s, w) => s + w, 0);
  return even.map((p, i) => {
    let x = p.x * weights[0]!;
    let y = p.y * weights[0]!;
    for (let k = 1; k <= reach; k += 1) {
      const a = even[(i + k) % n]!;
      const b = even[(i - k + n) % n]!;
      x += weights[k]! * (a.x + b.x);
      y += weights[k]! * (a.y + b.y);
    }
    return { x: x / total, y: y / total };
  });
};
