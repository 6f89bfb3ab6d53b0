import type { BatchDocument } from '@bistre/contract';
import type { Kept } from './kept';

interface Bodies {
  readonly saveSection: { readonly section: keyof BatchDocument['setup']; readonly value: unknown };
  readonly tick: { readonly done: boolean };
  readonly takeReading: Pick<BatchDocument['readings'][number], 'id' | 'mark' | 'x' | 'y' | 'source' | 'purpose'>;
  readonly dropReading: undefined;
  readonly layAnew: undefined;
  readonly addSample: Pick<BatchDocument['blank']['samples'][number], 'id' | 'dimension' | 'value'>;
  readonly dropSample: undefined;
  readonly judgePieces: {
    readonly pieces: readonly {
      readonly slot: number;
      readonly state: 'done' | 'scrap' | 'again';
      readonly cause: string | null;
    }[];
  };
}

/** How a write shows before the server has answered it. */
const SHOWS: { readonly [C in keyof Bodies]: (batch: BatchDocument, body: Bodies[C], kept: Kept) => BatchDocument } = {
  saveSection: (batch, { section, value }) => ({ ...batch, setup: { ...batch.setup, [section]: value } }),
  tick: (batch, { done }, { params, by, madeAt }) => {
    const step = String(params['step']);
    const others = batch.ticks.filter((t) => t.step !== step);
    return { ...batch, ticks: done ? [...others, { step, by, at: new Date(madeAt).toISOString() }] : others };
  },
  takeReading: (batch, reading, { by, madeAt }) => ({
    ...batch,
    readings: [...batch.readings, { ...reading, by, at: new Date(madeAt).toISOString() }],
  }),
  dropReading: (batch, _body, { params }) => ({
    ...batch,
    readings: batch.readings.filter((r) => r.id !== params['reading']),
  }),
  layAnew: (batch) => ({ ...batch, readings: [] }),
  addSample: (batch, sample, { by, madeAt }) => ({
    ...batch,
    blank: {
      ...batch.blank,
      samples: [...batch.blank.samples, { ...sample, by, at: new Date(madeAt).toISOString() }],
    },
  }),
  dropSample: (batch, _body, { params }) => ({
    ...batch,
    blank: { ...batch.blank, samples: batch.blank.samples.filter((s) => s.id !== params['sample']) },
  }),
  judgePieces: (batch, { pieces }) => ({
    ...batch,
    pieces: batch.pieces.map((p) => {
      const verdict = p.state === 'loaded' ? pieces.find((v) => v.slot === p.slot) : undefined;
      return verdict && verdict.state !== 'again' ? { ...p, state: verdict.state, cause: verdict.cause } : p;
    }),
  }),
};

/** A batch as it will be once what waits is taken: what was typed shows at once, and after a reload. */
export const laidOver = (batch: BatchDocument, waiting: readonly Kept[]): BatchDocument =>
  waiting.reduce((shown, kept) => {
    const show = SHOWS[kept.call as keyof Bodies] as
      ((b: BatchDocument, body: unknown, k: Kept) => BatchDocument) | undefined;
    return show ? show(shown, kept.body, kept) : shown;
  }, batch);
