import { StockFields } from './StockFields';
import { besideOf } from '../../ways/held';
import { freshPins } from '@bistre/core';
import type { Shown } from '../../data/shown';
import type { BatchHandle } from '../../data/use-batch';
import { MeasureField, Tick } from '../../parts/fields';
import { FileLinks } from '../../parts/FileLinks';
import { Reading, ROW_SIZE } from '../../parts/Reading';
import { FitCheck, ShankCheck } from './Findings';

/** Pins that hold the work down on a honeycomb: asked for, sized, laid on scrap. */
const PinFields = ({ handle, shown }: { handle: BatchHandle; shown: Shown }) => {
  const { beside, put: set } = besideOf(handle);
  const { pins } = beside;
  const made = shown.reckoning.fixings.pins;
  const put = (part: Partial<NonNullable<typeof pins>>): void => set({ pins: { ...(pins ?? freshPins), ...part } });
  return (
    <div className="col-span-2">
      <Tick
        label="pins hold the work down (honeycomb or slats)"
        checked={pins !== null}
        onChange={(on) => set({ pins: on ? freshPins : null })}
      />
      {pins && (
        <div className="mt-2 grid grid-cols-3 gap-x-3 gap-y-2 border-l-4 border-hairline pl-3">
          <MeasureField label="Across a cell" value={pins.cell} min={2} max={60} onCommit={(cell) => put({ cell })} />
          <MeasureField
            label="Depth of the bed"
            value={pins.depth}
            min={5}
            max={200}
            onCommit={(depth) => put({ depth })}
          />
          <MeasureField
            label="Head over the work"
            value={pins.head}
            min={1}
            max={50}
            onCommit={(head) => put({ head })}
          />
          <MeasureField
            label="Scrap, across"
            value={pins.scrap.width}
            min={20}
            max={5000}
            onCommit={(width) => put({ scrap: { ...pins.scrap, width } })}
          />
          <MeasureField
            label="Scrap, deep"
            value={pins.scrap.height}
            min={20}
            max={5000}
            onCommit={(height) => put({ scrap: { ...pins.scrap, height } })}
          />
          <MeasureField
            label="Warp of the work"
            value={beside.boardWarp}
            min={0}
            max={50}
            onCommit={(boardWarp) => set({ boardWarp })}
          />
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
          <MeasureField
            label="Stand, across"
            value={stand.width}
            min={30}
            max={2000}
            onCommit={(width) => put({ stand: { ...stand, width } })}
          />
          <MeasureField
            label="Stand, deep"
            value={stand.depth}
            min={30}
            max={2000}
            onCommit={(depth) => put({ stand: { ...stand, depth } })}
          />
          <MeasureField
            label="It lifts by"
            value={stand.height}
            min={2}
            max={300}
            onCommit={(height) => put({ stand: { ...stand, height } })}
          />
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

/** Pins and a stand: what may go with any flat work. */
export const FixingFields = ({ handle, shown }: { handle: BatchHandle; shown: Shown }) => (
  <>
    <PinFields handle={handle} shown={shown} />
    <StandFields handle={handle} shown={shown} />
  </>
);
