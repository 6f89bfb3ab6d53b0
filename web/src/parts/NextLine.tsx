import { useNavigate } from 'react-router';
import { nextStation, STATION_NAMES, type StationState } from '@bistre/core';
import { AT_NEXT } from '../data/go-on';

/** What a batch waits for, in one line under the rule: it opens the station with the focus where the work goes on. */
export const NextLine = ({ batchId, stations }: { batchId: string; stations: readonly StationState[] }) => {
  const navigate = useNavigate();
  const { id, waits } = nextStation(stations);
  if (!waits) return null;
  return (
    <p className="shrink-0 border-b border-hairline bg-sheet px-4 py-1">
      <button
        className="flex min-h-11 w-full items-center gap-3 px-1 text-left hover:bg-film"
        onClick={() => void navigate(`/batches/${batchId}/${id}`, { state: AT_NEXT })}
      >
        <span className="text-soft">Next, at {STATION_NAMES[id]}:</span>
        <b className="text-[17px] text-blue">{waits}</b>
        <span aria-hidden className="text-[17px] text-blue">
          →
        </span>
      </button>
    </p>
  );
};
