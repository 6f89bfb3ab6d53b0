import { heldIn } from '../held';
import type { BatchProps } from '../pages';
import { AXIS_95 } from '@bistre/core';
import type { Shown } from '../../data/shown';
import { MeasureField, TextField } from '../../parts/fields';
import { Reading, ROW_SIZE } from '../../parts/Reading';
import { CornerSelect } from '../flat/CornerSelect';

/** The frame and its travel, and the grid: what a locator board is reckoned from. */
export const LocatorFields = ({ handle }: BatchProps) => {
  const { choice: locator, put } = heldIn(handle, 'locator');
  const { frame, foot, travel } = locator;
  return (
    <>
      <p className="col-span-2 text-[13px] text-soft">
        Measure the machine where it stands: over the outsides of its feet, one foot, and from the front left foot to
        where the head’s travel begins.
      </p>
      <MeasureField
        label="Footprint, across"
        value={frame.width}
        min={10}
        max={5000}
        onCommit={(width) => put({ frame: { ...frame, width } })}
      />
      <MeasureField
        label="Footprint, front to back"
        value={frame.depth}
        min={10}
        max={5000}
        onCommit={(depth) => put({ frame: { ...frame, depth } })}
      />
      <MeasureField
        label="One foot, across"
        value={foot.width}
        min={10}
        max={5000}
        onCommit={(width) => put({ foot: { ...foot, width } })}
      />
      <MeasureField
        label="One foot, front to back"
        value={foot.depth}
        min={10}
        max={5000}
        onCommit={(depth) => put({ foot: { ...foot, depth } })}
      />
      <MeasureField
        label="Travel begins, from the left"
        value={travel.x}
        min={0}
        max={2000}
        onCommit={(x) => put({ travel: { ...travel, x } })}
      />
      <MeasureField
        label="Travel begins, from the front"
        value={travel.y}
        min={0}
        max={2000}
        onCommit={(y) => put({ travel: { ...travel, y } })}
      />
      <MeasureField
        label="Board beyond the feet"
        value={locator.margin}
        min={0}
        max={200}
        onCommit={(margin) => put({ margin })}
        hint="20 to 30 mm: room for the stops"
      />
      <MeasureField
        label="Board thickness"
        value={locator.boardThickness}
        min={0.3}
        max={50}
        onCommit={(boardThickness) => put({ boardThickness })}
      />
      <MeasureField
        label="Between grid lines"
        value={locator.pitch}
        min={2}
        max={100}
        onCommit={(pitch) => put({ pitch })}
      />
      <MeasureField
        label="Least room between pieces"
        value={locator.gap}
        min={0}
        max={200}
        onCommit={(gap) => put({ gap })}
      />
      <CornerSelect label="Piece 1 at" order={locator.order} onChange={(order) => put({ order })} />
      <TextField label="Name of the board" value={locator.name} most={24} onCommit={(name) => put({ name })} />
    </>
  );
};

/** What follows from a frame's footprint: board, grid, places, and how well it comes back. */
export const LocatorReckon = ({ shown }: { shown: Shown }) => {
  const { own, planned } = shown.reckoning;
  const { locator } = own;
  if (!locator) return null;
  const { board, xs, ys, columns, rows, cell, zero, returns, working } = locator;
  const of = (...labels: string[]) => working.filter((w) => labels.includes(w.label));
  const measured = shown.reckoning.budget.sources.find((s) => s.id === 'stops')?.origin === 'measured';
  return (
    <div className="grid grid-cols-3 gap-x-2 gap-y-3">
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
