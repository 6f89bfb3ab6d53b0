import type { Artwork } from './artwork';
import type { Zone } from './holding';
import type { LongShape } from './long';
import type { BatchInput } from './setup';

const PAINTS = {
  fill: { fill: '#000000', stroke: null, width: 0 },
  line: { fill: null, stroke: '#000000', width: 0.1 },
  cut: { fill: null, stroke: '#5b3a78', width: 0.1 },
} as const;

const DRAWN = '0d4a0000-0000-4000-8000-000000000001';

/** Shapes as a file of art, each burned as its kind says. */
export const drawnArt = (shapes: readonly LongShape[]): Artwork => ({
  id: DRAWN,
  name: 'a line',
  revision: 1,
  unit: 'mm',
  roles: { 'stroke #5b3a78': 'cut' },
  shapes: shapes.map(({ kind, contour }) => ({ contours: [contour], rule: 'nonzero', ...PAINTS[kind] })),
});

/** A zone that is all of a rectangular blank. */
export const wholeZone = ({ shape }: BatchInput['blank']): Zone => {
  if (shape.kind !== 'rectangle') throw new Error('no rectangle');
  return { id: 'work', name: 'work', x: 0, y: 0, width: shape.length, height: shape.width, margin: 0, across: 'centre', down: 'middle', keepOuts: [] }; // prettier-ignore
};

/** Work that carries art in its middle, in a zone that is all of it. */
export const drawnOn = (input: BatchInput, shapes: readonly LongShape[]): BatchInput => ({
  ...input,
  blank: { ...input.blank, zones: [wholeZone(input.blank)] },
  artworks: [drawnArt(shapes)],
  setup: {
    ...input.setup,
    contents: [{ kind: 'artwork', id: 'drawn', zoneId: 'work', artworkId: DRAWN, revision: 1, size: { kind: 'true' }, turn: 0, mirrored: false }], // prettier-ignore
  },
});
