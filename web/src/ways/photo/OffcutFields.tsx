import { heldIn } from '../held';
import { useEffect, useRef, useState } from 'react';
import { useQuery } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, type BatchDocument } from '@bistre/contract';
import { heldAs, partOutline, remainsOf, stockArea } from '@bistre/core';
import { inputWithoutArt } from '@bistre/contract';
import { call, messageOf } from '../../data/api';
import { layParts, sharesStock } from './lay-parts';
import { PhotoLook } from './photo';
import { useOffcuts } from '../../data/queries';
import type { BatchHandle } from '../../data/use-batch';
import { KEPT, write } from '../../data/write';
import { Tick } from '../../parts/fields';
import { Finding } from '../../parts/Part';

/** Open batches that could share this one's stock. */
const useSharers = (batch: BatchDocument): BatchDocument[] => {
  const { data = [] } = useQuery({
    queryKey: ['sharers', batch.id],
    queryFn: async () => {
      const rows = await call(api.listBatches, { query: { closed: 'no' } });
      const near = rows.filter((r) => r.machineId === batch.machine.id && r.id !== batch.id).slice(0, 40);
      return Promise.all(near.map((r) => call(api.getBatch, { params: { id: r.id } })));
    },
    staleTime: 30_000,
  });
  return data.filter((b) => heldAs(batch, 'photo').choice.also.includes(b.id) || sharesStock(batch, b));
};

/** Other lists whose parts are laid into the same stock. */
export const AlsoFields = ({ handle }: { handle: BatchHandle }) => {
  const { batch } = handle;
  const { choice, put } = heldIn(handle, 'photo');
  const { also } = choice;
  const sharers = useSharers(batch);
  if (sharers.length === 0)
    return (
      <p className="col-span-2 text-[13px] text-soft">
        No other open batch is cut from this material, this thick, on this machine.
      </p>
    );
  return (
    <div className="col-span-2">
      <p className="text-[13px] text-soft">Cut from the same stock, in one go with these parts:</p>
      {sharers.map((b) => (
        <Tick
          key={b.id}
          label={`${b.name}, ${b.quantity - b.pieces.filter((p) => p.state === 'done').length} to come`}
          checked={also.includes(b.id)}
          onChange={(on) => put({ also: on ? [...also, b.id] : also.filter((id) => id !== b.id) })}
        />
      ))}
    </div>
  );
};

/** Other orders tried for longer, until stopped; the best is kept. */
export const LayAgain = ({ handle }: { handle: BatchHandle }) => {
  const looking = useRef<PhotoLook | null>(null);
  const [words, setWords] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => () => looking.current?.end(), []);
  const open = handle.batch.pieces.some((p) => p.state === 'loaded');
  return (
    <div className="mt-2 flex flex-wrap items-center gap-3">
      <button
        className="act"
        disabled={words !== null || open}
        onClick={() => {
          setWords('laying …');
          setProblem(null);
          void layParts(handle, heldAs(handle.batch, 'photo'), 15, looking, (_s, w) => setWords(w), setProblem)
            .catch((error: unknown) => setProblem(messageOf(error)))
            .finally(() => setWords(null));
        }}
      >
        Lay them anew, for 15 s
      </button>
      {words !== null && (
        <>
          <span role="status" className="text-soft">
            {words}
          </span>
          <button className="link" onClick={() => looking.current?.end()}>
            stop
          </button>
        </>
      )}
      {problem && <Finding tone="out">{problem}</Finding>}
    </div>
  );
};

/** What is left of the stock when the parts are cut, put on the Shelf for the next time. */
export const KeepRemains = ({ handle }: { handle: BatchHandle }) => {
  const { batch } = handle;
  const [busy, setBusy] = useState(false);
  const { found: photo } = heldAs(batch, 'photo');
  const cut = batch.pieces.filter((p) => p.load > photo.afterLoad && p.state !== 'loaded').map((p) => p.slot);
  const done = batch.pieces.filter((p) => p.state !== 'loaded').length;
  if (done === 0 || photo.offcuts.length === 0) return null;
  const outline = partOutline(inputWithoutArt(batch).blank, 0.05);
  const keep = async (): Promise<void> => {
    setBusy(true);
    try {
      const left = remainsOf(
        photo.offcuts,
        [
          ...photo.blanks.flatMap((f, i) => (cut.includes(i + 1) ? [{ outline, x: f.x, y: f.y, angle: f.angle }] : [])),
          // What was laid for other lists is theirs, cut or not.
          ...photo.others.map((o) => ({ outline: o, x: 0, y: 0, angle: 0 })),
        ],
        batch.machine.profile.kerf,
      );
      if (left.length === 0) {
        toast('Nothing is left that is worth keeping: strips under 16 mm and bits under 15 cm² are scrap.');
        return;
      }
      const day = new Date().toLocaleDateString('en-GB', { day: '2-digit', month: 'short' });
      const answer = await write({
        endpoint: api.keepOffcuts,
        params: { id: batch.id },
        scope: batch.id,
        body: {
          offcuts: left.map((o, i) => ({
            name: `${(batch.recipe?.spec.material ?? batch.blank.name).split(/[ ,]/)[0]} ${day} ${String.fromCharCode(65 + (i % 26))}`,
            material: batch.recipe?.spec.material ?? batch.blank.name,
            thickness: batch.blank.spec.thickness,
            outline: o.outline.map(({ x, y }) => ({ x, y })),
            defects: o.defects.map((d) => d.map(({ x, y }) => ({ x, y }))),
          })),
        },
      });
      toast(
        answer.kept
          ? KEPT
          : `${left.length} ${left.length === 1 ? 'offcut is' : 'offcuts are'} on the Shelf, ${(left.reduce((s, o) => s + stockArea(o), 0) / 1e4).toFixed(1)} dm². Write their names on them.`,
      );
    } catch (error) {
      toast.error(messageOf(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <p className="mt-2">
      <button className="act" disabled={busy} onClick={() => void keep()}>
        Keep what is left on the Shelf
      </button>{' '}
      <span className="text-[13px] text-soft">{done} parts are cut so far</span>
    </p>
  );
};

/** Which offcuts of the Shelf would take the waiting parts, before anything is fetched. */
export const ShelfWould = ({ handle }: { handle: BatchHandle }) => {
  const { batch } = handle;
  const { data = [] } = useOffcuts();
  const [words, setWords] = useState<string | null>(null);
  const looking = useRef<PhotoLook | null>(null);
  useEffect(() => () => looking.current?.end(), []);
  const same = data.filter(
    (o) => o.material === batch.recipe?.spec.material && Math.abs(o.thickness - batch.blank.spec.thickness) < 0.3,
  );
  if (same.length === 0) return null;
  const ask = async (): Promise<void> => {
    const worker = new PhotoLook();
    looking.current = worker;
    setWords('looking …');
    const made = await worker.wouldTake(batch, same);
    if (!made) return;
    setWords(
      !made.ok
        ? made.problem.message
        : `Fetch ${
            same.flatMap((o, i) => (made.value.each[i]! > 0 ? [`${o.name} (${made.value.each[i]})`] : [])).join(', ') ||
            'none of them'
          }${made.value.left > 0 ? `; ${made.value.left} parts find no place on them` : ': they take all parts'}.`,
    );
  };
  return (
    <p className="col-span-2 text-[13px]">
      {same.length} {same.length === 1 ? 'offcut' : 'offcuts'} of {batch.recipe?.spec.material} on the Shelf.{' '}
      <button className="link" onClick={() => void ask()}>
        which would take these parts?
      </button>{' '}
      {words && <b role="status">{words}</b>}
    </p>
  );
};
