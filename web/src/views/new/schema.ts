import {
  api,
  roundMaterial,
  blankSpec,
  diameterAt,
  id,
  line,
  size,
  type BlankDocument,
  type BlankSpec,
} from '@bistre/contract';
import { COMES, type Comes } from '@bistre/core';
import { z } from 'zod';
import { followingZone, freshFlat } from '../shelf/fresh';
import { FRESH_ROUND, ROUND_ZONES } from '../shelf/RoundFields';

const blankName = line('Name of the blank', 1, 80);
const { name, customer, quantity, spares, tolerance, dueAt } = api.createBatch.body.shape;
type RoundMaterial = z.infer<typeof roundMaterial>;

/** A batch with the blank it needs: one of the Shelf, or one that is described on the spot. Nothing of it is filled in. */
export const schema = z.object({
  name,
  customer,
  quantity,
  spares,
  tolerance,
  dueAt,
  blank: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('kept'), id }),
    z.object({
      kind: z.literal('flat'),
      name: blankName,
      length: size('Length'),
      width: size('Width'),
      thickness: blankSpec.shape.thickness,
      material: line('Made of', 1, 100),
    }),
    z.object({
      kind: z.literal('round'),
      name: blankName,
      length: size('Length'),
      rim: diameterAt('Diameter at the rim'),
      base: diameterAt('Diameter at the base'),
      material: roundMaterial,
    }),
  ]),
  comes: z.enum(Object.keys(COMES) as [Comes, ...Comes[]]).meta({
    label: 'It comes as',
    options: (Object.entries(COMES) as [Comes, string][]).filter(([c]) => c !== 'round'),
  }),
  artworkId: z.string(),
});
export type Values = z.infer<typeof schema>;
export type NewBlank = Values['blank'];

/** A number that nobody typed yet: its field is empty, and refused until there is one. */
const OPEN = null as unknown as number;
export const FLAT: NewBlank = { kind: 'flat', name: '', length: OPEN, width: OPEN, thickness: OPEN, material: '' };
export const ROUND: NewBlank = { kind: 'round', name: '', length: OPEN, rim: OPEN, base: OPEN, material: '' as RoundMaterial }; // prettier-ignore
export const FRESH: Values = { name: '', customer: '', quantity: OPEN, spares: 0, tolerance: 0.5, dueAt: null, blank: FLAT, comes: 'loose', artworkId: '' }; // prettier-ignore

const flatSpec = ({ length, width, thickness, material }: Extract<NewBlank, { kind: 'flat' }>): BlankSpec => ({
  ...freshFlat([length, width, thickness], followingZone({ length, width }, { x: 4, y: 4 })),
  material,
});

/** A cup of the typed diameters, one zone in the middle of its side. */
const roundSpec = ({ length, rim, base, material }: Extract<NewBlank, { kind: 'round' }>): BlankSpec => ({
  shape: {
    ...FRESH_ROUND,
    material,
    profile: [
      { at: 0, diameter: rim },
      { at: length, diameter: base },
    ],
  },
  thickness: Math.max(rim, base),
  catalogueTolerance: 0.4,
  holes: [],
  direction: { kind: 'none' },
  zones: [{ ...ROUND_ZONES[0]!, x: length / 2, width: length / 3, height: (rim + base) / 2, angle: 0 }],
});

/** The blank as it goes on the Shelf. */
export const specOf = (blank: Exclude<NewBlank, { kind: 'kept' }>): BlankSpec =>
  blank.kind === 'flat' ? flatSpec(blank) : roundSpec(blank);

/** The piece that is meant, as far as enough of it is typed to reckon with; null before. */
export const pieceOf = (blank: NewBlank, kept: readonly BlankDocument[]): Pick<BlankDocument, 'id' | 'name' | 'spec' | 'samples'> | null => {
  if (blank.kind === 'kept') return kept.find((b) => b.id === blank.id) ?? null;
  const whole = schema.shape.blank.safeParse({ ...blank, name: blank.name || 'new', material: blank.material || 'wood' });
  if (!whole.success) return null;
  return { id: 'new', name: blank.name, spec: specOf({ ...blank, ...(blank.material ? {} : { material: 'wood' }) } as Exclude<NewBlank, { kind: 'kept' }>), samples: [] };
}; // prettier-ignore

/** What goes where from the start: names in the first zone, art in one of its own where there is one. */
export const contentsOf = (
  spec: BlankSpec,
  names: boolean,
  art: { readonly id: string; readonly name: string; readonly revision: number } | null,
): Pick<z.infer<typeof api.createBatch.body>, 'faces' | 'contents'> => {
  const [first, second] = spec.zones;
  if (!first) return {};
  const other = names ? (second ?? first) : first;
  if (spec.shape.kind === 'round') {
    const face = { reads: 'around', repeats: 1, wraps: false } as const;
    const lettered = { ...face, zoneId: first.id, content: { kind: 'lettering' } } as const;
    const drawn = art && ({ ...face, zoneId: other.id, content: { kind: 'artwork', artworkId: art.id, revision: art.revision, name: art.name } } as const); // prettier-ignore
    // One face carries what its zone does: names before art where there is one zone alone.
    return { faces: drawn && (!names || second) ? [...(names ? [lettered] : []), drawn] : names ? [lettered] : [] };
  }
  return art
    ? { contents: [{ kind: 'artwork', id: 'art', zoneId: other.id, artworkId: art.id, revision: art.revision, size: { kind: 'fit' }, turn: 0, mirrored: false }] } // prettier-ignore
    : {};
};
