import { heldAs, reckonBleed } from '@bistre/core';
import { SheetCount } from '../flat/SheetCount';
import type { BatchProps } from '../pages';
import { Reading, ROW_SIZE } from '../../parts/Reading';

/** What follows for a printed sheet: how many go on it, and how far print must reach beyond the cut. */
export const SheetReckon = ({ handle, shown }: BatchProps) => {
  const sheet = heldAs(handle.batch, 'sheet').choice;
  const { board, budget, place } = shown.reckoning;
  const { traced } = sheet;
  const need = reckonBleed(sheet, budget.predicted, handle.batch.machine.profile.kerf);
  return (
    <div className="readings">
      <SheetCount shown={shown} inRows={traced === null} />
      <Reading
        label="cut to print, at 95 %"
        size={ROW_SIZE}
        value={`± ${budget.predicted.toFixed(2)}`}
        unit="mm"
        working={budget.working}
        note={place.placement ? 'by its marks' : 'before it is aimed at'}
      />
      {traced ? (
        <Reading
          label="least inset"
          size={ROW_SIZE}
          value={need.leastInset.toFixed(2)}
          unit="mm"
          tone={sheet.inset >= need.leastInset ? 'inside' : 'out'}
          working={need.working.slice(1, 2)}
          note={`${sheet.inset} mm is cut; less may show a rim of paper`}
        />
      ) : (
        <Reading
          label="least bleed"
          size={ROW_SIZE}
          value={need.leastBleed.toFixed(2)}
          unit="mm"
          tone={sheet.bleed >= need.leastBleed ? 'inside' : 'out'}
          working={need.working.slice(0, 2)}
          note={`${sheet.bleed} mm is printed; or ${need.leastInset.toFixed(2)} mm inset`}
        />
      )}
      <Reading
        label="sheet"
        size={ROW_SIZE}
        value={board ? `${board.width.toFixed(0)} × ${board.height.toFixed(0)}` : '–'}
        unit="mm"
        note={`${board?.marks.length ?? 0} marks`}
      />
      <Reading
        label="cut runs outside by"
        size={ROW_SIZE}
        value={need.outside.toFixed(2)}
        unit="mm"
        working={need.working.slice(2)}
        note="half the kerf, less the inset"
      />
    </div>
  );
};
