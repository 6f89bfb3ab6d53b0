import { useState } from 'react';
import { api, type BodyOf, type SimRunView } from '@bistre/contract';
import { SCRAP_CAUSES, type SlotNumber, nth } from '@bistre/core';
import type { BatchHandle } from '../../data/use-batch';
import { Measure, Select } from '../../parts/fields';
import { Tip } from '../../parts/Tip';

type Verdict = BodyOf<typeof api.judgePieces>['pieces'][number];

/** The next piece of the open load: done, scrap or again; with its measured place where one was taken. */
export const Judge = ({
  handle,
  slot,
  run,
  rest,
}: {
  handle: BatchHandle;
  slot: SlotNumber;
  run: SimRunView | null;
  rest: readonly number[];
}) => {
  const round = handle.batch.blank.spec.shape.kind === 'round';
  const [cause, setCause] = useState<string>('');
  const [words, setWords] = useState('');
  const simulated = run?.pieces.find((p) => p.slot === slot);
  const [typed, setTyped] = useState<{ dx: number | null; dy: number | null }>({ dx: null, dy: null });
  const piece = handle.batch.pieces.find((p) => p.state === 'loaded' && p.slot === slot);
  const measured = (of: typeof simulated): Pick<Verdict, 'dx' | 'dy' | 'yaw'> =>
    of && of.dx !== null ? { dx: of.dx, dy: of.dy, yaw: of.yaw } : {};
  const judge = async (pieces: Verdict[]): Promise<void> => {
    if (await handle.act(api.judgePieces, { body: { pieces } })) {
      setCause('');
      setWords('');
      setTyped({ dx: null, dy: null });
    }
  };
  const here: Pick<Verdict, 'dx' | 'dy' | 'yaw'> =
    typed.dx !== null || typed.dy !== null ? { dx: typed.dx ?? 0, dy: typed.dy ?? 0, yaw: 0 } : measured(simulated);
  const why = cause === 'other' ? words.trim() : cause + (words.trim() ? `: ${words.trim()}` : '');
  return (
    <div className="border border-rim p-3">
      <p className="text-[22px] leading-tight font-bold">
        {round ? 'This piece' : `Slot ${slot}`}{' '}
        <span className="text-[15px] font-normal">
          piece {piece?.ordinal}:{' '}
          {piece ? Object.values(nth(handle.batch.roster, piece.ordinal) ?? {}).join(' · ') : ''}
        </span>
      </p>
      <div className="mt-2 grid grid-cols-[1fr_1fr_1.6fr] gap-2" key={`${slot}-${piece?.id}`}>
        <Measure
          of={api.judgePieces.body}
          at="pieces.0.dx"
          label={round ? 'around, right' : 'off to the right'}
          value={typed.dx ?? (simulated?.dx ? Number(simulated.dx.toFixed(2)) : null)}
          onCommit={(dx) => setTyped((t) => ({ ...t, dx }))}
        />
        <Measure
          of={api.judgePieces.body}
          at="pieces.0.dy"
          label={round ? 'along, to rim' : 'off away from you'}
          value={typed.dy ?? (simulated?.dy ? Number(simulated.dy.toFixed(2)) : null)}
          onCommit={(dy) => setTyped((t) => ({ ...t, dy }))}
        />
        <p className="pt-5 text-[13px] text-soft">
          {simulated?.worst != null ? (
            <>
              worst corner{' '}
              <b className={simulated.worst > (run?.tolerance ?? 1) ? 'text-oxide' : 'text-verdigris'}>
                {simulated.worst.toFixed(2)} mm
              </b>{' '}
              of {run?.tolerance.toFixed(2)}
            </>
          ) : (
            'measured from the piece’s edges, if you like'
          )}
        </p>
      </div>
      <div className="mt-2 flex flex-wrap items-end gap-2">
        <button
          className="act act-main !min-h-11 !px-6"
          onClick={() => void judge([{ slot, state: 'done', cause: null, ...here }])}
        >
          Done
        </button>
        <div className="w-44">
          <Select
            label="cause, when scrapped"
            value={cause}
            options={[['', 'choose …'], ...SCRAP_CAUSES.map((c) => [c, c] as const)]}
            onChange={setCause}
          />
        </div>
        {cause !== '' && (
          <input
            aria-label="in words"
            className="field !w-36"
            placeholder="in words"
            value={words}
            maxLength={80}
            onChange={(e) => setWords(e.target.value)}
          />
        )}
        <button
          className="act act-danger"
          disabled={why === ''}
          onClick={() => void judge([{ slot, state: 'scrap', cause: why, ...here }])}
        >
          Scrap
        </button>
        <Tip says="Not burned, or burned on nothing: the name goes back to the roster, no blank is lost">
          <button className="act" onClick={() => void judge([{ slot, state: 'again', cause: null }])}>
            Again
          </button>
        </Tip>
        {rest.length > 1 && (
          <button
            className="act"
            onClick={() =>
              void judge(
                rest.map((s) => ({
                  slot: s,
                  state: 'done' as const,
                  cause: null,
                  ...measured(run?.pieces.find((p) => p.slot === s)),
                })),
              )
            }
          >
            All {rest.length} done
          </button>
        )}
      </div>
    </div>
  );
};
