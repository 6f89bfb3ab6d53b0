import type { Mm, MmPerS2, Rad } from '../units';
import { degrees, fixed, mm, worked, type WorkedLine } from '../working';
import type { Drive } from './drives';
import { bodyOf, type RoundShape } from './round';
import { reckonSeat } from './seat';
import { throwLimit } from './traction';

/** Wider than this two rollers pinch a blank more than they carry it [common practice]. */
const WIDEST: Rad = Math.PI / 4;

/** One distance that a drive's rollers can be set to, and how this blank lies on it. */
export interface Spacing {
  readonly apart: Mm;
  /** Half the angle between the contacts; null where the blank does not lie on them. */
  readonly theta: Rad | null;
  /** Greatest acceleration that the blank follows, mm/s² at its surface; nought where it does not lie. */
  readonly limit: MmPerS2;
}

export interface Spacings {
  readonly all: readonly Spacing[];
  /** The one that carries this blank best; null where none does. */
  readonly best: Spacing | null;
  readonly working: readonly WorkedLine[];
}

/** A drive whose rollers are set to one of its distances; as it stands where that is none of them. */
export const setApart = <D extends Drive>(drive: D, apart: Mm | null | undefined): D =>
  drive.kind !== 'chuck' && apart != null && (drive.spacings ?? []).some((s) => s.apart === apart)
    ? { ...drive, centreDistance: apart }
    : drive;

/**
 * The distances that a drive's rollers can be set to, for one blank. The wider they stand, the harder the blank bears on
 * them, `mg / (2 cos θ)`, and the faster it may be turned; beyond a contact angle of 45° it is pinched. The best is the
 * fastest below that; the narrowest where all are beyond.
 *
 * @param contactAt see `reckonSeat`
 * @returns null for a drive whose rollers stand as they stand
 */
export const reckonSpacings = (shape: RoundShape, drive: Drive, contactAt: Mm | null): Spacings | null => {
  if (drive.kind === 'chuck' || !drive.spacings?.length) return null;
  const distances = [...new Set([drive.centreDistance, ...drive.spacings.map((s) => s.apart)])].sort((a, b) => a - b);
  const all = distances.map((apart): Spacing => {
    const set = { ...drive, centreDistance: apart };
    const seat = reckonSeat(shape, set, contactAt);
    if (!seat.ok) return { apart, theta: null, limit: 0 };
    const { theta, contactDiameter } = seat.value;
    return { apart, theta, limit: throwLimit(set, seat.value, bodyOf(shape), contactDiameter / 2).limit };
  });
  const lies = all.filter((s) => s.theta !== null);
  const carried = lies.filter((s) => s.theta! <= WIDEST);
  const best = carried.reduce<Spacing | null>((a, s) => (a && a.limit >= s.limit ? a : s), null) ?? lies[0] ?? null;
  return {
    all,
    best,
    working: all.map((s) =>
      worked(
        `rollers ${mm(s.apart, 0)} apart`,
        'θ = asin((g/2) / (R + r)); a follows 1 / cos θ',
        s.theta === null ? 'the blank does not lie on them' : `θ ${degrees(s.theta, 1)}`,
        s.theta === null ? 'no' : `${fixed(s.limit, 0)} mm/s²${s.theta > WIDEST ? ', pinched' : ''}`,
        s.theta !== null && s.theta > WIDEST ? 'common practice' : 'geometry',
      ),
    ),
  };
};
