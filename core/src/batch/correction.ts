import { proposeMove, type Correction, type Expected, type MeasuredPiece, type MoveProposal } from '../correct';
import type { Piece } from '../runs';
import { correctionsInForce, measuredIn, type BatchInput, type BatchReckoning, type HeldBatch } from '../setup';
import type { Mm } from '../units';
import { wayOf } from '../ways';

/** Sources by which one piece differs from the next; the others are the same for all that lie on a board. */
const FROM_PIECE_TO_PIECE: ReadonlySet<string> = new Set(['float', 'size', 'seating', 'eye', 'laid', 'line', 'return', 'stops', 'card']); // prettier-ignore

/** What a batch is measured by, and what it says of its placement. */
export interface CorrectionReckoning {
  /** Pieces that were measured since the work was laid, in the order they were burned. */
  readonly measured: readonly (MeasuredPiece & { readonly piece: Piece })[];
  readonly inForce: readonly Correction[];
  readonly expected: Expected;
  readonly proposal: MoveProposal;
}

type Asked = HeldBatch &
  Pick<BatchInput, 'pieces' | 'readings'> & {
    readonly setup: Pick<BatchInput['setup'], 'place'>;
    readonly laidAfter?: number | undefined;
  };

/** Radial uncertainties as one axis’ of them all. */
const perAxis = (u: readonly Mm[]): Mm => Math.sqrt(u.reduce((q, v) => q + v * v, 0) / 2);

/** What the budget expects of pieces before any is measured. */
export const expectedOf = ({ budget, artBox }: Pick<BatchReckoning, 'budget' | 'artBox'>): Expected => {
  const of = (which: (id: string) => boolean): Mm => perAxis(budget.sources.filter((s) => which(s.id)).map((s) => s.u));
  const lever = Math.max(1, Math.hypot(artBox.maxX - artBox.minX, artBox.maxY - artBox.minY) / 2);
  const yaw = budget.sources.find((s) => s.id === 'yaw');
  return {
    piece: Math.max(
      0.02,
      of((id) => FROM_PIECE_TO_PIECE.has(id)),
    ),
    turn: Math.max(0.0005, (yaw?.u ?? 0) / lever),
    common: Math.max(
      0.05,
      of((id) => id !== 'yaw' && !FROM_PIECE_TO_PIECE.has(id)),
    ),
  };
};

/**
 * What measured pieces say of where the burn should go; null where the way of holding has no burn that can be moved as a
 * whole, or nothing is laid out yet.
 */
export const reckonCorrection = (
  batch: Asked,
  r: Pick<BatchReckoning, 'board' | 'budget' | 'artBox'>,
): CorrectionReckoning | null => {
  const way = wayOf(batch);
  if (!way.corrects || !r.board) return null;
  const slots = new Map(r.board.slots.map((s) => [s.slot, s]));
  const inForce = correctionsInForce(batch);
  // A sheet leaves with its marks, and what was found of it holds for the next.
  const after = way.corrects === 'every sheet' ? 0 : (batch.laidAfter ?? 0);
  const measured = batch.pieces
    .filter((p) => p.dx !== null && p.state !== 'loaded' && p.load > after)
    .flatMap((piece) => {
      const slot = slots.get(piece.slot);
      return slot ? [{ ...measuredIn(piece, slot, inForce), piece }] : [];
    });
  const expected = expectedOf(r);
  return { measured, inForce, expected, proposal: proposeMove(measured, expected) };
};
