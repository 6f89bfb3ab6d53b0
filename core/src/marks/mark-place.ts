import type { Vec } from '../geometry';
import type { Mm } from '../units';

/** Forms of a registration mark; each has a middle that can be aimed at. */
export const MARK_KINDS = ['cross-circle', 'cross', 'ring', 'dot', 'corner'] as const;

export type MarkKind = (typeof MARK_KINDS)[number];

export const MARK_WORDS: Readonly<Record<MarkKind, string>> = {
  'cross-circle': 'cross in a circle',
  cross: 'cross',
  ring: 'hole or ring',
  dot: 'dot',
  corner: 'corner',
};

/** How a mark looks; a cross in a circle of the usual size where nothing is said. */
export interface MarkLook {
  readonly kind: MarkKind;
  /** Over all, mm. */
  readonly size: Mm;
}

export interface MarkPlace {
  readonly id: number;
  readonly at: Vec;
  readonly role: 'place' | 'check';
  readonly look?: MarkLook;
}

/** Circle of a registration mark [common practice: 12.7 mm]. */
export const MARK_DIAMETER: Mm = 12.7;

export const FEWEST_MARKS = 2;

export const MOST_MARKS = 12;
