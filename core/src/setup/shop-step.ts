import type { Minutes } from '../units';
import type { WayId } from './held';
import type { StationId } from './station';

/** What a step of the shop’s own belongs to: it stands in every batch of that blank, material, way or machine. */
export type StepOf =
  | { readonly kind: 'blank'; readonly blankId: string }
  | { readonly kind: 'material'; readonly material: string }
  | { readonly kind: 'way'; readonly way: WayId }
  | { readonly kind: 'machine'; readonly machineId: string };

/** A step that the shop added: what no handbook knows of its own blanks and machines. */
export interface ShopStep {
  readonly id: string;
  readonly title: string;
  readonly of: StepOf;
  readonly station: StationId;
  /** Before the first or after the last of that station’s steps. */
  readonly when: 'first' | 'last';
  /** What the hand needs and why, in a line; may be empty. */
  readonly detail: string;
  /** May be empty. */
  readonly caution: string;
  /** How long is waited; null where nothing is waited for. */
  readonly minutes: Minutes | null;
  /** A photograph that is kept of it; null for none. */
  readonly photoId: string | null;
}
