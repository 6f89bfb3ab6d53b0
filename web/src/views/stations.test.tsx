import { screen } from '@testing-library/react';
import { routeOf, STATION_NAMES, WAY_IDS, type BatchInput } from '@bistre/core';
import { loadedPieces } from '../../../core/src/test-batch';
import { EXAMPLES } from '../../../core/src/test-ways';
import { aimed } from '../testing/aim';
import { documentOf } from '../testing/batch';
import { scalesOf, wrongOn } from '../testing/looks';
import { showStation } from '../testing/station';

const STATES: readonly (readonly [string, (input: BatchInput) => BatchInput])[] = [
  ['bare', (input) => input],
  ['aimed at', (input) => aimed(input)],
  ['loaded', (input) => ({ ...aimed(input), pieces: loadedPieces([1]) })],
];
/** Stations that show marks and pieces: the others are the same whether the work was aimed at or loaded. */
const FOLLOW = new Set(['place', 'run', 'close']);
const CASES = WAY_IDS.flatMap((way) =>
  STATES.flatMap(([state, change], i) => {
    const batch = documentOf(change(EXAMPLES[way]));
    return routeOf(batch)
      .filter((station) => i === 0 || FOLLOW.has(station))
      .map((station) => ({ way, state, station, batch }));
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
