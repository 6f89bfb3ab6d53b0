import { effectiveDof, fromUniform, seeded, studentScale } from '../budget';
import { boxCorners, type Box } from '../geometry';
import { AXIS_95, studentQuantile } from '../samples';
import type { Mm, Rad } from '../units';
import { fixed, mm, worked, type WorkedLine } from '../working';

/** What makes a piece miss its place on a fed strip. */
export interface FeedErrors {
  /** Standard uncertainty of the feed factor. */
  readonly factor: number;
  /** Standard deviation of one feed, mm. */
  readonly repeat: Mm;
  /** Standard uncertainty of the skew, rad. */
  readonly skew: Rad;
  /** Standard uncertainty of the guide's angle against the machine's axis, rad. */
  readonly guide: Rad;
  /** Aiming at one point, per axis, mm. */
  readonly aim: Mm;
  /** Standard uncertainty of the pointer offset per axis; the same at every aim. */
  readonly pointer: Mm;
  /** ± at which the head returns, mm. */
  readonly back: Mm;
  /** ± at which blanks are laid to their places, mm; 0 for what is cut out of the strip. */
  readonly laid: Mm;
  /** Spread of the blanks' sizes, along and across, mm. */
  readonly spread: { readonly along: Mm; readonly across: Mm };
  /** Degrees of freedom of what feeds and sizes were read from; Infinity where they are not from readings. */
  readonly dof: { readonly feeds: number; readonly along: number; readonly across: number };
}

/** A stop as its errors see it. */
export interface StopChain {
  /** Stops since the strip was last aimed at: 0 when it is aimed at here. */
  readonly feeds: number;
  /** Feed since then, mm. */
  readonly fed: Mm;
  /** Boxes of what is burned here, from the point that was aimed at, strip frame turned to the feed. */
  readonly boxes: readonly Box[];
  /** Where a blank was aimed at: the first of this stop, or one that lies before it; absent where it was the strip itself. */
  readonly aimedAt?: 'first' | 'before' | undefined;
}

/**
 * Feeds and distance since the last aim, by stop.
 * @param byBlanks whether a blank of the row is what is aimed at: where it was laid, all others are counted from
 */
export const chainOf = (
  stops: readonly { readonly fed: Mm; readonly boxes: readonly Box[] }[],
  aimEvery: number,
  byBlanks = false,
): StopChain[] => {
  let feeds = 0;
  let start = stops[0]?.fed ?? 0;
  return stops.map((stop, i) => {
    const aimed = i === 0 || (aimEvery > 0 && i % aimEvery === 0);
    if (aimed) {
      feeds = 0;
      start = stop.fed;
    } else feeds += 1;
    return {
      feeds,
      fed: stop.fed - start,
      boxes: stop.boxes,
      aimedAt: !byBlanks ? undefined : aimed ? 'first' : 'before',
    };
  });
};

/** How often the laying counts: once on the strip, not for the blank that was aimed at, twice for all that are counted from it. */
const layings = ({ aimedAt, boxes }: StopChain): number =>
  aimedAt === undefined ? 1 : aimedAt === 'first' && boxes.length < 2 ? 0 : 2;

/**
 * Standard uncertainty of a corner along the feed and across it: the factor grows with the distance
 * fed, repeats with the root of the feeds, the skew with both the drift and the lever in the window, the guide's angle
 * with that lever alone, since what is fed goes along it. In a row every
 * blank but the one that was aimed at carries that one's laying beside its own.
 */
export const cornerUncertainty = (chain: StopChain, e: FeedErrors): { along: Mm; across: Mm } => {
  const { feeds, fed, boxes } = chain;
  const reachY = Math.max(0, ...boxes.map((b) => Math.max(Math.abs(b.minY), Math.abs(b.maxY))));
  const reachX = Math.max(0, ...boxes.map((b) => Math.max(Math.abs(b.minX), Math.abs(b.maxX))));
  const common = e.aim ** 2 + e.pointer ** 2 + fromUniform(e.back) ** 2 + layings(chain) * fromUniform(e.laid) ** 2;
  return {
    along: Math.sqrt(
      common +
        (e.factor * fed) ** 2 +
        feeds * e.repeat ** 2 +
        (e.skew ** 2 + e.guide ** 2) * reachY ** 2 +
        (e.spread.along / 2) ** 2,
    ),
    across: Math.sqrt(common + (e.skew * (fed + reachX)) ** 2 + (e.guide * reachX) ** 2 + (e.spread.across / 2) ** 2),
  };
};

/** Directions at which the plane's normal is summed; it is periodic, so few are exact. */
const DIRECTIONS = 48;

/**
 * Radius about the mean that holds a share of a plane normal with different spreads along its axes:
 * `1 − p = mean over θ of exp(−R² / 2(σx²cos²θ + σy²sin²θ))`, solved by halving.
 * @example planeRadius(1, 1, 0.95) // √(−2 ln 0.05) = 2.448
 */
export const planeRadius = (sx: Mm, sy: Mm, p: number): Mm => {
  const variances = Array.from({ length: DIRECTIONS }, (_, i) => {
    const t = (Math.PI * (i + 0.5)) / DIRECTIONS;
    return (sx * Math.cos(t)) ** 2 + (sy * Math.sin(t)) ** 2;
  });
  const outside = (r: Mm): number =>
    variances.reduce((s, v) => s + (v === 0 ? 0 : Math.exp((-r * r) / (2 * v))), 0) / DIRECTIONS;
  let low = 0;
  let high = 6 * Math.hypot(sx, sy);
  for (let i = 0; i < 40; i += 1) {
    const middle = (low + high) / 2;
    if (outside(middle) > 1 - p) low = middle;
    else high = middle;
  }
  return high;
};

/** Radius that holds 95 of 100 at a stop's worst corner, mm. */
export const stopError = (chain: StopChain, errors: FeedErrors): Mm => {
  const { along, across } = cornerUncertainty(chain, errors);
  const feeds = (errors.factor * chain.fed) ** 2 + chain.feeds * errors.repeat ** 2;
  const [half, wide] = [errors.spread.along / 2, errors.spread.across / 2];
  // What is told by few readings is told so much worse [JCGM 100:2008, G.4.1].
  const dof = effectiveDof([
    { u: Math.sqrt(Math.max(0, along ** 2 + across ** 2 - feeds - half ** 2 - wide ** 2)), dof: Infinity },
    { u: Math.sqrt(feeds), dof: errors.dof.feeds },
    { u: half, dof: errors.dof.along },
    { u: wide, dof: errors.dof.across },
  ]);
  return (planeRadius(along, across, 0.95) * studentQuantile(0.975, dof)) / AXIS_95;
};

/**
 * How far what is burned at one stop may miss what was burned at the stop before where they meet, by the feed alone: the
 * radius that holds 95 of 100, mm. Aiming, pointer and skew are the same on both sides and leave nothing there.
 *
 * @param fed how far the strip was fed between them, mm
 */
export const feedStep = (fed: Mm, errors: FeedErrors): Mm => {
  const feed = (errors.factor * fed) ** 2 + errors.repeat ** 2;
  const back = 2 * fromUniform(errors.back) ** 2;
  const drift = (errors.guide * fed) ** 2;
  const dof = effectiveDof([
    { u: Math.sqrt(2 * back + drift), dof: Infinity },
    { u: Math.sqrt(feed), dof: errors.dof.feeds },
  ]);
  const radius = planeRadius(Math.sqrt(feed + back), Math.sqrt(drift + back), 0.95);
  return (radius * studentQuantile(0.975, dof)) / AXIS_95;
};

/** How the step of `feedStep` comes about. */
export const feedStepWorking = (fed: Mm, errors: FeedErrors): WorkedLine =>
  worked(
    'where windows meet, 95 %',
    'along √((u(factor) × fed)² + repeat² + 2 return²/3), across √((u(γ) × fed)² + 2 return²/3): radius of 95 of 100',
    `fed ${fixed(fed, 0)}, u(factor) ${fixed(errors.factor, 6)}, repeat ${fixed(errors.repeat, 3)}, u(γ) ${fixed(1000 * errors.guide, 3)} mm a metre, return ± ${fixed(errors.back, 3)}`,
    `± ${mm(feedStep(fed, errors))}`,
    'statistics',
  );

/** The errors with one of them made larger or smaller. */
export const scaleFeedErrors = (e: FeedErrors, id: string | null, factor: number): FeedErrors => ({
  factor: e.factor * (id === 'feed' ? factor : 1),
  repeat: e.repeat * (id === 'feed-repeat' ? factor : 1),
  skew: e.skew * (id === 'skew' ? factor : 1),
  guide: e.guide * (id === 'guide' ? factor : 1),
  aim: e.aim * (id === 'aiming' ? factor : 1),
  pointer: e.pointer * (id === 'pointer' ? factor : 1),
  back: e.back * (id === 'return' ? factor : 1),
  laid: e.laid * (id === 'laid' ? factor : 1),
  spread: id === 'size' ? { along: e.spread.along * factor, across: e.spread.across * factor } : e.spread,
  dof: e.dof,
});

/**
 * Simulated strips: displacement of the worst corner, sorted, mm. With `worst`, of the whole strip
 * (one work); else of one piece taken at random.
 */
export const simulateFeed = (
  chains: readonly StopChain[],
  e: FeedErrors,
  count: number,
  seed: number,
  worst: boolean,
): Float64Array => {
  const r = seeded(seed);
  const sizes = effectiveDof([
    { u: e.spread.along, dof: e.dof.along },
    { u: e.spread.across, dof: e.dof.across },
  ]);
  const out = new Float64Array(count);
  const pieces = chains.flatMap((c, i) => c.boxes.map((_, k) => [i, k] as const));
  if (pieces.length === 0) return out;
  for (let n = 0; n < count; n += 1) {
    // Factor and repeats are read off the same few feeds.
    const feeds = studentScale(r, e.dof.feeds);
    const factor = e.factor * feeds * r.normal();
    const skew = e.skew * r.normal();
    const guide = e.guide > 0 ? e.guide * r.normal() : 0;
    const px = e.pointer * r.normal();
    const py = e.pointer * r.normal();
    let ax = 0;
    let ay = 0;
    let lain = { x: 0, y: 0 };
    let sum = 0;
    let most = 0;
    const [wantedStop, wantedPiece] = pieces[Math.floor(r.uniform() * pieces.length)]!;
    for (let i = 0; i < chains.length; i += 1) {
      const chain = chains[i]!;
      if (chain.feeds === 0) {
        ax = e.aim * r.normal();
        ay = e.aim * r.normal();
        if (chain.aimedAt) lain = { x: e.laid * (2 * r.uniform() - 1), y: e.laid * (2 * r.uniform() - 1) };
        sum = 0;
      } else sum += e.repeat * feeds * r.normal();
      if (!worst && i !== wantedStop) continue;
      for (let k = 0; k < chain.boxes.length; k += 1) {
        if (!worst && k !== wantedPiece) continue;
        // The blank that was aimed at lies where it lies; the others are laid to their places, counted from it.
        const own = chain.aimedAt === 'first' && k === 0;
        const laidAt = (from: Mm): Mm => (own ? 0 : e.laid * (2 * r.uniform() - 1) - from);
        const few = studentScale(r, sizes);
        const lx = laidAt(lain.x) + (e.spread.along / 2) * few * r.normal();
        const ly = laidAt(lain.y) + (e.spread.across / 2) * few * r.normal();
        const bx = e.back * (2 * r.uniform() - 1);
        const by = e.back * (2 * r.uniform() - 1);
        for (const c of boxCorners(chain.boxes[k]!)) {
          const x = ax + px + bx + lx + factor * chain.fed + sum - (skew + guide) * c.y;
          const y = ay + py + by + ly + skew * (chain.fed + c.x) + guide * c.x;
          most = Math.max(most, x * x + y * y);
        }
      }
      if (!worst) break;
    }
    out[n] = Math.sqrt(most);
  }
  return out.sort();
};

/** The rarest aiming that keeps every stop inside the tolerance; 0 for aiming once, null when even every stop does not do. */
export const proposeAiming = (
  stops: readonly { readonly fed: Mm; readonly boxes: readonly Box[] }[],
  errors: FeedErrors,
  tolerance: Mm,
  byBlanks = false,
): number | null => {
  const inside = (every: number): boolean =>
    chainOf(stops, every, byBlanks).every((c) => stopError(c, errors) <= tolerance);
  if (inside(0)) return 0;
  for (let every = stops.length - 1; every >= 1; every -= 1) if (inside(every)) return every;
  return null;
};
