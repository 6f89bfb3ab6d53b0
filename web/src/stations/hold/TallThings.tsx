import type { BatchHandle } from '../../data/use-batch';
import { besideOf } from '../../ways/held';
import { MeasureField, TextField } from '../../parts/fields';

/** What stands above the bed and may meet the head. */
export const TallThings = ({ handle }: { handle: BatchHandle }) => {
  const { beside, put } = besideOf(handle);
  const { tallThings } = beside;
  return (
    <div className="col-span-2">
      <p className="text-[13px] text-soft">
        Tall things on the bed (magnets, pins, walls): place on the board’s axes, height above the bed
      </p>
      {tallThings.map((thing, i) => {
        const change = (part: Partial<typeof thing>): void =>
          put({ tallThings: tallThings.map((t, k) => (k === i ? { ...t, ...part } : t)) });
        return (
          <div key={i} className="mt-1 grid grid-cols-[1.4fr_1fr_1fr_1fr_1fr_2.2rem] gap-1.5">
            <TextField label="name" value={thing.label} most={40} onCommit={(label) => change({ label })} />
            <MeasureField label="x" value={thing.x} onCommit={(x) => change({ x })} />
            <MeasureField label="y" value={thing.y} onCommit={(y) => change({ y })} />
            <MeasureField
              label="radius"
              value={thing.radius}
              min={0}
              max={500}
              onCommit={(radius) => change({ radius })}
            />
            <MeasureField
              label="height"
              value={thing.height}
              min={0}
              max={1000}
              onCommit={(height) => change({ height })}
            />
            <button
              className="act mt-[1.3rem] justify-center !px-0"
              aria-label={`Take out ${thing.label}`}
              onClick={() => put({ tallThings: tallThings.filter((_, k) => k !== i) })}
            >
              ✕
            </button>
          </div>
        );
      })}
      <button
        className="link mt-1"
        onClick={() => put({ tallThings: [...tallThings, { label: 'magnet', x: 0, y: 0, radius: 8, height: 8 }] })}
      >
        add one
      </button>
    </div>
  );
};
