import { setupSections } from '@bistre/contract';
import { Measure } from '../../parts/fields';
import type { BatchHandle } from '../../data/use-batch';
import { besideOf } from '../../ways/held';

/** The board that slotted parts are cut from: as it was sold, and as it is in several places. */
export const StockFields = ({ handle }: { handle: BatchHandle }) => {
  const { beside, put } = besideOf(handle);
  const { stock } = beside;
  return (
    <div className="grid grid-cols-[1fr_1fr_1.6fr] items-end gap-3">
      <Measure
        of={setupSections.beside}
        at="stock.thickness"
        value={stock.thickness}
        onCommit={(thickness) => put({ stock: { ...stock, thickness } })}
      />
      <Measure
        of={setupSections.beside}
        at="stock.readings.0"
        list
        label="Measured; then Enter"
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
