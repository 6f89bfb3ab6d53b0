import type { BatchDocument } from '@bistre/contract';
import { TURNED } from '@bistre/core';
import { FLAT_SHOW, type Show } from '../flat/show';

/** The same batch with its sheet turned to the other side. */
const turnedDocument = (batch: BatchDocument): BatchDocument => ({
  ...batch,
  ticks: batch.ticks.some((t) => t.step === TURNED)
    ? batch.ticks.filter((t) => t.step !== TURNED)
    : [...batch.ticks, { step: TURNED, at: batch.updatedAt, by: '' }],
});

/** A panel is reckoned with its other side up too. */
export const PANEL_SHOW: Show = { ...FLAT_SHOW, other: turnedDocument };
