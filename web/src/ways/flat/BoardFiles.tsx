import { FileLinks } from '../../parts/FileLinks';
import { StockRecipe } from '../../parts/StockRecipe';
import type { BatchProps } from '../pages';

/** The board as the machine cuts it. */
export const BoardFiles = ({ handle }: BatchProps) => (
  <>
    <StockRecipe handle={handle} />
    <FileLinks
      batchId={handle.batch.id}
      files={[
        ['board.svg', 'SVG'],
        ['board.dxf', 'DXF'],
        ['board.gcode', 'G-code'],
      ]}
      label="Board as cut file"
    />
  </>
);
