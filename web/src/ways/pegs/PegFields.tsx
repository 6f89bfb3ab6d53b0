import { FocusReading } from '../flat/FocusReading';
import { fixed, worked, heldAs, AXIS_95 } from '@bistre/core';
import { Fields } from '../../parts/fields';
import { Reading, ROW_SIZE } from '../../parts/Reading';
import type { BatchProps } from '../pages';

/** Pegs, the eye and the blank's edge: what witness lines are reckoned from; within a way's choice. */
export const LinesFields = () => (
  <>
    <Fields at="peg pegHeight shoulder eye" />
  </>
);

/** What follows from an outline: where it bears, how well an eye lays it, what of it can be engraved. */
export const LinesReckon = ({ handle, shown }: BatchProps) => {
  const { contacts } = heldAs(handle.batch, 'pegs').choice;
  const cut = handle.batch.fixture !== null;
  const { own, board, budget, planned } = shown.reckoning;
  const { lines, usable } = own;
  const eye = budget.sources.find((s) => s.id === 'eye');
  const card = budget.sources.find((s) => s.id === 'card');
  return (
    <div className="readings">
      <Reading
        label="laid by eye, at 95 %"
        size={ROW_SIZE}
        value={eye ? `± ${(AXIS_95 * eye.u).toFixed(2)}` : '–'}
        unit="mm"
        working={
          eye
            ? [
                eye.working,
                worked(
                  'at 95 %',
                  '1.96 × standard',
                  `1.96 × ${fixed(eye.u, 3)}`,
                  `${fixed(AXIS_95 * eye.u)} mm`,
                  'statistics',
                ),
              ]
            : []
        }
      />
      <Reading
        label="outline, at 95 %"
        size={ROW_SIZE}
        value={card ? `± ${(AXIS_95 * card.u).toFixed(2)}` : '–'}
        unit="mm"
        tone={card?.origin === 'measured' ? 'plain' : 'attention'}
        working={card ? [card.working] : []}
        note={card?.origin === 'measured' ? 'from the card' : 'assumed: try it in card'}
      />
      <Reading
        label="contacts"
        size={ROW_SIZE}
        value={lines ? (cut ? 'as cut' : contacts ? 'by hand' : 'chosen') : '–'}
        working={lines?.working ?? []}
        note={lines && !cut && !contacts ? `best of ${lines.tried.toLocaleString('en')}` : ''}
      />
      <Reading
        label="edge left free"
        size={ROW_SIZE}
        value={(usable?.inset ?? 0).toFixed(2)}
        unit="mm"
        working={usable?.working ?? []}
        note={(usable?.inset ?? 0) > 0 ? 'rounded out of focus' : 'square edge'}
      />
      <FocusReading shown={shown} />
      <Reading
        label="pieces a load"
        size={ROW_SIZE}
        value={String(board?.slots.length ?? 0)}
        unit={board ? `in ${board.columns} × ${board.rows}` : ''}
        note={`${planned.length} ${planned.length === 1 ? 'load' : 'loads'}`}
      />
    </div>
  );
};
