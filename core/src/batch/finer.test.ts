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
