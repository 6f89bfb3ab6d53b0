import { benchSteps } from './steps';
import { nextStation, stationStates } from './stations';
import { reckonBatch } from './reckon';
import { estimateTime } from './files';
import { boardGcode } from '../ways/flat';
import { testAlphabets } from '../test-alphabets';
import { testBatch, testBlank } from '../test-batch';

const options = {
  now: new Date('2026-11-20T00:00:00Z'),
  alphabets: testAlphabets,
  labels: 'readability',
  simulatedPieces: 2_000,
};

describe('a batch as it goes along', () => {
  const fresh = testBatch();
  const r = reckonBatch(fresh, options);
  it('waits at the first station that is not proved', () => {
    expect(stationStates(fresh, r).map((s) => s.state)).toEqual([
      'proved',
      'entered',
      'not started',
      'proved',
      // Nothing was run yet.
      'not started',
      'not started',
    ]);
    expect(nextStation(stationStates(fresh, r)).waits).toContain('save the board');
  });
  it('says which dimensions want measuring', () => {
    const bare = testBatch({
      blank: { ...testBlank, samples: { length: [60], width: [], thickness: [1.5, 1.5, 1.5] } },
    });
    expect(stationStates(bare, reckonBatch(bare, options))[0]!.waits).toContain('length, width');
  });
  it('gives every step its own name and the readings their marks', () => {
    const steps = benchSteps(fresh, r);
    expect(new Set(steps.map((s) => s.id)).size).toBe(steps.length);
    expect(steps.filter((s) => s.takes?.kind === 'reading').map((s) => s.title)).toEqual([
      'Aim at mark 1',
      'Aim at mark 2',
      'Check with mark 3',
      'Read mark 1 again',
    ]);
    expect(steps.find((s) => s.id === 'place.focus')!.figure!.unit).toBe('mm up');
  });
  it('gives working for every number of the budget and the pocket', () => {
    for (const line of [...r.budget.working, ...r.pocket.working, ...r.sizes.length.working, ...r.heights.working]) {
      expect(line.formula).not.toBe('');
      expect(line.substituted).toMatch(/\d|worst|all/);
      expect(line.basis).not.toBe('');
    }
  });
  it('estimates the time of a load and cuts the board outline last', () => {
    const time = estimateTime(fresh, r)!;
    expect(time.pieces).toBe(24);
    expect(time.burning).toBeLessThan(time.load);
    const cut = boardGcode(fresh, r.board!);
    expect(cut.ok && [...cut.value].join('').split('\n').length).toBeGreaterThan(500);
  });
  it('leaves the numbers standing when there is no board, and says why', () => {
    const huge = testBatch({
      blank: {
        ...testBlank,
        shape: { kind: 'rectangle', length: 2000, width: 900, cornerRadius: 0 },
        samples: { length: [], width: [], thickness: [] },
      },
    });
    const reckoned = reckonBatch(huge, options);
    expect(reckoned.board).toBeNull();
    expect(reckoned.boardProblem!.message).toContain('does not fit');
    expect(reckoned.budget.predicted).toBeGreaterThan(0);
  });
});
