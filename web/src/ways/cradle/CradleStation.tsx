import { fixed, mm, usableHalfWidth, worked } from '@bistre/core';
import { FileLinks } from '../../parts/FileLinks';
import { Finding, Part } from '../../parts/Part';
import { Reading } from '../../parts/Reading';
import { Steps } from '../../parts/Steps';
import { StockFields } from '../../stations/hold/StockFields';
import { heldIn } from '../held';
import type { StationProps } from '../pages';
import { RoundMeasure } from '../round/RoundMeasure';

/** Round stock lying still: what stays in focus, and the cradle that holds it. */
export const CradleStation = ({ handle, shown }: StationProps) => {
  const { round } = shown.reckoning.own;
  const { choice, put } = heldIn(handle, 'cradle');
  const depth = handle.batch.machine.profile.focusRange / 2;
  if (!round) return null;
  const { diameter } = round;
  return (
    <>
      <RoundMeasure
        handle={handle}
        round={round}
        on="still"
        rimFaces={choice.rimFaces}
        onRim={(rimFaces) => put({ rimFaces })}
      />
      <Part name="Reckon">
        <Reading
          label="without a drive: in focus beside the crest"
          value={`± ${usableHalfWidth(diameter.mean / 2, depth).toFixed(2)}`}
          unit="mm"
          note={`focus range ${handle.batch.machine.profile.focusRange} mm, Ø ${diameter.mean.toFixed(1)} mm`}
          working={[
            worked(
              'in focus beside the crest',
              '√(2rs − s²)',
              `r ${fixed(diameter.mean / 2)}, s ${fixed(depth)}`,
              mm(usableHalfWidth(diameter.mean / 2, depth)),
              'geometry',
            ),
          ]}
        />
        {shown.reckoning.warnings
          .filter((w) => w.station === 'drive')
          .map((w) => (
            <Finding key={w.message} tone={w.danger ? 'out' : 'attention'}>
              {w.message}
            </Finding>
          ))}
      </Part>
      <Part name="Do">
        <p className="mb-1">It lies still in slotted saddles.</p>
        <StockFields handle={handle} />
        <FileLinks batchId={handle.batch.id} files={[['cradle.svg', 'Cradle, SVG']]} label="To cut" />
        <Steps handle={handle} steps={shown.steps} station="drive" part="do" />
      </Part>
      <Part name="Check">
        <FileLinks batchId={handle.batch.id} files={[['walk.gcode', 'Walk file']]} label="True outline, beam off" />
        <Steps handle={handle} steps={shown.steps} station="drive" part="check" />
      </Part>
    </>
  );
};
