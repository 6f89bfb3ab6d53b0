import type { Blank, HoldSettings } from '../holding';
import { ENOUGH_SAMPLES } from '../samples';
import { feedMarkWords } from './feed-steps';
import { effectiveHold, feedsLong, isFed, type Held } from './held';
import type { BatchInput } from './input';
import { firstIsApproved } from './reckon';
import { liesByItself, type BatchReckoning } from './reckoned';
import type { StationId, StationState } from './station';

/** Whether nothing is aimed at: a photograph by marks that the machine burned, or a locator board. */
const placesItself = ({ method, photo }: HoldSettings): boolean =>
  method === 'locator' || (method === 'photo' && photo.marksOn !== 'sheet');

/** The stations that a batch needs: a round blank goes on a drive, a strip on a feeder, the rest on the bed; a photograph or a locator board places by itself. */
export const routeOf = (blank: Pick<Blank, 'shape'>, batch: Held): readonly StationId[] =>
  blank.shape.kind === 'round'
    ? ['blank', 'drive', 'burn', 'run', 'close']
    : placesItself(effectiveHold(batch))
      ? ['blank', 'hold', 'burn', 'run', 'close']
      : isFed(batch)
        ? ['blank', 'feed', 'burn', 'run', 'close']
        : ['blank', 'hold', 'place', 'burn', 'run', 'close'];

const blankState = (input: BatchInput): Omit<StationState, 'id'> => {
  const { samples, shape } = input.blank;
  if (shape.kind === 'round') {
    const n = samples.diameter?.length ?? 0;
    return n >= ENOUGH_SAMPLES
      ? { state: 'proved', waits: '' }
      : {
          state: n === 0 ? 'not started' : 'entered',
          waits: `measure the diameter of ${ENOUGH_SAMPLES} or more pieces`,
        };
  }
  const short = (
    shape.kind === 'disc' ? (['length', 'thickness'] as const) : (['length', 'width', 'thickness'] as const)
  ).filter((d) => samples[d].length < ENOUGH_SAMPLES);
  if (short.length === 0) return { state: 'proved', waits: '' };
  const none = short.every((d) => samples[d].length === 0);
  return {
    state: none ? 'not started' : 'entered',
    waits: `measure ${ENOUGH_SAMPLES} or more pieces (${short.join(', ')})`,
  };
};

const holdState = (input: BatchInput, r: BatchReckoning): Omit<StationState, 'id'> => {
  if (r.long)
    return r.long.problem
      ? { state: 'not started', waits: r.long.problem.message }
      : input.ticks.includes('hold.seams')
        ? { state: 'proved', waits: '' }
        : { state: 'entered', waits: 'look at the seams' };
  if (r.photo)
    return r.photo.asks > 0
      ? { state: 'entered', waits: `answer for ${r.photo.asks} of the blanks` }
      : r.photo.free > 0 || r.run.openLoad !== null || r.run.finished
        ? { state: 'proved', waits: '' }
        : { state: r.photo.found > 0 ? 'entered' : 'not started', waits: 'take a photograph of the bed' };
  if (r.fixings.locator) {
    if (!input.fixture) return { state: 'entered', waits: 'save the locator board to the Shelf' };
    if (!input.ticks.includes('hold.grid')) return { state: 'entered', waits: 'build the board and burn its grid' };
    return input.setup.hold.locator.back.length === 0
      ? { state: 'entered', waits: 'repeat a dot after lifting the frame' }
      : { state: 'proved', waits: '' };
  }
  if (r.marked)
    return r.board
      ? { state: 'proved', waits: '' }
      : { state: 'not started', waits: r.boardProblem?.message ?? 'say where the marks are' };
  if (r.cutOut)
    return input.fixture
      ? { state: 'proved', waits: '' }
      : { state: r.board ? 'entered' : 'not started', waits: 'save the sheet to the Shelf' };
  if (r.cutLine) {
    if (!input.fixture)
      return {
        state: r.board ? 'entered' : 'not started',
        waits: r.board ? 'save the sheet to the Shelf' : (r.boardProblem?.message ?? 'lay out the sheet'),
      };
    const traced = effectiveHold(input).sheet.traced !== null;
    return input.ticks.includes(traced ? 'hold.count' : 'hold.print')
      ? { state: 'proved', waits: '' }
      : { state: 'entered', waits: traced ? 'count the pieces' : 'print the sheet' };
  }
  if (r.outOfDate.length > 0) return { state: 'out of date', waits: 'the board no longer suits the blank' };
  if (!input.fixture)
    return {
      state: r.board ? 'entered' : 'not started',
      waits:
        r.boardProblem?.message ??
        (r.fixings.lines && input.setup.hold.lines.card === null
          ? 'lay a blank on the trial in card'
          : 'save the board to the Shelf and cut it'),
    };
  return input.ticks.includes('hold.cut')
    ? { state: 'proved', waits: '' }
    : { state: 'entered', waits: 'cut the board' };
};

const placeState = (input: BatchInput, r: BatchReckoning): Omit<StationState, 'id'> => {
  const { place, long } = r;
  if (long) {
    const segment = `segment ${long.current}`;
    if (r.run.openLoad === null) return { state: 'not started', waits: 'take the work at the Run station' };
    if (long.burned) return { state: 'proved', waits: '' };
    if (long.current === 1) return { state: 'entered', waits: `burn ${segment}` };
  }
  if (r.cutOut) {
    if (r.face.side === 'front')
      return {
        state: r.run.openLoad === null ? 'not started' : 'entered',
        waits: r.run.openLoad === null ? 'take a sheet at the Run station' : 'burn side one, then turn the sheet over',
      };
    if (r.board?.marks.length === 0)
      return input.ticks.includes('place.walk')
        ? { state: 'proved', waits: '' }
        : { state: 'entered', waits: 'walk side two' };
  }
  const aimed = r.board?.marks[0]?.id ?? 1;
  if (place.pairs.length === 0) return { state: long ? 'entered' : 'not started', waits: `aim at mark ${aimed}` };
  const next = r.board?.marks.find((m) => m.role === 'place' && !place.pairs.some((p) => p.id === m.id));
  if (next) return { state: 'entered', waits: `aim at mark ${next.id}` };
  const last = input.readings.at(-1);
  if (input.fixture && last && last.at < input.fixture.savedAt)
    return { state: 'out of date', waits: 'the board was changed after the marks were read' };
  if (place.problem) return { state: 'entered', waits: place.problem.message };
  if (place.question) return { state: 'entered', waits: place.question.message };
  if (place.consistency?.verdict === 'disagrees') return { state: 'entered', waits: place.consistency.message };
  if (!liesByItself(r) && input.setup.place.school === 'work' && place.turn && !place.turn.good)
    return { state: 'entered', waits: place.turn.words };
  if (place.rereadOk === null) return { state: 'entered', waits: `read mark ${aimed} again` };
  if (!place.rereadOk)
    return { state: 'entered', waits: `mark ${aimed} did not come back: the work or the head has moved` };
  if (long) return { state: 'entered', waits: `burn segment ${long.current}` };
  if (!input.ticks.includes('place.walk')) return { state: 'entered', waits: 'walk the outline' };
  return { state: 'proved', waits: '' };
};

const driveState = (input: BatchInput, r: BatchReckoning): Omit<StationState, 'id'> => {
  const on = r.round?.on;
  const { drive: settings } = input.setup;
  if (!input.drive) {
    if (settings.faces.length === 0) return { state: 'not started', waits: 'choose a drive, or let it lie still' };
    return input.ticks.includes('drive.cradle')
      ? { state: 'proved', waits: '' }
      : { state: 'entered', waits: 'cut the cradle, or choose a drive' };
  }
  if (!on) return { state: 'entered', waits: r.round?.problem?.message ?? 'the blank does not go on this drive' };
  if (settings.faces.length === 0) return { state: 'entered', waits: 'say what goes where on the blank' };
  if (on.control.value !== null && settings.numberSet === null)
    return { state: 'entered', waits: `type ${on.control.value} ${on.control.unit} into the machine` };
  if (on.mustSlow) return { state: 'entered', waits: `lower the axis to ${on.throwing.recommended.toFixed(0)} mm/s²` };
  if (on.rings.rings === 0) return { state: 'entered', waits: 'burn a witness ring and read it' };
  if (on.control.value !== null && Math.abs((settings.numberSet ?? 0) / on.control.value - 1) > 0.0005)
    return { state: 'out of date', waits: `the ring corrects the number to ${on.control.value} ${on.control.unit}` };
  if (settings.found === null) return { state: 'entered', waits: 'burn the F and pick its picture' };
  if (!input.ticks.includes('drive.walk')) return { state: 'entered', waits: 'walk the outline slowly' };
  return { state: 'proved', waits: '' };
};

const feedState = (r: BatchReckoning): Omit<StationState, 'id'> => {
  const { feed } = r;
  if (!feed?.feeder) return { state: 'not started', waits: 'choose a feeder' };
  if (feed.problem) return { state: 'entered', waits: feed.problem.message };
  if (feed.calibration.readings === 0) return { state: 'entered', waits: 'measure a long feed' };
  if (!feed.skew.measured) return { state: 'entered', waits: 'measure its edge from the guide' };
  if (feed.unread.length > 0 && r.run.openLoad !== null)
    return { state: 'entered', waits: `aim at ${feedMarkWords(feed, feed.unread[0]!)}` };
  if (feed.unread.length > 0 && r.run.done === 0)
    return { state: 'entered', waits: r.long ? 'take the work' : 'load the first piece, then aim' };
  return { state: 'proved', waits: '' };
};

/** Whether anything that is engraved or printed comes from the roster: no names are waited for else. */
export const needsRoster = (
  batch: Held & {
    readonly setup: {
      readonly lettering: { readonly lines: readonly unknown[] };
      readonly drive: { readonly faces: readonly { readonly content: { readonly kind: string } }[] };
    };
  },
  shape: { readonly kind: string },
): boolean => {
  if (shape.kind === 'round') return batch.setup.drive.faces.some((f) => f.content.kind === 'lettering');
  const hold = effectiveHold(batch);
  if (hold.method === 'long' || feedsLong(batch)) return batch.setup.lettering.lines.length > 0;
  return !(hold.method === 'sheet' && hold.sheet.traced);
};

/** The state of every station of a batch's route, in order. */
export const stationStates = (input: BatchInput, r: BatchReckoning): StationState[] => {
  const burn: Omit<StationState, 'id'> = !input.recipe
    ? { state: 'not started', waits: 'choose a recipe' }
    : input.recipe.proof === ''
      ? { state: 'entered', waits: 'prove the recipe on a spoiled piece' }
      : { state: 'proved', waits: '' };
  const run: Omit<StationState, 'id'> = r.run.finished
    ? { state: 'proved', waits: '' }
    : input.roster.length === 0 && needsRoster(input, input.blank.shape)
      ? { state: 'not started', waits: 'bring in the roster' }
      : input.pieces.length === 0
        ? {
            state: 'entered',
            waits: r.long
              ? 'take the first work'
              : (r.cutLine ?? r.cutOut)
                ? 'take the first sheet'
                : 'burn the first piece',
          }
        : !firstIsApproved(input)
          ? { state: 'entered', waits: 'approve the first piece' }
          : {
              state: 'entered',
              waits:
                r.run.openLoad === null
                  ? r.round
                    ? 'lay the next piece on'
                    : r.feed
                      ? `feed on to stop ${r.feed.current}`
                      : `load the next ${Math.min(r.run.waiting.length, r.board?.slots.length ?? 0)} pieces`
                  : r.round
                    ? 'judge the piece'
                    : `look at slot ${r.run.nextSlot}`,
            };
  const open = input.putbacks.filter((p) => p.restoredAt === null).length;
  const close: Omit<StationState, 'id'> = input.closedAt
    ? { state: 'proved', waits: '' }
    : {
        state: r.run.finished ? 'entered' : 'not started',
        waits:
          open > 0
            ? `put back ${open} ${open === 1 ? 'setting' : 'settings'}`
            : r.run.finished
              ? 'close the batch'
              : 'finish the run',
      };
  const states: Record<StationId, Omit<StationState, 'id'>> = {
    // A piece that is cut from its sheet is as large as it is drawn.
    blank:
      liesByItself(r) || r.photo?.parts || (r.feed && r.feed.work !== 'row')
        ? { state: 'proved', waits: '' }
        : blankState(input),
    hold: holdState(input, r),
    drive: driveState(input, r),
    feed: feedState(r),
    place: placeState(input, r),
    burn,
    run,
    close,
  };
  return routeOf(input.blank, input).map((id) => ({ id, ...states[id] }));
};

/** The first station that is not proved: where the batch stands. */
export const nextStation = (states: readonly StationState[]): StationState =>
  states.find((s) => s.state !== 'proved') ?? states[states.length - 1]!;
