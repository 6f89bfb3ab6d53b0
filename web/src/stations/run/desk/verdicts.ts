import { useRef, useState } from 'react';
import { api, type BodyOf, type SimRunView } from '@bistre/contract';
import { worstCorner, type Box, type Mm, type Rad, type SlotNumber } from '@bistre/core';
import type { BatchHandle } from '../../../data/use-batch';

export type Verdict = BodyOf<typeof api.judgePieces>['pieces'][number];
/** Where a piece was measured, from where it was meant. */
export type Off = Pick<Verdict, 'dx' | 'dy' | 'yaw'>;

/** The same verdict twice within this time is one: a hand in a glove, or a key that bounced, ms. */
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
 * @param piece the next one, by its id
 */
export const useVerdicts = (handle: BatchHandle, piece: string | undefined) => {
  const last = useRef<{ readonly state: Verdict['state']; readonly at: number } | null>(null);
  const nothing = { piece, dx: null as Mm | null, dy: null as Mm | null, yaw: null as Rad | null };
  const [typed, setTyped] = useState(nothing);
  // What was typed belongs to its piece.
  const own = typed.piece === piece ? typed : nothing;
  return {
    typed: own,
    type: (part: { dx?: Mm; dy?: Mm; yaw?: Rad }): void => setTyped({ ...own, ...part }),
    /** Whether it was a press of its own. */
    give: (pieces: readonly Verdict[]): boolean => {
      const at = performance.now();
      const { state } = pieces[0]!;
      if (last.current?.state === state && at - last.current.at < ONE_PRESS) return false;
      last.current = { state, at };
      void handle.act(api.judgePieces, { body: { pieces: [...pieces] } });
      return true;
    },
  };
};
