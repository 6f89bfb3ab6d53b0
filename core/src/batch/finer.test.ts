import { loadedPieces } from '../test-batch';
import { exactly, reckon, saved } from '../test-reckon';
import { EXAMPLES } from '../test-ways';
import type { BatchInput } from '../setup';
import { estimateTime, finerTime, type Finer } from '.';

const at = (input: BatchInput, interval: number): BatchInput => ({ ...input, recipe: { ...input.recipe!, engrave: { ...input.recipe!.engrave, interval } } }); // prettier-ignore
const finer = (input: BatchInput): Finer | null => finerTime(input, reckon(input), estimateTime(input, reckon(input))!);
const tags = { ...saved(exactly(EXAMPLES.pockets)), pieces: loadedPieces([1, 2]) };

describe('what the next density costs', () => {
  // Densities that machines are commonly set to: 225, 254, 300, 400 and 500 lines to the inch [common practice].
  it.each([
    [0.15, 225],
    [0.1, 300],
    [25.4 / 300, 400],
    [0.055, 500],
  ])('from %f mm is %d lines to the inch, as it is planned with them', (interval, linesPerInch) => {
    const now = at(tags, interval);
    const found = finer(now)!;
    expect(found.linesPerInch).toBe(linesPerInch);
    expect(found.interval).toBeCloseTo(25.4 / linesPerInch, 12);
    const then = at(tags, 25.4 / linesPerInch);
    expect(found.more).toBeCloseTo(estimateTime(then, reckon(then))!.batch - estimateTime(now, reckon(now))!.batch, 6);
    expect(found.more).toBeGreaterThan(0);
  });
  it('is nothing beyond the finest, and nothing on a drive: its steps say it', () => {
    expect(finer(at(tags, 0.05))).toBeNull();
    expect(finer(EXAMPLES.drive)).toBeNull();
  });
  it('is nothing of lines that are only drawn', () => expect(finer(EXAMPLES.long)).toBeNull());
});

describe('a time on a machine whose loads were timed', () => {
  it('is the plan by its own stop-watch, all of it alike', () => {
    const plan = estimateTime(tags, reckon(tags))!;
    expect([plan.planned, plan.stopwatch]).toEqual([plan.load, null]);
    const slower = { ...tags, machine: { ...tags.machine, stopwatch: [{ planned: 100, took: 120, at: '2026-11-30T08:00:00.000Z' }] } }; // prettier-ignore
    const told = estimateTime(slower, reckon(slower))!;
    for (const part of ['load', 'burning', 'between', 'batch'] as const)
      expect(told[part] / plan[part]).toBeCloseTo(1.2, 9);
    expect([told.planned, told.runUp, told.duty]).toEqual([plan.planned, plan.runUp, plan.duty]);
    expect(finer(slower)!.more / finer(tags)!.more).toBeCloseTo(1.2, 9);
  });
});
