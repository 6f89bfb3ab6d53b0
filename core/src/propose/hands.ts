import { contourLength } from '../geometry';
import type { BatchInput, BatchReckoning, Step } from '../setup';
import type { Minutes } from '../units';
import { wayOf } from '../ways';

/** Hands at a step that takes something, minutes [common practice, from handwork at such benches; no source]. */
const TAKES: Readonly<Partial<Record<NonNullable<Step['takes']>['kind'], Minutes>>> = {
  samples: 8,
  reading: 1.5,
  ring: 6,
  letter: 5,
  'run-out': 3,
  feed: 6,
  guide: 3,
  square: 3,
  photo: 4,
  card: 5,
  back: 8,
  kerf: 3,
  shank: 3,
  fit: 3,
  recipe: 0.5,
  roster: 2,
  save: 0.3,
  burn: 2,
};
/** Hands at any other step: done, and looked at [common practice]. */
const DO: Minutes = 1.5;
const CHECK: Minutes = 2;
/** Cleaning up and taking parts out after a board was cut [common practice]. */
const AFTER_CUTTING: Minutes = 4;
/** Laying on and taking off a load: once, and each piece of it [common practice]. */
const LOAD: Minutes = 1;
const PIECE: Minutes = 1 / 6;
/** Cutting speed of a board while nobody said a recipe for it, mm/s [common practice: 3 mm ply with a small tube]. */
const CUT_SPEED = 10;
/** Minutes of cutting a board: its cuts, at the recipe it is made with. */
const cutting = ({ board }: BatchReckoning, { stockRecipe }: BatchInput): Minutes => {
  const cuts = (board?.passes ?? []).filter((p) => p.kind === 'cut').flatMap((p) => p.contours);
  const length = cuts.reduce((sum, c) => sum + contourLength(c), 0);
  const { speed, passes } = stockRecipe?.cut ?? { speed: CUT_SPEED, passes: 1 };
  return (passes * length) / speed / 60 + AFTER_CUTTING;
};

/** Work of hands at a step; none where it is done already. */
const handsAt = (step: Step, input: BatchInput, r: BatchReckoning): Minutes => {
  if (step.done) return 0;
  if (step.id === 'hold.cut') return cutting(r, input);
  const takes = step.takes && TAKES[step.takes.kind];
  return (step.minutes ?? 0) + (takes ?? (step.part === 'do' ? DO : CHECK));
};

/** Work of hands at steps, minutes: all of them once, and what of it comes again with every further load. */
export const handsOf = (
  steps: readonly Step[],
  input: BatchInput,
  r: BatchReckoning,
): { readonly once: Minutes; readonly load: Minutes } => {
  // What is laid anew with every load is read anew with it; everything else is set up once.
  const anew = wayOf(input).leaves(r) === 'sheet';
  let [once, load] = [0, 0];
  for (const step of steps) {
    const minutes = handsAt(step, input, r);
    once += minutes;
    if (anew && step.station === 'place') load += minutes;
  }
  return { once, load };
};

/** Laying on and taking off so many pieces in so many loads, minutes. */
export const handling = (loads: number, pieces: number): Minutes => loads * LOAD + pieces * PIECE;
