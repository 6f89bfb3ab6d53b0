import { findingsOf } from '@bistre/contract';
import { heldIn } from '../held';
import type { BatchHandle } from '../../data/use-batch';
import { Take } from '../../stations/hold/Findings';

/** Distances of a dot and its repeat after the frame was lifted off. */
export const BackCheck = ({ handle }: { handle: BatchHandle }) => {
  const { found, note } = heldIn(handle, 'locator');
  const { back } = found;
  const put = (next: readonly number[]): void => note({ back: next });
  return (
    <Take
      handle={handle}
      what="back"
      time={back.length}
      label="distance, then Enter"
      of={findingsOf('locator')}
      at="back.0"
      words={
        <>
          Dot and repeat apart:{' '}
          {back.length === 0 ? (
            <span className="text-ochre">none yet; three tries say enough</span>
          ) : (
            <>
              <b>{back.map((d) => d.toFixed(2)).join(', ')} mm</b>{' '}
              <button className="link" onClick={() => put(back.slice(0, -1))}>
                take the last out
              </button>
            </>
          )}
        </>
      }
      onTake={(d) => put([...back, d])}
    />
  );
};
