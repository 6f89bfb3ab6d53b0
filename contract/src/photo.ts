import { z } from 'zod';
import { id, inRange, line, time, wholeNumber } from './limits';

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
  also: z.array(id).max(20).readonly(),
  others: z.array(points).max(400).readonly(),
  marksOn: z.enum(['bed', 'sheet', 'own']),
  sheet: z.enum(['A4', 'A3', 'Letter']),
  own: z
    .array(z.object({ x: inRange('x', -1_000, 11_000, 'mm'), y: inRange('y', -1_000, 11_000, 'mm') }))
    .max(40)
    .readonly(),
  seenBy: z.enum(['marks', 'hand', 'kept', 'kept, not checked']),
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

const finite = z.number().finite();
/** A fixed camera as it was calibrated. */
export const keptCamera = z.object({
  width: wholeNumber('Dots across', 100, 30_000),
  height: wholeNumber('Dots down', 100, 30_000),
  toPicture: z.tuple([finite, finite, finite, finite, finite, finite, finite, finite, finite]).readonly(),
  k1: inRange('Bending', -2, 2),
  k2: inRange('Bending', -2, 2),
  spread: inRange('Spread', 0, 100, 'mm').nullable(),
  marks: wholeNumber('Marks', 0, 100),
  at: time,
});

/** What is left of a piece of stock, as it lies on the Shelf. */
export const offcutSpec = z.object({
  name: line('Name', 1, 60),
  material: line('Material', 1, 100),
  thickness: inRange('Thickness', 0.05, 500, 'mm'),
  outline: points,
  defects: z.array(points).max(200).readonly(),
});
export type OffcutSpec = z.infer<typeof offcutSpec>;
export const offcutDocument = offcutSpec.extend({ id, from: z.string().nullable(), at: time, by: z.string() });
export type OffcutDocument = z.infer<typeof offcutDocument>;
