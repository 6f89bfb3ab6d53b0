import { useState, type ReactNode } from 'react';
import type { DriveSettings } from '@bistre/core';
import type { RoundShown } from '../../data/shown';
import type { BatchHandle } from '../../data/use-batch';
import { Choice } from '../../parts/fields';
import { Finding, Part } from '../../parts/Part';
import { DriveChoice } from './DriveChoice';
import { FacesDialog } from './FacesDialog';

/** What turns a blank, or that it lies still; how it lies, and what goes where on it. */
export const RoundMeasure = ({
  handle,
  round,
  on,
  rimFaces,
  onRim,
  more,
  below,
  seam,
}: {
  handle: BatchHandle;
  round: RoundShown;
  /** The drive’s id, `still` for a cradle, or nothing while none is chosen. */
  on: string;
  rimFaces: DriveSettings['rimFaces'];
  onRim: (rimFaces: DriveSettings['rimFaces']) => void;
  /** Fields beside these two, and under them. */
  more?: ReactNode;
  below?: ReactNode;
  /** How art meets itself all the way round. */
  seam?: ReactNode;
}) => {
  const [faces, setFaces] = useState(false);
  return (
    <Part
      name="Measure"
      aside={
        <button className="link" onClick={() => setFaces(true)}>
          what goes where
        </button>
      }
    >
      <div className="grid grid-cols-2 gap-x-3 gap-y-2">
        <DriveChoice handle={handle} on={on} />
        <Choice
          label="Rim faces"
          value={rimFaces}
          options={[
            ['left', 'left'],
            ['right', 'right'],
          ]}
          onChange={onRim}
        />
        {more}
      </div>
      {below}
      {round.problem && <Finding tone="out">{round.problem.message}</Finding>}
      {handle.batch.setup.faces.length === 0 && (
        <p className="mt-2">
          <button className="act act-main" onClick={() => setFaces(true)}>
            Say what goes where
          </button>
        </p>
      )}
      {faces && (
        <FacesDialog handle={handle} round={round} onClose={() => setFaces(false)}>
          {seam}
        </FacesDialog>
      )}
    </Part>
  );
};
