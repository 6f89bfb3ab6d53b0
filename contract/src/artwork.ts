import { ROLES, SYMBOLOGIES } from '@bistre/core';
import { z } from 'zod';
import { picture } from './faces';
import { contour } from './geometry';
import { id, inRange, line, LONGEST_COLUMN, time, wholeNumber } from './limits';

/** Largest file of art that is taken in, characters. */
export const MOST_ART_BYTES = 8_000_000;

export const isPictureName = (name: string): boolean => /\.(png|jpe?g|webp)$/i.test(name);
/** Whether a file of art is of bytes, by its name: a PDF, or a picture; others are texts. */
export const isOfBytes = (name: string): boolean => /\.pdf$/i.test(name) || isPictureName(name);

export const role = z.enum(ROLES).meta({
  label: 'Burned as',
  options: [
    ['area', 'area, filled by lines'],
    ['line', 'line'],
    ['cut', 'cut through'],
    ['guide', 'guide, never burned'],
  ],
});

/** What a person says of an artwork: whose it is, and what each of its styles is burned as. */
export const artworkSpec = z.object({
  customer: line('Customer', 0, 80),
  roles: z.record(z.string().max(60), role),
  /** What the size of a file that states no unit is multiplied by; nothing while nobody said. */
  scale: inRange('Scale', 0.001, 10_000).nullish(),
});

export const artShape = z.object({
  contours: z.array(contour.extend({ vertices: z.array(contour.shape.vertices.element).min(2).max(600_000) })),
  rule: z.enum(['nonzero', 'evenodd']),
  fill: z.string().nullable(),
  stroke: z.string().nullable(),
  width: z.number(),
});

export const artStyle = z.object({
  key: z.string(),
  of: z.enum(['fill', 'stroke']),
  paint: z.string(),
  shapes: z.number().int(),
  area: z.number(),
  length: z.number(),
});

/** A file that was brought for an artwork, without its shapes. */
export const artRevision = z.object({
  number: z.number().int(),
  fileName: z.string(),
  bytes: z.number().int(),
  sha256: z.string(),
  width: z.number(),
  height: z.number(),
  unit: z.enum(['mm', 'in', 'cm', 'px', 'unstated']),
  notes: z.array(z.string()),
  /** How far outlines that were traced from a picture may be off, standard uncertainty, mm. */
  doubt: z.number().nullish(),
  styles: z.array(artStyle),
  at: time,
  by: z.string(),
});
export type ArtRevision = z.infer<typeof artRevision>;

/** What a file of art comes to, before it is kept. */
export const artRead = artRevision.pick({
  width: true,
  height: true,
  unit: true,
  notes: true,
  styles: true,
  doubt: true,
});
export type ArtRead = z.infer<typeof artRead>;

/** A file of art that was read, and how it looks: paths for the screen by what is proposed of its colours, y up, mm. */
export const artReading = artRead.extend({
  drawn: z.object({
    box: z.object({ minX: z.number(), minY: z.number(), maxX: z.number(), maxY: z.number() }),
    paths: z.array(z.object({ role, d: z.string() })),
  }),
});
export type ArtReading = z.infer<typeof artReading>;

export const artworkDocument = z.object({
  id,
  name: z.string(),
  version: z.number().int(),
  spec: artworkSpec,
  /** Oldest first. */
  revisions: z.array(artRevision),
  usedBy: z.array(z.string()),
});
export type ArtworkDocument = z.infer<typeof artworkDocument>;

/** An artwork as a batch carries it: one of its revisions. Its shapes cross by themselves: a revision never changes. */
export const artworkUsed = z.object({
  id,
  name: z.string(),
  revision: z.number().int(),
  roles: artworkSpec.shape.roles,
  unit: artRevision.shape.unit,
  scale: artworkSpec.shape.scale,
  doubt: artRevision.shape.doubt,
  shapes: z.array(artShape).optional(),
});

const measure = (label: string) => inRange(label, 0.5, 5_000, 'mm');

/** Art made as wide, or as high, as is said. */
export const artWidth = z.object({ kind: z.literal('width'), width: measure('Width') });
export const artHeight = z.object({ kind: z.literal('height'), height: measure('Height') });

const sizeOf = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('true') }),
  artWidth,
  artHeight,
  z.object({ kind: z.literal('fit') }),
]);

/** How far something is moved in its zone. */
export const moved = z.object({
  x: inRange('To the right by', -5_000, 5_000, 'mm'),
  y: inRange('To the back by', -5_000, 5_000, 'mm'),
});

/** How something lies in a zone: how large, where in it, which way round. */
const lies = {
  id: line('Content id', 1, 40),
  zoneId: line('Zone', 1, 40),
  size: sizeOf,
  across: z.enum(['left', 'centre', 'right']).meta({ label: 'Across', empty: 'as the zone' }).nullish(),
  down: z.enum(['top', 'middle', 'bottom']).meta({ label: 'Down', empty: 'as the zone' }).nullish(),
  /** How far it is moved from there, to the right and to the back. */
  offset: moved.nullish(),
  turn: inRange('Turned', -7, 7, 'rad', { label: 'Turned, to the left' }),
  mirrored: z.boolean().meta({ label: 'Mirrored, to be seen from behind' }),
  /** May leave its zone and reach over the edge of the blank. */
  over: z.boolean().meta({ label: 'Over the edge on purpose' }).nullish(),
};

const column = line('Column', 1, LONGEST_COLUMN);
/** What stands in a roster’s column; empty where nothing does. */
const word = line('Word', 0, 200);
const revision = wholeNumber('Revision', 1, 100_000);
/** Most words of a column that are told apart. */
export const MOST_WORDS = 400;

/** Art that is the same on every piece, or some of whose styles are burned where the roster says so. */
export const artworkContent = z.object({
  kind: z.literal('artwork'),
  ...lies,
  artworkId: id,
  revision,
  /** Styles that are burned by a recipe of their own. */
  recipes: z
    .array(z.object({ style: z.string().max(60), recipeId: id }))
    .max(50)
    .nullish(),
  /** Cut lines that overlap are cut as one. */
  united: z.boolean().nullish(),
  choice: z
    .object({ column, of: z.array(z.object({ word, styles: z.array(z.string().max(60)).max(200) })).max(MOST_WORDS) })
    .nullish(),
});

/** Art that the roster names piece by piece. */
export const listedContent = z.object({
  kind: z.literal('listed'),
  ...lies,
  column,
  of: z.array(z.object({ word, artworkId: id.nullable(), revision })).max(MOST_WORDS),
});

/** A code that a camera reads. */
export const codeContent = z.object({
  kind: z.literal('code'),
  ...lies,
  symbology: z.enum(SYMBOLOGIES).meta({
    label: 'Code',
    options: [
      ['qr', 'QR code'],
      ['datamatrix', 'Data Matrix'],
    ],
  }),
  text: line('Text', 1, 500).meta({ label: 'Text', help: 'Columns of the list go in braces: {Boat}. The serial number is {serial}.' }), // prettier-ignore
  reversed: z.boolean().meta({ label: 'Burn what is light', help: 'For work that is burned lighter than it is, such as slate.' }), // prettier-ignore
});

/** A number that no other piece of the shop has. */
export const serialContent = z.object({
  kind: z.literal('serial'),
  ...lies,
  prefix: line('Prefix', 0, 20)
    .regex(/(^|\D)$/, 'A prefix does not end in a digit: its numbers would read like those of another.')
    .meta({ label: 'Prefix' }),
  digits: wholeNumber('Digits', 1, 12),
  step: wholeNumber('Step', 1, 1_000),
  /** Where it begins; nothing goes on after the last that was given of its prefix. */
  first: wholeNumber('First', 0, 999_999_999, { label: 'Begins at', empty: 'after the last' }).nullish(),
  alphabet: line('Alphabet', 1, 60),
  capHeight: inRange('Capital height', 0.3, 200, 'mm'),
});

/** A picture whose shades are burned as dots. */
export const pictureContent = z.object({ kind: z.literal('picture'), ...lies, ...picture });

/** Something in a zone beside its lettering. */
export const zoneContent = z.discriminatedUnion('kind', [
  artworkContent,
  listedContent,
  codeContent,
  serialContent,
  pictureContent,
]);
export type ZoneContentDocument = z.infer<typeof zoneContent>;

const fileName = line('File name', 1, 200);
const fileText = z.string().min(1, 'The file is empty.').max(MOST_ART_BYTES, 'The file is larger than 8 MB. Keep only what is engraved in it.'); // prettier-ignore
/** A file of art as it is sent. */
export const artFile = {
  fileName,
  text: fileText,
  /** Whether the file is of bytes, and its text is those by RFC 4648: a PDF, or a picture that is traced. */
  base64: z.boolean().nullish(),
};
