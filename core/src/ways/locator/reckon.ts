import { identity } from '../../geometry';
import { plainPlace } from '../../holding';
import { heldAs, type BatchInput, type BatchReckoning, type ReckonOptions } from '../../setup';
import { begin, engravedBox, follow, LOADS, NO_LABELS } from '../flat';
import { laidToGrid, locatorOf } from './board';

/** Everything that follows for pieces at the grid of a locator board. */
export const locatorBatch = (input: BatchInput, options: ReckonOptions): BatchReckoning => {
  const begun = begin(input, options, false);
  const { sizes, labels } = begun;
  const held = heldAs(input, 'locator');
  const pocket = plainPlace(sizes);
  const grid = labels ? locatorOf(input, held, sizes, labels) : NO_LABELS;
  const locator = grid.ok ? grid.value.locator : null;
  const board = grid.ok ? grid.value.board : null;
  return follow(
    input,
    options,
    begun,
    {
      wanted: pocket,
      pocket,
      artBox: engravedBox(input, begun),
      made: grid.ok ? { ok: true, value: grid.value.board } : grid,
      board,
      aimed: locator ? null : board,
      lies: 'against',
      rests: 'on',
      marksAt: -sizes.thickness.mean,
      turns: true,
      ...(locator ? { at: identity } : {}),
    },
    {
      ...LOADS,
      also: { locator },
      placesItself: locator !== null,
      budget: () =>
        locator
          ? {
              // One intersection is aimed at; the grid runs as the machine does.
              marks: { marks: 1, centre: locator.zero, spread: Infinity },
              laid: laidToGrid(held, sizes, locator),
            }
          : {},
    },
  );
};
