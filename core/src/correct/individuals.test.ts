import { D2, D4, individuals } from '.';

describe('individuals and moving range', () => {
  it('its factors are those of the table for two values [ASTM E2587: d₂ 1.128, D₄ 3.267; from memory]', () => {
    expect(D2).toBeCloseTo(1.128, 3);
    expect(D4).toBeCloseTo(3.267, 3);
  });

  it('the flow rates of the handbook [NIST/SEMATECH e-Handbook 6.3.2.2: mean 50.81, limits 55.8041 and 45.8159; from memory]', () => {
    const chart = individuals([49.6, 47.6, 49.9, 51.3, 47.8, 51.2, 52.6, 52.4, 53.6, 52.1])!;
    expect(chart.centre).toBeCloseTo(50.81, 6);
    expect(chart.range).toBeCloseTo(1.8778, 4);
    // The handbook divides by 1.128, rounded.
    expect(chart.upper).toBeCloseTo(55.8041, 2);
    expect(chart.lower).toBeCloseTo(45.8159, 2);
    expect(chart.outside).toEqual([]);
  });

  it('tells a level that moved from scatter: a step in the middle shows in all of them and not from piece to piece', () => {
    const quiet = [0, 0.1, -0.1, 0.05, -0.05, 0.1, 0, -0.1, 0.05, 0];
    const stepped = [...quiet, ...quiet.map((v) => v + 1)];
    const still = individuals(quiet)!;
    const moved = individuals(stepped)!;
    expect(still.overall / still.within).toBeLessThan(1.2);
    expect(moved.overall / moved.within).toBeGreaterThan(3);
    expect(moved.outside.length).toBeGreaterThan(0);
    // Ten on one side, then ten on the other: the eighth of each and those after it.
    expect(moved.runs).toEqual([7, 8, 9, 17, 18, 19]);
    expect(moved.working.at(-1)!.result).toBe('the level moves between pieces');
  });

  it('one value has no range; values all alike have no spread and nothing outside', () => {
    expect(individuals([1])).toBeNull();
    expect(individuals([0.25, 0.25, 0.25])).toMatchObject({ within: 0, overall: 0, outside: [], runs: [] });
  });
});
