import type { FeedWorkKind } from '../feeder';
import type { HoldSettings } from '../holding';

/** A batch as far as it is held: the core's own or the one that crosses the wire. */
export interface Held {
  readonly fixture: { readonly hold: HoldSettings } | null;
  readonly setup: { readonly hold: HoldSettings; readonly feed: { readonly work: FeedWorkKind } };
}

/** The settings the board in hand was cut with: the saved revision's, else the ones on screen. */
export const effectiveHold = ({ fixture, setup }: Held): HoldSettings => fixture?.hold ?? setup.hold;

/** Whether a batch goes on a feeder. */
export const isFed = (batch: Held): boolean => effectiveHold(batch).method === 'feed';

/** Whether one long piece goes through a feeder in windows. */
export const feedsLong = (batch: Held): boolean => isFed(batch) && batch.setup.feed.work === 'long';
