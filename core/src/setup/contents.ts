import {
  batchArt,
  carriedBy,
  columnsOf,
  fieldsOf,
  isBurned,
  withArt,
  type BatchArt,
  type ZoneContent,
} from '../artwork';
import { writeCode } from '../codes';
import { blankOutline, type BlankSizes } from '../holding';
import type { Face } from './face';
import type { HeldBatch } from './held';
import type { BatchInput } from './input';
import type { ReckonOptions } from './reckoned';

/** Lettering of a face, with all that its zones carry beside it; null where it has no zone. */
export const artOf = (
  input: BatchInput,
  { blank, side, zone, lettering }: Pick<Face, 'blank' | 'side' | 'zone' | 'lettering'>,
  sizes: BlankSizes,
  { art: set = batchArt, alphabets }: Pick<ReckonOptions, 'art' | 'alphabets'>,
): BatchArt | null => {
  if (!zone) return null;
  const { setup, artworks = [], roster, serials = [], quantity } = input;
  const art = set(blank, zone, lettering, roster, alphabets);
  const contents = setup.contents ?? [];
  if (contents.length === 0) return art;
  const outline = blankOutline(blank, sizes);
  const carried = carriedBy({ contents, blank, side, outline, artworks, roster, serials, alphabets, count: quantity });
  return withArt(art, zone, carried, quantity);
};

/**
 * Art that was chosen and would not be burned, in sentences: what is wrong with art that is laid stands with that itself.
 *
 * @param art of the face that lies up
 * @param carries what work that is held so carries in its zones
 */
export const artLeftOut = (
  { setup, artworks = [], blank, artAmiss = [] }: Pick<BatchInput, 'setup' | 'artworks' | 'blank' | 'artAmiss'>,
  side: Face['side'],
  art: Pick<BatchArt, 'laid'> | null,
  carries: readonly ZoneContent['kind'][],
): readonly string[] => [
  ...artAmiss,
  ...(setup.contents ?? []).flatMap((content): string[] => {
    if (carries.includes(content.kind) && art?.laid?.some((l) => l.content.id === content.id)) return [];
    const zone = blank.zones.find((z) => z.id === content.zoneId);
    const artwork = content.kind === 'artwork' ? artworks.find((a) => a.id === content.artworkId && a.revision === content.revision) : undefined; // prettier-ignore
    if (content.kind === 'artwork' && !artwork) return ['Art that was chosen for a zone is not on the Shelf. Choose another.']; // prettier-ignore
    const name = artwork?.name ?? WORDS[content.kind];
    if (!zone) return [`The zone that ${name} was put in is not on ${blank.name} any more. Choose another.`];
    if ((zone.side ?? 'front') !== side) return [];
    if (!carries.includes(content.kind))
      return [`${name} cannot be carried by work that is held so. Take it out, or hold it another way.`];
    // The same on every piece, it is no single piece’s.
    if (content.kind === 'code' && fieldsOf(content.text).length === 0) {
      const code = writeCode(content.symbology, content.text);
      if (!code.ok) return [code.problem.message];
    }
    if (artwork && !isBurned(artwork)) return [`All of ${name} is a guide: nothing of it is burned. Say on the Shelf what is, or take it out.`]; // prettier-ignore
    return [];
  }),
];

const WORDS: Readonly<Record<ZoneContent['kind'], string>> = {
  artwork: 'Art',
  listed: 'Art by the list',
  code: 'A code',
  serial: 'A serial number',
  picture: 'A picture',
};

/** Whether pieces carry nothing that a list says. */
export const carriesArtAlone = ({ setup }: Pick<HeldBatch, 'setup'>): boolean => {
  const contents = setup.contents ?? [];
  return contents.length > 0 && setup.lettering.lines.length === 0 && columnsOf(contents).length === 0;
};

/** Whether anything on a piece is filled from the list. */
export const fromTheList = ({ setup }: Pick<HeldBatch, 'setup'>): boolean =>
  setup.lettering.lines.length > 0 || columnsOf(setup.contents ?? []).length > 0;

/** Alphabets that a setup is lettered in, by id. */
export const alphabetsIn = ({
  lettering,
  back,
  contents,
}: Pick<BatchInput['setup'], 'lettering' | 'back' | 'contents'>): readonly string[] => [
  ...[...lettering.lines, ...back.lines].map((l) => l.alphabet),
  ...(contents ?? []).flatMap((c) => (c.kind === 'serial' ? [c.alphabet] : [])),
];

/** Pictures that a setup carries, on faces or in zones, by id. */
export const picturesOf = ({ setup }: Pick<BatchInput, 'setup'>): readonly string[] => [
  ...new Set([
    ...setup.faces.flatMap((f) => (f.content.kind === 'picture' ? [f.content.pictureId] : [])),
    ...(setup.contents ?? []).flatMap((c) => (c.kind === 'picture' ? [c.pictureId] : [])),
  ]),
];
