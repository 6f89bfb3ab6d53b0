import { useRef, useState } from 'react';
import { api, blankOf, type SimRunView } from '@bistre/contract';
import { blankOutline, flatten, nth, type SlotNumber } from '@bistre/core';
import { ask } from '../../../parts/ask';
import { FileLink, useAgainst } from '../../../parts/FileLinks';
import { Measure } from '../../../parts/fields';
import { useHotkey } from '../../../parts/hotkeys';
import { Finding } from '../../../parts/Part';
import { Tip } from '../../../parts/Tip';
import type { BatchProps, RunPages } from '../../../ways/pages';
import { ByEdges } from './ByEdges';
import { DESK } from './look';
import { Scrapping } from './Scrapping';
import { loadedSlots, simulatedOff, useVerdicts, worstOf, type Off } from './verdicts';

const Key = ({ of }: { of: string }) => (
  <kbd aria-hidden className="ml-2 border border-current px-1.5 text-[13px] leading-5 font-normal opacity-80">
    {of}
  </kbd>
);

/** The next piece of the load that is on: where it lies, whose it is, and one touch or key for what became of it. */
export const JudgeNext = ({
  handle,
  shown,
  slot,
  pages,
  run,
  doubted,
}: BatchProps & {
  readonly slot: SlotNumber;
  readonly pages: RunPages;
  readonly run: SimRunView | null;
  /** Whether the pieces of this load may lie elsewhere than they were meant to. */
  readonly doubted: boolean;
}) => {
  const { batch } = handle;
  const { artBox } = shown.reckoning;
  const round = batch.blank.spec.shape.kind === 'round';
  const piece = batch.pieces.find((p) => p.state === 'loaded' && p.slot === slot);
  const { typed, type, give } = useVerdicts(handle, piece?.id);
  const [scrapping, setScrapping] = useState<SlotNumber | null>(null);
  const [passes, setPasses] = useState('');
  const [edges, setEdges] = useState(false);
  const art = round || !piece ? undefined : shown.reckoning.art?.paths[piece.ordinal];
  const doneButton = useRef<HTMLButtonElement>(null);
  const rest = loadedSlots(handle);
  const load = batch.pieces.filter((p) => p.load === piece?.load);
  const measured = simulatedOff(run, slot);
  const here: Off =
    typed.dx !== null || typed.dy !== null ? { dx: typed.dx ?? 0, dy: typed.dy ?? 0, yaw: typed.yaw ?? 0 } : measured;
  const { tolerance } = batch;
  const worst = worstOf(artBox, here);
  const outside = worst > tolerance;
  // Those that are out of tolerance are judged one by one.
  const inside = rest.filter((s) => worstOf(artBox, simulatedOff(run, s)) <= tolerance);
  const why = passes.trim();
  const asks = outside || doubted;
  const done = (): void => {
    if (asks && why === '') return;
    const given = give([{ slot, state: 'done', cause: asks ? why : null, ...here }]);
    // What is said of a doubt holds for the load.
    if (given && !doubted) setPasses('');
  };
  const scrap = (cause: string): void => {
    setScrapping(null);
    give([{ slot, state: 'scrap', cause, ...here }]);
  };
  const again = (): boolean => give([{ slot, state: 'again', cause: null }]);
  const all = async (): Promise<void> => {
    const sure = await ask(
      `Are all ${inside.length} done?`,
      `Slots ${inside.join(', ')} are taken as good pieces.`,
      `All ${inside.length} are done`,
      'Look at them one by one',
    );
    if (sure) give(inside.map((s) => ({ slot: s, state: 'done', cause: null, ...simulatedOff(run, s) })));
  };
  useHotkey('d', done);
  useHotkey('s', () => setScrapping(slot));
  useHotkey('a', again);
  const file = useAgainst()('load.gcode');
  const name = piece ? Object.values(nth(batch.roster, piece.ordinal) ?? {}).join(' · ') : '';
  const back = batch.canUndo?.summary.startsWith('Piece ') ? batch.canUndo : null;
  const field = (at: 'dx' | 'dy', label: string) => (
    <div className="w-36">
      <Measure
        key={`${piece?.id}`}
        of={api.judgePieces.body}
        at={`pieces.0.${at}`}
        label={label}
        bare
        value={typed[at] ?? (measured[at] == null ? null : Number(measured[at].toFixed(2)))}
        onCommit={(value) => type({ [at]: value })}
        onEnter={at === 'dy' ? () => doneButton.current?.focus() : undefined}
      />
    </div>
  );
  return (
    <>
      {edges && art && piece && (
        <ByEdges
          key={piece.id}
          name={name}
          outline={flatten(blankOutline(blankOf(batch.blank), shown.reckoning.sizes)[0]!, 0.02)}
          art={art}
          sizes={shown.reckoning.sizes}
          burned={shown.reckoning.own.cutLine ? 'cut' : 'art'}
          onUse={(found) => {
            type(found);
            setEdges(false);
            doneButton.current?.focus();
          }}
          onClose={() => setEdges(false)}
        />
      )}
      <div className="flex flex-wrap items-end gap-x-5 gap-y-2">
        <div className="min-w-0 flex-1 basis-72">
          <p className="text-[40px] leading-[1.05] font-bold break-words">
            {pages.place(slot, piece?.ordinal)} <span className="font-normal">{name}</span>
          </p>
          <p className="text-soft">
            piece {piece?.ordinal}; {load.length - rest.length} of {load.length} judged
            {file.length === 0 && (
              <>
                {' · '}
                <FileLink batchId={batch.id} file="load.gcode" word="G-code of the load" />
              </>
            )}
            {rest.length > 1 && inside.length > 0 && !doubted && (
              <>
                {' · '}
                <button className="link" onClick={() => void all()}>
                  {inside.length === rest.length
                    ? `all ${rest.length} are done`
                    : `the ${inside.length} inside tolerance are done`}
                </button>
              </>
            )}
            {back && (
              <>
                {' · '}
                <button className="link" onClick={handle.undo}>
                  take back: {back.summary}
                </button>
              </>
            )}
          </p>
        </div>
        <div className="flex items-end gap-2">
          {field('dx', round ? 'around, right' : 'off to the right')}
          {field('dy', round ? 'along, to rim' : 'off away from you')}
        </div>
        {(art?.hull?.length ?? 0) > 2 && (
          <button className="link min-h-11" onClick={() => setEdges(true)}>
            by its edges
          </button>
        )}
        <div className="flex flex-wrap gap-2">
          <button
            ref={doneButton}
            data-next
            className={`${DESK} act-main min-w-32`}
            disabled={asks && why === ''}
            onClick={done}
          >
            Done
            <Key of="d" />
          </button>
          <button className={`${DESK} act-danger min-w-28`} onClick={() => setScrapping(slot)}>
            Scrap
            <Key of="s" />
          </button>
          <Tip says="Not burned, or burned on nothing: the name goes back to the roster, no blank is lost">
            <button className={`${DESK} min-w-28`} onClick={again}>
              Again
              <Key of="a" />
            </button>
          </Tip>
        </div>
      </div>
      {here.dx != null && !outside && (
        <p className="mt-1">
          worst corner <b className="text-verdigris">{worst.toFixed(2)} mm</b> of {tolerance.toFixed(2)}: inside.
        </p>
      )}
      {asks && (
        <div className="mt-2">
          <Finding tone="out">
            {outside
              ? `Out of tolerance: ${worst.toFixed(2)} mm, ${tolerance.toFixed(2)} are allowed. Scrap it, or say why it passes.`
              : 'It may lie elsewhere than it was meant to. Measure it, scrap it, or say why it passes.'}
          </Finding>
          <input
            aria-label="why it passes"
            className="field mt-1"
            placeholder="the customer agreed, the edge hides it, …"
            value={passes}
            maxLength={100}
            onChange={(e) => setPasses(e.target.value)}
          />
        </div>
      )}
      {scrapping === slot && <Scrapping onCause={scrap} onLeave={() => setScrapping(null)} />}
    </>
  );
};
