import { ALL_CONTENTS } from '../../artwork';
import { freshFeed, newStrip, nextStrip, otherWork } from '../../feeder';
import { ok } from '../../result';
import {
  carriesArtAlone,
  fromTheList,
  pieceDrawing,
  pieceProgram,
  pieceTime,
  recipeSteps,
  runSteps,
  segmentDrawing,
  segmentProgram,
  segmentTime,
  walkProgram,
  type BatchReckoning,
  type LoadWords,
  heldAs,
  type HeldBatch,
} from '../../setup';
import {
  allMarks,
  asReckoned,
  entered,
  loadWaits,
  loadWaitsFor,
  nextPieces,
  planned,
  segmentsLeft,
  notStarted,
  PROVED,
} from '../flat';
import { counted, sizeInWords } from '../../working';
import type { State, Way } from '../way';
import { stripGcode, stripNeeds } from './file';
import { feedBatch } from './reckon';
import { feedMarkWords, feedRunWords, feedSteps } from './steps';

export { FEED_ON, stripGcode } from './file';
export { feedMarkWords } from './steps';

const state = (r: BatchReckoning): State => {
  const { feed: on } = r.own;
  if (!on?.feeder) return notStarted('choose a feeder');
  if (on.problem) return entered(on.problem.message);
  if (on.calibration.readings === 0) return entered('measure a long feed');
  if (!on.skew.measured) return entered('measure its edge from the guide');
  if (!on.guide.measured && on.work !== 'parts') return entered('read the guide against the axis');
  if (on.unread.length === 0) return PROVED;
  if (r.run.openLoad !== null) return entered(`aim at ${feedMarkWords(on, on.unread[0]!)}`);
  return r.run.done === 0 ? entered(r.own.long ? 'take the work' : 'lay in the first piece, then aim') : PROVED;
};

/** A strip that nobody aimed at since it was laid lies nobody knows where. */
const words: LoadWords = {
  unplaced: ({ own: { feed: on } }) => ({
    code: 'not-aimed',
    message: `The file would not know where the strip lies: aim at ${on?.unread.map((m) => feedMarkWords(on, m)).join(' and ') || 'its corner'} first.`,
    field: 'feed',
  }),
  notes: ({ own: { feed: on } }) => ({
    after: on ? [`stop ${on.current} of ${on.stops.length}, strip ${on.strip}`] : [],
  }),
};

/** Whether one long piece goes through in windows. */
const feedsLong = (batch: HeldBatch): boolean => heldAs(batch, 'feed').choice.work.kind === 'long';

/** A strip on a feeder: a row of blanks, parts cut out of it, or one long piece, stop by stop. */
export const feed: Way = {
  id: 'feed',
  words: 'feeder: strips, rows, long boards',
  comes: ['loose', 'sheet', 'long'],
  good: 'Hundreds on a strip, or work of metres: a motor moves it on.',
  suits: (shape) => shape.kind !== 'round',
  fresh: (name, comes) => ({
    way: 'feed',
    choice: { name, ...otherWork(freshFeed, comes === 'sheet' ? 'parts' : comes === 'long' ? 'long' : 'row') },
    found: newStrip,
  }),
  forget: (held) => (held.way === 'feed' ? { ...held, found: nextStrip(held.found) } : held),
  mounted: (_, { own: { feed: on } }) =>
    on?.feeder && on.stops.length > 0
      ? `${on.layout ? 'A strip' : 'One piece'}, ${sizeInWords({ width: on.size.length, height: on.size.width })}, through ${on.feeder.name}: ${on.layout ? `${counted(on.layout.places.length, 'place')}, ` : ''}${counted(on.stops.length, 'stop')}.`
      : (on?.problem?.message ?? 'No feeder chosen yet.'),
  route: () => ['blank', 'feed', 'burn', 'run', 'close'],
  measures: (batch) => heldAs(batch, 'feed').choice.work.kind === 'row',
  firstAlone: (batch) => !feedsLong(batch),
  looks: false,
  carries: () => ALL_CONTENTS,
  names: (batch) => (feedsLong(batch) ? fromTheList(batch) : !carriesArtAlone(batch)),
  reckon: feedBatch,
  stations: { feed: (_, r) => state(r) },
  steps: (input, r) =>
    r.own.feed
      ? feedSteps(
          input,
          r,
          r.own.feed,
          recipeSteps(input),
          runSteps(input, r, feedRunWords(input, r, r.own.feed), { file: !r.own.long }),
        )
      : recipeSteps(input),
  waits: {
    ...loadWaits('burn the first piece'),
    first: (batch) => (feedsLong(batch) ? 'take the first work' : 'burn the first piece'),
    next: (r) => `feed on to stop ${r.own.feed?.current ?? 1}`,
  },
  files: {
    drawings: {
      load: (input, r, title) =>
        ok(r.own.long ? segmentDrawing(input, r, r.own.long, title) : pieceDrawing(input, r, title)),
    },
    programs: {
      load: (input, r, { title, pictures }) =>
        r.own.long
          ? segmentProgram(input, r, r.own.long, title, words, pictures)
          : pieceProgram(input, r, title, words, 'engrave', pictures),
      walk: (input, r) => walkProgram(input, r, words),
      strip: (input, r, { title, pictures }) => stripGcode(input, r, title, pictures),
    },
    needs: { ...loadWaitsFor(words), 'strip.gcode': stripNeeds },
  },
  time: (input, r) =>
    r.own.long
      ? segmentTime(input, r, r.own.feed?.meant ?? null, r.own.feed?.feeding ?? 0)
      : pieceTime(input, r, 'engrave', r.own.feed?.feeding ?? 0),
  take: (r) => {
    if (r.own.long) return 'Take the work';
    const stop = r.own.feed?.current ?? 1;
    return stop === 1 ? 'It lies in the feeder: begin' : `It is fed on to stop ${stop}`;
  },
  burned: () => 'This load',
  ready: planned,
  next: (input, r) => (r.own.long ? nextPieces(input, r, true) : asReckoned(r)),
  marks: allMarks,
  unburned: segmentsLeft,
  // A strip that is used up leaves with its marks; the next one is laid in and squared anew.
  corrects: false,
  leaves: (r) =>
    !r.own.feed || Boolean(r.own.long) || (r.own.feed.strip > 1 && r.own.feed.current === 1 && !r.run.finished)
      ? 'strip'
      : 'nothing',
  putAway: () => ({
    title: 'Feeder and bed clean',
    detail: 'Waste off rollers and bars; rails off when the next work is short.',
  }),
};
