import { flatten, scanFill } from '../geometry';
import type { Mm } from '../units';
import { eachChord, type MeasuredShape } from './art';

/** Distance between places that are tried as seams, mm. */
const GRID: Mm = 0.25;
/** A seam is judged with what lies this near to it on either side: it never lands quite where it was meant. */
const NEAR: Mm = 0.5;
/** Segments shorter than this hold no two marks and are not worth the move, mm. */
export const LEAST_SEGMENT: Mm = 60;

/** What it costs to cross: mm of joint that can be seen. */
const LINE_COST = 0.3;
const CUT_COST = 0.15;
const TEXT_COST = 1_000;
const PICTURE_COST = 1_000_000;

/** What a seam runs through. */
export interface Crossing {
  /** Engraved and cut lines it crosses. */
  readonly lines: number;
  /** Length of filled shapes it cuts through, mm. */
  readonly filled: Mm;
  /** Small filled shapes, such as letters, and the gaps inside their words; and pictures. */
  readonly words: number;
}

export interface SeamPlace extends Crossing {
  readonly at: Mm;
}

export interface SeamPlan {
  readonly seams: readonly SeamPlace[];
  /** Segments that would do if nothing had to be spared. */
  readonly fewest: number;
}

export interface SeamRules {
  readonly length: Mm;
  /** Longest segment, mm. */
  readonly window: Mm;
  /** Filled shapes lower than this count as lettering and are not cut through where that can be helped, mm. */
  readonly smallText: Mm;
  /** Most segments the machine can take; Infinity where the work moves on as often as it likes. */
  readonly most: number;
}

/** Stretches of x taken up by words: small filled shapes with their neighbours at the distance of letters. */
export const wordSpans = (shapes: readonly MeasuredShape[], smallText: Mm): { from: Mm; to: Mm; height: Mm }[] => {
  const small = shapes
    .filter((s) => s.kind === 'fill' && !s.picture && s.box.maxY - s.box.minY < smallText)
    .map((s) => s.box)
    .sort((a, b) => a.minX - b.minX);
  const words: { from: Mm; to: Mm; low: Mm; high: Mm }[] = [];
  // Words whose end a next letter may still reach; boxes come in order of their left edges.
  let open: typeof words = [];
  for (const box of small) {
    const height = box.maxY - box.minY;
    open = open.filter((w) => w.to + smallText > box.minX);
    // Letters stand on one line, nearer to each other than a third of their height.
    const word = open.find(
      (w) => box.minX - w.to <= 0.35 * Math.max(height, w.high - w.low) && box.minY <= w.high && box.maxY >= w.low,
    );
    if (word) {
      word.to = Math.max(word.to, box.maxX);
      word.low = Math.min(word.low, box.minY);
      word.high = Math.max(word.high, box.maxY);
    } else {
      const fresh = { from: box.minX, to: box.maxX, low: box.minY, high: box.maxY };
      words.push(fresh);
      open.push(fresh);
    }
  }
  return words.map((w) => ({ from: w.from, to: w.to, height: w.high - w.low }));
};

/** What seams at every place of the grid would run through. */
interface Costs {
  readonly lines: Float64Array;
  readonly filled: Float64Array;
  readonly words: Float64Array;
  readonly cost: Float64Array;
}

const sums = (changes: Float64Array): Float64Array => {
  let total = 0;
  return changes.map((v) => (total += v));
};

/** Length that a seam cuts through filled shapes at every place of the grid: their union, as it is burned, mm. */
const filledAt = (shapes: readonly MeasuredShape[], n: number): Float64Array => {
  const filled = new Float64Array(n + 1);
  // Filled by lines across the work, as the beam would fill it by lines along it.
  const across = shapes
    .filter((s) => s.kind === 'fill' && !s.picture)
    .map((s) => flatten(s.contour, 0.02).map((p) => ({ x: p.y, y: p.x })));
  for (const { y, spans } of scanFill(across, GRID)) {
    const i = Math.round(y / GRID);
    if (i < 0 || i > n) continue;
    for (let k = 0; k < spans.length; k += 2) filled[i]! += spans[k + 1]! - spans[k]!;
  }
  return filled;
};

/**
 * Counts and lengths at every place of the grid at once: each stretch of a line is entered where it
 * begins and taken out where it ends.
 */
const costsOf = (shapes: readonly MeasuredShape[], { length, smallText }: SeamRules): Costs => {
  const n = Math.floor(length / GRID) + 1;
  const make = (): Float64Array => new Float64Array(n + 1);
  const [line, cut, word, wordCost] = [make(), make(), make(), make()];
  const range = (x0: Mm, x1: Mm): [number, number] => [
    Math.max(0, Math.ceil(x0 / GRID)),
    Math.min(n, Math.floor(x1 / GRID) + 1),
  ];
  const add = (to: Float64Array, [i, j]: [number, number], v: number): void => {
    if (j <= i) return;
    to[i]! += v;
    to[j]! -= v;
  };
  for (const { kind, contour } of shapes)
    if (kind !== 'fill')
      eachChord(contour, (a, b) => {
        if (a.x === b.x) return;
        const [from, to] = [Math.min(a.x, b.x), Math.max(a.x, b.x)];
        // Half open, so that a corner on the grid counts once.
        add(kind === 'cut' ? cut : line, [Math.max(0, Math.ceil(from / GRID)), Math.min(n, Math.ceil(to / GRID))], 1);
      });
  for (const w of wordSpans(shapes, smallText)) {
    add(word, range(w.from, w.to), 1);
    // The smaller the letters, the more a step shows.
    add(wordCost, range(w.from - NEAR, w.to + NEAR), TEXT_COST * (1 + smallText / Math.max(0.5, w.height)));
  }
  for (const { box, picture } of shapes)
    if (picture) {
      add(word, range(box.minX, box.maxX), 1);
      add(wordCost, range(box.minX - NEAR, box.maxX + NEAR), PICTURE_COST);
    }
  const [lines, cuts, words, wordCosts] = [line, cut, word, wordCost].map(sums) as [
    Float64Array,
    Float64Array,
    Float64Array,
    Float64Array,
  ];
  const filled = filledAt(shapes, n);
  const sharp = lines.map((v, i) => LINE_COST * v + CUT_COST * cuts[i]! + filled[i]! + wordCosts[i]!);
  return { lines: lines.map((v, i) => v + cuts[i]!), filled, words, cost: blurred(sharp, Math.round(NEAR / GRID)) };
};

/** Mean over a few places on either side. */
const blurred = (values: Float64Array, reach: number): Float64Array => {
  let total = 0;
  const before = new Float64Array(values.length + 1);
  values.forEach((v, i) => {
    total += v;
    before[i + 1] = total;
  });
  return values.map((_, i) => {
    const from = Math.max(0, i - reach);
    const to = Math.min(values.length, i + reach + 1);
    return (before[to]! - before[from]!) / (to - from);
  });
};

/** The cheapest `count` seams with no segment longer than the window or shorter than the least; null when there are none. */
const cheapest = (cost: Float64Array, count: number, length: Mm, window: Mm): number[] | null => {
  const n = cost.length;
  const most = Math.floor(window / GRID);
  const least = Math.ceil(LEAST_SEGMENT / GRID);
  const last = Math.floor(length / GRID);
  // best[i]: least cost of seams so far with the newest at i; the start of the work is a seam at 0 that costs nothing.
  let best = new Float64Array(n).fill(Infinity);
  best[0] = 0;
  const from: Int32Array[] = [];
  for (let seam = 0; seam < count; seam += 1) {
    const next = new Float64Array(n).fill(Infinity);
    const origin = new Int32Array(n).fill(-1);
    // Least of best[i − most … i − least], by a queue of candidates in rising order.
    const queue: number[] = [];
    let head = 0;
    for (let i = least; i < n; i += 1) {
      const enters = i - least;
      while (queue.length > head && best[queue[queue.length - 1]!]! >= best[enters]!) queue.pop();
      queue.push(enters);
      while (queue[head]! < i - most) head += 1;
      const j = queue[head]!;
      if (best[j]! < Infinity) {
        next[i] = best[j]! + cost[i]!;
        origin[i] = j;
      }
    }
    from.push(origin);
    best = next;
  }
  let end = -1;
  for (let i = Math.max(0, last - most); i <= last - least; i += 1) if (best[i]! < (best[end] ?? Infinity)) end = i;
  if (end < 0 || best[end] === Infinity) return null;
  const seams: number[] = [];
  for (let seam = count - 1; seam >= 0; seam -= 1) {
    seams.unshift(end);
    end = from[seam]![end]!;
  }
  return seams;
};

/** How many segments more than needed are spent to spare lettering. */
const SPARE_SEGMENTS = 2;

/**
 * Where to split work that is longer than the bed: as few seams as the window allows, through the
 * fewest, shortest and least visible strokes; one or two more when that spares small lettering.
 *
 * Every place on a quarter-millimetre grid is priced in one sweep; the seams are then the cheapest
 * chain of places no farther apart than the window, by dynamic programming.
 *
 * @returns null when the window or the machine's number of segments is too small
 */
export const findSeams = (shapes: readonly MeasuredShape[], rules: SeamRules): SeamPlan | null => {
  const { length, window, most } = rules;
  const fewest = Math.max(1, Math.ceil((length - 1e-6) / window));
  if (!(window >= LEAST_SEGMENT) || fewest > most) return null;
  const costs = costsOf(shapes, rules);
  let found: SeamPlace[] | null = null;
  for (let count = fewest; count <= Math.min(most, fewest + SPARE_SEGMENTS); count += 1) {
    const places = cheapest(costs.cost, count - 1, length, window);
    if (!places) continue;
    const seams = places.map((i): SeamPlace => ({
      at: i * GRID,
      lines: Math.round(costs.lines[i]!),
      filled: costs.filled[i]! < 1e-6 ? 0 : costs.filled[i]!,
      words: Math.round(costs.words[i]!),
    }));
    const through = seams.reduce((s, seam) => s + seam.words, 0);
    if (!found || through < found.reduce((s, seam) => s + seam.words, 0)) found = seams;
    if (through === 0) break;
  }
  return found && { seams: found, fewest };
};
