import type { PhotoMark } from '../photo';
import type { Mm } from '../units';

/** Blanks that lie anywhere, found in a photograph of the bed. */
export interface PhotoReckoning {
  readonly marks: readonly PhotoMark[];
  /** What the photograph shows: the bed, or a sheet of marks on it, mm. */
  readonly field: { readonly width: Mm; readonly height: Mm };
  readonly onSheet: boolean;
  /** Parts are laid into offcuts and cut out of them. */
  readonly parts: boolean;
  /** Blanks that wait for an answer before anything is burned. */
  readonly asks: number;
  /** Parts still to be cut that lie over a defect, by place: marked after they were laid. */
  readonly over: readonly number[];
  /** Of the photograph: found, and still without a burn. */
  readonly found: number;
  readonly free: number;
  /** What forgetting the blanks' thickness would cost at the bed's corner, mm. */
  readonly forgotten: Mm;
}
