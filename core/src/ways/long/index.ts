import { ALL_CONTENTS } from '../../artwork';
import { freshLong } from '../../long';
import { fail, ok } from '../../result';
import {
  fromTheList,
  recipeSteps,
  segmentDrawing,
  segmentProgram,
  segmentTime,
  walkProgram,
  type BatchInput,
  type BatchReckoning,
  type LoadWords,
} from '../../setup';
import {
  aimedState,
  allMarks,
  nextPieces,
  planned,
  segmentsLeft,
  BY_MARKS,
  bedClean,
  entered,
  loadWaits,
  loadWaitsFor,
  notStarted,
  ON_THE_BED,
  PROVED,
} from '../flat';
import { counted, sizeInWords } from '../../working';
import type { State, Way } from '../way';
import { longBatch } from './reckon';
import { segmentSteps } from './steps';

const hold = (input: BatchInput, { own: { long } }: BatchReckoning): State =>
  !long || long.problem
    ? notStarted(long?.problem?.message ?? 'describe the work')
    : input.ticks.includes('hold.seams')
      ? PROVED
      : entered('look at the seams');

const place = (input: BatchInput, r: BatchReckoning): State => {
  const { long } = r.own;
  if (r.run.openLoad === null) return notStarted('take the work at the Run station');
  if (!long || long.burned) return PROVED;
  const burn = entered(`burn segment ${long.current}`);
  return long.current === 1 ? burn : aimedState(input, r, { turns: false, begun: true, then: burn });
};

const NO_PLAN = fail('no-plan', 'There is no plan of segments yet: describe the work at the Hold station.', 'hold');

const words: LoadWords = {
  ...BY_MARKS,
  notes: ({ own: { long: on } }) => ({ before: [`segment ${on?.current ?? 1} of ${on?.plan?.segments.length ?? 1}`] }),
};

/** Work longer than the bed: laid, aimed at and burned segment by segment, each by the marks of the one before. */
export const long: Way = {
  id: 'long',
  words: 'longer than the bed, in segments',
  comes: ['long'],
  good: 'One piece longer than the bed: pushed on, each segment by the marks of the one before.',
  suits: (shape) => shape.kind !== 'round',
  fresh: (name) => ({ way: 'long', choice: { name, ...freshLong }, found: {} }),
  route: () => ON_THE_BED,
  mounted: (_, { board, own: { long: on } }) =>
    board && on?.plan
      ? `One piece, ${sizeInWords(board)}, in ${counted(on.plan.segments.length, 'segment')}.`
      : (on?.problem?.message ?? 'Nothing is planned yet.'),
  measures: () => false,
  firstAlone: () => false,
  looks: false,
  carries: () => ALL_CONTENTS,
  names: fromTheList,
  reckon: longBatch,
  stations: { hold, place },
  steps: (input, r) => (r.own.long ? segmentSteps(input, r, r.own.long) : recipeSteps(input)),
  waits: loadWaits('take the first work'),
  files: {
    drawings: {
      load: (input, r, title) => (r.own.long ? ok(segmentDrawing(input, r, r.own.long, title)) : NO_PLAN),
    },
    programs: {
      load: (input, r, { title, pictures }) =>
        r.own.long ? segmentProgram(input, r, r.own.long, title, words, pictures) : NO_PLAN,
      walk: (input, r) => walkProgram(input, r, words),
    },
    needs: loadWaitsFor(words),
  },
  time: (input, r) => segmentTime(input, r),
  take: () => 'Take the work',
  burned: () => 'This load',
  ready: planned,
  next: (input, r) => nextPieces(input, r, true),
  marks: allMarks,
  unburned: segmentsLeft,
  leaves: () => 'sheet',
  corrects: false,
  putAway: bedClean,
};
