import type { BatchHandle } from '../../data/use-batch';
import { FieldList, Fields } from '../../parts/fields';
import { BesideFields } from '../../ways/fields';

/** What stands above the bed and may meet the head. */
export const TallThings = ({ handle }: { handle: BatchHandle }) => (
  <div className="col-span-2">
    <p className="text-[13px] text-soft">
      Tall things on the bed (magnets, pins, walls): place on the board’s axes, height above the bed
    </p>
    <BesideFields handle={handle}>
      <FieldList
        at="tallThings"
        one="tall thing"
        add="add one"
        most={40}
        fresh={() => ({ label: 'magnet', x: 0, y: 0, radius: 8, height: 8 })}
        className="mt-1 grid grid-cols-[1.4fr_1fr_1fr_1fr_1fr_2.75rem] gap-1.5"
        row={() => (
          <>
            <Fields at="label x y radius height" />
          </>
        )}
      />
    </BesideFields>
  </div>
);
