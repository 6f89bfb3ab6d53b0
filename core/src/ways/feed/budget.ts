import { assembleBudget, fromUniform, type Budget, type Source } from '../../budget';
import {
  cornerUncertainty,
  scaleFeedErrors,
  simulateFeed,
  type FeedCalibration,
  type FeedErrors,
  type Skew,
  type StopChain,
} from '../../feeder';
import type { PointerDoubt } from '../../marks';
import type { Mm } from '../../units';
import { fixed, mm, worked } from '../../working';

const NOTHING: FeedErrors = {
  factor: 0,
  repeat: 0,
  skew: 0,
  aim: 0,
  pointer: 0,
  back: 0,
  laid: 0,
  spread: { along: 0, across: 0 },
};

/** The budget of work on a feeder: what each source does at the worst corner of the worst stop. */
export const feedBudget = (
  chains: readonly StopChain[],
  errors: FeedErrors,
  facts: {
    readonly calibration: FeedCalibration;
    readonly skew: Skew;
    readonly pointer: PointerDoubt;
    readonly long: boolean;
  },
  input: { readonly tolerance: Mm; readonly pieces: number; readonly seed: number },
): Budget => {
  const used = chains.length > 0 ? chains : [{ feeds: 0, fed: 0, boxes: [{ minX: 0, maxX: 1, minY: 0, maxY: 1 }] }];
  const alone = (part: Partial<FeedErrors>): Mm =>
    Math.max(
      ...used.map((c) => {
        const { along, across } = cornerUncertainty(c, { ...NOTHING, ...part });
        return Math.hypot(along, across);
      }),
    );
  const fed = Math.max(...used.map((c) => c.fed));
  const feeds = Math.max(...used.map((c) => c.feeds));
  const { calibration, skew, pointer } = facts;
  const source = (
    id: Source['id'],
    name: string,
    u: Mm,
    worst: Mm,
    origin: Source['origin'],
    halve: string,
    rule: string,
    substituted: string,
  ): Omit<Source, 'share'> => ({
    id,
    name,
    u,
    dof: Infinity,
    worst,
    origin,
    halve,
    working: worked(name, rule, substituted, mm(u, 3), origin === 'assumed' ? 'assumed' : 'statistics'),
  });
  const factor = alone({ factor: errors.factor });
  const repeat = alone({ repeat: errors.repeat });
  const turn = alone({ skew: errors.skew });
  const all = [
    source(
      'feed',
      'feed factor',
      factor,
      3 * factor,
      calibration.readings > 0 ? 'measured' : 'assumed',
      calibration.readings > 0
        ? 'Measure a feed twice as long, or four times as often.'
        : 'Command a long feed and measure it with a tape.',
      'u(factor) × distance fed since the last aim',
      `${fixed(errors.factor, 6)} × ${fixed(fed, 0)}`,
    ),
    source(
      'feed-repeat',
      'repeats of a feed',
      repeat,
      3 * repeat,
      calibration.repeatabilityFrom === 'repeats' ? 'measured' : 'assumed',
      calibration.repeatabilityFrom === 'repeats'
        ? 'Aim more often; clean the rollers and press them evenly.'
        : 'Repeat the long feed three times or more.',
      's × √feeds since the last aim',
      `${fixed(errors.repeat, 3)} × √${feeds}`,
    ),
    source(
      'skew',
      'skew against the guide',
      turn,
      3 * turn,
      skew.measured ? 'measured' : 'assumed',
      skew.measured
        ? 'Measure the two offsets farther apart.'
        : 'Measure the edge from the guide at two stations, far apart.',
      'u(φ) × (distance fed and reach in the window)',
      `${fixed(errors.skew * 1000, 3)} mm a metre`,
    ),
    source(
      'aiming',
      'aiming at the strip',
      alone({ aim: errors.aim }),
      3 * alone({ aim: errors.aim }),
      'profile',
      'Use a finer last jog step and a loupe.',
      '√2 · σ',
      `√2 × ${fixed(errors.aim, 3)}`,
    ),
    source(
      'pointer',
      'pointer offset',
      alone({ pointer: errors.pointer }),
      3 * alone({ pointer: errors.pointer }),
      pointer.status === 'measured' ? 'measured' : 'assumed',
      pointer.status === 'measured'
        ? 'Measure the offset again, twice, and take the mean.'
        : 'Burn a dot and read where the pointer shows it.',
      '√2 · u(offset)',
      `√2 × ${fixed(errors.pointer, 3)}`,
    ),
    source(
      'laid',
      'laying the blanks',
      alone({ laid: errors.laid }),
      errors.laid * Math.SQRT2,
      'assumed',
      'Use a comb of spacers, or push every blank to the one before.',
      '√2 · ±a / √3',
      `√2 × ${fixed(errors.laid)} / √3`,
    ),
    source(
      'size',
      'spread of the blanks',
      alone({ spread: errors.spread }),
      3 * alone({ spread: errors.spread }),
      'measured',
      'Sort the blanks by size.',
      '√(s_l² + s_w²) / 2',
      `√(${fixed(errors.spread.along, 3)}² + ${fixed(errors.spread.across, 3)}²) / 2`,
    ),
    source(
      'return',
      'machine return',
      alone({ back: errors.back }),
      errors.back * Math.SQRT2,
      'profile',
      'Check belts and wheels, and measure the return with a repeated dot.',
      '√2 · ±r / √3',
      `√2 × ${fixed(errors.back, 3)} / √3 = ${fixed(Math.SQRT2 * fromUniform(errors.back), 3)}`,
    ),
  ];
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
