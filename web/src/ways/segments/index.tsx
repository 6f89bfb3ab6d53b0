import { toast } from 'sonner';
import { Link } from 'react-router';
import { api } from '@bistre/contract';
import { call, messageOf } from '../../data/api';
import type { SideShown } from '../../data/shown';
import { FLAT_RUN } from '../flat/FlatRun';
import type { BatchProps, RunPages, StationProps } from '../pages';
import { LongDrawing } from './LongDrawing';

/** Which segment is on, and how the work lies. */
export const segmentLies = ({
  reckoning: {
    own: { long },
    place,
  },
}: SideShown): string =>
  `Segment ${long?.current ?? 1} of ${long?.plan?.segments.length ?? 1}; ${place.placement ? 'the work lies where its marks were read' : 'the work drawn where it is meant to lie'}.`;

/** Shows the work as it lies on the simulated machine, with what is burned of it. */
const LookAtWork = ({ handle: { batch }, shown, draw }: StationProps) => {
  const look = async (): Promise<void> => {
    try {
      const { landed } = await call(api.simView, { params: { id: batch.id } });
      draw({ node: <LongDrawing shown={shown} landed={landed} onClose={() => draw(null)} /> });
    } catch (error) {
      toast.error(messageOf(error));
    }
  };
  if (!batch.simulated) return null;
  return (
    <p className="mt-2">
      <button className="act" onClick={() => void look()}>
        Look at the work on the simulated machine
      </button>
    </p>
  );
};

/** What is still to be burned of the work that is on: `noun` of what, at which station. */
export const segmentsElsewhere =
  (noun: string, station: 'feed' | 'place') =>
  ({ handle, shown: { reckoning } }: BatchProps) => {
    const { run } = reckoning;
    const { long } = reckoning.own;
    if (!long || long.burned || run.openLoad === null) return null;
    return (
      <p>
        {noun} {long.current} is on.{' '}
        <Link className="link" to={`/batches/${handle.batch.id}/${station}`}>
          Aim and burn it at the {station === 'feed' ? 'Feed' : 'Place'} station
        </Link>
        ; the work is judged when all of it is burned.
      </p>
    );
  };

/** One long work at a time, burned in segments elsewhere and judged as a whole. */
export const SEGMENTS_RUN: RunPages = {
  ...FLAT_RUN,
  noNames: () => ({ words: 'The art comes from its file', bring: true }),
  dots: () => false,
  Simulated: LookAtWork,
};
