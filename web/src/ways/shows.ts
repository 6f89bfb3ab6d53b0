import type { WayId } from '@bistre/core';
import { FEED_SHOW } from './feed/show';
import { FLAT_SHOW, type Show } from './flat/show';
import { PANEL_SHOW } from './panel/show';
import { ROUND_SHOW } from './round/show';
import { SEGMENTS_SHOW } from './segments/show';

/** Ways whose reckoning crosses to the page in a form of its own. */
const OWN: { readonly [K in WayId]?: Show } = {
  panel: PANEL_SHOW,
  long: SEGMENTS_SHOW,
  feed: FEED_SHOW,
  drive: ROUND_SHOW,
  cradle: ROUND_SHOW,
};

/** How the reckoning of a way crosses to the page. */
export const showOf = (way: WayId): Show => OWN[way] ?? FLAT_SHOW;
