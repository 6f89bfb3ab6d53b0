import { freshCutSheet, freshPanel } from '../../holding';
import { TURNED, type BatchInput, type BatchReckoning } from '../../setup';
import { fail } from '../../result';
import { aimedState, allMarks, BY_MARKS, flatFiles, entered, notStarted, PROVED, SHEET, walked } from '../flat';
import type { State, Way } from '../way';
import { panelBatch } from './reckon';
import { panelSteps } from './steps';

const hold = (input: BatchInput, r: BatchReckoning): State =>
  input.fixture ? PROVED : (r.board ? entered : notStarted)('save the sheet to the Shelf');

const place = (input: BatchInput, r: BatchReckoning): State => {
  if (r.face.side === 'front')
    return r.run.openLoad === null
      ? notStarted('take a sheet at the Run station')
      : entered('burn side one, then turn the sheet over');
  if (r.board?.marks.length === 0) return input.ticks.includes('place.walk') ? PROVED : entered('walk side two');
  return aimedState(input, r, { turns: false, begun: false, then: walked(input) });
};

const NOT_CUT = fail(
  'no-marks-yet',
  'The marks are cut by the first file. Burn side one and turn the sheet over, then aim.',
  'place',
);

/** One sheet whose pieces are engraved on both faces and cut out: side one, the turn, side two. */
export const panel: Way = {
  ...SHEET,
  id: 'panel',
  words: 'one sheet, both faces, cut out',
  comes: ['sheet'],
  good: 'Both faces engraved and cut out of one sheet, in one holding.',
  fresh: (name) => ({ way: 'panel', choice: { ...freshCutSheet(name), ...freshPanel }, found: {} }),
  turnedBy: TURNED,
  reckon: panelBatch,
  stations: { hold, place },
  steps: panelSteps,
  burned: (r) => (r.face.side === 'front' ? 'First file, side one' : 'Second file, side two'),
  corrects: false,
  marks: (r) => (r.face.side === 'front' ? NOT_CUT : allMarks(r)),
  unburned: (r) =>
    r.face.side === 'front'
      ? {
          code: 'one-side',
          message: 'Only side one is burned. Turn the sheet over and burn the second file, then judge the pieces.',
          field: 'place',
        }
      : null,
  files: flatFiles({
    ...BY_MARKS,
    notes: ({ face }) => ({ after: [`side ${face.side === 'front' ? 'one' : 'two'}`] }),
  }),
};
