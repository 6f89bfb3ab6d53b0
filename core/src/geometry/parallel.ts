import type { Vec } from './vec';

/** Turns of less than this are bridged by lengthening both sides, rad: the corner stands over by less than r·t²/8. */
const SLIGHT = 0.12;
const COS_SLIGHT = Math.cos(SLIGHT);

/**
 * Whether a closed line of straight stretches crosses itself. Sides are looked up in a grid of about
 * as many squares as there are sides; coordinates lie in typed arrays, since this is asked of every
 * corner of every outline.
 */
export const crossesItself = (points: readonly Vec[]): boolean => {
  const n = points.length;
  const xs = new Float64Array(n + 1);
  const ys = new Float64Array(n + 1);
  let length = 0;
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i <= n; i += 1) {
    const p = points[i === n ? 0 : i]!;
    xs[i] = p.x;
    ys[i] = p.y;
    if (p.x < minX) minX = p.x;
    if (p.x > maxX) maxX = p.x;
    if (p.y < minY) minY = p.y;
    if (p.y > maxY) maxY = p.y;
    if (i > 0) length += Math.abs(xs[i]! - xs[i - 1]!) + Math.abs(ys[i]! - ys[i - 1]!);
  }
  const cell = Math.max((2 * length) / n, Math.sqrt(((maxX - minX) * (maxY - minY)) / n), 1e-9);
  const columns = Math.floor((maxX - minX) / cell) + 1;
  const rows = Math.floor((maxY - minY) / cell) + 1;
  // Squares as chains: the newest side in each, and for every entry the one before it.
  const newest = new Int32Array(columns * rows).fill(-1);
  let before = new Int32Array(2 * n + 64);
  let side = new Int32Array(2 * n + 64);
  let entries = 0;
  for (let i = 0; i < n; i += 1) {
    const [ax, ay, bx, by] = [xs[i]!, ys[i]!, xs[i + 1]!, ys[i + 1]!];
    const x0 = Math.floor(((ax < bx ? ax : bx) - minX) / cell);
    const x1 = Math.floor(((ax < bx ? bx : ax) - minX) / cell);
    const y0 = Math.floor(((ay < by ? ay : by) - minY) / cell);
    const y1 = Math.floor(((ay < by ? by : ay) - minY) / cell);
    for (let y = y0; y <= y1; y += 1)
      for (let x = x0; x <= x1; x += 1) {
        const at = y * columns + x;
        for (let e = newest[at]!; e >= 0; e = before[e]!) {
          const j = side[e]!;
          // Neighbours share an end.
          if (i - j <= 1 || (j === 0 && i === n - 1)) continue;
          const [cx, cy, dx, dy] = [xs[j]!, ys[j]!, xs[j + 1]!, ys[j + 1]!];
          const c = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax) > 0;
          const d = (bx - ax) * (dy - ay) - (by - ay) * (dx - ax) > 0;
          if (c === d) continue;
          const a = (dx - cx) * (ay - cy) - (dy - cy) * (ax - cx) > 0;
          const b = (dx - cx) * (by - cy) - (dy - cy) * (bx - cx) > 0;
          if (a !== b) return true;
        }
        if (entries === side.length) {
          const wider = [new Int32Array(2 * entries), new Int32Array(2 * entries)] as const;
          wider[0].set(before);
          wider[1].set(side);
          [before, side] = wider;
        }
        before[entries] = newest[at]!;
        side[entries] = i;
        newest[at] = entries;
        entries += 1;
      }
  }
  return false;
};

/**
 * A closed line grown (positive) or shrunk (negative) by `by`, corners rounded, where nothing of it
 * vanishes or meets: every side moved along its normal, joined by an arc or where they now cross.
 * A line that is simple afterwards, and none of whose sides was turned round, is the whole offset.
 *
 * @param tolerance greatest distance between an arc and its chords
 * @returns null where sides vanish or meet: that takes a general clipper
 */
export const parallelLine = (points: readonly Vec[], by: number, tolerance: number): Vec[] | null => {
  const xs = new Float64Array(points.length);
  const ys = new Float64Array(points.length);
  let n = 0;
  for (const { x, y } of points)
    if (n === 0 || x !== xs[n - 1] || y !== ys[n - 1]) {
      xs[n] = x;
      ys[n] = y;
      n += 1;
    }
  if (n > 1 && xs[0] === xs[n - 1] && ys[0] === ys[n - 1]) n -= 1;
  if (n < 3) return null;
  let twice = 0;
  for (let i = 0, j = n - 1; i < n; j = i, i += 1) twice += xs[j]! * ys[i]! - xs[i]! * ys[j]!;
  const out = twice > 0 ? 1 : -1;
  // Normals of the sides, and the sum of how far each end of a side moved along it, by side.
  const nx = new Float64Array(n);
  const ny = new Float64Array(n);
  const run = new Float64Array(n);
  for (let i = 0; i < n; i += 1) {
    const j = i + 1 === n ? 0 : i + 1;
    const dx = xs[j]! - xs[i]!;
    const dy = ys[j]! - ys[i]!;
    const l = Math.sqrt(dx * dx + dy * dy);
    nx[i] = (out * dy) / l;
    ny[i] = (-out * dx) / l;
    run[i] = l;
  }
  const moved: Vec[] = [];
  const step = 2 * Math.acos(Math.max(-1, 1 - tolerance / Math.max(Math.abs(by), tolerance)));
  for (let i = 0; i < n; i += 1) {
    const px = xs[i]!;
    const py = ys[i]!;
    const h = i === 0 ? n - 1 : i - 1;
    const cos = nx[h]! * nx[i]! + ny[h]! * ny[i]!;
    const sin = nx[h]! * ny[i]! - ny[h]! * nx[i]!;
    if (sin * out * by > 0 && cos < COS_SLIGHT) {
      const turn = Math.atan2(sin, cos);
      const count = Math.max(1, Math.ceil(Math.abs(turn) / step));
      const from = Math.atan2(ny[h]!, nx[h]!);
      for (let k = 0; k <= count; k += 1) {
        const angle = from + (turn * k) / count;
        moved.push({ x: px + by * Math.cos(angle), y: py + by * Math.sin(angle) });
      }
      continue;
    }
    // A turn back on itself has no crossing to go to.
    if (cos < -0.99) return null;
    const k = by / (1 + cos);
    const x = k * (nx[h]! + nx[i]!);
    const y = k * (ny[h]! + ny[i]!);
    moved.push({ x: px + x, y: py + y });
    // Along a side runs its normal turned by a quarter.
    run[h]! += out * (-ny[h]! * x + nx[h]! * y);
    run[i]! -= out * (-ny[i]! * x + nx[i]! * y);
  }
  // A side that would be turned round has vanished.
  for (let i = 0; i < n; i += 1) if (run[i]! <= 0) return null;
  return crossesItself(moved) ? null : moved;
};
