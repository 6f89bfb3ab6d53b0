import type { BatchDocument } from '@bistre/contract';
import type { BatchReckoning, Ordinal } from '@bistre/core';
import type { OwnShown, PathsShown } from '../../data/shown';

/** What of a reckoning crosses from the worker to the page, and in which form: only what a way has of its own. */
export interface Show {
  /** The pieces whose art is drawn flat, by their line of the roster. */
  readonly drawn: (r: BatchReckoning) => readonly { readonly ordinal: Ordinal }[];
  /** What is not plain data, or too much of it, in the form the page draws. */
  readonly own: (r: BatchReckoning, batch: BatchDocument) => OwnShown;
  /** Shapes of work that is burned in segments. */
  readonly segments: (r: BatchReckoning) => readonly PathsShown[];
  /** Whether an outline is walked on the bed. */
  readonly outlined: (r: BatchReckoning) => boolean;
  /** The batch with its other side up; null where it has none. */
  readonly other: (batch: BatchDocument) => BatchDocument | null;
}

/** Flat pieces as they lie. */
export const FLAT_SHOW: Show = {
  drawn: (r) => r.onTheBoard,
  // What is cut out is drawn with the board; that it is, is known.
  own: (r) => ({ ...r.own, round: undefined, cutLine: r.own.cutLine && [] }),
  segments: () => [],
  outlined: (r) => r.placed,
  other: () => null,
};
