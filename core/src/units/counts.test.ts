import { nth, type LoadNumber, type Ordinal, type SlotNumber, type StopNumber } from './counts';

describe('numbers that count from 1', () => {
  it('find the first of a list at 1 and nothing before it or behind its end', () => {
    const list = ['MINT', 'NAVY', 'CORAL'];
    expect([0, 1, 3, 4].map((n) => nth(list, n))).toEqual([undefined, 'MINT', 'CORAL', undefined]);
  });

  it('do not pass for one another', () => {
    const slot: SlotNumber = 3;
    // @ts-expect-error a place on the board is no line of the roster
    const piece: Ordinal = slot;
    // @ts-expect-error a feeder's stop is no load
    const load: LoadNumber = 2 as StopNumber;
    expect(piece + load).toBe(5);
  });
});
