import { MeasureField } from '../../parts/fields';
import type { BatchHandle } from '../../data/use-batch';
import { besideOf } from '../../ways/held';

/** The board that slotted parts are cut from: as it was sold, and as it is in several places. */
export const StockFields = ({ handle }: { handle: BatchHandle }) => {
  const { beside, put } = besideOf(handle);
  const { stock } = beside;
  return (
    <div className="grid grid-cols-[1fr_1fr_1.6fr] items-end gap-3">
      <MeasureField
        label="Its board, as sold"
        value={stock.thickness}
        min={0.3}
        max={50}
        onCommit={(thickness) => put({ stock: { ...stock, thickness } })}
      />
      <MeasureField
        list
        label="Measured; then Enter"
        value={null}
        min={0.2}
        max={60}
        onCommit={(mm) => put({ stock: { ...stock, readings: [...stock.readings, mm] } })}
      />
      <p className="pb-1.5 text-[13px]">
        {stock.readings.length === 0 ? (
          <span className="text-ochre">Not measured: {stock.thickness.toFixed(2)} mm is used.</span>
        ) : (
          <>
            {stock.readings.map((v) => v.toFixed(2)).join(', ')} mm{' '}
            <button className="link" onClick={() => put({ stock: { ...stock, readings: [] } })}>
              measure again
            </button>
          </>
        )}
      </p>
    </div>
  );
};
