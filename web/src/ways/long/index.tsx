import { Field } from '../../parts/fields';
import { ChoiceFields } from '../fields';
import { AimedPlace } from '../../stations/PlaceStation';
import { FlatDrawing } from '../flat/FlatDrawing';
import type { BatchProps, DrawingProps, StationProps, WayPages } from '../pages';
import { segmentLies, segmentsElsewhere, SEGMENTS_RUN } from '../segments';
import { LongDrawing } from '../segments/LongDrawing';
import { LongFields } from '../segments/LongFields';
import { LongReckon } from '../segments/LongReckon';
import { ofSegment, SegmentBurn, SegmentPlace } from '../segments/SegmentPlace';

const Settings = ({ handle }: BatchProps) => (
  <ChoiceFields handle={handle} way="long">
    <LongFields handle={handle} />
    <Field at="name" />
  </ChoiceFields>
);
const Reckon = ({ handle, shown }: BatchProps) => <LongReckon handle={handle} shown={shown} />;

/** All of the work with its seams; the bed where a segment of it is aimed at. */
const Drawing = (props: DrawingProps) => {
  const { station, step, shown } = props;
  const whole = step ? station !== 'place' && !step.takes : station === 'hold' || station === 'burn';
  return whole ? <LongDrawing shown={shown} /> : <FlatDrawing {...props} lies={segmentLies} />;
};

/** The first segment needs no marks; each makes those of the next. */
const Place = (props: StationProps) => {
  const { board } = props.shown.reckoning;
  const { long } = props.shown.reckoning.own;
  if (!board || !long) return <AimedPlace {...props} work="work" />;
  if (board.marks.length === 0 || long.burned) return <SegmentPlace {...props} />;
  return (
    <AimedPlace {...props} work="work" mine={(step) => ofSegment(step.id, long.current)}>
      <SegmentBurn {...props} />
    </AimedPlace>
  );
};

export const long: WayPages = {
  Drawing,
  stations: { place: Place },
  hold: { Settings, Reckon, kept: null, aids: false },
  run: { ...SEGMENTS_RUN, elsewhere: segmentsElsewhere('Segment', 'place') },
};
