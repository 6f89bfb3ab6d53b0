import type { WayId } from '@bistre/core';
import { FEED_SHOW } from './feed/show';
import { FLAT_SHOW, type Show } from './flat/show';
import { PANEL_SHOW } from './panel/show';
import { ROUND_SHOW } from './round/show';
import { SEGMENTS_SHOW } from './segments/show';

/** How the reckoning of every way crosses to the page. */
export const SHOWS: { readonly [K in WayId]: Show } = {
  pockets: FLAT_SHOW,
  fence: FLAT_SHOW,
  pegs: FLAT_SHOW,
  locator: FLAT_SHOW,
  sheet: FLAT_SHOW,
  panel: PANEL_SHOW,
  long: SEGMENTS_SHOW,
  marked: FLAT_SHOW,
  feed: FEED_SHOW,
  photo: FLAT_SHOW,
  drive: ROUND_SHOW,
  cradle: ROUND_SHOW,
};
