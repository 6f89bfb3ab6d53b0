import type { BatchDocument } from '@bistre/contract';
import { loadedPieces } from '../../../../core/src/test-batch';
import { DOCUMENTS } from '../../testing/batch';
import type { Kept } from './kept';
import { laidOver } from './overlay';
import { manyWords, wordsOf } from './words';

const batch: BatchDocument = { ...DOCUMENTS.pockets, pieces: loadedPieces([1, 2, 3]) as BatchDocument['pieces'] };
let seq = 0;
const write = (call: string, body: unknown, params: Record<string, unknown> = {}): Kept => ({
  seq: (seq += 1),
  key: `k${seq}`,
  scope: batch.id,
  call,
  params: { id: batch.id, ...params },
  body,
  base: 7,
  by: 'Odile',
  words: wordsOf(call, body),
  tried: false,
  refused: null,
  madeAt: Date.UTC(2026, 10, 28, 9),
});
const show = (...waiting: Kept[]): BatchDocument => laidOver(batch, waiting);

describe('what waits shows as it will be', () => {
  it('the last value of a part', () => {
    const notes = (text: string) => write('saveSection', { section: 'close', value: { notes: text, keep: '' } });
    expect(show(notes('a'), notes('b')).setup.close.notes).toBe('b');
    expect(show(notes('a')).setup.held).toBe(batch.setup.held);
  });
  it('ticks, and ticks taken out, once each', () => {
    const tick = (step: string, done: boolean) => write('tick', { done }, { step });
    expect(show(tick('a', true), tick('b', true), tick('a', true)).ticks.map((t) => [t.step, t.by])).toEqual([
      ['b', 'Odile'],
      ['a', 'Odile'],
    ]);
    expect(show(tick('a', true), tick('a', false)).ticks).toEqual([]);
  });
  it('readings, by whom and when', () => {
    const reading = { mark: 2, x: 505, y: 80, source: 'typed', purpose: 'place' };
    expect(show(write('takeReading', reading)).readings.at(-1)).toMatchObject({
      ...reading,
      by: 'Odile',
      at: '2026-11-28T09:00:00.000Z',
    });
  });
  it('verdicts on pieces that are loaded; what goes again stays until the server has said how', () => {
    const verdict = (slot: number, state: string, cause: string | null = null) => ({ slot, state, cause });
    const shown = show(
      write('judgePieces', { pieces: [verdict(1, 'done'), verdict(2, 'scrap', 'off position'), verdict(3, 'again')] }),
    );
    expect(shown.pieces.map((p) => [p.slot, p.state, p.cause])).toEqual([
      [1, 'done', null],
      [2, 'scrap', 'off position'],
      [3, 'loaded', null],
    ]);
    // A second verdict on the same piece, pressed twice, changes nothing.
    expect(laidOver(shown, [write('judgePieces', { pieces: [verdict(1, 'scrap', 'other')] })]).pieces[0]!.state).toBe(
      'done',
    );
  });
  it('nothing where only the server knows what follows', () => {
    expect(show(write('startLoad', undefined), write('unheard of', null))).toBe(batch);
  });
});

describe('what waits is told', () => {
  it('in words, alike ones counted', () => {
    const all = [
      write('takeReading', { mark: 3 }),
      write('tick', { done: true }),
      write('tick', { done: true }),
      write('saveSection', { section: 'beside' }),
      write('judgePieces', { pieces: [1, 2] }),
      write('closeBatch', {}),
    ];
    expect(manyWords(all)).toBe('reading of mark 3, 2 × tick, what stands beside it, 2 verdicts, change');
  });
});
