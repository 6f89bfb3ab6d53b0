import type {
  BatchInput,
  BatchReckoning,
  Held,
  ReckonOptions,
  RunWords,
  StationId,
  StationState,
  Step,
} from '../setup';

/** Every way of holding work, by the shop's words. */
export const WAY_IDS = [
  'pockets',
  'fence',
  'pegs',
  'locator',
  'sheet',
  'panel',
  'long',
  'marked',
  'feed',
  'photo',
  'drive',
  'cradle',
] as const;
export type WayId = (typeof WAY_IDS)[number];

/** A batch as far as its way of holding is told from it: the core's own or the one that crosses the wire. */
export type HeldBatch = Held & {
  readonly drive: object | null;
  readonly setup: {
    readonly drive: {
      readonly faces: readonly { readonly content: { readonly kind: string } }[];
    };
    readonly lettering: { readonly lines: readonly unknown[] };
  };
};

export type State = Omit<StationState, 'id'>;

/** The stations whose state is a way's own; the others are true of every batch. */
export type OwnStation = 'hold' | 'drive' | 'feed' | 'place';

/** What a run waits for, in words. */
export interface RunWaits {
  /** Nothing was ever laid on. */
  first(batch: HeldBatch): string;
  /** The next load. */
  next(r: BatchReckoning): string;
  /** A load is on. */
  look(r: BatchReckoning): string;
}

/**
 * What every way of holding answers. A caller that wants to know which way a batch goes lacks a question here.
 * Answers are plain data: they cross to workers.
 */
export interface Way {
  readonly id: WayId;
  /** The stations of a batch, in order. */
  route(batch: HeldBatch): readonly StationId[];
  /** Whether pieces are measured before: what is cut out of its sheet is as large as it is drawn. */
  measures(batch: HeldBatch): boolean;
  /** Whether the rest waits until somebody approved the first piece. */
  firstAlone(batch: HeldBatch): boolean;
  /** Whether anything on it comes from the roster. */
  names(batch: HeldBatch): boolean;
  reckon(input: BatchInput, options: ReckonOptions): BatchReckoning;
  readonly stations: { readonly [S in OwnStation]?: (input: BatchInput, r: BatchReckoning) => State };
  /** Steps of all stations before the closing, in the order they are done. */
  steps(input: BatchInput, r: BatchReckoning): Step[];
  readonly waits: RunWaits;
  /** What is put away at the end. */
  putAway(r: BatchReckoning): RunWords;
}
