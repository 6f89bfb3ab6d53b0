import type { Mm, Share } from '../units';
import { listed } from '../working';
import { chooseModel, type Tested } from './models';
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

const plausible = (pairs: readonly MarkPair[], sigma: Mm, models: readonly WorkModel[]): Tested | null => {
  const choice = chooseModel(pairs, sigma, models);
  if (!choice || !choice.proposed.agrees || choice.proposed.freedom === 0) return null;
  const { scaleX, scaleY } = choice.proposed.fit;
  return Math.max(Math.abs(scaleX - 1), Math.abs(scaleY - 1)) <= LARGEST_STRETCH ? choice.proposed : null;
};

/**
 * Explains readings that do not agree: marks read in each other's place, work lying face down, one
 * mark misread. Three or more marks; null when nothing of this explains them.
 *
 * @param models that are possible for this work
 */
export const findMistake = (
  pairs: readonly MarkPair[],
  sigma: Mm,
  models: readonly WorkModel[] = ['rigid'],
): Mistake | null => {
  if (pairs.length < 3 || plausible(pairs, sigma, models)) return null;
  let least: { moved: number[]; chiSquare: number } | null = null;
  for (const order of orders(pairs.length)) {
    const tried = pairs.map((p, i) => ({ ...p, read: pairs[order[i]!]!.read }));
    const fit = plausible(tried, sigma, models);
    if (!fit) continue;
    const moved = pairs.filter((_, i) => order[i] !== i).map((p) => p.id);
    if (
      !least ||
      moved.length < least.moved.length ||
      (moved.length === least.moved.length && fit.chiSquare < least.chiSquare)
    )
      least = { moved, chiSquare: fit.chiSquare };
  }
  if (least && least.moved.length === 2)
    return {
      kind: 'exchanged',
      marks: least.moved,
      message: `Marks ${listed(least.moved)} were read in each other’s place. Exchange the two readings, or aim at both again.`,
    };
  if (plausible(mirrored(pairs), sigma, models))
    return {
      kind: 'face-down',
      message:
        'The marks fit the drawing as seen from its back: the work lies face down. Turn it over and read the marks again.',
    };
  const clear = pairs.filter((p) =>
    plausible(
      pairs.filter((q) => q !== p),
      sigma,
      models,
    ),
  );
  if (clear.length === 1)
    return {
      kind: 'misread',
      mark: clear[0]!.id,
      message: `Mark ${clear[0]!.id} does not agree with the others. Aim at mark ${clear[0]!.id} again.`,
    };
  if (least)
    return {
      kind: 'exchanged',
      marks: least.moved,
      message: `Marks ${listed(least.moved)} were read in another order than they are numbered. Aim at them again, in the order of their numbers.`,
    };
  return null;
};
