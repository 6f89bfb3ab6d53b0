import { FocusReading } from './FocusReading';
import { degrees, percent } from '@bistre/core';
import { Reading, ROW_SIZE } from '../../parts/Reading';
import type { BatchProps } from '../pages';
import { plannedWords } from './planned';

/** What follows for a board: how a piece goes in, how far it can lie off, how many go on, and what it needs. */
export const BoardReckon = ({ handle: { batch }, shown }: BatchProps) => {
  const { reckoning } = shown;
  const { board, pocket } = reckoning;
  const other = board?.otherWay;
  return (
    <div className="grid grid-cols-[1.5fr_1.1fr_1fr] gap-x-2 gap-y-3">
      <Reading
        label="pocket"
        value={`${pocket.length.toFixed(2)} × ${pocket.width.toFixed(2)}`}
        size={ROW_SIZE}
        unit="mm"
        working={pocket.working}
      />
      <Reading
        label="a piece drops in"
        value={percent(pocket.fits)}
        size={ROW_SIZE}
        tone={pocket.fits > 0.98 ? 'inside' : pocket.fits > 0.9 ? 'attention' : 'out'}
        working={pocket.working}
      />
      <Reading
        label="float"
        value={`±${Math.max(pocket.floatX, pocket.floatY).toFixed(2)}`}
        size={ROW_SIZE}
        unit="mm"
        note={
          pocket.yaw !== null
            ? `yaw ±${degrees(pocket.yaw, 2)}`
            : pocket.byEye === null
              ? 'free to turn'
              : `by eye ±${degrees(pocket.byEye, 2)}`
        }
        working={pocket.working}
      />
      <Reading
        label="pieces a load"
        value={String(board?.slots.length ?? 0)}
        size={ROW_SIZE}
        unit={board ? `in ${board.columns} × ${board.rows}` : ''}
        note={`${plannedWords(reckoning.planned, 'load')}${other === undefined ? '' : `; the other way ${other || 'none'}`}`}
      />
      <FocusReading shown={shown} />
      <Reading
        label="board"
        value={board ? `${board.width} × ${board.height}` : '–'}
        size={ROW_SIZE}
        unit="mm"
        note={`wall ${board?.wall.toFixed(1) ?? '–'}, kerf ${batch.machine.profile.kerf.toFixed(2)}`}
      />
    </div>
  );
};
