import type { Mm } from '../units';
import type { GuideEnds, Squaring } from './calibrate';
import type { Feeder } from './feeders';
import { freshLong, type LongSettings } from '../long';

/** A row of equal blanks at a pitch, parts cut out of a strip, or one long piece in windows. */
export type StripWork =
  | {
      readonly kind: 'row';
      /** ± at which blanks are laid against guide and spacer, mm. */
      readonly laid: Mm;
      /** Room that a blank has beside the guide, mm. */
      readonly pushRoom: Mm;
    }
  | {
      readonly kind: 'parts';
      /** Parts lie into each other along the strip, every second one turned round where that is closer. */
      readonly interlock: boolean;
    }
  | {
      readonly kind: 'long';
      /** As a long piece that is laid by hand, with its own copy; it always passes through. */
      readonly long: LongSettings;
    };
export type FeedWorkKind = StripWork['kind'];

/** A used place of the strip. Strip frame, mm. */
export interface UsedPatch {
  readonly x: Mm;
  readonly y: Mm;
  readonly width: Mm;
  readonly height: Mm;
}

/** What the operator chooses at the Feed station. */
export interface FeedSettings {
  readonly feederId: string | null;
  readonly rails: boolean;
  /** Pieces lie with their width along the feed. */
  readonly turned: boolean;
  /** From piece to piece; null for the piece and the gap. */
  readonly pitch: Mm | null;
  readonly gap: Mm;
  /** The strip or carrier; long work is its own. */
  readonly strip: { readonly length: Mm; readonly width: Mm };
  /** Aims again every so many stops; 0 only at the first; null as proposed. */
  readonly aimEvery: number | null;
  readonly work: StripWork;
  /** Works that were tried and left, as they stood. */
  readonly left: readonly StripWork[];
}

/** What was seen of the feeder as it stands, and of the strip that lies in it. */
export interface FeedFindings {
  /** Null or absent while nobody read it. */
  readonly guide?: GuideEnds | null | undefined;
  readonly squaring: Squaring | null;
  readonly used: readonly UsedPatch[];
}

export const freshWork = (kind: FeedWorkKind): StripWork => {
  switch (kind) {
    case 'row':
      return { kind, laid: 0.2, pushRoom: 3 };
    case 'parts':
      return { kind, interlock: true };
    case 'long':
      return { kind, long: freshLong };
  }
};

export const freshFeed: FeedSettings = {
  feederId: null,
  rails: false,
  turned: false,
  pitch: null,
  gap: 10,
  strip: { length: 900, width: 120 },
  aimEvery: null,
  work: freshWork('row'),
  left: [],
};

export const newStrip: FeedFindings = { guide: null, squaring: null, used: [] };

/** What is left of it for the next strip: the feeder stands as it stood. */
export const nextStrip = ({ guide }: FeedFindings): FeedFindings => ({ ...newStrip, guide: guide ?? null });

/** The same settings for another work; what was chosen for the one that is left is kept. */
export const otherWork = (settings: FeedSettings, kind: FeedWorkKind): FeedSettings =>
  kind === settings.work.kind
    ? settings
    : {
        ...settings,
        work: settings.left.find((w) => w.kind === kind) ?? freshWork(kind),
        left: [...settings.left.filter((w) => w.kind !== kind && w.kind !== settings.work.kind), settings.work],
      };

/** A feeder to begin with; every number is to be replaced by the maker's. */
export const freshFeeder: Omit<Feeder, 'id' | 'name'> = {
  widest: 470,
  narrowest: 30,
  thickest: 12.7,
  longest: 990,
  longestOnRails: 2400,
  shortest: 250,
  along: 'x',
  window: { from: 150, to: 750 },
  guideAt: 80,
  deadFront: 30,
  deadBack: 30,
  rollers: [110, 790],
  supports: [
    { at: 350, width: 20 },
    { at: 550, width: 20 },
  ],
  feedPerStep: 0.01,
  speed: 60,
  settle: 0.8,
  repeats: 0.1,
  word: 'U',
};
