import { add, sub, type Vec } from '../geometry';
import type { Mm } from '../units';
import { mm } from '../working';

/** Where the visible dot lands relative to the beam on a surface at some height over the focus, mm: `dot = beam + offset`. */
export interface PointerAt extends Vec {
  /** Of the surface over the one in focus; negative below it. */
  readonly height: Mm;
}

/**
 * The pointer's offset, measured on one surface or on two: a pointer that shines aslant lands
 * elsewhere on a higher one. Null while nobody has measured it.
 */
export interface PointerOffset extends PointerAt {
  /** Measured at another height too: then the offset is known at all heights. */
  readonly second: PointerAt | null;
  /** ISO time of the measurement. */
  readonly measuredAt: string;
  /** Something that it depends on was changed since: it is the best guess there is, and no more. */
  readonly overtaken?: boolean | undefined;
}

/** How far the dot moves for a millimetre of height when nobody measured it: some 3° aslant [assumed], mm either way. */
export const POINTER_LEAN = 0.05;
/** Heights nearer together than this say nothing of a slope, mm. */
export const LEAST_HEIGHT: Mm = 2;

/** Share of the way from the first height measured to the second. */
const between = ({ height: at, second }: PointerOffset, height: Mm): number =>
  second && Math.abs(second.height - at) >= LEAST_HEIGHT ? (height - at) / (second.height - at) : 0;

/** The offset on a surface at a height over the focus: along the line through both measurements. */
export const pointerAt = (offset: PointerOffset, height: Mm): Vec => {
  const t = between(offset, height);
  const { second } = offset;
  return second ? { x: offset.x + t * (second.x - offset.x), y: offset.y + t * (second.y - offset.y) } : offset;
};

/** Carried in the budget while the offset is unmeasured [common practice], mm either way. */
export const UNMEASURED_POINTER: Mm = 0.3;
/** Age after which an offset is called stale, days. */
export const POINTER_STALE_DAYS = 90;

/**
 * Pointer offset from a burned dot: the beam burned at `burned`; the head had to go to `shown` for
 * the pointer's dot to lie on the burn.
 */
export const pointerFromDot = (burned: Vec, shown: Vec): Vec => sub(burned, shown);

/**
 * The same from what a machine's display says: its y may run towards the operator, an offset is kept as seen from above,
 * to the right and away from the operator.
 *
 * @example pointerFromDisplay('toward', { x: 354, y: 452 }, { x: 354.4, y: 452.4 }) // { x: −0.4, y: 0.4 }
 */
export const pointerFromDisplay = (yRuns: 'away' | 'toward', burned: Vec, shown: Vec): Vec => {
  const { x, y } = pointerFromDot(burned, shown);
  return { x, y: yRuns === 'away' ? y : -y };
};

/** Where the pointer's dot falls beside the beam, in the operator's words; mm. */
export const pointerWords = ({ x, y }: Vec): string =>
  `${mm(Math.abs(x))} to the ${x < 0 ? 'left' : 'right'} of the beam and ${mm(Math.abs(y))} ${y < 0 ? 'nearer to' : 'farther from'} you`;

/** Where a mark is for the beam, from where the head stood when the pointer's dot lay on it. */
export const markFromReading = (head: Vec, offset: Vec | null): Vec => (offset ? add(head, offset) : head);

/** What is not known of the pointer's offset. */
export interface PointerDoubt {
  readonly status: 'measured' | 'stale' | 'unmeasured';
  /** Standard uncertainty per axis, mm. */
  readonly uncertainty: Mm;
}

/**
 * A measured offset is as good as two aims; a stale one is given twice that; one nobody measured is
 * ±0.3 mm, and so is one whose lens, tube or mirrors were changed since. On a surface at another height the lean adds what it may, or, where two heights were
 * measured, the errors of both by their distance.
 *
 * @param height of the surface that is aimed at over the focus, mm
 */
export const pointerDoubt = (offset: PointerOffset | null, sigma: Mm, now: Date, height: Mm = 0): PointerDoubt => {
  if (!offset || offset.overtaken) return { status: 'unmeasured', uncertainty: UNMEASURED_POINTER / Math.sqrt(3) };
  const stale = pointerAgeDays(offset, now) > POINTER_STALE_DAYS;
  const one = stale ? 2 * sigma : sigma;
  const t = between(offset, height);
  const lean = (POINTER_LEAN * Math.abs(height - offset.height)) / Math.sqrt(3);
  return {
    status: stale ? 'stale' : 'measured',
    uncertainty: t === 0 ? Math.hypot(one, lean) : one * Math.hypot(1 - t, t),
  };
};

export const pointerAgeDays = (offset: PointerOffset, now: Date): number =>
  (now.getTime() - new Date(offset.measuredAt).getTime()) / 86_400_000;
