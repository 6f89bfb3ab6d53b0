import { useState } from 'react';
import { api, type BodyOf, type SimRunView } from '@bistre/contract';
import { nth, SCRAP_CAUSES, worstCorner, type Box, type SlotNumber } from '@bistre/core';
import type { BatchHandle } from '../../data/use-batch';
import { Measure, Select } from '../../parts/fields';
import { Finding } from '../../parts/Part';
import { Tip } from '../../parts/Tip';

type Verdict = BodyOf<typeof api.judgePieces>['pieces'][number];

/** The next piece of the open load: done, scrap or again; with its measured place where one was taken. */
export const Judge = ({
  handle,
  slot,
  art,
  run,
  rest,
}: {
  handle: BatchHandle;
  /** What the piece carries, whose worst corner counts. */
  art: Box;
  slot: SlotNumber;
  run: SimRunView | null;
  rest: readonly number[];
}) => {
  const round = handle.batch.blank.spec.shape.kind === 'round';
  const [cause, setCause] = useState<string>('');
  const [words, setWords] = useState('');
  const [passes, setPasses] = useState('');
  const simulated = run?.pieces.find((p) => p.slot === slot);
  const [typed, setTyped] = useState<{ dx: number | null; dy: number | null }>({ dx: null, dy: null });
  const piece = handle.batch.pieces.find((p) => p.state === 'loaded' && p.slot === slot);
  const measured = (of: typeof simulated): Pick<Verdict, 'dx' | 'dy' | 'yaw'> =>
    of && of.dx !== null ? { dx: of.dx, dy: of.dy, yaw: of.yaw } : {};
  const judge = async (pieces: Verdict[]): Promise<void> => {
    if (await handle.act(api.judgePieces, { body: { pieces } })) {
      setCause('');
      setWords('');
      setPasses('');
      setTyped({ dx: null, dy: null });
    }
  };
  const here: Pick<Verdict, 'dx' | 'dy' | 'yaw'> =
    typed.dx !== null || typed.dy !== null ? { dx: typed.dx ?? 0, dy: typed.dy ?? 0, yaw: 0 } : measured(simulated);
  const { tolerance } = handle.batch;
  /** How far the worst corner of a measured piece is off, mm; nought where nothing was measured. */
  const worstOf = ({ dx, dy, yaw }: typeof here): number => (dx == null ? 0 : worstCorner(art, dx, dy ?? 0, yaw ?? 0));
  const worst = worstOf(here);
  const outside = worst > tolerance;
  const offOf = (s: SlotNumber): typeof here => measured(run?.pieces.find((p) => p.slot === s));
  // Those that are out of tolerance are judged one by one.
  const inside = rest.filter((s) => worstOf(offOf(s)) <= tolerance);
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
          {here.dx != null ? (
            <>
              worst corner <b className={outside ? 'text-oxide' : 'text-verdigris'}>{worst.toFixed(2)} mm</b> of{' '}
              {tolerance.toFixed(2)}
            </>
          ) : (
            'measured from the piece’s edges, if you like'
          )}
        </p>
      </div>
      {outside && (
        <Finding tone="out">
          Out of tolerance: {worst.toFixed(2)} mm, {tolerance.toFixed(2)} are allowed. Scrap it, or say why it passes.
          <input
            aria-label="why it passes"
            className="field mt-1"
            placeholder="the customer agreed, the edge hides it, …"
            value={passes}
            maxLength={100}
            onChange={(e) => setPasses(e.target.value)}
          />
        </Finding>
      )}
      <div className="mt-2 flex flex-wrap items-end gap-2">
        <button
          className="act act-main !min-h-11 !px-6"
          disabled={outside && passes.trim() === ''}
          onClick={() => void judge([{ slot, state: 'done', cause: outside ? passes.trim() : null, ...here }])}
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
        {rest.length > 1 && inside.length > 0 && (
          <button
            className="act"
            onClick={() =>
              void judge(inside.map((s) => ({ slot: s, state: 'done' as const, cause: null, ...offOf(s) })))
            }
          >
            {inside.length === rest.length ? `All ${rest.length} done` : `The ${inside.length} inside tolerance done`}
          </button>
        )}
      </div>
    </div>
  );
};
