import { ROW_SIZE, Reading } from '../../parts/Reading';
import type { BatchProps } from '../pages';
import { plannedWords } from './planned';

/** How many pieces a sheet has, and how many sheets that makes. */
export const SheetCount = ({ shown, inRows }: Pick<BatchProps, 'shown'> & { readonly inRows: boolean }) => {
  const { board, planned } = shown.reckoning;
  return (
    <Reading
      label="pieces a sheet"
      size={ROW_SIZE}
      value={String(board?.slots.length ?? 0)}
      unit={board && inRows ? `in ${board.columns} × ${board.rows}` : ''}
      note={plannedWords(planned, 'sheet')}
    />
  );
};
