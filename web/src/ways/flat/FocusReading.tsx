import type { Shown } from '../../data/shown';
import { Reading, ROW_SIZE } from '../../parts/Reading';

/** How far the bed moves from focus on the board to focus on the piece. */
export const FocusReading = ({ shown }: { shown: Shown }) => {
  const { bedMove, working } = shown.reckoning.heights;
  const move = bedMove ?? 0;
  return (
    <Reading
      label="bed for focus"
      value={Math.abs(move).toFixed(2)}
      size={ROW_SIZE}
      unit={`mm ${move >= 0 ? 'down' : 'up'}`}
      working={working}
    />
  );
};
