import type { Mm } from '../units';
import type { FillOrder } from './order';

/** How much larger than the chosen size a pocket is, in total (not per side). */
export type Clearance =
  { readonly school: 'loose' } | { readonly school: 'snug' } | { readonly school: 'own'; readonly total: Mm };

export type BoardExtent =
  | { readonly kind: 'board'; readonly width: Mm; readonly height: Mm }
  | { readonly kind: 'bed' }
  | { readonly kind: 'count'; readonly count: number }
  | { readonly kind: 'grid'; readonly columns: number; readonly rows: number };

/** What is chosen of a board that is cut: its size, walls, order, marks and name. */
export interface BoardSettings {
  readonly boardThickness: Mm;
  /** Least wall between pockets, mm; never below the board's thickness or 2 mm. */
  readonly wall: Mm;
  readonly extent: BoardExtent;
  readonly turned: 'auto' | 'along' | 'across';
  readonly notches: 'none' | 'one' | 'both';
  readonly notchRadius: Mm;
  readonly slotNumbers: boolean;
  /** Registration marks on the board, 2 to 12: two place it, the rest check. */
  readonly marks: number;
  readonly order: FillOrder;
  /** Name engraved on the board and used for its file. */
  readonly name: string;
}

/** Pocket clearances by school [common practice: 0.5 to 1 mm over the piece, in total]. */
export const CLEARANCE: Readonly<Record<'loose' | 'snug', Mm>> = { loose: 1, snug: 0.5 };

export const clearanceTotal = (clearance: Clearance): Mm =>
  clearance.school === 'own' ? clearance.total : CLEARANCE[clearance.school];

/** A board to begin with, numbered from the back left corner, as a list is read. */
export const freshBoard = (name: string): BoardSettings => ({
  boardThickness: 3,
  wall: 3,
  extent: { kind: 'bed' },
  turned: 'auto',
  notches: 'one',
  notchRadius: 8,
  slotNumbers: true,
  marks: 3,
  order: { corner: 'back-left', first: 'rows', serpentine: false },
  name,
});
