import type { Share, Ordinal, SlotNumber, LoadNumber } from '../units';

/** One blank that was, or is being, engraved. */
export interface Piece {
  readonly id: string;
  /** Roster line it carries, from 1. */
  readonly ordinal: Ordinal;
  readonly load: LoadNumber;
  readonly slot: SlotNumber;
  readonly state: 'loaded' | 'done' | 'scrap';
  readonly cause: string | null;
  /** Measured position error, mm and radians; null when not measured. */
  readonly dx: number | null;
  readonly dy: number | null;
  readonly yaw: number | null;
}

/** Why a piece was scrapped. */
export const SCRAP_CAUSES = [
  'off position',
  'wrong text',
  'mark too faint',
  'mark too deep',
  'blank flawed',
  'moved while burning',
  'other',
] as const;

export interface RunState {
  readonly quantity: number;
  readonly spares: number;
  readonly capacity: number;
  readonly firstApproved: boolean;
  readonly pieces: readonly Piece[];
}

export interface RunSummary {
  readonly done: number;
  readonly scrapped: number;
  /** Roster lines still without a good piece or a place in the load, in order. */
  readonly waiting: readonly Ordinal[];
  readonly sparesLeft: number;
  /** Number of the load on the machine; null when none is. */
  readonly openLoad: LoadNumber | null;
  /** Slot to look at next in the open load. */
  readonly nextSlot: SlotNumber | null;
  /** Loads still to come, the open one not counted. */
  readonly loadsLeft: number;
  readonly finished: boolean;
  readonly yield: Share | null;
}

/**
 * Where a run stands, from its pieces alone, so that a lost tab or a restart changes nothing.
 * A scrapped piece's roster line goes back to the front of the queue.
 */
export const runSummary = (run: RunState): RunSummary => {
  const good = new Set(run.pieces.filter((p) => p.state === 'done').map((p) => p.ordinal));
  const loaded = run.pieces.filter((p) => p.state === 'loaded');
  const taken = new Set([...good, ...loaded.map((p) => p.ordinal)]);
  const scrapped = run.pieces.filter((p) => p.state === 'scrap');
  const waiting: Ordinal[] = [];
  const again = new Set(scrapped.map((p) => p.ordinal).filter((o) => !taken.has(o)));
  for (let o = 1; o <= run.quantity; o += 1) if (again.has(o)) waiting.push(o);
  for (let o = 1; o <= run.quantity; o += 1) if (!taken.has(o) && !again.has(o)) waiting.push(o);
  const openLoad = loaded.length > 0 ? Math.max(...loaded.map((p) => p.load)) : null;
  const judged = good.size + scrapped.length;
  const firstLeft = run.firstApproved || openLoad !== null ? 0 : waiting.length > 0 ? 1 : 0;
  return {
    done: good.size,
    scrapped: scrapped.length,
    waiting,
    openLoad,
    sparesLeft: run.spares - scrapped.length,
    nextSlot: openLoad === null ? null : Math.min(...loaded.map((p) => p.slot)),
    loadsLeft: run.capacity > 0 ? firstLeft + Math.ceil((waiting.length - firstLeft) / run.capacity) : 0,
    finished: good.size === run.quantity,
    yield: judged === 0 ? null : good.size / judged,
  };
};

/**
 * The next filling of the fixture: the first piece alone until it is approved, then as many as
 * there are pockets, in slot order.
 * @example nextLoad({ quantity: 96, capacity: 70, firstApproved: true, … }).length // 70
 */
export const nextLoad = (run: RunState): { ordinal: Ordinal; slot: SlotNumber }[] => {
  const { waiting } = runSummary(run);
  const size = run.firstApproved ? run.capacity : Math.min(1, run.capacity);
  return waiting.slice(0, size).map((ordinal, i) => ({ ordinal, slot: i + 1 }));
};

/** Sheets as they would be printed: full ones, then the rest. */
export const plannedSheets = (quantity: number, capacity: number): number[] =>
  capacity <= 0
    ? []
    : Array.from({ length: Math.ceil(quantity / capacity) }, (_, i) => Math.min(capacity, quantity - i * capacity));

/** Loads as they would be filled from the start: the first piece, then full loads, then the rest. */
export const plannedLoads = (quantity: number, capacity: number): number[] => {
  if (capacity <= 0 || quantity <= 0) return [];
  const loads = [1];
  for (let left = quantity - 1; left > 0; left -= capacity) loads.push(Math.min(left, capacity));
  return loads;
};
