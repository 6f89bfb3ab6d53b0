import { Link } from 'react-router';
import { nextStation, STATION_NAMES, type StationState } from '@bistre/core';
import { AT_NEXT } from '../data/at-next';

/** What a batch waits for, in one line under the rule: it opens the station with the focus where the work goes on. */
export const NextLine = ({ batchId, stations }: { batchId: string; stations: readonly StationState[] }) => {
  const { id, waits } = nextStation(stations);
  if (!waits) return null;
  return (
    <Link
      to={`/batches/${batchId}/${id}`}
      state={AT_NEXT}
      className="flex min-h-11 shrink-0 flex-wrap items-center gap-x-3 border-b border-hairline bg-sheet px-5 hover:bg-film"
    >
      <span className="text-soft">Next, at {STATION_NAMES[id]}:</span>
      <b className="text-[17px] text-blue">
        {waits} <span aria-hidden>→</span>
      </b>
    </Link>
  );
};
