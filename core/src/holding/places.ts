import { type Vec, rigid, type Contour, type Transform } from '../geometry';
import type { Mm, Rad, SlotNumber } from '../units';
import type { Cell } from './order';
import type { MarkPlace } from '../marks';

/** One place in a fixture. `centre` is where the middle of a piece lies, board frame, mm. */
export interface Slot extends Cell {
  /** 1 for the first to be filled. */
  readonly slot: SlotNumber;
  readonly centre: Vec;
  readonly angle: Rad;
}

export interface Grid {
  readonly width: Mm;
  readonly height: Mm;
  readonly columns: number;
  readonly rows: number;
  readonly turned: boolean;
  readonly slots: readonly Slot[];
  readonly marks: readonly MarkPlace[];
  /** Wall between neighbouring pockets, mm. */
  readonly wall: Mm;
  /** How many it would hold with its pieces the other way; where that was left to be found. */
  readonly otherWay?: number;
  /** How many were asked for, where it holds fewer. */
  readonly asked?: number;
}

/** What the beam does to a contour: cut through, draw a line, or fill. */
export type PassKind = 'cut' | 'line' | 'fill';

/** One pass of a file, in the order it is burned. */
export interface Pass {
  readonly name: string;
  readonly kind: PassKind;
  readonly contours: readonly Contour[];
}

/** A board as it is cut: grid, marks and every pass, in the board's frame (origin front left, mm). */
export interface Board extends Grid {
  readonly name: string;
  readonly revision: number;
  readonly thickness: Mm;
  readonly pocket: { readonly length: Mm; readonly width: Mm };
  readonly kerf: Mm;
  readonly passes: readonly Pass[];
  /** Lines along which the piece of each slot is cut, by slot, piece frame; where pieces are cut from a print. */
  readonly cuts?: readonly (readonly Contour[])[];
}

/** Where the machine's zero lies; the arrow on the board points to it. */
export type ZeroCorner = 'front-left' | 'front-right' | 'back-left' | 'back-right';

/** From a piece's frame to the board's. */
export const slotTransform = (slot: Slot): Transform => rigid(slot.angle, slot.centre.x, slot.centre.y);
