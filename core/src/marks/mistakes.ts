import { apply, distance, type Transform } from '../geometry';
import type { Mm, Share } from '../units';
import { listed } from '../working';
import { chiSquareQuantile } from '../samples';
import { chooseModel, fitModel, stretchOf } from './models';
import { PARAMETERS } from './model-names';
import type { MarkPair, WorkModel } from './solve';

/** The drawing as it would be seen from its back. */
const mirrored = (pairs: readonly MarkPair[]): MarkPair[] =>
  pairs.map((p) => ({ ...p, drawn: { x: -p.drawn.x, y: p.drawn.y } }));

/** What a person most likely did when the readings do not agree. */
export type Mistake =
  | { readonly kind: 'exchanged'; readonly marks: readonly number[]; readonly message: string }
  | { readonly kind: 'face-down'; readonly message: string }
  | { readonly kind: 'misread'; readonly mark: number; readonly message: string };

/** Orders in which marks may have been read: all of them while they are few, else exchanges of two and the reverse. */
const orders = (n: number): number[][] => {
  const straight = Array.from({ length: n }, (_, i) => i);
  if (n <= 5) {
    const all: number[][] = [];
    const build = (head: number[], rest: number[]): void => {
      if (rest.length === 0) all.push(head);
      rest.forEach((r, i) => build([...head, r], [...rest.slice(0, i), ...rest.slice(i + 1)]));
    };
    build([], straight);
    return all.slice(1);
  }
  const out = [[...straight].reverse()];
  for (let i = 0; i < n; i += 1)
    for (let j = i + 1; j < n; j += 1) out.push(straight.map((k) => (k === i ? j : k === j ? i : k)));
  return out;
};

/** Largest change of size that still passes for paper and printer. */
export const LARGEST_STRETCH: Share = 0.02;

/** Level of a supposed mistake: it is dropped where it would leave residuals that only one of a thousand have. */
const SUPPOSED: Share = 0.999;
/** What a further parameter of the sheet has to explain, in χ² [assumed: about 20 to 1 against it]. */
const PER_PARAMETER = 6;
/** Least and most that a mark is misread by [assumed]: the next graduation, another mark; each tenfold step is as likely. */
const MISREAD_BY: readonly [least: Mm, most: Mm] = [0.1, 1000];
/** How much less likely readings in another order are than in their own, in χ² [assumed: 1 to 100]. */
const OUT_OF_ORDER = 9.21;
/** And of every mark beyond the two that change places, in χ² [assumed: 1 to 12]. */
const PER_MOVED = 5;
/** A mistake is named where it is a hundred times as likely as any other, in χ²: 2 ln 100. */
const SEPARATES = 9.21;

interface Explained {
  /** −2 ln of the likelihood of the readings, but for what all suppositions have in common. */
  readonly cost: number;
  readonly transform: Transform;
}

/**
 * How a supposition explains marks: by the smallest model that leaves plausible residuals, and what its scales cost; null
 * where no model does.
 */
const explain = (pairs: readonly MarkPair[], sigma: Mm, models: readonly WorkModel[]): Explained | null => {
  for (const model of models) {
    const fit = fitModel(pairs, model);
    if (!fit.ok) continue;
    const { squares, transform } = fit.value;
    const freedom = 2 * pairs.length - PARAMETERS[model];
    if (freedom === 0 || stretchOf(fit.value) > LARGEST_STRETCH) continue;
    const chiSquare = squares / sigma ** 2;
    if (chiSquare <= chiSquareQuantile(SUPPOSED, freedom))
      return { cost: chiSquare + PER_PARAMETER * (PARAMETERS[model] - PARAMETERS.rigid), transform };
  }
  return null;
};

/**
 * What it costs to suppose a mark misread by `d`: its place is then anywhere round its own, each tenfold distance as likely,
 * 1 / (2π d² ln(most / least)) for each mm², in place of a normal error’s 1 / (2πσ²).
 */
const misreadCost = (d: Mm, sigma: Mm): number =>
  2 * Math.log((Math.max(d, MISREAD_BY[0]) / sigma) ** 2 * Math.log(MISREAD_BY[1] / MISREAD_BY[0]));

/** Readings that agree as they are. */
const agree = (pairs: readonly MarkPair[], sigma: Mm, models: readonly WorkModel[]): boolean => {
  const proposed = chooseModel(pairs, sigma, models)?.proposed;
  return (
    proposed !== undefined && proposed.agrees && proposed.freedom > 0 && stretchOf(proposed.fit) <= LARGEST_STRETCH
  );
};

interface Supposed {
  readonly cost: number;
  readonly mistake: Mistake | null;
}

const FACE_DOWN: Mistake = {
  kind: 'face-down',
  message:
    'The marks fit the drawing as seen from its back: the work lies face down. Turn it over and read the marks again.',
};

const misread = (mark: number): Mistake => ({
  kind: 'misread',
  mark,
  message: `Mark ${mark} does not agree with the others. Aim at mark ${mark} again.`,
});

const exchanged = (marks: readonly number[]): Mistake => ({
  kind: 'exchanged',
  marks,
  message:
    marks.length === 2
      ? `Marks ${listed(marks)} were read in each other’s place. Exchange the two readings, or aim at both again.`
      : `Marks ${listed(marks)} were read in another order than they are numbered. Aim at them again, in the order of their numbers.`,
});

/**
 * Explains readings that do not agree: marks read in each other's place, work lying face down, one
 * mark misread, or bad luck. Each is weighed by how likely it makes the readings [a comparison of posterior odds, any
 * statistics text]; one is named where it is a hundred times as likely as every other. Three or more marks; null when
 * nothing of this explains them, or more than one thing does.
 *
 * @param models that are possible for this work
 */
export const findMistake = (
  pairs: readonly MarkPair[],
  sigma: Mm,
  models: readonly WorkModel[] = ['rigid'],
): Mistake | null => {
  if (pairs.length < 3 || agree(pairs, sigma, models)) return null;
  const supposed: Supposed[] = [];
  const suppose = (explained: Explained | null, more: (by: Transform) => number, mistake: Mistake | null): void => {
    if (explained) supposed.push({ cost: explained.cost + more(explained.transform), mistake });
  };
  suppose(explain(pairs, sigma, models), () => 0, null);
  suppose(explain(mirrored(pairs), sigma, models), () => OUT_OF_ORDER, FACE_DOWN);
  for (const pair of pairs) {
    const others = pairs.filter((p) => p !== pair);
    const by = (t: Transform): number => misreadCost(distance(apply(t, pair.drawn), pair.read), sigma);
    suppose(explain(others, sigma, models), by, misread(pair.id));
  }
  for (const order of orders(pairs.length)) {
    const moved = pairs.filter((_, i) => order[i] !== i).map((p) => p.id);
    const tried = pairs.map((p, i) => ({ ...p, read: pairs[order[i]!]!.read }));
    const cost = OUT_OF_ORDER + PER_MOVED * (moved.length - 2);
    suppose(explain(tried, sigma, models), () => cost, exchanged(moved));
  }
  supposed.sort((a, b) => a.cost - b.cost);
  const [best, second] = supposed;
  if (!best) return null;
  return !second || second.cost - best.cost >= SEPARATES ? best.mistake : null;
};
