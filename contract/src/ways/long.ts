import { z } from 'zod';
import { inRange, oneOf } from '../limits';
import { nothing, way, workName as name } from './board';

/** How a long piece is split; laid by hand or fed. */
export const longChoice = z.object({
  loading: oneOf('How the work gets under the head', {
    front: 'front door: turned once',
    through: 'passes through',
    moves: 'machine or work moved on',
  }),
  feed: oneOf('Its length lies', { y: 'front to back', x: 'left to right' }),
  margin: inRange('Margin', 0, 500, 'mm', { label: 'Left free at both ends of the travel' }),
  overlap: inRange('Overlap at a seam', 0, 20, 'mm'),
  markInset: inRange('Marks from the edges', 0, 500, 'mm', { label: 'Marks, from the long edges' }),
  smallText: inRange('Height of lettering', 0, 500, 'mm', {
    label: 'Lettering is lower than',
    hint: 'no seam goes through it where that can be helped',
  }),
});

export const long = way('long', longChoice.extend({ name }), nothing);
