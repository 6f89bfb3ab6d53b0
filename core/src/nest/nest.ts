import { seeded } from '../budget';
import { flatten, offsetContours, polygonArea, polyline, rigid, apply, boxOf, type Vec } from '../geometry';
import { fail, ok, type Result } from '../result';
import type { Mm, Rad, Share } from '../units';
import { Bits, maskOf, type Mask } from './bits';

/** A piece of stock: what is left of a board, with places that must not be used. */
export interface Offcut {
  readonly outline: readonly Vec[];
  /** Holes, knots, used places. */
  readonly defects: readonly (readonly Vec[])[];
}

/** A part to be cut, as often as it is wanted; its own frame. */
export interface NestPart {
  readonly outline: readonly Vec[];
  readonly count: number;
}

export interface NestRules {
  /** Free between parts, mm; kerf included. */
  readonly gap: Mm;
  /** Turns that the grain allows. */
  readonly turns: readonly Rad[];
  /** Size of the cells that places are tried on at first, mm; half of it from the third try on. */
  readonly cell: Mm;
}

/** Turns that lay a part along the grain, or any quarter. */
export const ALONG_GRAIN: readonly Rad[] = [0, Math.PI];
export const ANY_QUARTER: readonly Rad[] = [0, Math.PI / 2, Math.PI, -Math.PI / 2];

export interface Laid {
  readonly part: number;
  readonly offcut: number;
  readonly x: Mm;
  readonly y: Mm;
  readonly angle: Rad;
}

export interface Nesting {
  readonly laid: readonly Laid[];
  /** Parts that found no place, by kind. */
  readonly left: readonly number[];
  /** Area of parts over the area of the stock that is used, each piece of stock up to its last part. */
  readonly density: Share;
  /** How many orders were tried. */
  readonly tries: number;
}

/** Half a cell's diagonal: a point is at most so far from the middle of its cell. */
const HALF = Math.SQRT1_2;

const grown = (outline: readonly Vec[], by: Mm): Vec[] => {
  const made = offsetContours([polyline(outline, true)], by);
  const points = made
    .map((c) => flatten(c, 0.05))
    .sort((a, b) => Math.abs(polygonArea(b)) - Math.abs(polygonArea(a)))[0];
  return points ?? [...outline];
};

interface Turned {
  readonly angle: Rad;
  /** Cells that the part itself touches, and those its gap reaches. */
  readonly solid: Mask;
  readonly wide: Mask;
}

interface Field {
  readonly x: number;
  readonly y: number;
  readonly busy: Bits;
  readonly width: number;
  readonly height: number;
}

/** Cells of a piece of stock that may not be touched: beyond its outline, and defects. */
const fieldOf = ({ outline, defects }: Offcut, cell: Mm): Field => {
  const inner = grown(outline, -HALF * cell);
  const box = boxOf(outline);
  const x = Math.floor(box.minX / cell);
  const y = Math.floor(box.minY / cell);
  const width = Math.ceil(box.maxX / cell) - x;
  const height = Math.ceil(box.maxY / cell) - y;
  const free = new Bits(width, height);
  const mask = maskOf([inner], cell);
  free.stamp(mask.bits, mask.x - x, mask.y - y);
  const busy = new Bits(width, height);
  for (let row = 0; row < height; row += 1)
    for (let column = 0; column < width; column += 1) if (!free.has(column, row)) busy.set(column, row);
  for (const d of defects) {
    const m = maskOf([grown(d, HALF * cell)], cell);
    busy.stamp(m.bits, m.x - x, m.y - y);
  }
  return { x, y, busy, width, height };
};

/** One way through all parts: each as near to its stock's lower left as it goes, in the order given. */
const layAll = (
  fields: readonly Field[],
  parts: readonly { readonly turned: readonly Turned[]; readonly area: number }[],
  order: readonly number[],
  across: boolean,
  cell: Mm,
): { laid: Laid[]; left: number[]; used: number; area: number } => {
  const busy = fields.map((f) => f.busy.copy());
  // What did not fit before will not fit later: fields only fill up.
  const cursor = new Map<number, number>();
  const reach = fields.map(() => 0);
  const laid: Laid[] = [];
  const left = parts.map(() => 0);
  let area = 0;
  for (const part of order) {
    let done = false;
    for (let f = 0; f < fields.length && !done; f += 1) {
      const field = fields[f]!;
      let best: { t: Turned; x: number; y: number; far: number } | null = null;
      parts[part]!.turned.forEach((t, k) => {
        const { bits } = t.solid;
        const w = field.width - bits.width + 1;
        const h = field.height - bits.height + 1;
        if (w <= 0 || h <= 0) return;
        const key = (part * 64 + k) * 1024 + f;
        const end = w * h;
        let at = cursor.get(key) ?? 0;
        for (; at < end; at += 1) {
          const x = across ? at % w : Math.floor(at / h);
          const y = across ? Math.floor(at / w) : at % h;
          const far = across ? y + bits.height : x + bits.width;
          if (best && far >= best.far) break;
          if (!busy[f]!.meets(bits, x, y)) {
            best = { t, x, y, far };
            break;
          }
        }
        cursor.set(key, at);
      });
      if (best) {
        const { t, x, y, far } = best as { t: Turned; x: number; y: number; far: number };
        busy[f]!.stamp(t.wide.bits, x + t.wide.x - t.solid.x, y + t.wide.y - t.solid.y);
        laid.push({
          part,
          offcut: f,
          x: (field.x + x - t.solid.x) * cell,
          y: (field.y + y - t.solid.y) * cell,
          angle: t.angle,
        });
        reach[f] = Math.max(reach[f]!, far);
        area += parts[part]!.area;
        done = true;
      }
    }
    if (!done) left[part]! += 1;
  }
  const used = reach.reduce((s, far, f) => s + far * (across ? fields[f]!.width : fields[f]!.height) * cell * cell, 0);
  return { laid, left, used, area };
};

/**
 * Lays parts into pieces of stock, round their holes and defects, largest first on a grid of cells;
 * then tries other orders for as long as it may, and keeps the best.
 *
 * @param more is asked after every try, with the best so far; false ends it
 */
export const nest = (
  offcuts: readonly Offcut[],
  parts: readonly NestPart[],
  rules: NestRules,
  more: (best: Nesting) => boolean,
  seed = 1,
): Result<Nesting> => {
  const { cell, gap, turns } = rules;
  if (offcuts.length === 0) return fail('no-offcuts', 'There is no stock to lay parts on.', 'photo');
  if (parts.length > 1000 || offcuts.length > 1000)
    return fail('too-many', 'At most a thousand kinds of parts are laid on a thousand pieces of stock.', 'nest');
  /** Parts and stock as cells of a size. */
  const cut = (
    size: Mm,
  ): { size: Mm; fields: Field[]; kinds: { readonly turned: readonly Turned[]; readonly area: number }[] } => ({
    size,
    fields: offcuts.map((o) => fieldOf(o, size)),
    kinds: parts.map(({ outline }) => ({
      area: Math.abs(polygonArea(outline)),
      turned: turns.map((angle): Turned => {
        const m = rigid(angle, 0, 0);
        const points = outline.map((p) => apply(m, p));
        return {
          angle,
          solid: maskOf([grown(points, HALF * size)], size),
          wide: maskOf([grown(points, gap + HALF * size)], size),
        };
      }),
    })),
  });
  let now = cut(cell);
  const first = parts
    .flatMap((p, i) => Array.from({ length: p.count }, () => i))
    .sort((a, b) => now.kinds[b]!.area - now.kinds[a]!.area || a - b);
  const r = seeded(seed);
  let order = first;
  let best: Nesting | null = null;
  let bestOrder = first;
  for (let tries = 1; ; tries += 1) {
    // Two quick answers first; then half the cells, which lie closer and take longer.
    if (tries === 3) now = cut(cell / 2);
    const made = layAll(now.fields, now.kinds, order, tries % 2 === 0, now.size);
    const density = made.used === 0 ? 0 : made.area / made.used;
    const missing = made.left.reduce((s, n) => s + n, 0);
    const before = best?.left.reduce((s, n) => s + n, 0) ?? Infinity;
    if (!best || missing < before || (missing === before && density > best.density)) {
      best = { laid: made.laid, left: made.left, density, tries };
      bestOrder = order;
    }
    best = { ...best, tries };
    if (!more(best)) return ok(best);
    // A few exchanges among neighbours in size, now and then anywhere.
    const next = [...bestOrder];
    const swaps = 1 + Math.floor(r.uniform() * 6);
    for (let k = 0; k < swaps; k += 1) {
      const i = Math.floor(r.uniform() * next.length);
      const reach = r.uniform() < 0.3 ? next.length : 12;
      const j = Math.min(next.length - 1, Math.max(0, i + Math.round((2 * r.uniform() - 1) * reach)));
      [next[i], next[j]] = [next[j]!, next[i]!];
    }
    order = tries === 2 || tries === 3 ? bestOrder : next;
  }
};
