import { AXIS_95 } from '@bistre/core';
import type { Shown } from '../../data/shown';
import { Field, Fields } from '../../parts/fields';
import { Reading, ROW_SIZE } from '../../parts/Reading';
import { ChoiceFields } from '../fields';
import type { BatchProps } from '../pages';

/** The frame and its travel, and the grid: what a locator board is reckoned from. */
export const LocatorFields = ({ handle }: BatchProps) => (
  <ChoiceFields handle={handle} way="locator">
    <p className="col-span-2 text-[13px] text-soft">
      Measure the machine where it stands: over the outsides of its feet, one foot, and from the front left foot to
      where the head’s travel begins.
    </p>
    <Fields at="frame.width frame.depth foot.width foot.depth travel.x travel.y margin boardThickness pitch gap" />
    <Field at="order.corner" label="Piece 1 at" />
    <Field at="name" label="Name of the board" />
  </ChoiceFields>
);

/** What follows from a frame's footprint: board, grid, places, and how well it comes back. */
export const LocatorReckon = ({ shown }: { shown: Shown }) => {
  const { own, planned } = shown.reckoning;
  const { locator } = own;
  if (!locator) return null;
  const { board, xs, ys, columns, rows, cell, zero, returns, working } = locator;
  const of = (...labels: string[]) => working.filter((w) => labels.includes(w.label));
  const measured = shown.reckoning.budget.sources.find((s) => s.id === 'stops')?.origin === 'measured';
  return (
    <div className="readings">
      <Reading
        label="board"
        size={ROW_SIZE}
        value={`${(board.maxX - board.minX).toFixed(0)} × ${(board.maxY - board.minY).toFixed(0)}`}
        unit="mm"
        working={of('board')}
      />
      <Reading
        label="stops"
        size={ROW_SIZE}
        value="3"
        unit="of 4 feet"
        working={of('three stops', 'a fourth stop', 'if every stop gave')}
        note="two fronts, one side"
      />
      <Reading
        label="return, at 95 %"
        size={ROW_SIZE}
        value={`± ${(AXIS_95 * returns).toFixed(2)}`}
        unit="mm"
        tone={measured ? 'plain' : 'attention'}
        working={of('error of each stop', 'return of the frame, one axis')}
        note={measured ? 'from repeated dots' : 'assumed'}
      />
      <Reading label="grid" size={ROW_SIZE} value={`${xs.length} × ${ys.length}`} unit="lines" working={of('grid')} />
      <Reading
        label="pieces a load"
        size={ROW_SIZE}
        value={String(columns * rows)}
        unit={`in ${columns} × ${rows}`}
        working={of('a place')}
        note={`${cell.width} × ${cell.height} mm each; ${planned.length} ${planned.length === 1 ? 'load' : 'loads'}`}
      />
      <Reading
        label="zero over the grid’s"
        size={ROW_SIZE}
        value={`${zero.x}, ${zero.y}`}
        note="the first piece’s corner"
      />
    </div>
  );
};
