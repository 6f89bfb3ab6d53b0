import { FlatDrawing } from '../flat/FlatDrawing';
import { FLAT_RUN, FlatSimulated } from '../flat/FlatRun';
import type { DrawingProps, StationProps, WayPages } from '../pages';
import { segmentLies, segmentsElsewhere, SEGMENTS_RUN } from '../segments';
import { FeedDrawing } from './FeedDrawing';
import { FeedStation } from './FeedStation';
import { FeedTake } from './FeedTake';

/** The strip on its way through; the blank at its station, the bed where a mark is read or all is put away. */
const Drawing = (props: DrawingProps) => {
  const { handle, shown, station, step } = props;
  const onBed = step ? step.takes?.kind === 'reading' : station === 'blank' || station === 'close';
  if (!onBed && shown.reckoning.own.feed)
    return <FeedDrawing key={handle.batch.id} batch={handle.batch} shown={shown} />;
  return <FlatDrawing {...props} lies={shown.reckoning.own.long ? segmentLies : undefined} />;
};

const Simulated = (props: StationProps) =>
  props.shown.reckoning.own.long ? <SEGMENTS_RUN.Simulated {...props} /> : <FlatSimulated {...props} />;

export const feed: WayPages = {
  Drawing,
  stations: { feed: FeedStation },
  hold: null,
  run: {
    ...FLAT_RUN,
    noNames: (shown) => (shown.reckoning.own.long ? SEGMENTS_RUN : FLAT_RUN).noNames(shown),
    dots: ({ reckoning }) => !reckoning.own.long && !reckoning.own.cutOut,
    Simulated,
    elsewhere: segmentsElsewhere('Stop', 'feed'),
    laid: 'It lies there',
    place: (slot) => `Place ${slot}`,
  },
  Take: FeedTake,
};
