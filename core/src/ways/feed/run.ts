import type { Board, Slot } from '../../holding';
import type { Piece, RunSummary } from '../../runs';
import type { FeedStop } from '../../setup';
import type { Ordinal, SlotNumber } from '../../units';

/** What is laid on the strip so far: loads on the strip that is in the machine. */
export const loadsOnStrip = (
  pieces: readonly Piece[],
  capacity: number,
): { strip: number; sizes: number[]; used: number } => {
  const loads = new Map<number, { from: number; to: number; n: number; open: boolean }>();
  for (const p of pieces) {
    const l = loads.get(p.load);
    loads.set(p.load, {
      from: Math.min(l?.from ?? Infinity, p.slot),
      to: Math.max(l?.to ?? 0, p.slot),
      n: (l?.n ?? 0) + 1,
      open: (l?.open ?? false) || p.state === 'loaded',
    });
  }
  let strip = 1;
  let used = 0;
  let sizes: number[] = [];
  let open = false;
  for (const [, load] of [...loads].sort(([a], [b]) => a - b)) {
    if (load.from <= used) {
      strip += 1;
      sizes = [];
      used = 0;
    }
    sizes.push(load.to - used);
    used = load.to;
    open = load.open;
  }
  // A full strip that was judged makes room for the next.
  return used >= capacity && capacity > 0 && !open ? { strip: strip + 1, sizes: [], used: 0 } : { strip, sizes, used };
};

/** Which roster line lies on which place of the strip. */
export const stripRoster = (
  pieces: readonly Piece[],
  board: Board | null,
  stop: FeedStop | undefined,
  on: readonly { slot: Slot; ordinal: Ordinal }[],
  { waiting, openLoad }: RunSummary,
): { slot: SlotNumber; ordinal: Ordinal }[] => {
  const before = (stop?.first ?? 0) + 1;
  const burned = new Map(
    [...pieces]
      .sort((a, b) => a.load - b.load)
      .filter((p) => p.slot < before)
      .map((p) => [p.slot, p.ordinal]),
  );
  const here = new Map(on.map((o) => [o.slot.slot, o.ordinal]));
  const left = waiting.slice(openLoad === null ? on.length : 0);
  return (board?.slots ?? []).flatMap(({ slot }) => {
    const ordinal =
      burned.get(slot) ?? here.get(slot) ?? (slot < before + (stop?.count ?? 0) ? undefined : left.shift());
    return ordinal === undefined ? [] : [{ slot, ordinal }];
  });
};

/** Pieces of each stop until the batch is done. */
export const plannedOf = (quantity: number, stops: readonly FeedStop[], isLong: boolean): number[] => {
  if (isLong) return Array.from({ length: quantity }, () => 1);
  const counts = stops.map((s) => s.count);
  if (counts.length === 0) return [];
  const out: number[] = [];
  for (let left = quantity, i = 0; left > 0; i += 1) {
    const n = Math.min(left, counts[i % counts.length]!);
    out.push(n);
    left -= n;
  }
  return out;
};
