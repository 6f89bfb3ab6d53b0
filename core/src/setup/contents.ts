import { layArt, type LaidArt } from '../artwork';
import { blankOutline, type BlankSizes } from '../holding';
import type { Face } from './face';
import type { HeldBatch } from './held';
import type { BatchInput } from './input';

/** What the zones of a face carry beside its lettering, laid on the blank; what is not on the Shelf any more is left out. */
export const laidOn = (
  { setup, artworks = [] }: Pick<BatchInput, 'setup' | 'artworks'>,
  { blank, side }: Pick<Face, 'blank' | 'side'>,
  sizes: BlankSizes,
): readonly LaidArt[] => {
  const contents = setup.contents ?? [];
  if (contents.length === 0) return [];
  const outline = blankOutline(blank, sizes);
  return contents.flatMap((content) => {
    const zone = blank.zones.find((z) => z.id === content.zoneId && (z.side ?? 'front') === side);
    const artwork = artworks.find((a) => a.id === content.artworkId && a.revision === content.revision);
    const laid = zone && artwork ? layArt(artwork, content, { zone, blank, outline }) : null;
    return laid ? [laid] : [];
  });
};

/** Whether pieces carry nothing that a list says: art alone, and no lettering. */
export const carriesArtAlone = ({ setup }: Pick<HeldBatch, 'setup'>): boolean =>
  (setup.contents ?? []).length > 0 && setup.lettering.lines.length === 0;
