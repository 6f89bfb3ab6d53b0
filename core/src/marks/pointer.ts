import { add, sub, type Vec } from '../geometry';
import type { Mm } from '../units';

/**
 * Where the visible dot lands relative to the beam, mm: `dot = beam + offset`.
 * Null while nobody has measured it.
 */
export interface PointerOffset {
  readonly x: Mm;
  readonly y: Mm;
  /** ISO time of the measurement. */
  readonly measuredAt: string;
}

/** Carried in the budget while the offset is unmeasured [common practice], mm either way. */
export const UNMEASURED_POINTER: Mm = 0.3;
/** Age after which an offset is called stale, days. */
export const POINTER_STALE_DAYS = 90;

/**
 * Pointer offset from a burned dot: the beam burned at `burned`; the head had to go to `shown` for
 * the pointer's dot to lie on the burn.
 */
export const pointerFromDot = (burned: Vec, shown: Vec): Vec => sub(burned, shown);

/** Where a mark is for the beam, from where the head stood when the pointer's dot lay on it. */
export const markFromReading = (head: Vec, offset: Vec | null): Vec => (offset ? add(head, offset) : head);

/** What is not known of the pointer's offset. */
export interface PointerDoubt {
  readonly status: 'measured' | 'stale' | 'unmeasured';
  /** Standard uncertainty per axis, mm. */
  readonly uncertainty: Mm;
}

/** A measured offset is as good as two aims; a stale one is given twice that; one nobody measured is ±0.3 mm. */
export const pointerDoubt = (offset: PointerOffset | null, sigma: Mm, now: Date): PointerDoubt =>
  !offset
    ? { status: 'unmeasured', uncertainty: UNMEASURED_POINTER / Math.sqrt(3) }
    : pointerAgeDays(offset, now) > POINTER_STALE_DAYS
      ? { status: 'stale', uncertainty: 2 * sigma }
      : { status: 'measured', uncertainty: sigma };

export const pointerAgeDays = (offset: PointerOffset, now: Date): number =>
  (now.getTime() - new Date(offset.measuredAt).getTime()) / 86_400_000;
