import { loadedPieces } from '../test-batch';
import { exactly, readAt, reckon, saved } from '../test-reckon';
import { rigid } from '../geometry';
import { EXAMPLES } from '../test-ways';
import type { BatchInput, WayId } from '../setup';
import { gateOf, nextFill, stationStates } from '.';

const NAMES = Array.from({ length: 24 }, (_, i) => ({ name: `KESTREL ${i}`, seat: 'LANE 1' }));
const waiting = (way: WayId, change: Partial<BatchInput> = {}): BatchInput => ({
  ...readAt(saved(exactly(EXAMPLES[way])), rigid(0, 120, 90)),
  customerWaits: true,
  ...change,
});
/** What loading answers: how many, or why not. */
const loads = (input: BatchInput): number | string => {
  const fill = nextFill(input, reckon(input));
  return fill.ok ? fill.value.length : fill.problem.code;
};
const done = loadedPieces([1]).map((p) => ({ ...p, state: 'done' as const }));

describe('a batch that waits for its customer', () => {
  it('loads its first piece, and no more, even where the shop approved that itself', () => {
    const roster = EXAMPLES.pockets.roster.length > 0 ? EXAMPLES.pockets.roster : NAMES;
    expect(loads(waiting('pockets', { roster, pieces: [], firstApproved: false }))).toBe(1);
    expect(loads(waiting('pockets', { roster, pieces: done, firstApproved: true }))).toBe('customer-waits');
    // Another first piece would make the batch one by one.
    expect(loads(waiting('pockets', { roster, pieces: done, firstApproved: false }))).toBe('customer-waits');
    const scrapped = done.map((p) => ({ ...p, state: 'scrap' as const, cause: 'off position' }));
    expect(loads(waiting('pockets', { roster, pieces: scrapped, firstApproved: false }))).toBe(1);
    expect(loads(waiting('pockets', { roster, pieces: done, firstApproved: true, customerWaits: false }))).toBeGreaterThan(1); // prettier-ignore
  });

  it('loads nothing where all of it is burned at once', () => {
    expect(loads({ ...EXAMPLES.long, pieces: [], firstApproved: false, customerWaits: true })).toBe('customer-waits');
  });

  it('holds the files of a load that was laid before something was changed, and not those of a first piece', () => {
    const codes = (input: BatchInput): string[] => gateOf(input, reckon(input), 'load').map((p) => p.code);
    const roster = NAMES;
    expect(codes(waiting('pockets', { roster, pieces: loadedPieces([1, 2]), firstApproved: true }))).toContain('customer-waits'); // prettier-ignore
    expect(codes(waiting('pockets', { roster, pieces: loadedPieces([1]), firstApproved: false }))).not.toContain('customer-waits'); // prettier-ignore
    const walk = waiting('pockets', { roster, pieces: loadedPieces([1, 2]), firstApproved: true });
    expect(gateOf(walk, reckon(walk), 'walk').map((p) => p.code)).not.toContain('customer-waits');
  });

  it('says at Run what it waits for, once the first piece is approved', () => {
    const waits = (input: BatchInput) => stationStates(input, reckon(input)).find((s) => s.id === 'run')!.waits;
    expect(waits(waiting('pockets', { roster: NAMES, pieces: done, firstApproved: false }))).toBe('approve the first piece'); // prettier-ignore
    expect(waits(waiting('pockets', { roster: NAMES, pieces: done, firstApproved: true }))).toBe('keep the customer’s approval'); // prettier-ignore
  });
});
