import { fail, ok, type Result } from '../result';
import type { Mm, Rad } from '../units';
import { degrees, fixed, mm, worked, type WorkedLine } from '../working';
import type { Drive } from './drives';
import { diameterAt, type ProfilePoint } from './profile';
import { greatestDiameter, roundLength, type RoundShape } from './round';

/** How a blank lies on or in its drive. Heights are over the drive's feet, mm. */
export interface Seat {
  /** Where the rollers touch, from the rim; the chucked blank's reference place. */
  readonly contactAt: Mm;
  /** Diameter that is turned by the drive there, bands included, mm. */
  readonly contactDiameter: Mm;
  /** Half the angle between the two contacts seen from the blank's axis; nought in a chuck. */
  readonly theta: Rad;
  /** Height of the blank's axis at the contact circle. */
  readonly axisHeight: Mm;
  readonly rollerRadius: Mm;
  readonly centreDistance: Mm;
  readonly working: readonly WorkedLine[];
}

/** The place of the largest diameter: where a tapered blank lies on parallel rollers. */
export const widestPlace = (profile: readonly ProfilePoint[]): Mm =>
  profile.reduce((best, p) => (p.diameter > best.diameter ? p : best)).at;

/**
 * How a blank lies on two rollers: `sin θ = (g/2)/(R + r)`, axis (R + r)·cos θ above theirs. A
 * chuck holds it on its own axis.
 *
 * @param contactAt where bands or the operator fix the contact circle; the widest place when null
 */
export const reckonSeat = (shape: RoundShape, drive: Drive, contactAt: Mm | null): Result<Seat> => {
  const at = contactAt ?? widestPlace(shape.profile);
  const diameter = diameterAt(shape.profile, at);
  if (roundLength(shape) > drive.room)
    return fail(
      'too-long',
      `The blank is ${mm(roundLength(shape), 0)} long; ${drive.name} takes ${mm(drive.room, 0)}.`,
      'drive.room',
    );
  if (drive.kind === 'chuck') {
    if (greatestDiameter(shape) <= 0 || diameter > drive.jaws)
      return fail(
        'jaws-too-small',
        `The jaws of ${drive.name} take ${mm(drive.jaws, 0)}; the blank is ${mm(diameter)} there.`,
        'drive.jaws',
      );
    return ok({
      contactAt: at,
      contactDiameter: diameter,
      theta: 0,
      axisHeight: drive.height,
      rollerRadius: 0,
      centreDistance: 0,
      working: [],
    });
  }
  const R = drive.rollerDiameter / 2;
  const contactDiameter = diameter + 2 * drive.bandThickness;
  const r = contactDiameter / 2;
  const sine = drive.centreDistance / 2 / (R + r);
  if (drive.centreDistance <= 2 * R)
    return fail(
      'rollers-overlap',
      `Rollers of ${mm(2 * R)} cannot stand ${mm(drive.centreDistance)} apart: they would run into each other.`,
      'drive.centreDistance',
    );
  if (sine >= 1 || drive.centreDistance - 2 * R >= contactDiameter)
    return fail(
      'falls-through',
      `The gap between the rollers is ${mm(drive.centreDistance - 2 * R)}, the blank ${mm(contactDiameter)} across: it falls between them. Set the rollers closer.`,
      'drive.centreDistance',
    );
  const theta = Math.asin(sine);
  return ok({
    contactAt: at,
    contactDiameter,
    theta,
    axisHeight: drive.height + (R + r) * Math.cos(theta),
    rollerRadius: R,
    centreDistance: drive.centreDistance,
    working: [
      worked(
        'contact angle',
        'asin((g/2) / (R + r))',
        `asin(${fixed(drive.centreDistance / 2)} / (${fixed(R)} + ${fixed(r)}))`,
        degrees(theta, 1),
        'geometry',
      ),
      worked(
        'axis over the rollers',
        '(R + r) × cos θ',
        `(${fixed(R)} + ${fixed(r)}) × cos ${degrees(theta, 1)}`,
        mm((R + r) * Math.cos(theta)),
        'geometry',
      ),
    ],
  });
};
