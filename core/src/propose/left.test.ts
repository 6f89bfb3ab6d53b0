import { loadedPieces } from '../test-batch';
import { reckon } from '../test-reckon';
import { EXAMPLES } from '../test-ways';
import type { BatchInput } from '../setup';
import { estimateTime } from '../batch';
import { WAY_IDS } from '../ways';
import { workLeft } from '.';

const left = (input: BatchInput) => workLeft(input, reckon(input));
const done = (input: BatchInput, n: number): BatchInput => ({
  ...input,
  firstApproved: true,
  pieces: loadedPieces(Array.from({ length: n }, (_, i) => i + 1)).map((p) => ({ ...p, state: 'done' as const })),
});

describe('work that is left', () => {
  const { pockets } = EXAMPLES;
  it.each(WAY_IDS)('%s: some before anything is done, none after all is', (way) => {
    const input = EXAMPLES[way];
    const { hands, burning } = left({ ...input, pieces: [] });
    expect(hands).toBeGreaterThan(0);
    if (burning !== null) expect(burning).toBeGreaterThan(0);
    expect(left(done(input, input.quantity))).toEqual({ hands: 0, burning: 0 });
    expect(left({ ...input, closedAt: '2026-11-20T00:00:00Z' })).toEqual({ hands: 0, burning: 0 });
  });

  it('is burned as it is planned: of half the pieces half of it', () => {
    const fresh = { ...pockets, pieces: [] };
    const planned = estimateTime(fresh, reckon(fresh))!.batch / 60;
    expect(left(fresh).burning).toBeCloseTo(planned, 9);
    const half = done(pockets, pockets.quantity / 2);
    expect(left(half).burning).toBeCloseTo(estimateTime(half, reckon(half))!.batch / 120, 9);
  });

  it('a step that is ticked is no work any more', () => {
    const fresh = { ...pockets, pieces: [], ticks: [] };
    expect(left(fresh).hands - left({ ...fresh, ticks: ['place.lay'] }).hands).toBeCloseTo(1.5, 9);
  });

  it('cannot be told of burning without a recipe, and hands are told all the same', () => {
    const { hands, burning } = left({ ...pockets, pieces: [], recipe: null });
    expect(burning).toBeNull();
    expect(hands).toBeGreaterThan(0);
  });
});
