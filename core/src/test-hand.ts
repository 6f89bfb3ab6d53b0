import { burnDot, dotAt, jog, moveTo, truePose, type SimState } from './bench-sim';
import { bedToFile } from './burn';
import type { seeded } from './budget';
import { apply } from './geometry';
import type { Board } from './holding';
import { pointerFromDot } from './marks';
import type { BatchInput, MarkReading } from './setup';
import { testMachine } from './test-batch';

/** A hand at the jog keys: aims at a target as well as step, eye and spot allow. */
export const aim = (
  state: SimState,
  target: { x: number; y: number },
  r: ReturnType<typeof seeded>,
  height = 0,
): SimState => {
  const { eye, spot } = testMachine;
  const [, , step] = testMachine.jogSteps;
  const dot = dotAt(state, height);
  // What is seen is off by the eye and the spot; the head stops on the step nearest to it.
  const seen = {
    x: target.x - dot.x + Math.hypot(eye, spot) * r.normal(),
    y: target.y - dot.y + Math.hypot(eye, spot) * r.normal(),
  };
  return jog(state, testMachine, { x: Math.round(seen.x / step) * step, y: Math.round(seen.y / step) * step });
};

/** Burns a dot, brings the pointer onto it and keeps the offset. */
export const measurePointer = (
  base: BatchInput,
  laid: SimState,
  r: ReturnType<typeof seeded>,
  now: Date,
): { input: BatchInput; state: SimState } => {
  const burned = burnDot(moveTo(laid, testMachine, { x: 450 + 20 * r.uniform(), y: 300 }));
  const dot = burned.dots.at(-1)!;
  const state = aim(burned, dot, r);
  const machine = {
    ...base.machine,
    pointerOffset: {
      ...pointerFromDot(dot.shown!, state.head),
      height: 0,
      second: null,
      measuredAt: now.toISOString(),
    },
  };
  return { input: { ...base, machine }, state };
};

/**
 * Reads marks where they lie on the bed, each once; earlier readings of them are replaced.
 * @param height of the marks over the surface in focus, mm
 */
export const readMarks = (
  base: BatchInput,
  board: Pick<Board, 'marks'>,
  laid: SimState,
  r: ReturnType<typeof seeded>,
  now: Date,
  height = 0,
): { input: BatchInput; state: SimState } => {
  const pose = truePose(laid.hidden);
  let state = laid;
  const readings = board.marks.map((mark): MarkReading => {
    const at = apply(pose, mark.at);
    state = aim(moveTo(state, testMachine, { x: at.x + r.uniform(), y: at.y + r.uniform() }), at, r, height);
    return {
      id: String(mark.id),
      mark: mark.id,
      ...apply(bedToFile(testMachine), state.head),
      source: 'simulated machine',
      at: now.toISOString(),
      by: 'test',
      purpose: 'place',
    };
  });
  return { input: { ...base, readings }, state };
};

/** Measures the pointer and reads every mark of a board or sheet that lies on the simulated bed. */
export const aimAtAll = (
  base: BatchInput,
  board: Pick<Board, 'marks'>,
  laid: SimState,
  r: ReturnType<typeof seeded>,
  now: Date,
  height = 0,
): { input: BatchInput; state: SimState } => {
  const measured = measurePointer(base, laid, r, now);
  return readMarks(measured.input, board, measured.state, r, now, height);
};
