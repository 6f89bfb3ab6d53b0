import { z } from 'zod';
import { inRange, time, wholeNumber } from './limits';

/** Blanks that lie anywhere, as the last photograph showed them. */
const points = z
  .array(z.object({ x: inRange('x', -1_000, 11_000, 'mm'), y: inRange('y', -1_000, 11_000, 'mm') }))
  .min(3)
  .max(2_000)
  .readonly();

export const photoSettings = z.object({
  use: z.enum(['blanks', 'offcuts']),
  gap: inRange('Gap', 0, 100, 'mm'),
  grain: z.enum(['along', 'any']),
  offcuts: z
    .array(z.object({ outline: points, defects: z.array(points).max(200).readonly() }))
    .max(60)
    .readonly(),
  density: inRange('Density', 0, 1).nullable(),
  cameraHeight: inRange('Height of the camera', 100, 5_000, 'mm'),
  inset: inRange('Marks from the edge', 8, 300, 'mm'),
  found: z
    .array(
      z.object({
        x: inRange('x', -1_000, 11_000, 'mm'),
        y: inRange('y', -1_000, 11_000, 'mm'),
        angle: inRange('Angle', -7, 7, 'rad'),
        ask: z.boolean(),
        why: z.string().max(300),
        doubt: inRange('Doubt', 0, 20, 'mm'),
        turn: inRange('Doubt of the angle', 0, 7, 'rad'),
      }),
    )
    .max(400)
    .readonly(),
  left: wholeNumber('Left out', 0, 100_000),
  spread: inRange('Spread', 0, 100, 'mm').nullable(),
  marks: wholeNumber('Marks', 0, 100),
  afterLoad: wholeNumber('Load', 0, 1_000_000),
  takenAt: time.nullable(),
});
