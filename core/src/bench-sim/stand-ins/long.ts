import type { LongReckoning } from '../../setup';
import { layBoard } from '../machine';
import { asDrawn } from '../run';
import { afterSegment, laySegment, segmentBox, segmentPiece } from '../segments';
import { BOARD, staysUntil } from './lying';
import { asPlaced, type StandIn } from './stand-in';

const lay: StandIn['lay'] = (seed, { input, reckoning }) => {
  const long = reckoning.own.long!;
  const laid = layBoard(seed, input.machine, { width: 100, height: 100 });
  return { ...laid, segment: long.current, hidden: { ...laid.hidden, pose: laySegment(seed, reckoning, long) } };
};

/** What a long piece's segments are to burn and leave behind, wherever it lies. */
export const segmentsOf = (long: LongReckoning): Required<Pick<StandIn, 'meant' | 'segment'>> => ({
  meant: ({ reckoning }) => segmentPiece(reckoning, long),
  segment: ({ reckoning }, state, run) => {
    const left = afterSegment(state, reckoning, long, run);
    return { state: left, box: segmentBox(reckoning, long), off: left.landed.at(-1) };
  },
});

/** A long piece, laid by hand for every segment. */
export const long: StandIn = {
  ...BOARD,
  axes: undefined,
  stands: staysUntil(lay, (state, { reckoning }) => state.segment === reckoning.own.long?.current),
  lay,
  meant: (bench) => (bench.reckoning.own.long ? segmentsOf(bench.reckoning.own.long).meant(bench) : asPlaced(bench)),
  seating: ({ reckoning }) => asDrawn(reckoning.sizes),
  segment: (bench, state, run) =>
    bench.reckoning.own.long ? segmentsOf(bench.reckoning.own.long).segment(bench, state, run) : null,
};
