import { heldAs } from '@bistre/core';
import { FileLinks } from '../../parts/FileLinks';
import { FlatDrawing } from '../flat/FlatDrawing';
import { FLAT_RUN } from '../flat/FlatRun';
import type { BatchProps, DrawingProps, WayPages } from '../pages';
import { BackCheck } from './BackCheck';
import { LocatorDrawing } from './LocatorDrawing';
import { LocatorFields, LocatorReckon } from './LocatorFields';

const Files = ({ handle }: BatchProps) => (
  <FileLinks
    batchId={handle.batch.id}
    files={[
      ['locator.csv', 'Cut list'],
      ['locator.svg', 'Drawing'],
      ['grid.gcode', 'Grid, G-code'],
      ['grid.svg', 'SVG'],
      ['grid.dxf', 'DXF'],
      ['walk.gcode', 'Walk file'],
    ]}
    label="Locator board"
  />
);

const ITS_GRID = (): string => 'The grid lies as the machine runs; pieces lie at its intersections.';

/** The board with its stops while it is made; the bed for everything else. */
const Drawing = (props: DrawingProps) => {
  const { handle, shown, station, step } = props;
  const made = shown.reckoning.own.locator && (station === 'hold' || (station === 'burn' && !step));
  return made ? (
    <LocatorDrawing batch={handle.batch} shown={shown} />
  ) : (
    <FlatDrawing {...props} lies={shown.reckoning.own.locator ? ITS_GRID : undefined} />
  );
};

export const locator: WayPages = {
  Drawing,
  hold: {
    Settings: LocatorFields,
    Reckon: LocatorReckon,
    Files,
    Check: BackCheck,
    kept: {
      noun: 'board',
      words: (batch) => {
        const { frame } = heldAs(batch, 'locator').choice;
        return `For a frame of ${frame.width} × ${frame.depth} mm.`;
      },
    },
    aids: true,
  },
  run: FLAT_RUN,
  Take: ({ handle, step }) => (step.takes?.kind === 'back' ? <BackCheck handle={handle} /> : null),
};
