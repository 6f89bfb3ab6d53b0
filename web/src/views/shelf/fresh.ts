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

/** A zone that stays so much short of its blank, mm. */
export const followingZone = (
  size: { readonly length: number; readonly width: number },
  inset: { readonly x: number; readonly y: number },
): BlankSpec['zones'][number] => ({
  ...freshZone(Math.max(0.5, size.length - inset.x), Math.max(0.5, size.width - inset.y)),
  inset,
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
