import type { BlankSpec } from '@bistre/contract';

/** A zone to begin with, in the middle. */
export const freshZone = (width: number, height: number): BlankSpec['zones'][number] => ({
  id: 'face',
  name: 'face',
  x: 0,
  y: 0,
  width,
  height,
  margin: 1,
  across: 'centre',
  down: 'middle',
  keepOuts: [],
});

/** A plain rectangle with one zone, mm. */
export const freshFlat = (
  [length, width, thickness]: readonly [number, number, number],
  zone: BlankSpec['zones'][number],
): BlankSpec => ({
  shape: { kind: 'rectangle', length, width, cornerRadius: 0 },
  thickness,
  catalogueTolerance: 0.3,
  holes: [],
  direction: { kind: 'none' },
  zones: [zone],
});
