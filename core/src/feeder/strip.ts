import { boxOf, type Box, type Vec } from '../geometry';
import { fail, ok, type Result } from '../result';
import type { Mm, SlotNumber } from '../units';
import type { ColumnStep } from './interlock';

/** Where one piece lies on the strip: its middle, and whether it is turned by a quarter. Strip frame, mm. */
export interface StripPlace {
  /** Slot number on the strip, from 1 at its leading end. */
  readonly slot: SlotNumber;
  readonly centre: Vec;
  readonly turned: boolean;
  /** Turned by half a turn beside, to lie into its neighbours. */
  readonly half: boolean;
  readonly column: number;
  readonly row: number;
}

export interface StripRules {
  readonly strip: { readonly length: Mm; readonly width: Mm };
  /** A piece as it lies unturned: along the strip, and across. */
  readonly piece: { readonly length: Mm; readonly width: Mm };
  readonly turned: boolean;
  /** From piece to piece along the strip; null for its length and the gap. */
  readonly pitch: Mm | null;
  readonly gap: Mm;
  /** How columns follow each other where their outlines interlock; by the pitch where it is absent. */
  readonly steps?: readonly ColumnStep[] | undefined;
  /** Pieces side by side across; null for as many as fit. */
  readonly rows: number | null;
  readonly deadFront: Mm;
  readonly deadBack: Mm;
  /** Used places of the strip, strip frame. */
  readonly used: readonly Box[];
}

export interface StripLayout {
  readonly places: readonly StripPlace[];
  /** From column to column; their mean where they follow each other unevenly. */
  readonly pitch: Mm;
  readonly rows: number;
  /** Columns that a used place cost. */
  readonly skipped: number;
  /** Stretch that holds no piece at either end: dead band and what is left over. */
  readonly lostFront: Mm;
  readonly lostBack: Mm;
  /** Share of the strip's area that becomes pieces, by their boxes. */
  readonly filled: number;
}

const meets = (a: Box, b: Box): boolean => a.minX < b.maxX && a.maxX > b.minX && a.minY < b.maxY && a.maxY > b.minY;

/** Size of a piece as it lies: along the strip, and across. */
export const lyingSize = ({ piece, turned }: Pick<StripRules, 'piece' | 'turned'>): { along: Mm; across: Mm } =>
  turned ? { along: piece.width, across: piece.length } : { along: piece.length, across: piece.width };

/**
 * Lays equal pieces on a strip at a pitch, rows side by side, off its dead bands and used places.
 * Where a used place is in the way, the row goes on behind it, and pieces beside it stay.
 *
 * @returns places in the order they come under the head: column by column, from the guide
 */
export const layStrip = (rules: StripRules): Result<StripLayout> => {
  const { strip, gap, deadFront, deadBack, used } = rules;
  const { along, across } = lyingSize(rules);
  const pitch = rules.pitch ?? along + gap;
  const steps = rules.steps ?? [{ pitch, half: false }];
  if (pitch < along)
    return fail(
      'pitch-short',
      `A pitch of ${pitch.toFixed(1)} mm is less than the piece’s ${along.toFixed(1)} mm along the feed: they would lie on each other.`,
      'feed.pitch',
    );
  const most = Math.floor((strip.width + gap + 1e-9) / (across + gap));
  if (most < 1)
    return fail(
      'strip-narrow',
      `The strip is ${strip.width.toFixed(1)} mm wide; a piece lies ${across.toFixed(1)} mm across. Turn it, or take a wider strip.`,
      'feed.strip',
    );
  const rows = Math.min(rules.rows ?? most, most);
  const margin = (strip.width - rows * across - (rows - 1) * gap) / 2;
  const end = strip.length - deadBack;
  const columns: { x: Mm; rows: number[]; half: boolean }[] = [];
  let skipped = 0;
  const blocked = (x: Mm): number[] =>
    Array.from({ length: rows }, (_, i) => i).filter((i) => {
      const y = margin + i * (across + gap);
      const box = { minX: x, maxX: x + along, minY: y, maxY: y + across };
      return used.some((u) => meets(u, box));
    });
  let x = deadFront;
  while (x + along <= end + 1e-9) {
    const bad = blocked(x);
    if (bad.length < rows) {
      const step = steps[columns.length % steps.length]!;
      columns.push({
        x,
        rows: Array.from({ length: rows }, (_, i) => i).filter((i) => !bad.includes(i)),
        half: step.half,
      });
      x += step.pitch;
    } else {
      // All rows meet a used place here: go on right behind the nearest one.
      skipped += 1;
      x = Math.min(...used.filter((u) => u.maxX > x + 1e-9 && u.minX < x + along).map((u) => u.maxX));
    }
  }
  const places = columns.flatMap(({ x: left, rows: here, half }, column) =>
    here.map((row) => ({
      column,
      row,
      turned: rules.turned,
      half,
      centre: { x: left + along / 2, y: margin + row * (across + gap) + across / 2 },
    })),
  );
  if (places.length === 0)
    return fail(
      'strip-short',
      `Between its dead bands the strip has ${Math.max(0, end - deadFront).toFixed(0)} mm; a piece takes ${along.toFixed(1)}.`,
      'feed.strip',
    );
  const last = columns[columns.length - 1]!.x + along;
  return ok({
    places: places.map((p, i) => ({ ...p, slot: i + 1 })),
    pitch: steps.reduce((s, p) => s + p.pitch, 0) / steps.length,
    rows,
    skipped,
    lostFront: columns[0]!.x,
    lostBack: strip.length - last,
    filled: (places.length * along * across) / (strip.length * strip.width),
  });
};

/** One stop of the strip under the head. */
export interface Index {
  /** 1 for the first. */
  readonly index: number;
  /** Stretch of the strip that is burned, strip frame, mm. */
  readonly from: Mm;
  readonly to: Mm;
  /** How far the strip was fed in all: its point there lies at the window's way out, mm. */
  readonly fed: Mm;
  /** Length of cut lines over bars under the work, mm. */
  readonly overSupports: Mm;
}

/** Length of cut lines at each millimetre of a strip, summed up so that a stretch is one subtraction. */
export class CutProfile {
  private readonly sum: Float64Array;

  /** @param lines cut lines as points, strip frame, mm */
  constructor(lines: readonly (readonly Vec[])[], length: Mm) {
    const bins = new Float64Array(Math.max(1, Math.ceil(length) + 1));
    for (const points of lines)
      for (let i = 1; i < points.length; i += 1) {
        const a = points[i - 1]!;
        const b = points[i]!;
        const d = Math.hypot(b.x - a.x, b.y - a.y);
        const steps = Math.max(1, Math.ceil(Math.abs(b.x - a.x) * 2));
        for (let k = 0; k < steps; k += 1) {
          const x = a.x + ((k + 0.5) / steps) * (b.x - a.x);
          const bin = Math.floor(x);
          if (bin >= 0 && bin < bins.length) bins[bin]! += d / steps;
        }
      }
    this.sum = new Float64Array(bins.length + 1);
    for (let i = 0; i < bins.length; i += 1) this.sum[i + 1] = this.sum[i]! + bins[i]!;
  }

  /** Length of cut lines between two places, by whole millimetres. */
  between(from: Mm, to: Mm): Mm {
    const at = (x: Mm): number => this.sum[Math.min(this.sum.length - 1, Math.max(0, Math.round(x)))]!;
    return to <= from ? 0 : at(to) - at(from);
  }
}

/** Char runs this far beyond a bar under a cut [common practice], mm. */
export const CHAR_REACH: Mm = 2;

/**
 * Where to stop the strip so that a stretch lies in the window and as little of its cuts as can be
 * over the bars under it.
 *
 * @param travelOf place along the bed's travel, from the window's way out, of a strip point at feed 0
 */
export const bestStop = (
  from: Mm,
  to: Mm,
  window: Mm,
  least: Mm,
  bars: readonly { readonly from: Mm; readonly to: Mm }[],
  cuts: CutProfile | null,
): { fed: Mm; over: Mm } => {
  const high = from;
  const low = Math.max(least, to - window);
  const cost = (fed: Mm): Mm =>
    cuts
      ? bars.reduce(
          (s, b) => s + cuts.between(Math.max(from, fed + b.from - CHAR_REACH), Math.min(to, fed + b.to + CHAR_REACH)),
          0,
        )
      : 0;
  let best = { fed: high, over: cost(high) };
  for (let fed = high - 1; fed >= low && best.over > 0; fed -= 1) {
    const over = cost(fed);
    if (over < best.over - 1e-9) best = { fed, over };
  }
  return best;
};

/**
 * Groups places into stops: as many columns as the window holds at a time.
 *
 * @param spans stretch of each column along the strip, ascending
 * @param sizes columns in each stop that is settled already (loads that were burned), first to last
 */
export const planStops = (
  spans: readonly { readonly from: Mm; readonly to: Mm }[],
  window: Mm,
  bars: readonly { readonly from: Mm; readonly to: Mm }[],
  cuts: CutProfile | null,
  sizes: readonly number[] = [],
): (Index & { readonly first: number; readonly count: number })[] => {
  const stops: (Index & { first: number; count: number })[] = [];
  let next = 0;
  let fed = 0;
  while (next < spans.length) {
    const { from } = spans[next]!;
    const settled = sizes[stops.length];
    let count = 0;
    while (
      next + count < spans.length &&
      (settled === undefined ? spans[next + count]!.to - from <= window + 1e-9 : count < settled)
    )
      count += 1;
    // A column longer than the window cannot be burned at one stop; the caller refuses it before.
    count = Math.max(1, count);
    const { to } = spans[next + count - 1]!;
    const stop = bestStop(from, to, window, fed, bars, cuts);
    fed = stop.fed;
    stops.push({ index: stops.length + 1, from, to, fed, overSupports: stop.over, first: next, count });
    next += count;
  }
  return stops;
};

/** A place of a given size on the strip where nothing lies, for a test patch; null when there is none. */
export const freePatch = (
  strip: { readonly length: Mm; readonly width: Mm },
  taken: readonly Box[],
  size: { readonly width: Mm; readonly height: Mm },
  from: Mm,
  to: Mm,
): Box | null => {
  for (let x = Math.max(0, from); x + size.width <= Math.min(strip.length, to) + 1e-9; x += 1)
    for (let y = 0; y + size.height <= strip.width + 1e-9; y += 1) {
      const box = { minX: x, maxX: x + size.width, minY: y, maxY: y + size.height };
      if (!taken.some((t) => meets(t, box))) return box;
    }
  return null;
};

/** Box of a place on the strip. */
export const placeBox = (place: StripPlace, along: Mm, across: Mm): Box =>
  boxOf([
    { x: place.centre.x - along / 2, y: place.centre.y - across / 2 },
    { x: place.centre.x + along / 2, y: place.centre.y + across / 2 },
  ]);
