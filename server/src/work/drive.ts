import type { BatchDocument } from '@bistre/contract';
import {
  LEAST_RING,
  accelerationSetting,
  correctionInForce,
  numberIn,
  reckonTravel,
  RING_READING,
  ringIsDoubtful,
  ringIsFar,
  type BatchReckoning,
  type OnDrive,
} from '@bistre/core';
import { reckonDocument } from '../batches';
import type { Db } from '../db/connect';
import { refused } from '../http/problem';
import { stamped } from './stamped';

/** The drive a batch lies on; throws why it lies on none. */
export const needDrive = (reckoning: BatchReckoning): OnDrive => {
  const { round } = reckoning.own;
  if (!round?.on)
    throw refused({ code: 'no-drive', message: round?.problem?.message ?? 'Choose a drive first.', field: 'drive' });
  return round.on;
};

/** What is kept of a witness ring beside its reading. */
export interface RingFacts {
  readonly driveId: string;
  readonly driveName: string;
  readonly circumference: number;
  /** What a whole turn would overlap by, mm. */
  readonly overlap: number;
  readonly correction: number;
  readonly stepsPerMm: number;
  readonly readingError: number;
}

const ringFacts = (batch: BatchDocument, overlap: number, sure: boolean): RingFacts => {
  const { input, reckoning } = reckonDocument(batch, 500);
  const on = needDrive(reckoning);
  const { circumference, part } = on.ring;
  if (part < LEAST_RING)
    throw refused({
      code: 'ring-blocked',
      message:
        'The feature lets the blank turn too little for a ring from where it is zeroed. Zero it farther from the feature.',
      field: 'ring',
    });
  const number = numberIn(input, on.control);
  if (on.control.value !== null && number === null)
    throw refused({
      code: 'number-not-set',
      message: `Say first that ${on.control.value} ${on.control.unit} stands in the machine: a ring tells only about what it was burned with.`,
      field: 'number',
    });
  const first = on.rings.rings === 0;
  const stands = !first ? '' : on.control.value === null ? ' Are its steps and its rollers entered as they are?' : ` Does ${on.control.value} really stand in the machine?`; // prettier-ignore
  if (!sure && ringIsDoubtful(circumference * part, overlap))
    throw refused({
      code: 'ring-doubtful',
      message: `${Math.abs(overlap).toFixed(1)} mm is more than a quarter turn. Is it ${overlap > 0 ? 'a gap (the line stopped short)' : 'an overlap'} after all, or another unit?${stands} Nothing was kept.`,
      field: 'ring',
    });
  if (!sure && first && ringIsFar(circumference * part, overlap))
    throw refused({
      code: 'ring-far',
      message: `${Math.abs(overlap).toFixed(1)} mm of ${(circumference * part).toFixed(1)} is more than any drive is off by.${stands} Nothing was kept.`,
      field: 'ring',
    });
  return {
    driveId: on.drive.id,
    driveName: on.drive.name,
    circumference,
    // A part of a turn is off by so much of what a whole one would be.
    overlap: overlap / part,
    correction: correctionInForce(on.drive, on.seat.contactDiameter, number ?? 0, on.control.artScale),
    stepsPerMm: reckonTravel(on.drive, on.seat.contactDiameter).stepsPerMm,
    readingError: RING_READING / Math.sqrt(3) / part,
  };
};

export const ringOf = async (
  db: Db,
  { id, overlap, sure }: { id: string; overlap: number; sure: boolean },
): Promise<{ stamp: string; ring: RingFacts }> => {
  const { stamp, batch } = await stamped(db, id);
  return { stamp, ring: ringFacts(batch, overlap, sure) };
};

/** What a setting is to be put back to where another batch changed it before this one. */
const stoodBefore = ({ elsewhere }: BatchDocument, setting: string): string | undefined =>
  elsewhere.find((e) => e.setting === setting)?.was;

/** Which setting of the machine a number is typed into, and what stood there. */
export const settingOf = async (
  db: Db,
  { id, what }: { id: string; what: 'number' | 'acceleration' },
): Promise<{ stamp: string; setting: string; was: string }> => {
  const { stamp, batch } = await stamped(db, id);
  const on = needDrive(reckonDocument(batch, 500).reckoning);
  const [setting, own] =
    what === 'number' ? [on.control.where, on.control.was] : [accelerationSetting(on.drive), on.drive.axisAcceleration];
  return { stamp, setting, was: stoodBefore(batch, setting) ?? String(own ?? '') };
};
