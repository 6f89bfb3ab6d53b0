import { isBurned, layArt, type LaidArt } from '../artwork';
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

/**
 * Art that was chosen and would not be burned, in sentences: what is wrong with art that is laid stands with that itself.
 *
 * @param laid of the face that lies up; nothing where the way carries none
 */
export const artLeftOut = (
  { setup, artworks = [], blank, artAmiss = [] }: Pick<BatchInput, 'setup' | 'artworks' | 'blank' | 'artAmiss'>,
  side: Face['side'],
  laid: readonly LaidArt[] = [],
): readonly string[] => [
  ...artAmiss,
  ...(setup.contents ?? []).flatMap((content): string[] => {
    if (laid.some((l) => l.content.id === content.id)) return [];
    const artwork = artworks.find((a) => a.id === content.artworkId && a.revision === content.revision);
    if (!artwork) return ['Art that was chosen for a zone is not on the Shelf. Choose another.'];
    const zone = blank.zones.find((z) => z.id === content.zoneId);
    if (!zone) return [`The zone that ${artwork.name} was put in is not on ${blank.name} any more. Choose another.`];
    if ((zone.side ?? 'front') !== side) return [];
    return isBurned(artwork)
      ? [`${artwork.name} cannot be carried by work that is held so. Take it out, or hold it another way.`]
      : [`All of ${artwork.name} is a guide: nothing of it is burned. Say on the Shelf what is, or take it out.`];
  }),
];

/** Whether pieces carry nothing that a list says: art alone, and no lettering. */
export const carriesArtAlone = ({ setup }: Pick<HeldBatch, 'setup'>): boolean =>
  (setup.contents ?? []).length > 0 && setup.lettering.lines.length === 0;
