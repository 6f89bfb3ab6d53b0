import { normalCdf } from '../samples';
import { fitResponse, type ResponseFit } from './fit';
import { NUMBER_WORDS, spreadLevels, type TrialNumber } from './plan';
import { BEST, GOOD_ENOUGH, type Tell } from './score';

/** A cell that was burned and looked at: its two numbers and what was said. */
export interface Tried {
  readonly a: number;
  readonly b: number;
  readonly grade: number;
  readonly tell: Tell;
}

/** One number, what the machine takes of it, and how many levels a grid has room for. */
export interface AskedNumber {
  readonly number: TrialNumber;
  readonly range: readonly [number, number];
  readonly levels: number;
}

/** What is said of a set of grids over the same two numbers. */
export interface Judged {
  readonly fit: ResponseFit;
  /** Which of the cells tried is the one to take, by what the surface says of it and not by one look alone. */
  readonly best: { readonly index: number; readonly mean: number; readonly doubt: number };
  readonly next: NextGrid;
}

export type NextGrid =
  | { readonly kind: 'enough' | 'stuck'; readonly why: string }
  | {
      readonly kind: 'finer' | 'beyond';
      readonly a: readonly number[];
      readonly b: readonly number[];
      readonly why: string;
    };

/** Below it nothing of a grid can be used: what was burned tells which way to go, not where to look closer. */
const FAILED = 3;
/**
 * Expected gain below which no further grid is proposed, grades: after one grid, whose steps are wide and whose surface is
 * surer of itself than it should be, next to nothing; after that a fifth of what a practised eye is off by. Found with 200
 * hidden materials of the stand-in.
 */
const WORTH_A_GRID = { first: 0.02, later: 0.1 } as const;
/** As many cells as a small grid has. */
const ONE_GRID = 25;
/** Places a side at which a surface is asked. */
const LATTICE = 33;
/** How many standard doubts are taken off what is said of a cell before it is chosen. */
const CAUTION = 1;
/** What of the best cell is counted as had where a closer look is worth most: so many doubts below what it seems. */
const SURE = 1.5;
/** The same where it is asked whether any further grid is worth burning. */
const LIKELY = 0.5;
/** How far beyond what was tried the surface is asked, in spans. */
const BEYOND = 0.35;

const span = (values: readonly number[]): [number, number] => [Math.min(...values), Math.max(...values)];

/** Expected excess of a normal over a level. */
const excess = (mean: number, doubt: number, level: number): number => {
  if (doubt < 1e-9) return Math.max(0, mean - level);
  const z = (mean - level) / doubt;
  return (mean - level) * normalCdf(z) + (doubt * Math.exp((-z * z) / 2)) / Math.sqrt(2 * Math.PI);
};

/**
 * Expected gain over a grade that is had already [expected improvement: Jones, Schonlau & Welch 1998], of a normal that
 * counts no more than the scale has.
 */
export const expectedGain = (mean: number, doubt: number, had: number): number =>
  Math.max(0, excess(mean, doubt, had) - excess(mean, doubt, BEST));

/** Where a number stands between two ends, by its logarithm; and back. */
const share = (v: number, [low, high]: readonly [number, number]): number =>
  high > low ? Math.log(v / low) / Math.log(high / low) : 0.5;
const valueAt = (s: number, [low, high]: readonly [number, number]): number => low * (high / low) ** s;

const clamp = (v: number, [low, high]: readonly [number, number]): number => Math.min(high, Math.max(low, v));

/** Levels over a stretch of a number, inside what the machine takes. */
const levelsOver = ({ number, range, levels }: AskedNumber, from: number, to: number): number[] => {
  const [low, high] = [clamp(from, range), clamp(to, range)];
  const out = spreadLevels(number, low, high, levels).filter((v) => v >= range[0] - 1e-9 && v <= range[1] + 1e-9);
  return out.length > 0 ? out : [clamp(from, range)];
};

/** The stretch next to what was tried, as wide again, towards more energy or less; null at the machine's own end. */
const further = (
  { number, range }: AskedNumber,
  tried: readonly [number, number],
  more: boolean,
): [number, number] | null => {
  const up = (NUMBER_WORDS[number].energy === 1) === more;
  const wide = Math.max(tried[1] / tried[0], 1.5);
  const [from, to] = up ? [tried[1], tried[1] * wide] : [tried[0] / wide, tried[0]];
  const stretch: [number, number] = [clamp(from, range), clamp(to, range)];
  return stretch[1] / stretch[0] < 1.05 ? null : stretch;
};

const energyWays = (a: AskedNumber, b: AskedNumber): readonly [1 | -1, 1 | -1] => [
  NUMBER_WORDS[a.number].energy,
  NUMBER_WORDS[b.number].energy,
];

/** Everything failed the same way: the next grid lies beyond the edge that was nearest to right. */
const beyondEdge = (a: AskedNumber, b: AskedNumber, tried: readonly Tried[], more: boolean): NextGrid => {
  const [ta, tb] = [span(tried.map((t) => t.a)), span(tried.map((t) => t.b))];
  const [na, nb] = [further(a, ta, more), further(b, tb, more)];
  const end = ({ number }: AskedNumber): string => NUMBER_WORDS[number].name;
  if (!na && !nb)
    return {
      kind: 'stuck',
      why: more
        ? `Everything was too weak, and the machine gives no more of ${end(a)} and ${end(b)}. Try more passes, a finer interval, a lens with a smaller spot, or a stronger machine.`
        : `Everything was too strong, and the machine gives no less of ${end(a)} and ${end(b)}. Try fewer passes, a wider interval, or a machine that fires more weakly.`,
    };
  return {
    kind: 'beyond',
    a: levelsOver(a, ...(na ?? ta)),
    b: levelsOver(b, ...(nb ?? tb)),
    why: more
      ? 'Everything was too weak: the next grid begins where this one was strongest, and goes on from there.'
      : 'Everything was too strong: the next grid begins where this one was mildest, and goes on from there.',
  };
};

/** Too weak here and too strong there, nothing right between: a finer grid along where the one turns into the other. */
const between = (a: AskedNumber, b: AskedNumber, tried: readonly Tried[]): NextGrid => {
  const [ta, tb] = [span(tried.map((t) => t.a)), span(tried.map((t) => t.b))];
  const strength = fitResponse(
    tried.map((t) => ({ a: t.a, b: t.b, grade: t.tell === 'weak' ? -5 : t.tell === 'strong' ? 5 : 0 })),
    energyWays(a, b),
  );
  let turn = { a: Math.sqrt(ta[0] * ta[1]), b: Math.sqrt(tb[0] * tb[1]) };
  let least = Infinity;
  for (let i = 0; i <= LATTICE; i += 1)
    for (let k = 0; k <= LATTICE; k += 1) {
      const [sa, sb] = [i / LATTICE, k / LATTICE];
      const p = { a: valueAt(sa, ta), b: valueAt(sb, tb) };
      const off = Math.abs(strength.at(p.a, p.b).mean) + Math.hypot(sa - 0.5, sb - 0.5);
      if (off < least) [turn, least] = [p, off];
    }
  const around = (v: number, t: readonly [number, number]): [number, number] => {
    const wide = Math.max((t[1] / t[0]) ** 0.2, 1.08);
    return [v / wide, v * wide];
  };
  return {
    kind: 'finer',
    a: levelsOver(a, ...around(turn.a, ta)),
    b: levelsOver(b, ...around(turn.b, tb)),
    why: 'Some cells were too weak and some too strong, and none between: the next grid looks closer at where the one turns into the other.',
  };
};

/** Where a better cell may lie, as the surface and its doubt say; null where a look there would not change the choice. */
const hopeful = (a: AskedNumber, b: AskedNumber, tried: readonly Tried[], fit: ResponseFit, best: Judged['best']) => {
  const [sure, likely] = [best.mean - SURE * best.doubt, best.mean - LIKELY * best.doubt];
  const stretch = ({ range }: AskedNumber, values: readonly number[]): [number, number] => {
    const [low, high] = span(values);
    const more = Math.max(high / low, 1.2) ** BEYOND;
    return [clamp(low / more, range), clamp(high * more, range)];
  };
  const [sa, sb] = [stretch(a, tried.map((t) => t.a)), stretch(b, tried.map((t) => t.b))]; // prettier-ignore
  const sums = { gain: 0, a: 0, b: 0, aa: 0, bb: 0 };
  let most = 0;
  for (let i = 0; i < LATTICE; i += 1)
    for (let k = 0; k < LATTICE; k += 1) {
      const [x, y] = [i / (LATTICE - 1), k / (LATTICE - 1)];
      const { mean, doubt } = fit.at(valueAt(x, sa), valueAt(y, sb));
      most = Math.max(most, expectedGain(mean, doubt, likely));
      const gain = expectedGain(mean, doubt, sure);
      // Sharper than the gain itself: where it is small it is small nearly everywhere.
      const weight = gain * gain;
      sums.gain += weight;
      sums.a += weight * x;
      sums.b += weight * y;
      sums.aa += weight * x * x;
      sums.bb += weight * y * y;
    }
  const [ma, mb] = [sums.a / sums.gain, sums.b / sums.gain];
  const wide = (mean: number, square: number): number => {
    const deviation = Math.sqrt(Math.max(0, square / sums.gain - mean * mean));
    return Math.min(0.3, Math.max(0.09, 1.5 * deviation));
  };
  const [wa, wb] = [wide(ma, sums.aa), wide(mb, sums.bb)];
  return {
    // What the best cell itself may turn out better by is no reason to look elsewhere.
    gain: Math.max(0, most - expectedGain(best.mean, best.doubt, likely)),
    a: [valueAt(ma - wa, sa), valueAt(ma + wa, sa)] as const,
    b: [valueAt(mb - wb, sb), valueAt(mb + wb, sb)] as const,
  };
};

/** How much of a grade below the best a cell that is done may seem. */
const DONE = 0.75;

/** The cell with the least energy that is surely done, and was found so; null where none is. */
const leastOf = (a: AskedNumber, b: AskedNumber, tried: readonly Tried[], sure: readonly number[]): number | null => {
  const energy = ({ a: x, b: y }: Tried): number => {
    const [sa, sb] = energyWays(a, b);
    return sa * Math.log(x) + sb * Math.log(y);
  };
  const done = tried.flatMap((t, i) => (t.grade >= BEST && sure[i]! >= BEST - 2 * DONE ? [i] : []));
  return done.length === 0 ? null : done.reduce((best, i) => (energy(tried[i]!) < energy(tried[best]!) ? i : best));
};

/**
 * What the scores of one grid or several over the same two numbers say: the surface, the cell to take, and the grid that
 * would tell most next, or that none would change the choice.
 *
 * @param tried every cell that was looked at, of all the grids; at least one
 * @param doneOrNot whether it is done or not, as a cut: of cells that are, the one with the least energy is taken, and none
 *   is looked for that would be more than done
 */
export const judgeTrials = (a: AskedNumber, b: AskedNumber, tried: readonly Tried[], doneOrNot = false): Judged => {
  const fit = fitResponse(tried, energyWays(a, b));
  const said = tried.map((t) => fit.at(t.a, t.b));
  // By what is sure of it: a lone cell that one look praised falls behind one whose neighbours say the same.
  const sure = said.map((s) => s.mean - CAUTION * s.doubt);
  const surest = sure.reduce((top, s, i) => (s > sure[top]! ? i : top), 0);
  const done = doneOrNot ? leastOf(a, b, tried, sure) : null;
  const index = done ?? surest;
  const best = { index, mean: clamp(said[index]!.mean, [0, BEST]), doubt: said[index]!.doubt };
  const judged = (next: NextGrid): Judged => ({ fit, best, next });
  const highest = Math.max(...tried.map((t) => t.grade));
  if (highest < FAILED) {
    const [weak, strong] = (['weak', 'strong'] as const).map((tell) => tried.some((t) => t.tell === tell));
    return judged(weak && strong ? between(a, b, tried) : beyondEdge(a, b, tried, !strong));
  }
  if (done !== null)
    return judged({
      kind: 'enough',
      why: 'This is done with the least energy of the cells that are surely done, those beside it included. More gains nothing, and takes longer.',
    });
  const hope = hopeful(a, b, tried, fit, best);
  const edge = (values: readonly number[], [low, high]: readonly [number, number]): boolean => {
    const [tl, th] = span(values);
    return share(low, [tl, th]) < -0.02 || share(high, [tl, th]) > 1.02;
  };
  const worth = tried.length <= ONE_GRID ? WORTH_A_GRID.first : WORTH_A_GRID.later;
  if (hope.gain < worth)
    return judged({
      kind: 'enough',
      why: `Another grid would be expected to gain less than ${worth} of a grade: no eye sees that. ${best.mean >= GOOD_ENOUGH ? 'Take the best cell.' : 'The best cell is still no good: other numbers than these two have to change.'}`,
    });
  const outside = edge(tried.map((t) => t.a), hope.a) || edge(tried.map((t) => t.b), hope.b); // prettier-ignore
  return judged({
    kind: outside ? 'beyond' : 'finer',
    a: levelsOver(a, ...hope.a),
    b: levelsOver(b, ...hope.b),
    why: outside
      ? `The best may lie beyond the edge of what was tried: the next grid reaches over it (expected gain ${hope.gain.toFixed(1)} of a grade).`
      : `The next grid looks closer at where the best may lie (expected gain ${hope.gain.toFixed(1)} of a grade).`,
  });
};
