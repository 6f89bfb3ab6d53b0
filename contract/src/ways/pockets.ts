import { z } from 'zod';
import { inRange } from '../limits';
import { boardChoice, nothing, way } from './board';

export const pockets = way(
  'pockets',
  boardChoice.extend({
    clearance: z.discriminatedUnion('school', [
      z.object({ school: z.literal('loose') }),
      z.object({ school: z.literal('snug') }),
      z.object({ school: z.literal('own'), total: inRange('Own clearance', 0, 20, 'mm') }),
    ]),
  }),
  nothing,
);
