import { compose, rigid, translation, type Transform } from '../geometry';
import type { Mm, MmPerS, Rad, Seconds } from '../units';

/** A bar under the work, across the feed, by its middle along the travel. Bed frame, mm. */
export interface Support {
  readonly at: Mm;
  readonly width: Mm;
}

/** A conveyor that carries work past the head, as its maker and the operator describe it. */
export interface Feeder {
  readonly id: string;
  readonly name: string;
  readonly widest: Mm;
  readonly narrowest: Mm;
  readonly thickest: Mm;
  /** Longest work without rails in front and behind, mm. */
  readonly longest: Mm;
  /** Longest work on rails; null where it has none. */
  readonly longestOnRails: Mm | null;
  /** Shorter work is held by no two rollers at once, mm. */
  readonly shortest: Mm;
  /** Along which axis of the bed it feeds: `x` from right to left, `y` from front to back. */
  readonly along: 'x' | 'y';
  /** Stretch of that axis within which the head burns, bed frame, mm. */
  readonly window: { readonly from: Mm; readonly to: Mm };
  /** Where the guide edge stands across the feed, bed frame, mm; work lies on its greater side. */
  readonly guideAt: Mm;
  /** Nothing may be placed this near to the strip's ends: the rollers must grip it, mm. */
  readonly deadFront: Mm;
  readonly deadBack: Mm;
  /** Axes of its rollers along the travel, bed frame, mm. */
  readonly rollers: readonly Mm[];
  readonly supports: readonly Support[];
  /** Feed of one motor step as it is set, mm. */
  readonly feedPerStep: Mm;
  readonly speed: MmPerS;
  /** Time from the end of a feed until the work lies still, s. */
  readonly settle: Seconds;
  /** ± at which one feed repeats, by its maker, until repeats were measured, mm. */
  readonly repeats: Mm;
  /** Word of a file that feeds, in mm; null where the file cannot. */
  readonly word: 'U' | 'V' | 'W' | 'A' | 'B' | 'C' | null;
}

/** Work as it goes in: its length along the feed. */
export interface FeedWork {
  readonly length: Mm;
  readonly width: Mm;
  readonly thickness: Mm;
}

export type FitLimit = 'width' | 'narrow' | 'thickness' | 'length' | 'short' | 'head';

export interface Misfit {
  readonly limit: FitLimit;
  readonly message: string;
  /** Ways on, best first. */
  readonly ways: readonly string[];
}

const size = (v: Mm): string => `${Math.round(v * 10) / 10} mm`;

const limitsBroken = (f: Feeder, work: FeedWork, rails: boolean): FitLimit[] => {
  const longest = rails && f.longestOnRails !== null ? f.longestOnRails : f.longest;
  return [
    ...(work.width > f.widest ? (['width'] as const) : []),
    ...(work.width < f.narrowest ? (['narrow'] as const) : []),
    ...(work.thickness > f.thickest ? (['thickness'] as const) : []),
    ...(work.length > longest ? (['length'] as const) : []),
    ...(work.length < f.shortest ? (['short'] as const) : []),
  ];
};

/** Whether work goes through a feeder, rails or none. */
export const goesThrough = (feeder: Feeder, work: FeedWork, rails: boolean): boolean =>
  limitsBroken(feeder, work, rails).length === 0;

/**
 * What of the work a feeder does not take, and the ways on: turn it, rip it down, rails, another feeder.
 * @param others the shop's other feeders
 */
export const reckonFit = (
  feeder: Feeder,
  work: FeedWork,
  rails: boolean,
  others: readonly Feeder[] = [],
  across: Mm = Infinity,
): Misfit[] => {
  const turned = { ...work, length: work.width, width: work.length };
  const takes = others.filter((o) => o.id !== feeder.id && goesThrough(o, work, o.longestOnRails !== null));
  const other = takes.map((o) => `${o.name} takes it.`);
  const railed = feeder.longestOnRails !== null && !rails;
  const turn = goesThrough(feeder, turned, rails)
    ? [`Turn it: ${size(work.length)} across, ${size(work.width)} along the feed.`]
    : [];
  const words: Record<FitLimit, () => Omit<Misfit, 'limit'>> = {
    width: () => {
      const parts = Math.ceil(work.width / feeder.widest);
      return {
        message: `It is ${size(work.width)} wide; ${feeder.name} takes ${size(feeder.widest)}.`,
        ways: [
          ...turn,
          ...(work.width / parts >= feeder.narrowest
            ? [`Rip it down into ${parts} strips of at most ${size(work.width / parts)}.`]
            : []),
          ...other,
        ],
      };
    },
    narrow: () => ({
      message: `It is ${size(work.width)} wide; under ${size(feeder.narrowest)} the guides of ${feeder.name} do not hold it.`,
      ways: [...turn, `Tape it on a carrier at least ${size(feeder.narrowest)} wide.`, ...other],
    }),
    thickness: () => ({
      message: `It is ${size(work.thickness)} thick; ${size(feeder.thickest)} go under the rollers of ${feeder.name}.`,
      ways: [...other, 'Plane it down, or lay it on the bed in segments.'],
    }),
    length: () => ({
      message: `It is ${size(work.length)} long; ${feeder.name} carries ${size(rails && feeder.longestOnRails !== null ? feeder.longestOnRails : feeder.longest)} ${rails ? 'on rails' : 'without rails'}.`,
      ways: [
        ...(railed && work.length <= feeder.longestOnRails!
          ? [`Put the rails on: they carry ${size(feeder.longestOnRails!)}.`]
          : []),
        ...turn,
        ...other,
        'Cut it into shorter strips.',
      ],
    }),
    short: () => ({
      message: `It is ${size(work.length)} long; under ${size(feeder.shortest)} no two rollers of ${feeder.name} hold it at once.`,
      ways: [...turn, 'Tape it on a longer carrier.', ...other],
    }),
    head: () => ({
      message: `It is ${size(work.width)} wide; from the guide the head reaches ${size(across)}.`,
      ways: ['Move the guide, or choose a machine with more room across.'],
    }),
  };
  const broken: FitLimit[] = limitsBroken(feeder, work, rails);
  if (work.width > across) broken.push('head');
  return broken.map((limit) => ({ limit, ...words[limit]() }));
};

/** Length of the stretch that is burned between two feeds, mm. */
export const windowLength = ({ window }: Pick<Feeder, 'window'>): Mm => window.to - window.from;

/**
 * From the strip's frame (x from its leading end, y from the guide) to the bed, after it was fed so
 * far along its guide: its point `fed` lies at the window's way out.
 * @param guide angle of the guide against the axis it should lie along, rad; anticlockwise seen from above
 */
export const stripToBed = (f: Pick<Feeder, 'along' | 'window' | 'guideAt'>, fed: Mm, guide: Rad = 0): Transform => {
  const wayOut =
    f.along === 'x' ? rigid(guide, f.window.from, f.guideAt) : rigid(guide - Math.PI / 2, f.guideAt, f.window.to);
  return compose(wayOut, translation(-fed, 0));
};
