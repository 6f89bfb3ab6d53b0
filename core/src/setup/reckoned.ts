import { batchArt, type BatchArt } from '../artwork';
import type { Box, Contour, Transform, Vec } from '../geometry';
import {
  type BlankSizes,
  type Board,
  type FixtureBasis,
  type Heights,
  type LineSeat,
  type Locator,
  type Pocket,
  type Slot,
  type UsableArea,
  type Zone,
} from '../holding';
import type { Alphabet } from '../lettering';
import type { Budget } from '../budget';
import type { Problem } from '../result';
import type { RunSummary } from '../runs';
import type { Question } from '../samples';
import type { Face } from './face';
import type { Fixings } from './fixings';
import type { FeedReckoning } from './feed-reckoned';
import type { BatchInput } from './input';
import type { LongReckoning } from './long';
import type { PlaceReckoning } from './place';
import type { PhotoReckoning } from './photo-reckoned';
import type { RoundReckoning } from './round-reckoned';
import type { Ordinal } from '../units';
import type { Remark } from './finding';

/** What only some ways reckon; absent from the others, null while it cannot be made. */
export interface OwnReckoning {
  /** Closed lines along which the printed piece of each slot is cut, by slot, piece frame; engraved pieces have none. */
  readonly cutLine?: readonly (readonly (readonly Vec[])[])[];
  /** Lines that free each engraved piece from its sheet. */
  readonly cutOut?: FreeingCuts | null;
  /** How a piece is seated against pegs and lines, and what of its face that leaves. */
  readonly lines?: LineSeat | null;
  readonly usable?: UsableArea | null;
  readonly locator?: Locator | null;
  /** A long piece in segments. */
  readonly long?: LongReckoning | null;
  /** What a round blank and its drive make of it. */
  readonly round?: RoundReckoning;
  readonly feed?: FeedReckoning;
  /** Blanks or offcuts that a photograph found. */
  readonly photo?: PhotoReckoning;
}

/** Lines that free engraved pieces, holes first, piece frame. */
export interface FreeingCuts {
  readonly lines: readonly Contour[];
  /** Freed with the engraving of their face, or once the sheet’s last side is engraved. */
  readonly when: 'at once' | 'last';
}

export interface BatchReckoning {
  readonly sizes: BlankSizes;
  readonly questions: readonly Question[];
  readonly pocket: Pocket;
  readonly basis: FixtureBasis;
  readonly board: Board | null;
  readonly boardProblem: Problem | null;
  readonly outOfDate: readonly string[];
  readonly heights: Heights;
  readonly zone: Zone | null;
  readonly art: BatchArt | null;
  readonly artBox: Box;
  readonly place: PlaceReckoning;
  /** Board to bed: solved, or where the board would lie if it lay square in the middle. */
  readonly boardToBed: Transform;
  readonly placed: boolean;
  readonly budget: Budget;
  readonly run: RunSummary;
  readonly planned: readonly number[];
  readonly onTheBoard: readonly { readonly slot: Slot; readonly ordinal: Ordinal }[];
  /** The face that lies up. */
  readonly face: Face;
  readonly warnings: readonly Remark[];
  /** Pins and a stand. */
  readonly fixings: Fixings;
  readonly own: OwnReckoning;
}

/** The pieces on the board now: the open load, or the next one that would be filled. */
export const piecesOnBoard = (
  input: BatchInput,
  board: Board,
  summary: RunSummary,
): { slot: Slot; ordinal: Ordinal }[] => {
  const bySlot = new Map(board.slots.map((s) => [s.slot, s]));
  if (summary.openLoad !== null) {
    return input.pieces
      .filter((p) => p.state === 'loaded')
      .flatMap((p) => {
        const slot = bySlot.get(p.slot);
        return slot ? [{ slot, ordinal: p.ordinal }] : [];
      });
  }
  return summary.waiting.slice(0, board.slots.length).map((ordinal, i) => ({ slot: board.slots[i]!, ordinal }));
};

export interface ReckonOptions {
  readonly now: Date;
  readonly alphabets: Readonly<Record<string, Alphabet>>;
  /** Single-stroke alphabet for the board's own labels. */
  readonly labels: string;
  readonly simulatedPieces: number;
  /** Stands in for `batchArt`; lets a caller that asks again and again keep what did not change. */
  readonly art?: typeof batchArt;
}
