import type { Drive } from '../../drive';
import {
  freshDriveSettings,
  heldNow,
  untriedDrive,
  type DriveFindings,
  type DriveSettings,
  type HeldBatch,
} from '../../setup';

type OnIt = Pick<HeldBatch, 'fixture' | 'setup'> & { readonly drive?: Pick<Drive, 'topMoves'> | null };

/**
 * Whether the F on tape was burned while other things were said of drive and blank. What it showed corrected those:
 * with them put right it would turn the art a second time.
 */
export const letterIsOld = (batch: OnIt): boolean => {
  const held = heldNow(batch);
  if (held.way !== 'drive' || held.found.letter === null) return false;
  const { letterWith } = held.found;
  return (
    letterWith !== undefined &&
    (letterWith.rimFaces !== held.choice.rimFaces ||
      (batch.drive != null && letterWith.topMoves !== batch.drive.topMoves))
  );
};

/** What is chosen and was found of a round blank's drive; in a cradle, how it lies, and nothing of a drive. */
export const driveOf = (batch: OnIt): DriveSettings & DriveFindings => {
  const held = heldNow(batch);
  const none = { ...freshDriveSettings, ...untriedDrive };
  if (held.way === 'drive') return { ...held.choice, ...held.found, ...(letterIsOld(batch) ? { letter: null } : {}) };
  return held.way === 'cradle' ? { ...none, ...held.choice } : none;
};
