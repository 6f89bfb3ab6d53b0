import { randomUUID } from 'node:crypto';
import { sql } from 'kysely';
import type { api, BatchDocument, BodyOf } from '@bistre/contract';
import { layingOf, moveWords, wayOf, type Correction } from '@bistre/core';
import { loadBatch } from '../batches';
import type { Trx } from '../db/connect';
import { refused } from '../http/problem';
import { beginChange, record } from './change';

/**
 * Keeps a move of the burn that somebody accepted. Refuses it while a load is on: what of it is burned already, nobody
 * knows.
 */
export const acceptMove = async (
  trx: Trx,
  batchId: string,
  { version, ...move }: BodyOf<typeof api.correct>,
  by: string,
): Promise<BatchDocument> => {
  const now = await beginChange(trx, batchId, by, { parts: ['place'], version });
  const batch = await loadBatch(trx, batchId);
  const { corrects } = wayOf(batch);
  if (!corrects)
    throw refused({
      code: 'not-moved-as-a-whole',
      message: 'Work that is held so has no burn that moves as a whole: each piece is placed by itself.',
      field: 'place',
    });
  if (batch.pieces.some((p) => p.state === 'loaded'))
    throw refused({
      code: 'load-on',
      message: 'A load is on: its file was made as the burn lies now. Judge it first, then move the burn for the next.',
      field: 'run',
    });
  const before = batch.setup.place;
  const correction: Correction = {
    ...move,
    id: randomUUID(),
    at: new Date().toISOString(),
    by,
    laying: corrects === 'every sheet' ? null : layingOf(batch.readings),
    load: batch.pieces.reduce((most, p) => Math.max(most, p.load), 0),
  };
  const place = { ...before, corrections: [...(before.corrections ?? []), correction] };
  await trx
    .updateTable('batches')
    .set({ setup: sql`setup || jsonb_build_object('place', ${JSON.stringify(place)}::jsonb)` })
    .where('id', '=', batchId)
    .execute();
  await record(trx, {
    by,
    kind: 'setup',
    batchId,
    summary: `Burn moved ${moveWords(move)}, by ${move.pieces} measured ${move.pieces === 1 ? 'piece' : 'pieces'}`,
    parts: ['place'],
    version: now,
    undo: { kind: 'section', section: 'place', before },
  });
  return loadBatch(trx, batchId);
};
