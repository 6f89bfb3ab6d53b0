import { dotAt, jog, type SimState } from './bench-sim';
import type { seeded } from './budget';
import { testMachine } from './test-batch';

/** A hand at the jog keys: aims at a target as well as step, eye and spot allow. */
export const aim = (state: SimState, target: { x: number; y: number }, r: ReturnType<typeof seeded>): SimState => {
  const { eye, spot } = testMachine;
  const [, , step] = testMachine.jogSteps;
  const dot = dotAt(state);
  // What is seen is off by the eye and the spot; the head stops on the step nearest to it.
  const seen = {
    x: target.x - dot.x + Math.hypot(eye, spot) * r.normal(),
    y: target.y - dot.y + Math.hypot(eye, spot) * r.normal(),
  };
  return jog(state, testMachine, { x: Math.round(seen.x / step) * step, y: Math.round(seen.y / step) * step });
};
