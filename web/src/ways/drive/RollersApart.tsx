import type { DriveSpec } from '@bistre/contract';
import type { RoundReckoning } from '@bistre/core';
import { Select } from '../../parts/fields';

/** How far apart a drive's rollers are set for this blank, where they can be set at all; the best is named. */
export const RollersApart = ({
  spacings,
  drive,
  set,
  onSet,
}: {
  spacings: RoundReckoning['spacings'];
  drive: DriveSpec | null;
  set: number | null;
  onSet: (apart: number) => void;
}) => {
  if (!spacings || !drive || drive.kind === 'chuck') return null;
  // A distance that was taken off the drive since is not set any more.
  const now = spacings.all.some((s) => s.apart === set) ? set : drive.centreDistance;
  return (
    <Select
      label="Rollers apart"
      value={String(now)}
      options={spacings.all.map((s) => [
        String(s.apart),
        `${s.apart} mm: ${s.theta === null ? 'it does not lie there' : s.apart === spacings.best?.apart ? 'best' : `follows ${s.limit.toFixed(0)} mm/s²`}`,
      ])}
      onChange={(apart) => onSet(Number(apart))}
    />
  );
};
