import { z } from 'zod';
import { id, inRange, line, time, wholeNumber } from './limits';

/** Blanks that lie anywhere, as the last photograph showed them. */
export const points = z
  .array(z.object({ x: inRange('x', -1_000, 11_000, 'mm'), y: inRange('y', -1_000, 11_000, 'mm') }))
  .min(3)
  .max(2_000)
  .readonly();

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
