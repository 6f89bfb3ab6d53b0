import { ALL_CONTENTS } from '../../artwork';
import { freshCutSheet, freshSheet } from '../../holding';
import { carriesArtAlone, heldAs, pieceTime, type BatchInput, type BatchReckoning } from '../../setup';
import { aimedState, BY_MARKS, flatFiles, entered, PROVED, SHEET, walked } from '../flat';
import type { State, Way } from '../way';
import { sheetBatch } from './reckon';
import { sheetSteps } from './steps';

const hold = (input: BatchInput, r: BatchReckoning): State => {
  if (!input.fixture)
    return r.board
      ? entered('save the sheet to the Shelf')
      : { state: 'not started', waits: r.boardProblem?.message ?? 'lay out the sheet' };
  const traced = heldAs(input, 'sheet').choice.traced !== null;
  return input.ticks.includes(traced ? 'hold.count' : 'hold.print')
    ? PROVED
    : entered(traced ? 'count the pieces' : 'print the sheet');
};

/** A printed sheet, ours or somebody else's, out of which pieces are cut by its marks. */
export const sheet: Way = {
  ...SHEET,
  id: 'sheet',
  words: 'printed sheet, cut out',
  comes: ['printed'],
  good: 'Colour from a printer: cut to what was printed, however it stretched.',
  fresh: (name) => ({ way: 'sheet', choice: { ...freshCutSheet(name), ...freshSheet }, found: {} }),
  reckon: sheetBatch,
  // What was printed elsewhere carries what is on it: nothing of ours is printed or burned there.
  carries: (batch) => (heldAs(batch, 'sheet').choice.traced === null ? ALL_CONTENTS : []),
  names: (batch) => heldAs(batch, 'sheet').choice.traced === null && !carriesArtAlone(batch),
  stations: {
    hold,
    place: (input, r) => aimedState(input, r, { turns: false, begun: false, then: walked(input) }),
  },
  steps: sheetSteps,
  files: { ...flatFiles(BY_MARKS, 'cut'), papers: ['print'] },
  time: (input, r) => pieceTime(input, r, 'cut'),
};
