import type { ReactNode } from 'react';
import { usePart, Within } from './Form';

/**
 * Equal things, each a row of fields that can be taken out, and one more added at the end.
 *
 * @param one what one of them is called, for the buttons
 * @param fresh what a new one begins with
 */
export const FieldList = <T,>({
  at,
  one,
  fresh,
  add = `add a ${one}`,
  least = 0,
  most = Infinity,
  row,
  className = 'grid grid-cols-[1fr_1fr_1fr_2.75rem] items-start gap-2',
}: {
  at: string;
  one: string;
  fresh: (all: readonly T[]) => T;
  add?: string;
  least?: number;
  most?: number;
  className?: string;
  /** The fields of one: named within it. */
  row: (index: number, value: T) => ReactNode;
}) => {
  const [kept, put] = usePart<readonly T[] | null | undefined>(at);
  const all = kept ?? [];
  return (
    <>
      {all.map((value, i) => (
        <div key={i} className={className}>
          <Within at={`${at}.${i}`}>{row(i, value)}</Within>
          {all.length > least && (
            <button
              type="button"
              className="act mt-[1.3rem] min-w-11 justify-center !px-0"
              aria-label={`Take out ${one} ${i + 1}`}
              onClick={() => put(all.filter((_, k) => k !== i))}
            >
              ✕
            </button>
          )}
        </div>
      ))}
      {all.length < most && (
        <button type="button" className="link mt-1 justify-self-start" onClick={() => put([...all, fresh(all)])}>
          {add}
        </button>
      )}
    </>
  );
};
