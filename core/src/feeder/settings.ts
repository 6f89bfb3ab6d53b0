import type { Mm } from '../units';
import type { Squaring } from './calibrate';
import type { Feeder } from './feeders';

/** A row of equal blanks at a pitch, parts cut out of a strip, or one long piece in windows. */
export type FeedWorkKind = 'row' | 'parts' | 'long';

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
  readonly work: FeedWorkKind;
  readonly rails: boolean;
  /** Pieces lie with their width along the feed. */
  readonly turned: boolean;
  /** From piece to piece; null for the piece and the gap. */
  readonly pitch: Mm | null;
  readonly gap: Mm;
  /** Parts lie into each other along the strip, every second one turned round where that is closer. */
  readonly interlock: boolean;
  /** The strip or carrier; long work is its own. */
  readonly strip: { readonly length: Mm; readonly width: Mm };
  /** ± at which blanks are laid against guide and spacer, mm. */
  readonly laid: Mm;
  readonly squaring: Squaring | null;
  /** Aims again every so many stops; 0 only at the first; null as proposed. */
  readonly aimEvery: number | null;
  readonly used: readonly UsedPatch[];
}

export const freshFeed: FeedSettings = {
  feederId: null,
  work: 'row',
  rails: false,
  turned: false,
  pitch: null,
  gap: 10,
  interlock: true,
  strip: { length: 900, width: 120 },
  laid: 0.2,
  squaring: null,
  aimEvery: null,
  used: [],
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
