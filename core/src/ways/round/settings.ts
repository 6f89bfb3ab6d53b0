import {
  freshDriveSettings,
  heldNow,
  untriedDrive,
  type BatchInput,
  type DriveFindings,
  type DriveSettings,
} from '../../setup';

/** What is chosen and was found of a round blank's drive; in a cradle, how it lies, and nothing of a drive. */
export const driveOf = (input: Pick<BatchInput, 'fixture' | 'setup'>): DriveSettings & DriveFindings => {
  const held = heldNow(input);
  const none = { ...freshDriveSettings, ...untriedDrive };
  if (held.way === 'drive') return { ...held.choice, ...held.found };
  return held.way === 'cradle' ? { ...none, ...held.choice } : none;
};
