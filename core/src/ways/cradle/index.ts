import { entered, notStarted, PROVED } from '../flat';
import { ROUND } from '../round';
import type { Way } from '../way';

/** A round blank that lies still in slotted saddles: only its crest is engraved. */
export const cradle: Way = {
  ...ROUND,
  id: 'cradle',
  words: 'lying still, in a cradle',
  comes: ['round'],
  good: 'A narrow line along the top, with nothing that turns.',
  fresh: () => ({ way: 'cradle', choice: { rimFaces: 'right' }, found: {} }),
  ready: (_, { own: { round } }) =>
    round?.problem ? { code: 'no-cradle', message: round.problem.message, field: 'drive' } : null,
  stations: {
    drive: (input) =>
      input.setup.faces.length === 0
        ? notStarted('choose a drive, or let it lie still')
        : input.ticks.includes('drive.cradle')
          ? PROVED
          : entered('cut the cradle, or choose a drive'),
  },
  putAway: () => ({ title: 'Cradle back on its shelf', detail: 'Labelled with the blank that it holds.' }),
};
