import { seeded } from '../budget';
import type { Feeder } from '../feeder';
import { stripToBed, windowLength } from '../feeder';
import { angleOf, apply, compose, rigid, type Vec } from '../geometry';
import type { FeedReckoning } from '../setup';
import type { Mm, Rad, StopNumber } from '../units';
import type { Hidden } from './machine';

/** What the simulated feeder hides: its true feed, how it repeats and slips, and how the work lies in it. */
export interface HiddenFeeder {
  readonly factor: number;
  /** Standard deviation of one feed, mm. */
  readonly repeat: Mm;
  /** Turn of the guide against the machine's axis, rad; none in what was kept before it was. */
  readonly guide?: Rad;
  /** Share of a feed lost when it goes back. */
  readonly slip: number;
  readonly skew: Rad;
  /** Where the leading corner lies: off the guide, and off the window's way out, mm. */
  readonly off: Mm;
  readonly along: Mm;
}

/** The simulated feeder as it stands. */
export interface FeederState {
  readonly hidden: HiddenFeeder;
  readonly strip: number;
  /** Stop the strip stands at. */
  readonly stop: StopNumber;
  /** True feed since it was laid, mm. */
  readonly fed: Mm;
  readonly tries: number;
  readonly moved: { readonly commanded: Mm; readonly measured: Mm; readonly missed: Mm } | null;
  readonly offsets: { readonly apart: Mm; readonly first: Mm; readonly second: Mm } | null;
  /** The guide's edge under the pointer's dot at both ends of the window, where the head stood; bed frame. */
  readonly guide?: { readonly a: Vec; readonly b: Vec };
}

/** The feeder belongs to the shop: its factor is the same whatever lies in it. */
export const hiddenFeed = (
  feederSeed: number,
  repeats: Mm,
): Pick<HiddenFeeder, 'factor' | 'repeat' | 'slip' | 'guide'> => {
  const r = seeded(feederSeed * 97 + 11);
  return {
    factor: 1 + 0.012 * (2 * r.uniform() - 1),
    repeat: (repeats / Math.sqrt(3)) * (0.5 + r.uniform()),
    slip: 0.002 + 0.004 * r.uniform(),
    guide: 0.001 * (2 * r.uniform() - 1),
  };
};

/** Lays a strip in: a little askew, a little off the guide and off the window's way out. */
export const layInFeeder = (
  seed: number,
  feederSeed: number,
  feeder: Pick<Feeder, 'repeats'>,
  strip: number,
): FeederState => {
  const r = seeded(seed * 13 + strip * 7919);
  const spread = (a: number): number => a * (2 * r.uniform() - 1);
  return {
    hidden: {
      ...hiddenFeed(feederSeed, feeder.repeats),
      skew: spread(0.003),
      off: 0.2 + 0.6 * r.uniform(),
      along: spread(2),
    },
    strip,
    stop: 0,
    fed: 0,
    tries: 0,
    moved: null,
    offsets: null,
  };
};

/** Feeds the strip to a stop, one command after the other, as the feeder really does. */
export const feedTo = (seed: number, state: FeederState, feed: FeedReckoning): FeederState => {
  let { stop, fed } = state;
  while (stop < feed.current) {
    stop += 1;
    const r = seeded(seed * 31 + state.strip * 104_729 + stop * 131);
    const { command } = feed.stops[stop - 1]!;
    fed += command * state.hidden.factor + (command > 0.005 ? state.hidden.repeat * r.normal() : 0);
  }
  return { ...state, stop, fed };
};

/** Where the strip lies on the bed: the hidden pose of the work at this feed. */
export const stripPose = (state: FeederState, feeder: Feeder): Hidden['pose'] => {
  const { skew, off, along, guide } = state.hidden;
  const map = compose(stripToBed(feeder, state.fed, guide), rigid(skew, along, off));
  const at = apply(map, { x: 0, y: 0 });
  return { angle: angleOf(map), x: at.x, y: at.y };
};

/** A tape is read to half a millimetre, a caliper to a twentieth; start line and hook, and the feel of the jaws, come on top, mm. */
const TAPE_FEEL: Mm = 0.43;
const CALIPER_FEEL: Mm = 0.097;
const toTape = (v: Mm): Mm => Math.round(v * 2) / 2;
const toCaliper = (v: Mm): Mm => Math.round(v * 20) / 20;

/** A long feed out and back beside a tape. */
export const tryFeed = (seed: number, state: FeederState, commanded: Mm): FeederState => {
  const r = seeded(seed * 41 + state.tries * 977 + 3);
  const { factor, repeat, slip } = state.hidden;
  return {
    ...state,
    tries: state.tries + 1,
    moved: {
      commanded,
      measured: toTape(commanded * factor + repeat * r.normal() + TAPE_FEEL * (2 * r.uniform() - 1)),
      missed: toTape(commanded * slip + repeat * r.normal()),
    },
  };
};

/** The edge's distance from the guide at two stations. */
export const measureOffsets = (seed: number, state: FeederState, apart: Mm): FeederState => {
  const r = seeded(seed * 43 + state.tries * 991 + 5);
  const { skew, off } = state.hidden;
  const read = (v: Mm): Mm => toCaliper(v + CALIPER_FEEL * (2 * r.uniform() - 1));
  return {
    ...state,
    tries: state.tries + 1,
    offsets: { apart, first: read(off), second: read(off + apart * Math.tan(skew)) },
  };
};

/** How near the pointer's dot comes to an edge by a hand at the jog keys, standard, mm: as of the machine's own profile. */
export interface Hand {
  readonly sigma: Mm;
  /** Where the dot falls beside the beam. */
  readonly pointer: Vec;
}

/** The head brought with its dot onto the guide's edge at both ends of the window. */
export const readGuide = (seed: number, state: FeederState, feeder: Feeder, { sigma, pointer }: Hand): FeederState => {
  const r = seeded(seed * 47 + state.tries * 997 + 7);
  const long = windowLength(feeder);
  const edge = stripToBed(feeder, 0, state.hidden.guide);
  const at = (x: Mm): Vec => {
    const p = apply(edge, { x, y: 0 });
    return { x: p.x - pointer.x + sigma * r.normal(), y: p.y - pointer.y + sigma * r.normal() };
  };
  return { ...state, tries: state.tries + 1, guide: { a: at(10), b: at(long - 10) } };
};
