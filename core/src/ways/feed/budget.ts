import { assembleBudget, fromUniform, sourceOf, type Budget, type Source, type SourcePart } from '../../budget';
import {
  cornerUncertainty,
  scaleFeedErrors,
  simulateFeed,
  type FeedCalibration,
  type FeedErrors,
  type GuideAngle,
  type Skew,
  type StopChain,
} from '../../feeder';
import type { PointerDoubt } from '../../marks';
import type { Mm } from '../../units';
import { fixed } from '../../working';

const NOTHING: FeedErrors = {
  factor: 0,
  repeat: 0,
  skew: 0,
  guide: 0,
  aim: 0,
  pointer: 0,
  back: 0,
  laid: 0,
  spread: { along: 0, across: 0 },
  dof: { feeds: Infinity, along: Infinity, across: Infinity },
};

interface Facts {
  readonly calibration: FeedCalibration;
  readonly skew: Skew;
  readonly guide: GuideAngle;
  readonly pointer: PointerDoubt;
  readonly long: boolean;
}

/** What would halve it: while it is measured, and while it is assumed. */
type Halve = readonly [measured: string, assumed: string];

const source = (facts: Parameters<typeof sourceOf>[0], [rule, substituted]: readonly [string, string]): SourcePart =>
  sourceOf(facts, [rule, substituted, facts.origin === 'assumed' ? 'assumed' : 'statistics']);

/** A source that is measured, or assumed until it is. */
const measurable = (
  id: Source['id'],
  name: string,
  u: Mm,
  measured: boolean,
  halve: Halve,
  how: readonly [string, string],
): SourcePart =>
  source({ id, name, u, origin: measured ? 'measured' : 'assumed', halve: halve[measured ? 0 : 1] }, how);

/** What `part` of the errors does alone at the worst corner of the worst stop, mm. */
const aloneAt =
  (chains: readonly StopChain[]) =>
  (part: Partial<FeedErrors>): Mm =>
    Math.max(
      ...chains.map((c) => {
        const { along, across } = cornerUncertainty(c, { ...NOTHING, ...part });
        return Math.hypot(along, across);
      }),
    );

/** What the strip does on its way. */
const ofTheFeed = (
  chains: readonly StopChain[],
  errors: FeedErrors,
  { calibration, skew, guide }: Facts,
): SourcePart[] => {
  const alone = aloneAt(chains);
  const fed = Math.max(...chains.map((c) => c.fed));
  const feeds = Math.max(...chains.map((c) => c.feeds));
  return [
    measurable(
      'feed',
      'feed factor',
      alone({ factor: errors.factor }),
      calibration.readings > 0,
      ['Measure a feed twice as long, or four times as often.', 'Command a long feed and measure it with a tape.'],
      ['u(factor) × distance fed since the last aim', `${fixed(errors.factor, 6)} × ${fixed(fed, 0)}`],
    ),
    measurable(
      'feed-repeat',
      'repeats of a feed',
      alone({ repeat: errors.repeat }),
      calibration.repeatabilityFrom === 'repeats',
      ['Aim more often; clean the rollers and press them evenly.', 'Repeat the long feed three times or more.'],
      ['s × √feeds since the last aim', `${fixed(errors.repeat, 3)} × √${feeds}`],
    ),
    measurable(
      'skew',
      'skew against the guide',
      alone({ skew: errors.skew }),
      skew.measured,
      ['Measure the two offsets farther apart.', 'Measure the edge from the guide at two stations, far apart.'],
      ['u(φ) × (distance fed and reach in the window)', `${fixed(errors.skew * 1000, 3)} mm a metre`],
    ),
    measurable(
      'guide',
      'guide against the axis',
      alone({ guide: errors.guide }),
      guide.measured,
      ['Read its edge farther apart, or with a loupe.', 'Bring the pointer onto the guide’s edge at two places, far apart, and type both.'], // prettier-ignore
      ['u(γ) × reach in the window', `${fixed(errors.guide * 1000, 3)} mm a metre`],
    ),
  ];
};

/** What aiming, the blanks and the machine add. */
const ofTheBench = (chains: readonly StopChain[], errors: FeedErrors, { pointer }: Facts): SourcePart[] => {
  const alone = aloneAt(chains);
  const { along, across } = errors.spread;
  const fromBlank = chains.some((c) => c.aimedAt !== undefined);
  return [
    source(
      {
        id: 'aiming',
        name: 'aiming at the strip',
        u: alone({ aim: errors.aim }),
        origin: 'profile',
        halve: 'Use a finer last jog step and a loupe.',
      },
      ['√2 · σ', `√2 × ${fixed(errors.aim, 3)}`],
    ),
    measurable(
      'pointer',
      'pointer offset',
      alone({ pointer: errors.pointer }),
      pointer.status === 'measured',
      ['Measure the offset again, twice, and take the mean.', 'Burn a dot and read where the pointer shows it.'],
      ['√2 · u(offset)', `√2 × ${fixed(errors.pointer, 3)}`],
    ),
    source(
      {
        id: 'laid',
        name: 'laying the blanks',
        u: alone({ laid: errors.laid }),
        worst: errors.laid * Math.SQRT2 * (fromBlank ? 2 : 1),
        origin: 'assumed',
        halve: 'Use a comb of spacers, or push every blank to the one before.',
      },
      fromBlank
        ? ['2 · ±a / √3: its own and that of the blank that was aimed at', `2 × ${fixed(errors.laid)} / √3`]
        : ['√2 · ±a / √3', `√2 × ${fixed(errors.laid)} / √3`],
    ),
    source(
      {
        id: 'size',
        name: 'spread of the blanks',
        u: alone({ spread: errors.spread }),
        origin: 'measured',
        halve: 'Sort the blanks by size.',
      },
      ['√(s_l² + s_w²) / 2', `√(${fixed(along, 3)}² + ${fixed(across, 3)}²) / 2`],
    ),
    source(
      {
        id: 'return',
        name: 'machine return',
        u: alone({ back: errors.back }),
        worst: errors.back * Math.SQRT2,
        origin: 'profile',
        halve: 'Check belts and wheels, and measure the return with a repeated dot.',
      },
      ['√2 · ±r / √3', `√2 × ${fixed(errors.back, 3)} / √3 = ${fixed(Math.SQRT2 * fromUniform(errors.back), 3)}`],
    ),
  ];
};

/** The budget of work on a feeder: what each source does at the worst corner of the worst stop. */
export const feedBudget = (
  chains: readonly StopChain[],
  errors: FeedErrors,
  facts: Facts,
  input: { readonly tolerance: Mm; readonly pieces: number; readonly seed: number },
): Budget => {
  const used = chains.length > 0 ? chains : [{ feeds: 0, fed: 0, boxes: [{ minX: 0, maxX: 1, minY: 0, maxY: 1 }] }];
  const all = [...ofTheFeed(used, errors, facts), ...ofTheBench(used, errors, facts)];
  const felt = all.filter((s) => s.u > 0);
  return assembleBudget(
    felt.length > 0 ? felt : all.slice(-1),
    (count, scale) =>
      simulateFeed(
        used,
        scaleFeedErrors(errors, scale?.id ?? null, scale?.factor ?? 1),
        Math.min(count, 20_000),
        input.seed,
        facts.long,
      ),
    input,
  );
};
