import type { Vec } from './vec';

/** Turns of less than this are bridged by lengthening both sides, rad: the corner stands over by less than r·t²/8. */
const SLIGHT = 0.12;
const COS_SLIGHT = Math.cos(SLIGHT);

/** Pairs of sides that are compared for every side before a line counts as lying on itself. */
const MOST_PAIRS = 400;

/**
 * Whether a closed line of straight stretches crosses itself. A line that lies on itself many times over, or so
 * densely beside itself that it cannot be told in reasonable time, counts as crossing. Sides are looked up in a grid of about
 * as many squares as there are sides; coordinates lie in typed arrays, since this is asked of every
 * corner of every outline.
 */
export const crossesItself = (points: readonly Vec[]): boolean => {
  const n = points.length;
  const xs = new Float64Array(n + 1);
  const ys = new Float64Array(n + 1);
  points.forEach((p, i) => {
    xs[i] = p.x;
    ys[i] = p.y;
  });
  return sidesCross(xs, ys, n);
};

/** The same for coordinates in arrays with room for one more, which the first is copied to. */
const sidesCross = (xs: Float64Array, ys: Float64Array, n: number): boolean => {
  xs[n] = xs[0]!;
  ys[n] = ys[0]!;
  let length = 0;
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < n; i += 1) {
    const x = xs[i]!;
    const y = ys[i]!;
    if (x < minX) minX = x;
    if (x > maxX) maxX = x;
    if (y < minY) minY = y;
    if (y > maxY) maxY = y;
    length += Math.abs(xs[i + 1]! - x) + Math.abs(ys[i + 1]! - y);
  }
  const cell = Math.max((2 * length) / n, Math.sqrt(((maxX - minX) * (maxY - minY)) / n), 1e-9);
  const scale = 1 / cell;
  const columns = (((maxX - minX) * scale) | 0) + 1;
  const rows = (((maxY - minY) * scale) | 0) + 1;
  // Squares as chains: the newest side in each, and for every entry the one before it.
  const newest = new Int32Array(columns * rows).fill(-1);
  let before = new Int32Array(2 * n + 64);
  let side = new Int32Array(2 * n + 64);
  let entries = 0;
  let pairs = MOST_PAIRS * n;
  for (let i = 0; i < n; i += 1) {
    const ax = xs[i]!;
    const ay = ys[i]!;
    const bx = xs[i + 1]!;
    const by = ys[i + 1]!;
    const x0 = (((ax < bx ? ax : bx) - minX) * scale) | 0;
    const x1 = (((ax < bx ? bx : ax) - minX) * scale) | 0;
    const y0 = (((ay < by ? ay : by) - minY) * scale) | 0;
    const y1 = (((ay < by ? by : ay) - minY) * scale) | 0;
    for (let y = y0; y <= y1; y += 1)
      for (let x = x0; x <= x1; x += 1) {
        const at = y * columns + x;
        for (let e = newest[at]!; e >= 0; e = before[e]!) {
          const j = side[e]!;
          pairs -= 1;
          if (pairs < 0) return true;
          // Neighbours share an end.
          if (i - j <= 1 || (j === 0 && i === n - 1)) continue;
          const cx = xs[j]!;
          const cy = ys[j]!;
          const dx = xs[j + 1]!;
          const dy = ys[j + 1]!;
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
  let mx = new Float64Array(n + 64);
  let my = new Float64Array(n + 64);
  let count = 0;
  const add = (x: number, y: number): void => {
    // One is left free for the first to be copied to.
    if (count + 1 >= mx.length) {
      const wider = [new Float64Array(2 * mx.length), new Float64Array(2 * mx.length)] as const;
      wider[0].set(mx);
      wider[1].set(my);
      [mx, my] = wider;
    }
    mx[count] = x;
    my[count] = y;
    count += 1;
  };
  const step = 2 * Math.acos(Math.max(-1, 1 - tolerance / Math.max(Math.abs(by), tolerance)));
  for (let i = 0; i < n; i += 1) {
    const px = xs[i]!;
    const py = ys[i]!;
    const h = i === 0 ? n - 1 : i - 1;
    const cos = nx[h]! * nx[i]! + ny[h]! * ny[i]!;
    const sin = nx[h]! * ny[i]! - ny[h]! * nx[i]!;
    if (sin * out * by > 0 && cos < COS_SLIGHT) {
      const turn = Math.atan2(sin, cos);
      const parts = Math.max(1, Math.ceil(Math.abs(turn) / step));
      const from = Math.atan2(ny[h]!, nx[h]!);
      for (let k = 0; k <= parts; k += 1) {
        const angle = from + (turn * k) / parts;
        add(px + by * Math.cos(angle), py + by * Math.sin(angle));
      }
      continue;
    }
    // A turn back on itself has no crossing to go to.
    if (cos < -0.99) return null;
    const k = by / (1 + cos);
    const x = k * (nx[h]! + nx[i]!);
    const y = k * (ny[h]! + ny[i]!);
    add(px + x, py + y);
    // Along a side runs its normal turned by a quarter.
    run[h]! += out * (-ny[h]! * x + nx[h]! * y);
    run[i]! -= out * (-ny[i]! * x + nx[i]! * y);
  }
  // A side that would be turned round has vanished.
  for (let i = 0; i < n; i += 1) if (run[i]! <= 0) return null;
  if (sidesCross(mx, my, count)) return null;
  const moved: Vec[] = [];
  for (let i = 0; i < count; i += 1) moved.push({ x: mx[i]!, y: my[i]! });
  return moved;
};
