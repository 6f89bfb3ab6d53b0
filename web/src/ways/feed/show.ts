import { FLAT_SHOW, type Show } from '../flat/show';
import { longPaths, longShown } from '../segments/show';

/** A strip is drawn with all its pieces; a long piece on it as its windows. */
export const FEED_SHOW: Show = {
  ...FLAT_SHOW,
  drawn: (r) => r.feed?.roster ?? r.onTheBoard,
  own: ({ feed, long }) => {
    const shown = longShown(long);
    return { long: shown, feed: feed && { ...feed, plan: shown?.plan ?? null } };
  },
  segments: longPaths,
};
