import { heldAs, standsOver } from '@bistre/core';
import { SheetCount } from '../flat/SheetCount';
import type { BatchProps } from '../pages';
import { Reading, ROW_SIZE } from '../../parts/Reading';

/** What follows for a sheet engraved on both faces: how many, how well its faces and cuts meet, and whether its outlines turn. */
export const PanelReckon = ({ handle, shown }: BatchProps) => {
  const { board, budget, place, face } = shown.reckoning;
  const { cutOut } = shown.reckoning.own;
  const panel = heldAs(handle.batch, 'panel').choice;
  const inHoles = panel.carry === 'holes';
  const outline = cutOut?.lines.at(-1);
  const over = outline ? standsOver([outline], board?.slots[0]?.angle ?? 0, panel.turn) : 0;
  return (
    <div className="readings">
      <SheetCount shown={shown} inRows />
      <Reading
        label="faces meet, at 95 %"
        size={ROW_SIZE}
        value={`± ${budget.predicted.toFixed(2)}`}
        unit="mm"
        working={budget.working}
        note={
          inHoles
            ? 'play of a piece in its own hole'
            : place.placement
              ? 'by its marks'
              : 'before the marks are aimed at'
        }
      />
      <Reading
        label="outline, when turned"
        size={ROW_SIZE}
        value={over < 0.05 ? 'the same' : `${over.toFixed(1)} mm other`}
        tone={over < 0.05 || !inHoles ? 'inside' : 'out'}
        note={over < 0.05 ? 'symmetric about that axis' : inHoles ? '' : 'cut mirrored from side two'}
      />
      <Reading
        label="side up now"
        size={ROW_SIZE}
        value={face.side === 'front' ? 'one' : 'two'}
        note={face.side === 'front' ? 'the marks are not cut yet' : 'turned'}
      />
    </div>
  );
};
