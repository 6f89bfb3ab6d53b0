import type { Vec } from './vec';

/** Filled stretches of horizontal lines: `rows[i]` holds y, `spans` holds pairs x0, x1. */
export interface ScanRow {
  readonly y: number;
  /** Pairs of x, ascending: from, to, from, to, … mm. */
  readonly spans: readonly number[];
}

interface Edges {
  readonly top: Float64Array;
  readonly bottom: Float64Array;
  readonly xAtBottom: Float64Array;
  readonly slope: Float64Array;
  readonly wind: Int8Array;
  readonly count: number;
}

const collectEdges = (polygons: readonly (readonly Vec[])[]): Edges => {
  let size = 0;
  for (const polygon of polygons) size += polygon.length;
  const top = new Float64Array(size);
  const bottom = new Float64Array(size);
  const xAtBottom = new Float64Array(size);
  const slope = new Float64Array(size);
  const wind = new Int8Array(size);
  let count = 0;
  for (const polygon of polygons) {
    for (let i = 0, j = polygon.length - 1; i < polygon.length; j = i, i += 1) {
      const a = polygon[j]!;
      const b = polygon[i]!;
      if (a.y === b.y) continue;
      const up = b.y > a.y;
      const low = up ? a : b;
      const high = up ? b : a;
      bottom[count] = low.y;
      top[count] = high.y;
      xAtBottom[count] = low.x;
      slope[count] = (high.x - low.x) / (high.y - low.y);
      wind[count] = up ? 1 : -1;
      count += 1;
    }
  }
  return { top, bottom, xAtBottom, slope, wind, count };
};

/**
 * Fills closed polygons (non-zero winding rule) with horizontal lines on a fixed grid of y, so that
 * neighbouring shapes share the same lines.
 *
 * @param polygons closed, first point not repeated, mm
 * @param interval distance between lines, mm, above 0
 * @returns rows with at least one span, from low y to high y
 */
export const scanFill = (polygons: readonly (readonly Vec[])[], interval: number): ScanRow[] => {
  const edges = collectEdges(polygons);
  if (edges.count === 0) return [];
  const { bottom, top, xAtBottom, slope, wind } = edges;
  const order = new Int32Array(edges.count).map((_, i) => i).sort((i, j) => bottom[i]! - bottom[j]!);
  const rows: ScanRow[] = [];
  const active = new Int32Array(edges.count);
  const xs = new Float64Array(edges.count);
  const ws = new Int8Array(edges.count);
  let live = 0;
  let next = 0;
  let row = Math.ceil(bottom[order[0]!]! / interval);
  while (next < order.length || live > 0) {
    const y = row * interval;
    while (next < order.length && bottom[order[next]!]! <= y) active[live++] = order[next++]!;
    // Drop edges that ended, and sort the crossings by insertion as they are found: there are few.
    let kept = 0;
    for (let k = 0; k < live; k += 1) {
      const edge = active[k]!;
      if (top[edge]! <= y) continue;
      const x = xAtBottom[edge]! + (y - bottom[edge]!) * slope[edge]!;
      let at = kept;
      while (at > 0 && xs[at - 1]! > x) {
        xs[at] = xs[at - 1]!;
        ws[at] = ws[at - 1]!;
        at -= 1;
      }
      xs[at] = x;
      ws[at] = wind[edge]!;
      active[kept++] = edge;
    }
    live = kept;
    if (live === 0) {
      if (next >= order.length) break;
      row = Math.max(row + 1, Math.ceil(bottom[order[next]!]! / interval));
      continue;
    }
    const spans = solidSpans(xs, ws, live);
    if (spans.length > 0) rows.push({ y, spans });
    row += 1;
  }
  return rows;
};

/** Stretches where the winding number is not nought; touching ones joined, empty ones left out. */
const solidSpans = (xs: Float64Array, ws: Int8Array, count: number): number[] => {
  const spans: number[] = [];
  let winding = 0;
  for (let k = 0; k < count; k += 1) {
    const before = winding;
    winding += ws[k]!;
    const x = xs[k]!;
    if (before === 0) {
      if (spans.length > 0 && x - spans[spans.length - 1]! < 1e-6) spans.pop();
      else spans.push(x);
    } else if (winding === 0) {
      if (x - spans[spans.length - 1]! > 1e-6) spans.push(x);
      else spans.pop();
    }
  }
  return spans;
};
