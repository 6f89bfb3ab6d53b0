import { ENOUGH_SAMPLES } from '../samples';
import type { BatchInput } from './input';
import type { BatchReckoning } from './reckon';

export const STATIONS = ['blank', 'hold', 'place', 'burn', 'run', 'close'] as const;
export type StationId = (typeof STATIONS)[number];

export const STATION_NAMES: Readonly<Record<StationId, string>> = {
  blank: 'Blank',
  hold: 'Hold',
  place: 'Place',
  burn: 'Burn',
  run: 'Run',
  close: 'Close',
};

export interface StationState {
  readonly id: StationId;
  readonly state: 'not started' | 'entered' | 'proved' | 'out of date';
  /** What this station waits for; empty when it is proved. */
  readonly waits: string;
}

const blankState = (input: BatchInput): Omit<StationState, 'id'> => {
  const { samples, shape } = input.blank;
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
  if (r.outOfDate.length > 0) return { state: 'out of date', waits: 'the board no longer suits the blank' };
  if (!input.fixture)
    return { state: r.board ? 'entered' : 'not started', waits: 'save the board to the Shelf and cut it' };
  return input.ticks.includes('hold.cut')
    ? { state: 'proved', waits: '' }
    : { state: 'entered', waits: 'cut the board' };
};

const placeState = (input: BatchInput, r: BatchReckoning): Omit<StationState, 'id'> => {
  const { place } = r;
  if (place.pairs.length === 0) return { state: 'not started', waits: 'aim at mark 1' };
  const next = r.board?.marks.find((m) => m.role === 'place' && !place.pairs.some((p) => p.id === m.id));
  if (next) return { state: 'entered', waits: `aim at mark ${next.id}` };
  const last = input.readings.at(-1);
  if (input.fixture && last && last.at < input.fixture.savedAt)
    return { state: 'out of date', waits: 'the board was changed after the marks were read' };
  if (place.problem) return { state: 'entered', waits: place.problem.message };
  if (place.consistency?.verdict === 'disagrees') return { state: 'entered', waits: place.consistency.message };
  if (input.setup.place.school === 'work' && place.turn && !place.turn.good)
    return { state: 'entered', waits: place.turn.words };
  if (place.rereadOk === null) return { state: 'entered', waits: 'read mark 1 again' };
  if (!place.rereadOk) return { state: 'entered', waits: 'mark 1 did not come back: the board or the head has moved' };
  if (!input.ticks.includes('place.walk')) return { state: 'entered', waits: 'walk the outline' };
  return { state: 'proved', waits: '' };
};

/** The state of every station of a batch on a nest board, in order. */
export const stationStates = (input: BatchInput, r: BatchReckoning): StationState[] => {
  const burn: Omit<StationState, 'id'> = !input.recipe
    ? { state: 'not started', waits: 'choose a recipe' }
    : input.recipe.proof === ''
      ? { state: 'entered', waits: 'prove the recipe on a spoiled piece' }
      : { state: 'proved', waits: '' };
  const run: Omit<StationState, 'id'> = r.run.finished
    ? { state: 'proved', waits: '' }
    : input.roster.length === 0
      ? { state: 'not started', waits: 'bring in the roster' }
      : input.pieces.length === 0
        ? { state: 'entered', waits: 'burn the first piece' }
        : !input.firstApproved
          ? { state: 'entered', waits: 'approve the first piece' }
          : {
              state: 'entered',
              waits:
                r.run.openLoad === null
                  ? `load the next ${Math.min(r.run.waiting.length, r.board?.slots.length ?? 0)} pieces`
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
    blank: blankState(input),
    hold: holdState(input, r),
    place: placeState(input, r),
    burn,
    run,
    close,
  };
  return STATIONS.map((id) => ({ id, ...states[id] }));
};

/** The first station that is not proved: where the batch stands. */
export const nextStation = (states: readonly StationState[]): StationState =>
  states.find((s) => s.state !== 'proved') ?? states[states.length - 1]!;
