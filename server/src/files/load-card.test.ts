import { execFileSync } from 'node:child_process';
import { reckonBatch, type BatchInput } from '@bistre/core';
import { loadedPieces, testBatch } from '../../../core/src/test-batch';
import { EXAMPLES } from '../../../core/src/test-ways';
import { alphabetsFor, LABELS } from '../alphabets';
import { loadCard } from './load-card';

const options = { now: new Date('2026-11-23T08:00:00Z'), alphabets: alphabetsFor(['b612-bold', 'b612']), labels: LABELS, simulatedPieces: 200 }; // prettier-ignore
const cardOf = async (input: BatchInput): Promise<string> => {
  const pdf = await loadCard(input, reckonBatch(input, options), input.name);
  return execFileSync('pdftotext', ['-layout', '-', '-'], { input: pdf, maxBuffer: 1e8 }).toString();
};
const input = testBatch();

describe('the load card', () => {
  it('of a load that is on has its slots alone, by number and name, on the board and in the list', async () => {
    const text = await cardOf({ ...input, pieces: loadedPieces([2, 5, 7]) });
    expect(text).toMatch(/load 1, 3 of 24 slots/);
    expect(text).toContain('Lay in from slot 2 on.');
    const names = [2, 5, 7].map((n) => Object.values(input.roster[n - 1]!)[0]!);
    // Once on the board, once in the list; a name may be shared.
    for (const name of names) expect(text.split(name).length - 1).toBeGreaterThanOrEqual(2);
    const absent = input.roster.map((r) => Object.values(r)[1]!).filter((seat, i) => ![1, 4, 6].includes(i) && seat);
    expect(absent.filter((seat) => text.includes(seat))).toEqual([]);
  });

  it('before anything is laid in it is of the first load', async () => {
    const text = await cardOf(input);
    expect(text).toMatch(/the next load, \d+ of 24 slots/);
    expect(text).toContain('Lay in from slot 1 on.');
  });

  it('a board of many slots goes on over the page, none is left out', async () => {
    const many = Array.from({ length: 24 }, (_, i) => ({ name: `CREW ${i + 1}`, seat: '' }));
    const text = await cardOf({ ...input, quantity: 24, roster: many, firstApproved: true });
    for (let i = 1; i <= 24; i += 1) expect(text).toMatch(new RegExp(`CREW ${i}\\b`));
  });

  it('work that is done has none, and says so', () => {
    const done = { ...input, quantity: 2, roster: input.roster.slice(0, 2), firstApproved: true, pieces: loadedPieces([1, 2]).map((p) => ({ ...p, state: 'done' as const })) }; // prettier-ignore
    expect(() => loadCard(done, reckonBatch(done, options), 'x')).toThrow('Every piece is done');
    expect(() => loadCard(EXAMPLES.drive, reckonBatch(EXAMPLES.drive, options), 'x')).toThrow('There is no board yet');
  });
});
