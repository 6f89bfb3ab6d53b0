import { constants, gunzipSync, gzipSync } from 'node:zlib';
import type { ArtReading, BatchDocument } from '@bistre/contract';
import { artPaths, stylesOf, type ReadArt } from '@bistre/core';

type Shapes = NonNullable<BatchDocument['artworks'][number]['shapes']>;

/** A file of art that was read: what is said of it, and what is kept. */
export interface ArtToKeep {
  readonly said: ArtReading;
  /** All but its shapes, JSON. */
  readonly facts: string;
  /** Its shapes as they cross to who draws them. */
  readonly shapes: Uint8Array;
}

/** Shapes as they are kept and sent: the answer of their route, gzip. */
export const packShapes = (shapes: unknown): Buffer =>
  gzipSync(JSON.stringify({ shapes }), { level: constants.Z_BEST_SPEED });

export const unpackShapes = (packed: Buffer): Shapes => (JSON.parse(gunzipSync(packed).toString()) as { shapes: Shapes }).shapes; // prettier-ignore

/** What was read of a file, as it is kept. */
export const keptArt = ({ shapes, ...facts }: ReadArt): ArtToKeep => {
  const styles = stylesOf(shapes).map((s) => ({ ...s }));
  const { width, height, unit, notes, doubt } = facts;
  const { box, paths } = artPaths(shapes, {});
  return {
    said: { width, height, unit, notes: [...notes], styles, drawn: { box, paths: [...paths] }, ...(doubt === undefined ? {} : { doubt }) }, // prettier-ignore
    facts: JSON.stringify({ ...facts, styles }),
    shapes: packShapes(shapes),
  };
};
