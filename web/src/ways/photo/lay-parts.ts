import type { RefObject } from 'react';
import { api, inputWithoutArt, type BatchDocument, type Setup } from '@bistre/contract';
import {
  apply,
  adopt,
  flatten,
  offsetContours,
  partOutline,
  polyline,
  rigid,
  spendStock,
  WAYS,
  type Held,
  type HeldSection,
  type PhotoFindings,
  type Vec,
} from '@bistre/core';
import { call } from '../../data/api';
import { PhotoLook } from './photo';
import type { BatchHandle } from '../../data/use-batch';
import { write } from '../../data/write';

/** A batch held by photograph: as it is, or as it would be. */
const byPhoto = ({ setup }: BatchDocument): Held<'photo'> & HeldSection => {
  const held = adopt(setup.held, WAYS.photo);
  if (held.way !== 'photo') throw new Error(held.way);
  return held;
};

/** Number of a batch's last load: what is burned on a photograph is counted from it. */
export const lastLoad = (batch: BatchDocument): number => Math.max(0, ...batch.pieces.map((p) => p.load));

/** Outlines of a batch's parts that were cut since the photograph, where they lay. */
const cutSince = (batch: BatchDocument, { afterLoad, blanks }: PhotoFindings): Vec[][] => {
  const outline = partOutline(inputWithoutArt(batch).blank, 0.1);
  const cut = new Set(batch.pieces.filter((p) => p.load > afterLoad && p.state !== 'loaded').map((p) => p.slot));
  return blanks.flatMap((f, i) => {
    if (!cut.has(i + 1)) return [];
    const m = rigid(f.angle, f.x, f.y);
    return [outline.map((p) => apply(m, p))];
  });
};

const grownBy = (outline: readonly Vec[], by: number): Vec[] => {
  const [grown] = offsetContours([polyline(outline, true)], by);
  return grown ? flatten(grown, 0.1) : [...outline];
};

/** Other lists' batches that share the stock of this one, as they are now. */
const sharers = async ({ choice }: Held<'photo'>): Promise<BatchDocument[]> =>
  Promise.all(choice.also.map((id) => call(api.getBatch, { params: { id } })));

/**
 * Lays the waiting parts of a batch, and of the lists that share its stock, into the offcuts seen;
 * keeps with each batch where its own lie.
 */
export const layParts = async (
  handle: BatchHandle,
  wanted: Held<'photo'>,
  seconds: number,
  looking: RefObject<PhotoLook | null>,
  progress: (share: number, words: string) => void,
  problem: (words: string) => void,
): Promise<void> => {
  const { batch } = handle;
  const also = await sharers(wanted);
  const worker = new PhotoLook();
  looking.current = worker;
  // What was cut since the photograph is a hole now.
  const found: PhotoFindings = {
    ...wanted.found,
    offcuts: spendStock(wanted.found.offcuts, [
      ...cutSince(batch, wanted.found),
      // Of the same photograph only: an older one's places are elsewhere.
      ...also.flatMap((b) => {
        const theirs = byPhoto(b).found;
        return theirs.takenAt === wanted.found.takenAt ? cutSince(b, theirs) : [];
      }),
    ]),
    afterLoad: lastLoad(batch),
  };
  // Parts that other lists took stay theirs.
  const taken = also.length === 0 ? wanted.found.others.map((o) => grownBy(o, wanted.choice.gap)) : [];
  const own = {
    ...batch,
    setup: {
      ...batch.setup,
      held: { ...byPhoto(batch), ...wanted, found: { ...found, offcuts: spendStock(found.offcuts, taken) } },
    },
  } as BatchDocument;
  const waiting = [own, ...also].reduce(
    (n, b) => n + Math.max(0, b.quantity - b.pieces.filter((p) => p.state === 'done').length),
    0,
  );
  const made = await worker.lay([own, ...also], seconds, (share, laid, density) =>
    progress(share, `${laid} of ${waiting} laid, ${(100 * density).toFixed(1)} % of the stock they take`),
  );
  if (!made) return;
  if (!made.ok) {
    problem(made.problem.message);
    return;
  }
  const { lists, density } = made.value;
  const laidInto = (seen: PhotoFindings, id: string): PhotoFindings => ({
    ...seen,
    blanks: lists.find((l) => l.batchId === id)?.found ?? [],
    left: lists.find((l) => l.batchId === id)?.left ?? 0,
    others: [
      ...lists.filter((l) => l.batchId !== id).flatMap((l) => l.outlines),
      ...(also.length === 0 ? wanted.found.others : []),
    ],
    density: Math.min(1, density),
  });
  handle.update('held', {
    ...byPhoto(batch),
    choice: { ...wanted.choice, use: 'offcuts' },
    found: laidInto(found, batch.id),
  } as Setup['held']);
  for (const other of also) {
    const theirs = byPhoto(other);
    const { gap, grain, marksOn, inset, cameraHeight } = wanted.choice;
    const { offcuts, spread, marks, takenAt, seenBy } = found;
    await write({
      endpoint: api.saveSection,
      params: { id: other.id },
      scope: other.id,
      base: other.version,
      body: {
        section: 'held',
        value: {
          ...theirs,
          choice: { ...theirs.choice, use: 'offcuts', gap, grain, marksOn, inset, cameraHeight },
          found: {
            ...laidInto(theirs.found, other.id),
            offcuts,
            spread,
            marks,
            takenAt,
            seenBy,
            afterLoad: lastLoad(other),
          },
        } as Setup['held'],
      },
    });
  }
};

/** Open batches whose parts can be cut from the same stock: same machine, material and thickness. */
export const sharesStock = (a: BatchDocument, b: BatchDocument): boolean =>
  b.id !== a.id &&
  b.closedAt === null &&
  b.machine.id === a.machine.id &&
  b.recipe !== null &&
  b.recipe.spec.material === a.recipe?.spec.material &&
  Math.abs(b.blank.spec.thickness - a.blank.spec.thickness) < 0.3 &&
  b.blank.spec.shape.kind !== 'round' &&
  b.fixture === null &&
  byPhoto(b).choice.also.length === 0 &&
  !b.pieces.some((p) => p.state === 'loaded');
