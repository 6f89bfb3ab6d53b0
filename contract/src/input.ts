import {
  overtakenOf,
  apartOf,
  asDrawn,
  isBurned,
  setApart,
  sizeIsOpen,
  sortArt,
  transformContour,
  unitIsOpen,
  type Artwork,
  type BatchInput,
  type Blank,
  type FaceChoice,
  type Dimension,
  type Drive,
  type Feeder,
  type Machine,
  type Recipe,
} from '@bistre/core';
import type {
  BatchDocument,
  BlankDocument,
  DriveDocument,
  FeederDocument,
  MachineDocument,
  RecipeDocument,
} from './documents';

export const recipeOf = ({ id, name, machineId, spec, proof }: RecipeDocument): Recipe => {
  const { material, engrave, after, cut } = spec;
  return {
    id,
    name,
    machineId,
    material,
    engrave,
    after,
    cut,
    proof: proof && { trial: proof.trialName, stale: proof.stale },
  };
};
export const machineOf = ({ id, name, profile, changes }: MachineDocument): Machine => {
  const overtaken = overtakenOf(profile, changes).some((o) => o.what === 'pointer offset');
  const { pointerOffset } = profile;
  return {
    id,
    name,
    ...profile,
    ...(pointerOffset && overtaken ? { pointerOffset: { ...pointerOffset, overtaken } } : {}),
  };
};
export const driveOf = ({ id, name, spec }: DriveDocument): Drive => ({ id, name, ...spec });

/** A blank with its samples by what was measured. */
export const blankOf = ({
  id,
  name,
  spec,
  samples,
}: Pick<BlankDocument, 'id' | 'name' | 'spec' | 'samples'>): Blank => {
  const of = (dimension: Dimension): number[] => samples.filter((s) => s.dimension === dimension).map((s) => s.value);
  return {
    id,
    name,
    ...spec,
    samples: {
      length: of('length'),
      width: of('width'),
      thickness: of('thickness'),
      diameter: of('diameter'),
      tape: of('tape'),
    },
  };
};

export const feederOf = ({ id, name, spec }: Pick<FeederDocument, 'id' | 'name' | 'spec'>): Feeder => ({
  id,
  name,
  ...spec,
});

/** The drive of a batch, its rollers set as far apart as was chosen for this blank. */
const driveSet = ({ drive, setup }: BatchDocument): Drive | null => {
  return drive && setApart<Drive>(driveOf(drive), apartOf(setup.held));
};

/** Artworks with their shapes, without which nothing of them would be burned. @throws where some were not fetched: a bug */
const wholeArtworks = ({ artworks }: BatchDocument): readonly Artwork[] =>
  artworks.map(({ shapes, ...artwork }) => {
    if (!shapes) throw new Error(`The shapes of ${artwork.name} were not fetched.`);
    return { ...artwork, shapes };
  });

/** What goes where on a round blank, its artworks as they are drawn; and what stands against those that are left out. */
const facesOf = (
  { setup }: BatchDocument,
  artworks: readonly Artwork[],
): { readonly faces: FaceChoice[]; readonly artAmiss: string[] } => {
  const artAmiss: string[] = [];
  const faces = setup.faces.flatMap(({ content, ...face }): FaceChoice[] => {
    if (content.kind !== 'artwork') return [{ ...face, content }];
    const { name, size } = content;
    const used = artworks.find((a) => a.id === content.artworkId && a.revision === content.revision);
    if (!used || !isBurned(used)) {
      artAmiss.push(used ? `All of ${name} is a guide: nothing of it is burned. Say on the Shelf what is.` : `${name} is not on the Shelf. Choose another.`); // prettier-ignore
      return [];
    }
    if (size === 'true' && sizeIsOpen(used)) artAmiss.push(unitIsOpen(name));
    const k = used.scale ?? 1;
    const contours = asDrawn(sortArt(used.shapes, used.roles)).map((c) => transformContour({ a: k, b: 0, c: 0, d: k, e: 0, f: 0 }, c)); // prettier-ignore
    return [{ ...face, content: { kind: 'art', name, contours, size } }];
  });
  return { faces, artAmiss };
};

/** Whether nobody approved what the proof shows now. */
export const waitsForCustomer = ({ wanted, given, differences }: BatchDocument['approval']): boolean =>
  wanted && (given === null || differences > 0);

/** What the core reckons from, out of the document that crosses the wire and the shapes of its artworks. */
export const batchInput = (batch: BatchDocument): BatchInput => {
  const artworks = wholeArtworks(batch);
  const { faces, artAmiss } = facesOf(batch, artworks);
  return {
    name: batch.name,
    quantity: batch.quantity,
    spares: batch.spares,
    tolerance: batch.tolerance,
    blank: blankOf(batch.blank),
    machine: machineOf(batch.machine),
    recipe: batch.recipe && recipeOf(batch.recipe),
    backRecipe: batch.backRecipe && recipeOf(batch.backRecipe),
    stockRecipe: batch.stockRecipe && recipeOf(batch.stockRecipe),
    artRecipes: batch.artRecipes.map(recipeOf),
    fixture: batch.fixture,
    setup: { ...batch.setup, faces },
    readings: batch.readings,
    roster: batch.roster,
    pieces: batch.pieces,
    laidAfter: batch.laidAfter,
    firstApproved: batch.firstApproved,
    customerWaits: waitsForCustomer(batch.approval),
    ticks: batch.ticks.map((t) => t.step),
    putbacks: batch.putbacks,
    elsewhere: batch.elsewhere,
    drive: driveSet(batch),
    rings: batch.rings,
    feeder: batch.feeder && feederOf(batch.feeder),
    feeders: batch.feeders.map(feederOf),
    feedReadings: batch.feeder?.readings ?? [],
    closedAt: batch.closedAt,
    artworks,
    serials: batch.serials,
    artAmiss,
    shopSteps: batch.shopSteps.map(({ id, name, spec }) => ({ id, title: name, ...spec })),
  };
};

/**
 * The same without all that is burned, for what asks of the blank, the machine and its drive alone: shapes of art are at
 * hand in workers and threads only.
 */
export const inputWithoutArt = (batch: BatchDocument): BatchInput =>
  batchInput({ ...batch, artworks: [], setup: { ...batch.setup, faces: [], contents: null } });
