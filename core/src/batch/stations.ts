import { isFor } from '../burn';
import { ENOUGH_SAMPLES } from '../samples';
import {
  PROVED,
  type BatchInput,
  type HeldBatch,
  type BatchReckoning,
  type StationId,
  type StationState,
} from '../setup';
import type { Problem } from '../result';
import { wayOf } from '../ways';
import type { State } from '../ways';

/** The stations that a batch needs, in order. */
export const routeOf = (batch: HeldBatch): readonly StationId[] => wayOf(batch).route(batch);

/** Whether pieces may be laid on without limit: the first is approved, or the way burns all of them at once. */
export const firstIsApproved = (batch: HeldBatch & { readonly firstApproved: boolean }): boolean =>
  batch.firstApproved || !wayOf(batch).firstAlone(batch);

/** The customer's word on the proof is not there, or something was changed since. */
export const CUSTOMER_WAITS: Problem = {
  code: 'customer-waits',
  message: 'The customer has not approved the proof as it is now: no more than the first piece is burned until then.',
  field: 'run',
};

/** Whether anything that is engraved or printed comes from the roster: no names are waited for else. */
export const needsRoster = (batch: HeldBatch): boolean => wayOf(batch).names(batch);

/** Whether faces and defects of single pieces can be kept before they are laid on. */
export const looksAtPieces = (batch: HeldBatch): boolean => wayOf(batch).looks;

const blankState = (input: BatchInput): State => {
  const { samples, shape } = input.blank;
  if (shape.kind === 'round') {
    const n = samples.diameter?.length ?? 0;
    return n >= ENOUGH_SAMPLES
      ? PROVED
      : {
          state: n === 0 ? 'not started' : 'entered',
          waits: `measure the diameter of ${ENOUGH_SAMPLES} or more pieces`,
        };
  }
  const short = (
    shape.kind === 'disc' ? (['length', 'thickness'] as const) : (['length', 'width', 'thickness'] as const)
  ).filter((d) => samples[d].length < ENOUGH_SAMPLES);
  if (short.length === 0) return PROVED;
  const none = short.every((d) => samples[d].length === 0);
  return {
    state: none ? 'not started' : 'entered',
    waits: `measure ${ENOUGH_SAMPLES} or more pieces (${short.join(', ')})`,
  };
};

const burnState = ({ recipe, machine, blank }: BatchInput): State => {
  if (!recipe) return { state: 'not started', waits: 'choose a recipe' };
  if (recipe.machineId !== machine.id) return { state: 'entered', waits: `choose a recipe of ${machine.name}` };
  if (!isFor(recipe, blank.material)) return { state: 'entered', waits: `choose a recipe for ${blank.material}` };
  if (!recipe.proof) return { state: 'entered', waits: 'prove the recipe on a spoiled piece' };
  return recipe.proof.stale === null ? PROVED : { state: 'out of date', waits: 'prove the recipe again' };
};

const runState = (input: BatchInput, r: BatchReckoning): State => {
  const way = wayOf(input);
  if (r.run.finished) return PROVED;
  if (input.roster.length === 0 && way.names(input)) return { state: 'not started', waits: 'bring in the roster' };
  const { waits } = way;
  if (input.pieces.length === 0) return { state: 'not started', waits: waits.first(input) };
  if (!firstIsApproved(input)) return { state: 'entered', waits: 'approve the first piece' };
  if (input.customerWaits && r.run.openLoad === null)
    return { state: 'entered', waits: 'keep the customer’s approval' };
  return { state: 'entered', waits: r.run.openLoad === null ? waits.next(r) : waits.look(r) };
};

const closeState = (input: BatchInput, r: BatchReckoning): State => {
  if (input.closedAt) return PROVED;
  const open = input.putbacks.filter((p) => p.restoredAt === null).length;
  return {
    state: r.run.finished ? 'entered' : 'not started',
    waits:
      open > 0
        ? `put back ${open} ${open === 1 ? 'setting' : 'settings'}`
        : r.run.finished
          ? 'close the batch'
          : 'finish the run',
  };
};

/** The state of every station of a batch's route, in order. */
export const stationStates = (input: BatchInput, r: BatchReckoning): StationState[] => {
  const way = wayOf(input);
  const stateOf = (id: StationId): State => {
    if (id === 'blank') return way.measures(input) ? blankState(input) : PROVED;
    if (id === 'burn') return burnState(input);
    if (id === 'run') return runState(input, r);
    if (id === 'close') return closeState(input, r);
    return way.stations[id]?.(input, r) ?? PROVED;
  };
  return way.route(input).map((id) => ({ id, ...stateOf(id) }));
};

/** The first station that is not proved: where the batch stands. */
export const nextStation = (states: readonly StationState[]): StationState =>
  states.find((s) => s.state !== 'proved') ?? states[states.length - 1]!;
