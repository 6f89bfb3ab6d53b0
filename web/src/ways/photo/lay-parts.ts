import type { RefObject } from 'react';
import { api, batchInput, type BatchDocument } from '@bistre/contract';
import {
  apply,
  effectiveHold,
  flatten,
  offsetContours,
  partOutline,
  polyline,
  rigid,
  spendStock,
  type HoldSettings,
  type Vec,
} from '@bistre/core';
import { call } from '../../data/api';
import { PhotoLook } from './photo';
import type { BatchHandle } from '../../data/use-batch';

/** Number of a batch's last load: what is burned on a photograph is counted from it. */
export const lastLoad = (batch: BatchDocument): number => Math.max(0, ...batch.pieces.map((p) => p.load));

/** Outlines of a batch's parts that were cut since the photograph, where they lay. */
const cutSince = (batch: BatchDocument, { photo }: HoldSettings): Vec[][] => {
  const outline = partOutline(batchInput(batch).blank, 0.1);
  const cut = new Set(batch.pieces.filter((p) => p.load > photo.afterLoad && p.state !== 'loaded').map((p) => p.slot));
  return photo.found.flatMap((f, i) => {
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
const sharers = async (hold: HoldSettings): Promise<BatchDocument[]> =>
  Promise.all(hold.photo.also.map((id) => call(api.getBatch, { params: { id } })));

/**
 * Lays the waiting parts of a batch, and of the lists that share its stock, into the offcuts seen;
 * keeps with each batch where its own lie.
 */
export const layParts = async (
  handle: BatchHandle,
  wanted: HoldSettings,
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
  const hold: HoldSettings = {
    ...wanted,
    photo: {
      ...wanted.photo,
      offcuts: spendStock(wanted.photo.offcuts, [
        ...cutSince(batch, wanted),
        // Of the same photograph only: an older one's places are elsewhere.
        ...also
          .filter((b) => b.setup.hold.photo.takenAt === wanted.photo.takenAt)
          .flatMap((b) => cutSince(b, b.setup.hold)),
      ]),
      afterLoad: lastLoad(batch),
    },
  };
  // Parts that other lists took stay theirs.
  const taken = also.length === 0 ? wanted.photo.others.map((o) => grownBy(o, wanted.photo.gap)) : [];
  const own = {
    ...batch,
    setup: {
      ...batch.setup,
      hold: { ...hold, photo: { ...hold.photo, offcuts: spendStock(hold.photo.offcuts, taken) } },
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
  const settingsOf = (of: HoldSettings, id: string): HoldSettings => ({
    ...of,
    method: 'photo',
    photo: {
      ...of.photo,
      use: 'offcuts',
      found: lists.find((l) => l.batchId === id)?.found ?? [],
      left: lists.find((l) => l.batchId === id)?.left ?? 0,
      others: [
        ...lists.filter((l) => l.batchId !== id).flatMap((l) => l.outlines),
        ...(also.length === 0 ? wanted.photo.others : []),
      ],
      density: Math.min(1, density),
    },
  });
  handle.update('hold', settingsOf(hold, batch.id) as typeof batch.setup.hold);
  for (const other of also) {
    const kept = settingsOf(other.setup.hold, other.id);
    const { offcuts, spread, marks, takenAt, seenBy, gap, grain, marksOn, inset, cameraHeight } = hold.photo;
    await call(api.saveSection, {
      params: { id: other.id },
      body: {
        section: 'hold',
        version: other.version,
        value: {
          ...kept,
          photo: {
            ...kept.photo,
            offcuts,
            spread,
            marks,
            takenAt,
            seenBy,
            gap,
            grain,
            marksOn,
            inset,
            cameraHeight,
            afterLoad: lastLoad(other),
          },
        } as BatchDocument['setup']['hold'],
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
  effectiveHold(b).photo.also.length === 0 &&
  !b.pieces.some((p) => p.state === 'loaded');
