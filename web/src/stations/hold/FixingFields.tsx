import { StockFields } from './StockFields';
import { BesideFields } from '../../ways/fields';
import { besideOf } from '../../ways/held';
import { freshPins } from '@bistre/core';
import type { Shown } from '../../data/shown';
import type { BatchHandle } from '../../data/use-batch';
import { Field, Fields, Tick } from '../../parts/fields';
import { FileLinks } from '../../parts/FileLinks';
import { Reading, ROW_SIZE } from '../../parts/Reading';
import { AxesCheck } from './AxesCheck';
import { FitCheck, ShankCheck } from './Findings';

/** Pins that hold the work down on a honeycomb: asked for, sized, laid on scrap. */
const PinFields = ({ handle, shown }: { handle: BatchHandle; shown: Shown }) => {
  const { beside, put: set } = besideOf(handle);
  const { pins } = beside;
  const made = shown.reckoning.fixings.pins;
  return (
    <div className="col-span-2">
      <Tick
        label="pins hold the work down (honeycomb or slats)"
        checked={pins !== null}
        onChange={(on) => set({ pins: on ? freshPins : null })}
      />
      {pins && (
        <div className="mt-2 grid grid-cols-3 gap-x-3 gap-y-2 border-l-4 border-hairline pl-3">
          <BesideFields handle={handle}>
            <Fields at="pins.cell pins.depth pins.head pins.scrap.width pins.scrap.height" />
            <Field at="boardWarp" label="Warp of the work" />
          </BesideFields>
          {made && (
            <>
              <Reading
                label="pins pushed in"
                size={ROW_SIZE}
                value={String(made.places.length)}
                note={`${made.spacing.toFixed(0)} mm apart at most`}
                working={made.working.filter((w) => w.label === 'pins apart, at most')}
              />
              <Reading
                label="shank"
                size={ROW_SIZE}
                value={made.shank.toFixed(2)}
                unit="mm"
                tone={pins.shank === null ? 'attention' : 'inside'}
                working={made.working.filter((w) => w.label === 'shank' || w.label === 'pin under its head')}
                note={`${made.length.toFixed(1)} under its head`}
              />
              <Reading
                label="head over the bed"
                size={ROW_SIZE}
                value={made.top.toFixed(1)}
                unit="mm"
                working={made.working.filter((w) => w.label === 'air over a pin')}
              />
            </>
          )}
          <div className="col-span-3">
            <ShankCheck handle={handle} />
            <FileLinks
              batchId={handle.batch.id}
              files={[
                ['pin-gauge.svg', 'Pin gauge'],
                ['pins.svg', 'A dozen, SVG'],
                ['pins.gcode', 'G-code'],
              ]}
              label="Pins"
            />
          </div>
        </div>
      )}
    </div>
  );
};

/** A stand of slotted strips under the work, from a board measured in several places. */
const StandFields = ({ handle, shown }: { handle: BatchHandle; shown: Shown }) => {
  const { beside, put } = besideOf(handle);
  const { stand, stock } = beside;
  const { fit, stand: made } = shown.reckoning.fixings;
  return (
    <div className="col-span-2">
      <Tick
        label="a stand of slotted strips lifts the work"
        checked={stand !== null}
        onChange={(on) => put({ stand: on ? { width: 200, depth: 150, height: 25 } : null })}
      />
      {stand && (
        <div className="mt-2 grid grid-cols-3 gap-x-3 gap-y-2 border-l-4 border-hairline pl-3">
          <BesideFields handle={handle}>
            <Fields at="stand.width stand.depth stand.height" />
          </BesideFields>
          <div className="col-span-3">
            <StockFields handle={handle} />
          </div>
          {fit && (
            <Reading
              label="slots"
              size={ROW_SIZE}
              value={fit.slot.toFixed(2)}
              unit="mm"
              tone={stock.room === null ? 'attention' : 'inside'}
              working={fit.working}
            />
          )}
          {made && (
            <Reading
              label="strips"
              size={ROW_SIZE}
              value={`${made.along} + ${made.across}`}
              note={`on ${made.width.toFixed(0)} × ${made.height.toFixed(0)} mm`}
              working={made.working}
            />
          )}
          <div className="col-span-3">
            <FitCheck handle={handle} />
            <FileLinks
              batchId={handle.batch.id}
              files={[
                ['fit-gauge.svg', 'Fit gauge'],
                ['stand.svg', 'Stand'],
              ]}
              label="Stand"
            />
          </div>
        </div>
      )}
    </div>
  );
};

/** Pins, a stand, and the axes of the machine: what may go with any flat work. */
export const FixingFields = ({ handle, shown }: { handle: BatchHandle; shown: Shown }) => (
  <>
    <PinFields handle={handle} shown={shown} />
    <StandFields handle={handle} shown={shown} />
    <AxesCheck handle={handle} />
  </>
);
