import { DRAWN_CONTENTS } from '../../artwork';
import {
  carriesArtAlone,
  recipeSteps,
  runSteps,
  type BatchInput,
  type BatchReckoning,
  type RunWords,
} from '../../setup';
import { fail, ok } from '../../result';
import { allMarks, nextPieces } from '../flat';
import type { Drawer, Way } from '../way';
import { cradleDrawing } from './cradle-drawing';
import { templatePasses, turnedTime, unrolledPasses } from './output';
import { stillGcode, stillNeeds, stillWalk, outlineNeeds } from './still';
import { roundBatch } from './batch';
import { roundSteps } from './steps';

/** One piece after the other, laid with its feature to the crest. */
const runWords = (input: BatchInput, r: BatchReckoning): RunWords => ({
  title:
    r.run.openLoad === null
      ? `Lay the ${input.firstApproved ? 'next' : 'first'} piece on, zero it`
      : `Burn piece ${r.onTheBoard[0]?.ordinal ?? ''}`,
  detail: 'To the crest as it was zeroed, rim at its zero. The rest is held until the first is approved.',
});

/** The blank laid flat with its art, on a sheet round it. */
const unrolled: Drawer = (_, r, title) => {
  const passes = unrolledPasses(r);
  return passes.some((p) => p.contours.length > 0)
    ? ok({ title: `${title}, unrolled`, passes, sheet: { rim: 5 } })
    : fail('no-art', 'There is nothing to engrave yet: say at the Drive station what goes where.');
};

/** What is true of round blanks on a drive and in a cradle. */
export const ROUND: Omit<Way, 'id' | 'words' | 'comes' | 'good' | 'fresh' | 'stations' | 'putAway' | 'ready'> = {
  suits: (shape) => shape.kind === 'round',
  route: () => ['blank', 'drive', 'burn', 'run', 'close'],
  measures: () => true,
  firstAlone: () => true,
  looks: false,
  // Pictures are faces of their own here.
  carries: () => DRAWN_CONTENTS,
  names: (batch) => batch.setup.faces.some((f) => f.content.kind === 'lettering') && !carriesArtAlone(batch),
  reckon: roundBatch,
  steps: (input, r) => [
    ...roundSteps(input, r.own.round!, recipeSteps({ recipe: r.face.recipe })),
    ...runSteps(input, r, runWords(input, r), { file: false }),
  ],
  files: {
    drawings: {
      load: unrolled,
      wrap: unrolled,
      template: (_, r, title) => {
        const made = templatePasses(r);
        return made
          ? ok({ title: `${title}, wrap template`, passes: made.passes, sheet: made })
          : fail('not-round', 'A wrap template is for round blanks.');
      },
      cradle: cradleDrawing,
    },
    programs: {
      load: (input, r, { title }) => stillGcode(input, r, title),
      walk: stillWalk,
    },
    needs: { 'load.gcode': stillNeeds, 'walk.gcode': outlineNeeds },
    papers: ['template'],
  },
  time: turnedTime,
  take: (_, first) => `Lay the ${first ? 'first' : 'next'} piece on`,
  burned: () => 'This piece',
  next: (input, r) => nextPieces(input, r),
  marks: allMarks,
  unburned: () => null,
  leaves: () => 'nothing',
  corrects: false,
  waits: {
    first: () => 'burn the first piece',
    next: () => 'lay the next piece on',
    look: () => 'judge the piece',
  },
};
