import type { Box } from '../geometry';
import { seatSpread, seatWorst, type EdgeSeat, type SeatPoint } from '../holding';
import type { Mm } from '../units';
import { fromUniform } from './combine';

/** An error of ± `most` at each point of a seat, or at its contacts or lines alone: what the art's worst corner moves by, mm. */
export const atPoints = (
  seat: EdgeSeat,
  art: Box,
  most: Mm,
  by: SeatPoint['by'] | 'all' = 'all',
): { readonly u: Mm; readonly worst: Mm } => {
  const at = (error: Mm): Mm[] => seat.points.map((p) => (by === 'all' || p.by === by ? error : 0));
  return { u: seatSpread(seat, at(fromUniform(most)), art), worst: seatWorst(seat, at(most), art) };
};
