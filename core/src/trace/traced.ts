import type { Contour, Vec } from '../geometry';
import type { Mm } from '../units';
import type { MarkLook } from '../marks';

/** What stands on a traced sheet: a piece to be cut out, a mark to aim at, or something to leave alone. */
export const TRACED_ROLES = ['piece', 'mark', 'left out'] as const;

export type TracedRole = (typeof TRACED_ROLES)[number];

/** Sheet frame (origin at the lower left corner, y up), mm. */
export interface TracedShape {
  readonly outline: Contour;
  readonly holes: readonly Contour[];
  readonly role: TracedRole;
  /** The form of a recognised mark. */
  readonly look: MarkLook | null;
  /** Its middle: what is aimed at when it is a mark. */
  readonly at: Vec;
}

/** A printed sheet as it was found in a picture or in its drawing. */
export interface TracedSheet {
  /** Its file. */
  readonly name: string;
  readonly width: Mm;
  readonly height: Mm;
  /** Size of a dot, mm. */
  readonly dot: Mm;
  /** In reading order. */
  readonly shapes: readonly TracedShape[];
  /** Standard uncertainty of an outline's place, per axis, mm. */
  readonly uncertainty: Mm;
  /** Width of its edges in the picture, mm. */
  readonly edge: Mm;
  /** The picture itself, where it is kept. */
  readonly pictureId?: string | null | undefined;
}
