import { driveOf } from '@bistre/core';
import { useState } from 'react';
import type { RoundShown } from '../../data/shown';
import type { BatchHandle } from '../../data/use-batch';
import { DriveDrawing } from './DriveDrawing';
import { WrapDrawing } from '../../drawing/round/WrapDrawing';

/** A round blank: on its drive, or unrolled and turning. */
export const RoundDrawing = ({
  handle,
  round,
  first,
}: {
  handle: BatchHandle;
  round: RoundShown;
  first: 'drive' | 'wrap';
}) => {
  const [chosen, setChosen] = useState<{ at: string; what: 'drive' | 'wrap' } | null>(null);
  const what = round.on ? (chosen?.at === first ? chosen.what : first) : 'wrap';
  const drive = driveOf({ ...handle.batch, drive: handle.batch.drive?.spec ?? null });
  const riser = handle.batch.drive?.spec.risers.find((r) => r.name === drive.stand.riser)?.height ?? 0;
  return (
    <div className="relative h-full">
      {what === 'drive' ? (
        <DriveDrawing
          round={round}
          rimFaces={drive.rimFaces}
          gap={handle.batch.machine.profile.nozzleGap}
          stand={riser}
          overhang={handle.batch.drive?.spec.kind === 'chuck' ? 0 : drive.overhang}
        />
      ) : (
        <WrapDrawing round={round} />
      )}
      {round.on && (
        <button
          className="link absolute bottom-9 left-4 bg-film px-1"
          onClick={() => setChosen({ at: first, what: what === 'drive' ? 'wrap' : 'drive' })}
        >
          {what === 'drive' ? 'show the wrap' : 'show it on the drive'}
        </button>
      )}
    </div>
  );
};
