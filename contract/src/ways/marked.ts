import { z } from 'zod';
import { MARK_KINDS, MOST_MARKS } from '@bistre/core';
import { inRange } from '../limits';
import { name, nothing, way } from './board';

export const marked = way(
  'marked',
  z.object({
    name,
    own: z.object({
      marks: z
        .array(
          z.object({
            x: inRange('x', -10_000, 10_000, 'mm'),
            y: inRange('y', -10_000, 10_000, 'mm'),
            look: z.object({ kind: z.enum(MARK_KINDS), size: inRange('Mark', 0.1, 500, 'mm') }),
          }),
        )
        .max(MOST_MARKS)
        .readonly(),
      stretches: z.boolean(),
    }),
  }),
  nothing,
);
