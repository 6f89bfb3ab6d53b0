import type { BatchDocument } from '@bistre/contract';
import type { BatchInput, WayId } from '@bistre/core';
import { EXAMPLES } from '../../../core/src/test-ways';

const AT = '2026-11-20T08:00:00.000Z';
const named = <T extends { readonly id: string; readonly name: string }>({ id, name, ...spec }: T) => ({
  id,
  name,
  version: 1,
  spec,
});

/** A batch as the server would answer it, of what the core reckons from. */
export const documentOf = (input: BatchInput): BatchDocument => {
  const { blank, machine, recipe, drive, feeder } = input;
  const { id: blankId, name: blankName, samples, ...spec } = blank;
  const { id: machineId, name: machineName, ...profile } = machine;
  const recipeOf = (r: BatchInput['recipe']) => r && { ...named(r), machineId: r.machineId };
  return {
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
      id: blankId,
      name: blankName,
      version: 1,
      spec,
      usedBy: [],
      samples: Object.entries(samples).flatMap(([dimension, values]) =>
        values.map((value, i) => ({ id: `${dimension}-${i}`, dimension, value, at: AT, by: 'Odile' })),
      ),
    },
    machine: { id: machineId, name: machineName, version: 1, profile },
    recipe: recipeOf(recipe),
    backRecipe: recipeOf(input.backRecipe),
    columns: Object.keys(input.roster[0] ?? {}),
    ticks: input.ticks.map((step) => ({ step, at: AT, by: 'Odile' })),
    drive: drive && { ...named(drive), history: [] },
    feeder: feeder && { ...named(feeder), readings: input.feedReadings },
    feeders: input.feeders.map(({ id, name, ...f }) => ({ id, name, spec: f })),
    canUndo: null,
    simulated: true,
  } as unknown as BatchDocument;
};

/** A batch of every way of holding, before anything was done at the bench. */
export const DOCUMENTS = Object.fromEntries(
  Object.entries(EXAMPLES).map(([way, input]) => [way, documentOf(input)]),
) as Readonly<Record<WayId, BatchDocument>>;
