import { movedAt, moveTransform, type Correction, type MeasuredPiece } from '../correct';
import { compose, identity, type Transform } from '../geometry';
import { slotTransform, type Slot } from '../holding';
import type { Piece } from '../runs';
import type { BatchInput } from './input';

/** What names a laying: its last reading. A mark read again says anew where the work lies. */
export const layingOf = (readings: BatchInput['readings']): string | null =>
  readings.findLast((r) => r.purpose === 'place')?.id ?? null;

/** The corrections that hold for the work as it lies, oldest first. */
export const correctionsInForce = ({
  setup,
  readings,
}: {
  readonly setup: Pick<BatchInput['setup'], 'place'>;
  readonly readings: BatchInput['readings'];
}): readonly Correction[] => {
  const laying = layingOf(readings);
  return (setup.place.corrections ?? []).filter((c) => c.laying === null || c.laying === laying);
};

/** All of them as one map of the frame of what holds the pieces. */
export const correctionTransform = (corrections: readonly Correction[]): Transform =>
  corrections.reduce((map, c) => compose(moveTransform(c), map), identity);

/**
 * What a piece says of the burn as it is corrected now, in the frame of what holds it: what was moved since it was
 * burned is added to what was measured on it.
 */
export const measuredIn = (piece: Piece, slot: Slot, corrections: readonly Correction[]): MeasuredPiece => {
  const turned = slotTransform(slot);
  const [x, y] = [piece.dx ?? 0, piece.dy ?? 0];
  const since = corrections.filter((c) => c.load >= piece.load).map((c) => movedAt(c, slot.centre));
  return {
    at: slot.centre,
    off: {
      x: turned.a * x + turned.c * y + since.reduce((sum, m) => sum + m.off.x, 0),
      y: turned.b * x + turned.d * y + since.reduce((sum, m) => sum + m.off.y, 0),
    },
    // A turn of nought is one that nobody measured.
    turn: piece.yaw ? piece.yaw + since.reduce((sum, m) => sum + m.turn, 0) : null,
  };
};
