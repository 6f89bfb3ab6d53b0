import {
  freshDriveSettings,
  heldNow,
  untriedDrive,
  type DriveFindings,
  type DriveSettings,
  type HeldBatch,
} from '../../setup';

/** What is chosen and was found of a round blank's drive; in a cradle, how it lies, and nothing of a drive. */
export const driveOf = (batch: Pick<HeldBatch, 'fixture' | 'setup'>): DriveSettings & DriveFindings => {
  const held = heldNow(batch);
  const none = { ...freshDriveSettings, ...untriedDrive };
  if (held.way === 'drive') return { ...held.choice, ...held.found };
  return held.way === 'cradle' ? { ...none, ...held.choice } : none;
};
