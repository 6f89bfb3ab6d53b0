import { screen } from '@testing-library/react';
import { reckonBatch, routeOf, STATION_NAMES, WAY_IDS, type BatchInput } from '@bistre/core';
import { testAlphabets } from '../../../core/src/test-alphabets';
import { loadedPieces } from '../../../core/src/test-batch';
import { EXAMPLES } from '../../../core/src/test-ways';
import { documentOf } from '../testing/batch';
import { scalesOf, wrongOn } from '../testing/looks';
import { showStation } from '../testing/station';

const LANDED = { source: 'typed', at: '2026-11-20T08:00:00.000Z', by: 'Odile', purpose: 'place' } as const;

/** Read where the marks would be if the work lay 100 mm in and 80 up, straight. */
const aimed = (input: BatchInput): BatchInput => {
  const { board } = reckonBatch(input, {
    now: new Date(LANDED.at),
    alphabets: testAlphabets,
    labels: 'readability',
    simulatedPieces: 10,
  });
  const down = input.machine.bed.height;
  return {
    ...input,
    readings: (board?.marks ?? []).map((m, i) => ({
      ...LANDED,
      id: `r${i}`,
      mark: i + 1,
      // The test machine's zero is in the back left corner, y towards the operator.
      x: 100 + m.at.x,
      y: down - 80 - m.at.y,
    })),
  };
};
const STATES: readonly (readonly [string, (input: BatchInput) => BatchInput])[] = [
  ['bare', (input) => input],
  ['aimed at', aimed],
  ['loaded', (input) => ({ ...aimed(input), pieces: loadedPieces([1]) })],
];
const CASES = WAY_IDS.flatMap((way) =>
  STATES.flatMap(([state, change]) => {
    const batch = documentOf(change(EXAMPLES[way]));
    return routeOf(batch).map((station) => ({ way, state, station, batch }));
  }),
);

describe('every station of every way', () => {
  it.each(CASES)('$way, $state: $station shows its parts, and no figure that is none', async ({ batch, station }) => {
    const { shown, ...page } = await showStation(batch, station);
    expect(wrongOn(page.container)).toEqual([]);
    expect(screen.getAllByRole('region').length).toBeGreaterThan(0);
    // The drawing is there, with a name for those who do not see it.
    const drawings = page.container.querySelectorAll('svg[role="img"]');
    expect(drawings.length).toBeGreaterThan(0);
    for (const svg of drawings) expect(svg.getAttribute('aria-label')).toMatch(/\w/);
    // Its scale bar says the scale that it has, the same both ways.
    for (const svg of drawings) {
      const scales = scalesOf(svg);
      // A feeder's has the room around it small above the strip.
      if (scales && scales.drawn.length > 0)
        expect(scales.drawn.some((drawn) => Math.abs(drawn / scales.bar - 1) < 1e-6)).toBe(true);
    }
    // What the station says of itself, and its steps, come from the reckoning.
    expect(shown.stations.map((s) => s.id)).toContain(station);
    expect(STATION_NAMES[station]).toMatch(/\w/);
  });
});
