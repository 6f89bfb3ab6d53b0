import type { Drive, Orientation, Seam } from '../drive';
import type { Mm, MmPerS2, Rad } from '../units';

/** What is chosen for a round blank on a drive. */
export interface DriveSettings {
  /** Null while none is chosen. */
  readonly driveId: string | null;
  readonly rimFaces: 'left' | 'right';
  /** Place that bands or the operator fix as the contact circle, from the rim, mm. */
  readonly contactAt: Mm | null;
  /** Stretch of the blank, from its rim, that hangs over the end of the rollers, mm. */
  readonly overhang: Mm;
  readonly stand: { readonly bed: 'in' | 'out'; readonly riser: string | null };
  readonly seam: Seam;
  readonly rowScaling: boolean;
  readonly bothWays: boolean;
  /** Angle from the feature, to the right, that is brought to the crest where zero is set; the feature itself when absent. */
  readonly zeroAt?: Rad | null | undefined;
  /** Distance that the drive's rollers are set to for this blank, one of its own; as the drive has it when absent. */
  readonly spacing?: Mm | null | undefined;
}

/** What was seen and set at the drive. */
export interface DriveFindings {
  /** What the F on tape showed; null while none was burned. */
  readonly letter: Orientation | null;
  /** What was said of drive and blank when it was burned: what it showed counts for that alone. Absent: not noted. */
  readonly letterWith?:
    { readonly rimFaces: DriveSettings['rimFaces']; readonly topMoves: Drive['topMoves'] } | undefined;
  /** The turning axis's acceleration as it is set for this job, mm/s²; null while it is not lowered. */
  readonly accelerationSet: MmPerS2 | null;
  /** What was typed into the machine for this drive; null while nothing was. */
  readonly numberSet: number | null;
  /** Dial reading over one turn (total), mm. */
  readonly runOut: Mm | null;
}

export const freshDriveSettings: DriveSettings = {
  driveId: null,
  rimFaces: 'right',
  contactAt: null,
  overhang: 0,
  stand: { bed: 'in', riser: null },
  seam: { kind: 'gapped', gap: 2 },
  rowScaling: true,
  bothWays: true,
};

export const untriedDrive: DriveFindings = { letter: null, accelerationSet: null, numberSet: null, runOut: null };
