import {
  apartOf,
  asDrawn,
  setApart,
  sortArt,
  transformContour,
  type BatchInput,
  type FaceChoice,
  type Dimension,
  type Drive,
  type Feeder,
  type Recipe,
} from '@bistre/core';
import type { BatchDocument, FeederDocument, RecipeDocument } from './documents';

const recipeOf = ({ id, name, machineId, spec }: RecipeDocument): Recipe => ({ id, name, machineId, ...spec });

const feederOf = ({ id, name, spec }: Pick<FeederDocument, 'id' | 'name' | 'spec'>): Feeder => ({ id, name, ...spec });

/** The drive of a batch, its rollers set as far apart as was chosen for this blank. */
const driveSet = ({ drive, setup }: BatchDocument): Drive | null => {
  return drive && setApart<Drive>({ id: drive.id, name: drive.name, ...drive.spec }, apartOf(setup.held));
};

/** What goes where on a round blank, its artworks as they are drawn; one that is not kept any more is left out. */
const facesOf = ({ setup, artworks }: BatchDocument): FaceChoice[] =>
  setup.faces.flatMap(({ content, ...face }): FaceChoice[] => {
    if (content.kind !== 'artwork') return [{ ...face, content }];
    const used = artworks.find((a) => a.id === content.artworkId && a.revision === content.revision);
    if (!used) return [];
    const k = used.scale ?? 1;
    const contours = asDrawn(sortArt(used.shapes, used.roles)).map((c) => transformContour({ a: k, b: 0, c: 0, d: k, e: 0, f: 0 }, c)); // prettier-ignore
    return contours.length === 0
      ? []
      : [{ ...face, content: { kind: 'art', name: content.name, contours, size: content.size } }];
  });

/** What the core reckons from, out of the document that crosses the wire. */
export const batchInput = (batch: BatchDocument): BatchInput => {
  const samples = (dimension: Dimension): number[] =>
    batch.blank.samples.filter((s) => s.dimension === dimension).map((s) => s.value);
  return {
    name: batch.name,
    quantity: batch.quantity,
    spares: batch.spares,
    tolerance: batch.tolerance,
    blank: {
      id: batch.blank.id,
      name: batch.blank.name,
      ...batch.blank.spec,
      samples: {
        length: samples('length'),
        width: samples('width'),
        thickness: samples('thickness'),
        diameter: samples('diameter'),
        tape: samples('tape'),
      },
    },
    machine: { id: batch.machine.id, name: batch.machine.name, ...batch.machine.profile },
    recipe: batch.recipe && recipeOf(batch.recipe),
    backRecipe: batch.backRecipe && recipeOf(batch.backRecipe),
    stockRecipe: batch.stockRecipe && recipeOf(batch.stockRecipe),
    fixture: batch.fixture,
    setup: { ...batch.setup, faces: facesOf(batch) },
    readings: batch.readings,
    roster: batch.roster,
    pieces: batch.pieces,
    firstApproved: batch.firstApproved,
    ticks: batch.ticks.map((t) => t.step),
    putbacks: batch.putbacks,
    elsewhere: batch.elsewhere,
    drive: driveSet(batch),
    rings: batch.rings,
    feeder: batch.feeder && feederOf(batch.feeder),
    feeders: batch.feeders.map(feederOf),
    feedReadings: batch.feeder?.readings ?? [],
    closedAt: batch.closedAt,
    artworks: batch.artworks,
  };
};
