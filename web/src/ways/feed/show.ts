import { FLAT_SHOW, type Show } from '../flat/show';
import { longPaths, longShown } from '../segments/show';

/** A strip is drawn with all its pieces; a long piece on it as its windows. */
export const FEED_SHOW: Show = {
  ...FLAT_SHOW,
  drawn: (r) => r.own.feed?.roster ?? r.onTheBoard,
  own: ({ own: { feed, long, cutOut } }) => {
    const shown = longShown(long);
    return { cutOut, long: shown, ...(feed && { feed: { ...feed, plan: shown?.plan ?? null } }) };
  },
  segments: longPaths,
};
