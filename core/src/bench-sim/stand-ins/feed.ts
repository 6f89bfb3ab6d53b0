import { apply, boxCorners, rigid } from '../../geometry';
import { slotTransform } from '../../holding';
import { heldAs } from '../../setup';
import { markContours } from '../../marks';
import { feedTo, layInFeeder, stripPose } from '../feeder';
import { againstStop, asDrawn, partOfSheet, type Seating } from '../run';
import { BOARD, heldOf } from './lying';
import { segmentsOf } from './long';
import { asPlaced, bareBench, cutFree, outlineOf, type Bench, type BenchState, type StandIn } from './stand-in';

/** Work of a feeder is aimed at by corners; only the seams of a long piece carry marks. */
const byCorners = ({
  reckoning: {
    own: { feed },
  },
}: Bench): boolean => feed?.work !== 'long' || feed.current === 1;

const seatings: { readonly [W in 'row' | 'parts' | 'long']: (bench: Bench, state: BenchState) => Seating } = {
  row: (bench, state) => {
    const { work } = heldAs(bench.input, 'feed').choice;
    return againstStop(heldOf(bench, state), work.kind === 'row' ? work.laid : 0);
  },
  parts: ({ reckoning }) => partOfSheet(reckoning.sizes),
  long: ({ reckoning }) => asDrawn(reckoning.sizes),
};

/** A strip in the simulated feeder, fed to the stop that is on. */
export const feed: StandIn = {
  ...BOARD,
  axes: undefined,
  stands: (stored, bench) => {
    const state: BenchState = stored ?? bareBench(bench);
    const now = bench.reckoning.own.feed;
    if (!now?.feeder || now.stops.length === 0) return state;
    const { seed } = state.hidden;
    const lies =
      state.feeder && state.feeder.strip === now.strip && state.feeder.stop <= now.current
        ? state.feeder
        : layInFeeder(seed, bench.seeds.feeder, now.feeder, now.strip);
    const fed = feedTo(seed, lies, now);
    return {
      ...state,
      // Marks of another strip are gone with it.
      ...(lies === state.feeder ? {} : { marks: [], landed: [] }),
      feeder: fed,
      hidden: { ...state.hidden, pose: stripPose(fed, now.feeder) },
    };
  },
  lay: (seed, _bench, left) => ({ ...left, feeder: undefined, hidden: { ...left.hidden, seed } }),
  lines: (mark, bench) => (byCorners(bench) ? [] : markContours(mark)),
  // A corner that is aimed at is a sharp one. Blanks of a row are seen where they were laid, not where they are drawn.
  edges: (bench, state) => {
    const { reckoning } = bench;
    if (reckoning.own.feed?.work !== 'row') return [outlineOf(reckoning.board!, 0)];
    const { lies } = seatings.row(bench, state);
    return reckoning.board!.slots.map((slot) => {
      const { length, width, dx, dy, yaw } = lies(slot);
      return boxCorners({ minX: -length / 2, maxX: length / 2, minY: -width / 2, maxY: width / 2 }).map((c) =>
        apply(slotTransform(slot), apply(rigid(yaw, dx, dy), c)),
      );
    });
  },
  meant: (bench) => {
    const { long, feed: fed } = bench.reckoning.own;
    if (long) return segmentsOf(long).meant(bench);
    return fed?.work === 'parts' ? cutFree(bench) : asPlaced(bench);
  },
  seating: (bench, state) => seatings[bench.reckoning.own.feed?.work ?? 'row'](bench, state),
  segment: (bench, state, run) => {
    const { long } = bench.reckoning.own;
    return long ? segmentsOf(long).segment(bench, state, run) : null;
  },
};
