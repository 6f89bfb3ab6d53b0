import { believable, REMEMBERED, stopwatchFactor, type TimedLoad } from './stopwatch';

const load = (took: number, planned = 100): TimedLoad => ({ planned, took, at: '2026-11-30T10:00:00.000Z' });

describe('what a stop-watch says of the plan', () => {
  it('is nothing while nobody timed a load', () => {
    expect([stopwatchFactor(null), stopwatchFactor([]), stopwatchFactor(undefined)]).toEqual([null, null, null]);
  });
  it('is the median of how much longer it took: one that was interrupted does not move it', () => {
    expect(stopwatchFactor([load(110)])).toMatchObject({ factor: 1.1, loads: 1, apart: 0 });
    expect(stopwatchFactor([load(108), load(112)])!.factor).toBeCloseTo(1.1, 12);
    const found = stopwatchFactor([load(108), load(300), load(110), load(55, 50), load(109)])!;
    expect([found.factor, found.loads]).toEqual([1.1, 5]);
    expect(found.apart).toBeCloseTo(3 / 1.1 - 1, 9);
    expect(found.working[0]).toMatchObject({ formula: 'median of took / planned', substituted: '1.080, 1.090, 1.100, 1.100, 3.000', result: '1.100' }); // prettier-ignore
  });
  it('goes by the last loads alone, so that a machine that was mended is believed', () => {
    const old = Array.from({ length: 20 }, () => load(150));
    expect(stopwatchFactor([...old, ...Array.from({ length: REMEMBERED }, () => load(102))])!.factor).toBeCloseTo(
      1.02,
      12,
    );
  });
  it('leaves out what cannot be that load', () => {
    expect([believable(100, 24), believable(100, 26), believable(100, 399), believable(100, 401), believable(0, 5)]).toEqual([false, true, true, false, false]); // prettier-ignore
    expect(stopwatchFactor([load(5), load(900)])).toBeNull();
  });
});
