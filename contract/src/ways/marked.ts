import { z } from 'zod';
import { MARK_KINDS, MARK_WORDS, MOST_MARKS } from '@bistre/core';
import { inRange, yesNo } from '../limits';
import { nothing, way, workName as name } from './board';

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
            look: z.object({
              kind: z
                .enum(MARK_KINDS)
                .meta({ label: 'Mark', options: MARK_KINDS.map((k): [string, string] => [k, MARK_WORDS[k]]) }),
              size: inRange('Mark', 0.1, 500, 'mm'),
            }),
          }),
        )
        .max(MOST_MARKS)
        .readonly(),
      stretches: yesNo('It may be stretched (print, cloth, leather)'),
    }),
  }),
  nothing,
);
