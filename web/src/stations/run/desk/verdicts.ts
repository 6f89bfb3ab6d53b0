import { useRef, useState } from 'react';
import { api, type BodyOf, type SimRunView } from '@bistre/contract';
import { worstCorner, type Box, type Mm, type SlotNumber } from '@bistre/core';
import type { BatchHandle } from '../../../data/use-batch';

export type Verdict = BodyOf<typeof api.judgePieces>['pieces'][number];
/** Where a piece was measured, from where it was meant. */
export type Off = Pick<Verdict, 'dx' | 'dy' | 'yaw'>;

/** Two presses within this time are one: a hand in a glove, or a key that bounced, ms. */
const ONE_PRESS = 250;

/** The slots of the load that is on whose pieces nobody judged yet, the next first. */
export const loadedSlots = ({ batch }: BatchHandle): SlotNumber[] =>
  batch.pieces
    .filter((p) => p.state === 'loaded')
    .map((p) => p.slot)
    .sort((a, b) => a - b);

/** How far the worst corner of a piece is off, mm; nought where nothing was measured. */
export const worstOf = (art: Box, { dx, dy, yaw }: Off): Mm =>
  dx == null ? 0 : worstCorner(art, dx, dy ?? 0, yaw ?? 0);

/** Where the simulated machine measured a piece; nothing where it did not. */
export const simulatedOff = (run: SimRunView | null, slot: SlotNumber): Off => {
  const of = run?.pieces.find((p) => p.slot === slot);
  return of && of.dx !== null ? { dx: of.dx, dy: of.dy, yaw: of.yaw } : {};
};

/**
 * Judges pieces, one press once, and keeps the offsets that were typed for the piece that is next.
 *
 * @param slot the next one
 */
export const useVerdicts = (handle: BatchHandle, slot: SlotNumber | null) => {
  const last = useRef(-Infinity);
  const [typed, setTyped] = useState<{ readonly slot: SlotNumber | null; readonly dx: Mm | null; readonly dy: Mm | null }>({ slot, dx: null, dy: null }); // prettier-ignore
  // What was typed belongs to its piece.
  const own = typed.slot === slot ? typed : { slot, dx: null, dy: null };
  const give = async (pieces: readonly Verdict[]): Promise<void> => {
    const now = performance.now();
    if (now - last.current < ONE_PRESS) return;
    last.current = now;
    await handle.act(api.judgePieces, { body: { pieces: [...pieces] } });
  };
  return {
    typed: own,
    type: (part: { dx?: Mm; dy?: Mm }): void => setTyped({ ...own, ...part }),
    give,
  };
};
