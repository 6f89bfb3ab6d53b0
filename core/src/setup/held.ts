import type { FeedWorkKind } from '../feeder';
import type { HoldSettings } from '../holding';

/** A batch as far as it is held: the core's own or the one that crosses the wire. */
export interface Held {
  readonly fixture: { readonly hold: HoldSettings } | null;
  readonly setup: { readonly hold: HoldSettings; readonly feed: { readonly work: FeedWorkKind } };
}

/** The settings the board in hand was cut with: the saved revision's, else the ones on screen. */
export const effectiveHold = ({ fixture, setup }: Held): HoldSettings => fixture?.hold ?? setup.hold;
