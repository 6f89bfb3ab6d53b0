import type { TrialSpec } from '@bistre/contract';
import { cellShape, cellWords, writeSvg, type LaidTrial, type Pass } from '@bistre/core';

/** The grid as a drawing, true to size: each cell is a pass of its own, named by its numbers. */
export const trialDrawing = (spec: TrialSpec, laid: LaidTrial): string => {
  const kind: Pass['kind'] = spec.effect === 'cut' ? 'cut' : spec.effect === 'score' ? 'line' : 'fill';
  return writeSvg(`${spec.material}, trial`, laid.width, laid.height, [
    { name: 'lettering', kind: 'line', contours: laid.lettering },
    ...laid.cells.map((cell) => ({ name: cellWords(spec, cell.index), kind, contours: [cellShape(spec, cell)] })),
  ]);
};
