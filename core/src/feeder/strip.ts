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
  /** Pieces that used places cost. */
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
 * Every row is laid by itself: where a used place is in its way it goes on right behind it, the rows beside it do not wait.
 *
 * @returns places in the order they come under the head, those side by side from the guide
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
  const across0 = (row: number): Mm => margin + row * (across + gap);
  /** A row laid by itself: piece after piece, right behind what is in the way. */
  const layOne = (row: number, inTheWay: readonly Box[]): { x: Mm; half: boolean }[] => {
    const laid: { x: Mm; half: boolean }[] = [];
    let x = deadFront;
    while (x + along <= end + 1e-9) {
      const box = { minX: x, maxX: x + along, minY: across0(row), maxY: across0(row) + across };
      const met = inTheWay.filter((u) => meets(u, box));
      const step = steps[laid.length % steps.length]!;
      if (met.length > 0) x = Math.max(...met.map((u) => u.maxX));
      else {
        laid.push({ x, half: step.half });
        x += step.pitch;
      }
    }
    return laid;
  };
  const places = Array.from({ length: rows }, (_, row) =>
    layOne(row, used).map(({ x, half }, column) => ({
      column,
      row,
      turned: rules.turned,
      half,
      centre: { x: x + along / 2, y: across0(row) + across / 2 },
    })),
  )
    .flat()
    .sort((p, q) => p.centre.x - q.centre.x || p.row - q.row);
  if (places.length === 0)
    return fail(
      'strip-short',
      `Between its dead bands the strip has ${Math.max(0, end - deadFront).toFixed(0)} mm; a piece takes ${along.toFixed(1)}.`,
      'feed.strip',
    );
  const [first, last] = [places[0]!, places[places.length - 1]!].map((p) => p.centre.x) as [Mm, Mm];
  return ok({
    places: places.map((p, i) => ({ ...p, slot: i + 1 })),
    pitch: steps.reduce((s, p) => s + p.pitch, 0) / steps.length,
    rows,
    skipped: rows * layOne(0, []).length - places.length,
    lostFront: first - along / 2,
    lostBack: strip.length - last - along / 2,
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

/** Length of cut lines along a strip, summed up exactly: it grows evenly along a line, and at once where a line lies across. */
export class CutProfile {
  /** Places where the sum bends or leaps, ascending, mm. */
  private readonly places: Float64Array;
  /** Sum just before and just behind each of them. */
  private readonly before: Float64Array;
  private readonly behind: Float64Array;

  /** @param lines cut lines as points, strip frame, mm; what lies beyond the strip is left out */
  constructor(lines: readonly (readonly Vec[])[], length: Mm) {
    // At each place: how much steeper the sum grows from there on, and how much it leaps.
    const bends = new Map<number, { slope: number; leap: Mm }>();
    const at = (x: Mm, slope: number, leap: Mm): void => {
      const held = bends.get(x) ?? { slope: 0, leap: 0 };
      bends.set(x, { slope: held.slope + slope, leap: held.leap + leap });
    };
    for (const points of lines)
      for (let i = 1; i < points.length; i += 1) {
        const [a, b] = [points[i - 1]!, points[i]!];
        const [low, high] = [Math.min(a.x, b.x), Math.max(a.x, b.x)];
        if (high < 0 || low > length) continue;
        if (high - low < LEVEL) {
          at(low, 0, Math.hypot(b.x - a.x, b.y - a.y));
          continue;
        }
        const slope = Math.hypot(b.x - a.x, b.y - a.y) / (high - low);
        at(Math.max(0, low), slope, 0);
        at(Math.min(length, high), -slope, 0);
      }
    this.places = Float64Array.from([...bends.keys()].sort((a, b) => a - b));
    this.before = new Float64Array(this.places.length);
    this.behind = new Float64Array(this.places.length);
    let [sum, slope, last] = [0, 0, 0];
    this.places.forEach((x, i) => {
      sum += slope * (x - last);
      this.before[i] = sum;
      const bend = bends.get(x)!;
      sum += bend.leap;
      this.behind[i] = sum;
      slope += bend.slope;
      last = x;
    });
  }

  /** Sum up to a place: with what lies across just there, or without. */
  private upTo(x: Mm, across: boolean): Mm {
    const { places, before, behind } = this;
    let [low, high] = [0, places.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (places[middle]! <= x) low = middle + 1;
      else high = middle;
    }
    const i = low - 1;
    if (i < 0) return 0;
    if (places[i] === x && !across) return before[i]!;
    if (i + 1 >= places.length) return behind[i]!;
    const share = (x - places[i]!) / (places[i + 1]! - places[i]!);
    return behind[i]! + share * (before[i + 1]! - behind[i]!);
  }

  /** Length of cut lines between two places, both of them in it. */
  between(from: Mm, to: Mm): Mm {
    return to < from ? 0 : Math.max(0, this.upTo(to, true) - this.upTo(from, false));
  }
}

/** A line that goes along the strip by less than this lies across it, mm. */
const LEVEL: Mm = 1e-9;

/** Char runs this far beyond a bar under a cut [common practice], mm. */
export const CHAR_REACH: Mm = 2;

/** Stops are tried this far apart, mm. */
const TRIED: Mm = 0.1;

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
  for (let k = 1; high - k * TRIED >= low && best.over > 1e-9; k += 1) {
    const fed = high - k * TRIED;
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
