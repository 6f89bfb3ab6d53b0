import type { Contour } from '../geometry';
import type { Mm } from '../units';

/** Limits of a file of art. */
export const ART_LIMITS = { bytes: 8_000_000, shapes: 20_000, vertices: 600_000, depth: 64 } as const;

/** A paint as a file says it: `#rrggbb`, or that it is more than one colour. */
export type Paint = string;

/** One shape of a file of art, as it is drawn there; mm, y up, from the drawing's lower left corner on. */
export interface ArtShape {
  readonly contours: readonly Contour[];
  /** Which of the places that it goes round are in it. */
  readonly rule: 'nonzero' | 'evenodd';
  readonly fill: Paint | null;
  readonly stroke: Paint | null;
  /** Of its stroke; nought without one. */
  readonly width: Mm;
}

/** A drawing that was read: what is seen of it. */
export interface ArtFile {
  readonly shapes: readonly ArtShape[];
  /** Shapes that nothing is seen of, for outlines that are drawn in no paint. */
  readonly unpainted: readonly ArtShape[];
  /** How many shapes are hidden or not displayed. */
  readonly hidden: number;
  /** What the file says of its unit; `unstated` must be asked about. */
  readonly unit: 'mm' | 'in' | 'cm' | 'px' | 'unstated';
  readonly notes: readonly string[];
  /** Size of its page, where it has one; mm. */
  readonly page?: { readonly width: Mm; readonly height: Mm };
}
