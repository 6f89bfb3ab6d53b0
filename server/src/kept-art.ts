import type { ArtRead } from '@bistre/contract';
import { stylesOf, type ReadArt } from '@bistre/core';

/** A file of art that was read: what is said of it, and all of it as it is kept, in JSON. */
export interface ArtToKeep {
  readonly said: ArtRead;
  readonly json: string;
}

/** What was read of a file, as it is kept. */
export const keptArt = (art: ReadArt): ArtToKeep => {
  const styles = stylesOf(art.shapes).map((s) => ({ ...s }));
  const { width, height, unit, notes, doubt } = art;
  return {
    said: { width, height, unit, notes: [...notes], styles, ...(doubt === undefined ? {} : { doubt }) },
    json: JSON.stringify({ ...art, styles }),
  };
};
