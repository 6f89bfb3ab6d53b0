import type { WayId } from '@bistre/core';

/** The ways that flat work can be held in, as the Hold station offers them. */
export const HELD_BY: readonly (readonly [WayId, string])[] = [
  ['pockets', 'pockets: drop in, quick to load'],
  ['fence', 'stop corner: no float, one size'],
  ['pegs', 'pegs and witness lines: odd shapes'],
  ['locator', 'locator board: an open frame on stops'],
  ['sheet', 'printed sheet, cut out'],
  ['panel', 'one sheet, both faces, cut out'],
  ['long', 'longer than the bed, in segments'],
  ['marked', 'its own marks: drilled or printed pieces'],
  ['feed', 'feeder: strips, rows, long boards'],
  ['photo', 'lying anywhere, by photograph'],
];
