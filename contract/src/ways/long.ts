import { z } from 'zod';
import { inRange } from '../limits';
import { name, nothing, way } from './board';

/** How a long piece is split; laid by hand or fed. */
export const longChoice = z.object({
  loading: z.enum(['front', 'through', 'moves']),
  feed: z.enum(['x', 'y']),
  margin: inRange('Margin', 0, 500, 'mm'),
  overlap: inRange('Overlap', 0, 20, 'mm'),
  markInset: inRange('Marks from the edge', 0, 500, 'mm'),
  smallText: inRange('Height of lettering', 0, 500, 'mm'),
});

export const long = way('long', longChoice.extend({ name }), nothing);
