import { batchDocument, type BatchDocument } from '@bistre/contract';
import type { BatchInput, WayId } from '@bistre/core';
import { EXAMPLES } from '../../../core/src/test-ways';

/** An id as the database makes them, always the same for the same words. */
export const idOf = (words: string): string => {
  let h = 0;
  for (const c of words) h = (Math.imul(h, 31) + c.charCodeAt(0)) >>> 0;
  const hex = h.toString(16).padStart(8, '0');
  return `${hex}-0000-4000-8000-${hex}0000`;
};

const AT = '2026-11-20T08:00:00.000Z';
const named = <T extends { readonly id: string; readonly name: string }>({ id, name, ...spec }: T) => ({
  id: idOf(id),
  name,
  version: 1,
  spec,
});

/** A batch as the server would answer it, of what the core reckons from. */
export const documentOf = (input: BatchInput): BatchDocument => {
  const { blank, machine, recipe, drive, feeder } = input;
  const { id: blankId, name: blankName, samples, ...spec } = blank;
  const { id: machineId, name: machineName, ...profile } = machine;
  const recipeOf = (r: BatchInput['recipe']) => {
    if (!r) return null;
    const { material, engrave, after, cut, proof } = r;
    return {
      ...named({ id: r.id, name: r.name, material, engrave, ...(after ? { after } : {}), cut, note: '' }),
      machineId: idOf(r.machineId),
      proof: proof && {
        trialId: idOf(proof.trial),
        trialName: proof.trial,
        cell: 12,
        at: AT,
        by: 'Imre',
        grade: 9.2,
        doubt: 0.3,
        setting: engrave,
        effect: 'mark',
        tests: [],
        stale: proof.stale,
      },
    };
  };
  return batchDocument.parse({
    ...input,
    id: 'b0000000-0000-4000-8000-000000000001',
    customer: 'Rowing club',
    dueAt: null,
    version: 7,
    closedBy: null,
    awayAt: null,
    updatedAt: AT,
    updatedBy: 'Odile',
    blank: {
      id: idOf(blankId),
      name: blankName,
      version: 1,
      spec,
      usedBy: [],
      samples: Object.entries(samples).flatMap(([dimension, values]) =>
        values.map((value, i) => ({ id: idOf(`${dimension}-${i}`), dimension, value, at: AT, by: 'Odile' })),
      ),
    },
    machine: { id: idOf(machineId), name: machineName, version: 1, profile },
    recipe: recipeOf(recipe),
    recipeBefore: null,
    backRecipe: recipeOf(input.backRecipe),
    stockRecipe: recipeOf(input.stockRecipe),
    artRecipes: (input.artRecipes ?? []).flatMap((one) => recipeOf(one) ?? []),
    readings: input.readings.map((r) => ({ ...r, id: idOf(r.id) })),
    pieces: input.pieces.map((p) => ({ ...p, id: idOf(p.id) })),
    laidAfter: input.laidAfter ?? 0,
    handedOut: [],
    approval: { wanted: false, revision: 1, given: null, differs: [], differences: 0 },
    columns: Object.keys(input.roster[0] ?? {}),
    ticks: input.ticks.map((step) => ({ step, at: AT, by: 'Odile' })),
    drive: drive && { ...named(drive), history: [] },
    feeder: feeder && { ...named(feeder), readings: input.feedReadings },
    feeders: input.feeders.map(({ id, name, ...f }) => ({ id: idOf(id), name, spec: f })),
    artworks: [...(input.artworks ?? [])],
    shopSteps: (input.shopSteps ?? []).map(({ id, title, ...spec }) => ({ id, name: title, version: 1, spec })),
    serials: (input.serials ?? []).map((s) => ({ ...s, numbers: [...s.numbers] })),
    canUndo: null,
    simulated: true,
  });
};

/** A batch of every way of holding, before anything was done at the bench. */
export const DOCUMENTS = Object.fromEntries(
  Object.entries(EXAMPLES).map(([way, input]) => [way, documentOf(input)]),
) as Readonly<Record<WayId, BatchDocument>>;
