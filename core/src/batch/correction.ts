import { proposeMove, type Correction, type Expected, type MeasuredPiece, type MoveProposal } from '../correct';
import type { Piece } from '../runs';
import { correctionsInForce, measuredIn, type BatchInput, type BatchReckoning, type HeldBatch } from '../setup';
import type { Mm } from '../units';
import { chiSquareQuantile } from '../samples';
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

/** A source of the budget as it would show on pieces: in all of them alike, or from one to the next. */
export interface ShownSource {
  readonly id: string;
  readonly name: string;
  /** Standard, of one axis, mm. */
  readonly u: Mm;
  readonly shows: 'all alike' | 'piece to piece';
}

/** What the budget expects beside what pieces say: of the part that all have, and of what differs between them. */
export interface BesideBudget {
  readonly sources: readonly ShownSource[];
  /** Mean offset, the larger of both axes, and how large it is expected to be at most (95 %), mm. */
  readonly alike: { readonly found: Mm; readonly most: Mm; readonly verdict: 'as expected' | 'more' };
  /** Standard deviation of both axes together, with its interval (95 %), and what is expected, mm. Null of a single piece. */
  readonly apart: {
    readonly found: Mm;
    readonly low: Mm;
    readonly high: Mm;
    readonly expected: Mm;
    readonly verdict: 'as expected' | 'more' | 'less';
  } | null;
}

/**
 * The budget beside measured pieces. The interval of a standard deviation by χ² of both axes’ freedom
 * (NIST/SEMATECH e-Handbook 1.3.5.8: s √(ν / χ²)).
 * @param x, y offsets of the pieces, mm
 */
export const besideBudget = (
  r: Pick<BatchReckoning, 'budget' | 'artBox'>,
  x: readonly Mm[],
  y: readonly Mm[],
): BesideBudget | null => {
  const n = Math.min(x.length, y.length);
  if (n === 0) return null;
  const sources = r.budget.sources.filter((s) => s.id !== 'yaw').map((s): ShownSource => ({ id: s.id, name: s.name, u: s.u / Math.SQRT2, shows: FROM_PIECE_TO_PIECE.has(s.id) ? 'piece to piece' : 'all alike' })).sort((a, b) => b.u - a.u); // prettier-ignore
  const { piece, common } = expectedOf(r);
  const mean = (values: readonly Mm[]): Mm => values.reduce((a, b) => a + b, 0) / values.length;
  const squares = (values: readonly Mm[]): number => values.reduce((q, v) => q + (v - mean(values)) ** 2, 0);
  const dof = 2 * (n - 1);
  const found = dof > 0 ? Math.sqrt((squares(x) + squares(y)) / dof) : piece;
  const far = Math.max(Math.abs(mean(x)), Math.abs(mean(y)));
  const most = 2 * Math.hypot(common, found / Math.sqrt(n));
  const [low, high] = dof > 0 ? [found * Math.sqrt(dof / chiSquareQuantile(0.975, dof)), found * Math.sqrt(dof / chiSquareQuantile(0.025, dof))] : [0, 0]; // prettier-ignore
  return {
    sources,
    alike: { found: far, most, verdict: far > most ? 'more' : 'as expected' },
    apart: dof > 0 ? { found, low, high, expected: piece, verdict: piece < low ? 'more' : piece > high ? 'less' : 'as expected' } : null, // prettier-ignore
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
