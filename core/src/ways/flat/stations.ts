import { PROVED, type BatchInput, type BatchReckoning } from '../../setup';
import type { State } from '../way';

export { PROVED };
export const entered = (waits: string): State => ({ state: 'entered', waits });
export const notStarted = (waits: string): State => ({ state: 'not started', waits });

/** What a board waits for: that it suits the blank, is saved and is cut. */
export const boardState = (input: BatchInput, r: BatchReckoning, unsaved: string): State => {
  if (r.outOfDate.length > 0) return { state: 'out of date', waits: 'the board no longer suits the blank' };
  if (!input.fixture) return { state: r.board ? 'entered' : 'not started', waits: r.boardProblem?.message ?? unsaved };
  return input.ticks.includes('hold.cut') ? PROVED : entered('cut the board');
};

/** The last thing before a run: the outline was walked with the beam off. */
export const walked = (input: BatchInput): State =>
  input.ticks.includes('place.walk') ? PROVED : entered('walk the outline');

/** What placing by marks waits for, in the order it is done; `then` holds once the marks came back. */
export const aimedState = (
  input: BatchInput,
  r: BatchReckoning,
  { turns, begun, then }: { readonly turns: boolean; readonly begun: boolean; readonly then: State },
): State => {
  const { place } = r;
  const first = r.board?.marks[0]?.id ?? 1;
  if (place.pairs.length === 0) return (begun ? entered : notStarted)(`aim at mark ${first}`);
  const next = r.board?.marks.find((m) => m.role === 'place' && !place.pairs.some((p) => p.id === m.id));
  if (next) return entered(`aim at mark ${next.id}`);
  const last = input.readings.at(-1);
  if (input.fixture && last && last.at < input.fixture.savedAt)
    return { state: 'out of date', waits: 'the board was changed after the marks were read' };
  if (place.problem) return entered(place.problem.message);
  if (place.rereadOk === false) return entered(`mark ${first} did not come back: the work or the head has moved`);
  if (place.question) return entered(place.question.message);
  if (place.consistency?.verdict === 'disagrees') return entered(place.consistency.message);
  if (turns && input.setup.place.school === 'work' && place.turn && !place.turn.good) return entered(place.turn.words);
  return place.rereadOk === null ? entered(`read mark ${first} again`) : then;
};

/** Placing of a board by its marks. */
export const boardPlaced = (input: BatchInput, r: BatchReckoning): State =>
  aimedState(input, r, { turns: true, begun: false, then: walked(input) });
