import { layBoard } from '../machine';
import { againstStop, asDrawn, inPockets } from '../run';
import { madeOf, type Board } from '../../holding';
import { markContours } from '../../marks';
import { asPlaced, bareBench, loadOf, outlineOf, type Bench, type BenchState, type StandIn } from './stand-in';

const boardOf = ({ reckoning: { board } }: Bench): Board => board!;

/** Work laid on by hand stays as it lies until it is turned over or moved on. */
export const staysUntil =
  (lay: StandIn['lay'], same: (state: BenchState, bench: Bench) => boolean): StandIn['stands'] =>
  (stored, bench) => {
    const bare = bareBench(bench);
    // Nothing is laid on before there is something to lay.
    if (!bench.reckoning.board) return stored ?? bare;
    if (!stored) return lay(bench.seeds.batch, bench, bare);
    if (same(stored, bench)) return stored;
    // The head stays where it is, the pointer as it was.
    const laid = lay((stored.hidden.seed * 13 + 5) >>> 0, bench, stored);
    const { homed, head, dots, hidden } = stored;
    return { ...stored, ...laid, homed, head, dots, hidden: { ...laid.hidden, pointer: hidden.pointer } };
  };

const layOn: StandIn['lay'] = (seed, bench) => layBoard(seed, bench.input.machine, boardOf(bench));

/** What pieces in pockets or against a stop are drawn from. */
export const heldOf = (bench: Bench, { hidden }: BenchState): Parameters<typeof inPockets>[0] => ({
  hidden,
  load: loadOf(bench),
  sizes: bench.reckoning.sizes,
  pocket: bench.reckoning.pocket,
});

/** What pieces are drawn from where the machine cut what holds them. */
const cutOf = (bench: Bench, state: BenchState): Parameters<typeof inPockets>[0] => ({
  ...heldOf(bench, state),
  made: madeOf(bench.input.machine),
});

/** A board with marks, laid somewhere on the bed. */
export const BOARD: StandIn = {
  axes: 'made here',
  stands: staysUntil(layOn, () => true),
  lay: layOn,
  marks: (bench) => boardOf(bench).marks,
  lines: markContours,
  edges: (bench) => [outlineOf(boardOf(bench), 3)],
  meant: asPlaced,
  beside: () => 0,
  seating: (bench, state) => inPockets(cutOf(bench, state)),
};

/** Pieces against the stop corner of a board. */
export const fence: StandIn = { ...BOARD, seating: (bench, state) => againstStop(cutOf(bench, state)) };

/** A piece that lies somewhere on the bed, with marks of its own. */
export const marked: StandIn = {
  ...BOARD,
  axes: 'made elsewhere',
  seating: ({ reckoning }) => asDrawn(reckoning.sizes),
};
