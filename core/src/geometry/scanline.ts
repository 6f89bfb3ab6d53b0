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
  const order = Array.from({ length: edges.count }, (_, i) => i).sort((i, j) => edges.bottom[i]! - edges.bottom[j]!);
  const rows: ScanRow[] = [];
  let active: number[] = [];
  let next = 0;
  let row = Math.ceil(edges.bottom[order[0]!]! / interval);
  while (next < order.length || active.length > 0) {
    const y = row * interval;
    while (next < order.length && edges.bottom[order[next]!]! <= y) active.push(order[next++]!);
    active = active.filter((i) => edges.top[i]! > y);
    if (active.length === 0) {
      if (next >= order.length) break;
      row = Math.max(row + 1, Math.ceil(edges.bottom[order[next]!]! / interval));
      continue;
    }
    const crossings = active
      .map((i) => ({ x: edges.xAtBottom[i]! + (y - edges.bottom[i]!) * edges.slope[i]!, wind: edges.wind[i]! }))
      .sort((a, b) => a.x - b.x);
    const spans: number[] = [];
    let winding = 0;
    for (const { x, wind } of crossings) {
      const before = winding;
      winding += wind;
      if (before === 0) {
        if (spans.length > 0 && x - spans[spans.length - 1]! < 1e-6) spans.pop();
        else spans.push(x);
      } else if (winding === 0) spans.push(x);
    }
    const solid: number[] = [];
    for (let i = 0; i + 1 < spans.length; i += 2) {
      if (spans[i + 1]! - spans[i]! > 1e-6) solid.push(spans[i]!, spans[i + 1]!);
    }
    if (solid.length > 0) rows.push({ y, spans: solid });
    row += 1;
  }
  return rows;
};
