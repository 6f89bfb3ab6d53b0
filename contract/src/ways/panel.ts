import { z } from 'zod';
import { inRange } from '../limits';
import { nothing, sheetChoice, way } from './board';

export const panel = way(
  'panel',
  sheetChoice.extend({
    width: inRange('Sheet width', 60, 5_000, 'mm'),
    height: inRange('Sheet height', 40, 5_000, 'mm'),
    gap: inRange('Gap', 0.5, 50, 'mm'),
    turn: z.enum(['page', 'over']),
    reads: z.enum(['page', 'over']),
    carry: z.enum(['marks', 'holes']),
  }),
  nothing,
);
