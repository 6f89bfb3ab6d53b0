import type { Mm } from '../units';
import type { Ink } from './ink';
import type { Ring } from './rings';

/** Dots looked at on either side of an edge. */
const REACH = 12;

/**
 * How wide the edges of a print are in its picture: across the outer lines, the distance in which
 * the ink goes from a tenth to nine tenths of what it is inside; the middle value of many places.
 * A sharp scan has one to two dots.
 *
 * @returns dots
 */
export const edgeWidth = ({ width, height, data }: Ink, rings: readonly Ring[]): number => {
  const widths: number[] = [];
  const stride = width + 2;
  const at = (x: number, y: number): number =>
    x < -1 || y < -1 || x > width || y > height ? 0 : data[(y + 1) * stride + x + 1]!;
  const total = rings.reduce((s, r) => s + r.points.length / 2, 0);
  const every = Math.max(1, Math.floor(total / 4_000));
  let count = 0;
  for (const { points } of rings)
    for (let i = 0; i + 5 < points.length; i += 2) {
      count += 1;
      if (count % every !== 0) continue;
      // Steps along the axis that the edge is most across to, so that no dot lies between dots.
      const dx = points[i + 4]! - points[i]!;
      const dy = points[i + 5]! - points[i + 1]!;
      const [px, py] = [Math.floor(points[i + 2]!), Math.floor(points[i + 3]!)];
      const along = Math.abs(dy) >= Math.abs(dx);
      const slant = Math.max(Math.abs(dx), Math.abs(dy)) / Math.max(1e-9, Math.hypot(dx, dy));
      const profile: number[] = [];
      for (let k = -REACH; k <= REACH; k += 1) profile.push(along ? at(px + k, py) : at(px, py + k));
      if (profile[0]! > profile[2 * REACH]!) profile.reverse();
      const low = Math.min(...profile.slice(0, REACH + 1));
      const high = Math.max(...profile.slice(REACH));
      if (high - low < 10) continue;
      // Where half the ink is met nearest to the edge; from there outwards, so that other print nearby is left alone.
      const half = (low + high) / 2;
      let m = -1;
      for (let k = 0; k < 2 * REACH; k += 1)
        if (profile[k]! < half && profile[k + 1]! >= half && (m < 0 || Math.abs(k - REACH) < Math.abs(m - REACH)))
          m = k;
      if (m < 0) continue;
      let from = m;
      let to = m + 1;
      const tenth = low + 0.1 * (high - low);
      const most = low + 0.9 * (high - low);
      while (from > 0 && profile[from]! > tenth) from -= 1;
      while (to < 2 * REACH && profile[to]! < most) to += 1;
      const between = (k: number, v: number): number => k + (v - profile[k]!) / (profile[k + 1]! - profile[k]!);
      const start = profile[from]! <= tenth ? between(from, tenth) : from;
      const end = profile[to]! >= most ? between(to - 1, most) : to;
      widths.push(Math.max(0, end - start) * slant);
    }
  widths.sort((a, b) => a - b);
  return widths[widths.length >> 1] ?? 0;
};

/**
 * Standard uncertainty of where an edge was found, per axis: a dot's share, and a tenth of the
 * blur's width since nobody knows at which level of it the print ends [assumed].
 */
export const edgeUncertainty = (dot: Mm, edge: Mm): Mm => Math.hypot(dot / Math.sqrt(12), edge / 10);
