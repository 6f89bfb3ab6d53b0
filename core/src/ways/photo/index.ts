import { ALL_CONTENTS } from '../../artwork';
import { freshPhoto, nothingSeen } from '../../photo';
import { fail } from '../../result';
import {
  aimSteps,
  carriesArtAlone,
  heldAs,
  recipeSteps,
  rereadStep,
  runSteps,
  type BatchInput,
  type BatchReckoning,
  type RunWords,
} from '../../setup';
import {
  aimedState,
  allMarks,
  asReckoned,
  bedClean,
  BY_ITSELF,
  engravingTime,
  entered,
  loadFiles,
  loadWaits,
  notStarted,
  ON_THE_BED,
  planned,
  PROVED,
  walked,
} from '../flat';
import { counted } from '../../working';
import type { State, Way } from '../way';
import { markDrawing, marksAreBurned, photoMarksGcode } from './marks';
import { photoBatch } from './reckon';
import { photoSteps } from './steps';

export { photoMarkContours } from './reckon';

const hold = (r: BatchReckoning): State => {
  const { photo: taken } = r.own;
  if (!taken) return notStarted('take a photograph of the bed');
  if (taken.asks > 0) return entered(`answer for ${taken.asks} of the blanks`);
  if (taken.free > 0 || r.run.openLoad !== null || r.run.finished) return PROVED;
  return (taken.found > 0 ? entered : notStarted)('take a photograph of the bed');
};

const nounsOf = ({ own: { photo: taken } }: BatchReckoning): readonly [string, string] =>
  taken?.parts ? ['part', 'parts'] : ['blank', 'blanks'];

const runWords = (input: BatchInput, r: BatchReckoning): RunWords => {
  const { photo: taken } = r.own;
  if (r.run.openLoad !== null)
    return {
      title: `Burn load ${r.run.openLoad}`,
      detail: 'Nobody touches the blanks between photograph and burn.',
    };
  if (r.run.done > 0 && !input.firstApproved)
    return { title: 'Look at the first piece, then approve it', detail: 'Let the others lie as they are.' };
  const free = taken?.free ?? 0;
  const [one, many] = nounsOf(r);
  return {
    title:
      free === 0
        ? 'Take another photograph'
        : input.firstApproved
          ? `Take ${Math.min(free, r.run.waiting.length)} ${many} of the photograph`
          : `Take the first ${one} of the photograph`,
    detail: 'Names go to the blanks as the picture is read: row by row from the back, each from the left.',
  };
};

/** Blanks that no photograph showed, or that wait for an answer. */
const notSeen = ({ own: { photo: taken } }: BatchReckoning): string => {
  const over = taken?.over.length ?? 0;
  if (over > 0)
    return `${over === 1 ? 'A part lies' : `${over} parts lie`} over a defect that was marked: lay the parts anew.`;
  if (taken && taken.asks > 0) return `${taken.asks} of the blanks in the photograph wait for an answer.`;
  return taken?.onSheet && taken.found > 0
    ? 'Aim at the sheet’s crosses at the Place station first: the file would not know where the sheet lies.'
    : 'Take a photograph of the bed first: the file would not know where the blanks lie.';
};
const { drawings, programs, needs } = loadFiles({
  unplaced: (r) => ({ code: 'not-seen', message: notSeen(r), field: 'hold.photo' }),
  // Parts are cut out of their offcuts, all from the one side.
  notes: (r) => ({ after: r.own.cutOut ? ['side one'] : [] }),
});

/** Blanks lying anywhere, or parts in offcuts, found in a photograph of the bed. */
export const photo: Way = {
  id: 'photo',
  words: 'lying anywhere, by photograph',
  comes: ['loose', 'sheet'],
  good: 'A few, or odd ones, with nothing to cut first: a photograph tells where they lie.',
  suits: (shape) => shape.kind !== 'round',
  fresh: (name, comes) => ({
    way: 'photo',
    choice: { name, ...freshPhoto, use: comes === 'sheet' ? 'offcuts' : 'blanks' },
    found: nothingSeen,
  }),
  looks: false,
  // Marks that the machine burned, or that the bed has, are known; a sheet's are aimed at.
  route: (batch) => (heldAs(batch, 'photo').choice.marksOn === 'sheet' ? ON_THE_BED : BY_ITSELF),
  measures: (batch) => heldAs(batch, 'photo').choice.use === 'blanks',
  firstAlone: () => true,
  carries: () => ALL_CONTENTS,
  names: (batch) => !carriesArtAlone(batch),
  mounted: (_, { own: { photo: on } }) =>
    `${on?.parts ? 'Offcuts' : 'Blanks'} anywhere on the bed, by photograph: ${counted(on?.found ?? 0, 'place')} found, ${on?.free ?? 0} of them without a burn.`,
  reckon: photoBatch,
  stations: {
    hold: (_, r) => hold(r),
    place: (input, r) => aimedState(input, r, { turns: false, begun: false, then: walked(input) }),
  },
  steps: (input, r) =>
    r.own.photo
      ? photoSteps(
          input,
          r,
          r.own.photo,
          r.own.photo.onSheet ? [...aimSteps(input, r), rereadStep(r)] : [],
          recipeSteps(input),
          runSteps(input, r, runWords(input, r)),
        )
      : recipeSteps(input),
  waits: loadWaits('burn the first piece'),
  files: {
    drawings: { ...drawings, marks: markDrawing },
    programs: { ...programs, marks: photoMarksGcode },
    needs: { ...needs, 'marks.gcode': (input) => [marksAreBurned(input)] },
    papers: ['marks'],
  },
  time: engravingTime,
  take: (r, first) => {
    const [one, many] = nounsOf(r);
    return first
      ? `Take the first ${one} of the photograph`
      : `Take ${Math.min(r.run.waiting.length, r.own.photo?.free ?? 0)} ${many} of the photograph`;
  },
  burned: () => 'This load',
  ready: planned,
  next: (_, r) => {
    if (r.own.photo && r.own.photo.asks > 0) return fail('photo-asks', notSeen(r), 'hold.photo');
    const fill = asReckoned(r);
    return fill.ok && fill.value.length === 0 && !r.run.finished
      ? fail('photo-used', 'Every blank of the photograph is burned. Lay more and take another.', 'hold.photo')
      : fill;
  },
  marks: allMarks,
  unburned: () => null,
  // What a photograph showed holds until the next one is taken.
  leaves: () => 'nothing',
  corrects: false,
  putAway: bedClean,
};
export * from './marks';
