import { z } from 'zod';
import { inRange } from '../limits';
import { boardThickness, name, order, way } from './board';

const size = (name: string) =>
  z.object({
    width: inRange(`${name}, across`, 10, 5_000, 'mm'),
    depth: inRange(`${name}, front to back`, 10, 5_000, 'mm'),
  });

/** A locator board; repeated dots say how its frame comes back. */
export const locator = way(
  'locator',
  z.object({
    name,
    boardThickness,
    order,
    frame: size('Footprint'),
    foot: size('One foot'),
    travel: z.object({
      x: inRange('Travel from the left', 0, 2_000, 'mm', { label: 'Travel begins, from the left' }),
      y: inRange('Travel from the front', 0, 2_000, 'mm', { label: 'Travel begins, from the front' }),
    }),
    margin: inRange('Board beyond the feet', 0, 200, 'mm', { hint: '20 to 30 mm: room for the stops' }),
    pitch: inRange('Between grid lines', 2, 100, 'mm'),
    inset: inRange('Grid inside the travel', 0, 100, 'mm'),
    gap: inRange('Least room between pieces', 0, 200, 'mm'),
    eye: inRange('Eye', 0.01, 5, 'mm'),
  }),
  z.object({
    back: z
      .array(inRange('Distance of the dots', 0, 20, 'mm'))
      .max(20)
      .readonly(),
  }),
);
