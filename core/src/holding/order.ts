/** In which order slots are filled: what the roster's first line meets. */
export interface FillOrder {
  readonly corner: 'front-left' | 'front-right' | 'back-left' | 'back-right';
  readonly first: 'rows' | 'columns';
  readonly serpentine: boolean;
}

export interface Cell {
  /** 0 at the left. */
  readonly column: number;
  /** 0 at the front, the operator's side. */
  readonly row: number;
}

/**
 * The cells of a grid in filling order.
 * @example fillCells([{column:0,row:0},{column:1,row:0}], { corner: 'front-right', first: 'rows', serpentine: false })
 */
export const fillCells = <T extends Cell>(cells: readonly T[], order: FillOrder): T[] => {
  const fromBack = order.corner.startsWith('back');
  const fromRight = order.corner.endsWith('right');
  const columns = Math.max(-1, ...cells.map((c) => c.column));
  const rows = Math.max(-1, ...cells.map((c) => c.row));
  const key = (cell: T): [number, number] => {
    const across = fromRight ? columns - cell.column : cell.column;
    const along = fromBack ? rows - cell.row : cell.row;
    const [major, minor, last] = order.first === 'rows' ? [along, across, columns] : [across, along, rows];
    return [major, order.serpentine && major % 2 === 1 ? last - minor : minor];
  };
  return [...cells].sort((a, b) => {
    const [a0, a1] = key(a);
    const [b0, b1] = key(b);
    return a0 - b0 || a1 - b1;
  });
};
