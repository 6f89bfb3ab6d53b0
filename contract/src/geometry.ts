import { z } from 'zod';
import { inRange } from './limits';

export const vertex = z.object({
  x: inRange('x', -10_000, 10_000, 'mm'),
  y: inRange('y', -10_000, 10_000, 'mm'),
  bulge: z.number().finite().optional(),
});
export const contour = z.object({ closed: z.boolean(), vertices: z.array(vertex).min(2).max(20_000) });

/** Points of all art of a piece together. */
const MOST_ART_POINTS = 60_000;
/** Names art that has too many points. */
export const tooManyPoints = (
  contours: readonly { readonly vertices: readonly unknown[] }[],
  context: z.RefinementCtx,
): void => {
  const points = contours.reduce((n, c) => n + c.vertices.length, 0);
  if (points > MOST_ART_POINTS)
    context.addIssue({
      code: 'custom',
      message: `The art has ${points.toLocaleString('en')} points; at most ${MOST_ART_POINTS.toLocaleString('en')} are taken. Simplify it where it was drawn.`,
    });
};
