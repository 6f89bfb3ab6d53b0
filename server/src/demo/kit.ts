import { seeded, WAYS, type Dimension, type Held, type WayId, type Ways } from '@bistre/core';
import { DEMO_CUSTOMER, type BlankSpec, type RecipeSpec, type Setup } from '@bistre/contract';
import { loadBatch, loadBlank } from '../batches';
import { record } from '../changes/change';
import type { Trx } from '../db/connect';
import { freshSetup } from '../changes/fresh';

export const gaussian = (seed: number, mean: number, s: number, n: number): number[] => {
  const r = seeded(seed);
  return Array.from({ length: n }, () => Math.round((mean + s * r.normal()) * 100) / 100);
};

export const addSamples = async (
  trx: Trx,
  blankId: string,
  values: Partial<Record<Dimension, number[]>>,
): Promise<void> => {
  for (const dimension of Object.keys(values) as Dimension[]) {
    const readings = values[dimension] ?? [];
    if (readings.length === 0) continue;
    await trx
      .insertInto('blank_samples')
      .values(readings.map((value_mm) => ({ blank_id: blankId, dimension, value_mm, by: 'Imre', removed_at: null })))
      .execute();
  }
};

/** What the parts of the demo shop put on its Shelf; each gives the id of what it made. */
export interface DemoShop {
  /** Bench A and Bench B. */
  readonly a: string;
  readonly b: string;
  readonly blank: (name: string, spec: BlankSpec) => Promise<string>;
  readonly recipe: (name: string, machine: string, spec: RecipeSpec) => Promise<string>;
  /** What boards are cut with on Bench A and on Bench B, and what camera marks are burned with on paper on Bench A. */
  readonly ply: { readonly a: string; readonly b: string };
  readonly paper: string;
}

/** A batch held in a way, with what is not said as it is fresh. */
export const holding = <K extends WayId>(way: K, choice: Partial<Ways[K]['choice']>): Held => {
  const fresh = WAYS[way].fresh('DEMO');
  return { ...fresh, choice: { ...fresh.choice, ...choice } } as Held;
};

export const addBatch = async (
  trx: Trx,
  what: {
    name: string;
    quantity: number;
    spares: number;
    tolerance: number;
    due: Date;
    machine: string;
    blank: string;
    recipe: string | null;
    held: Held;
    beside?: Partial<Setup['beside']>;
    faces?: Setup['faces'];
    lines: Setup['lettering']['lines'];
    /** What its board is cut with. */
    stock?: string;
  },
): Promise<string> => {
  const { spec } = await loadBlank(trx, what.blank);
  const setup = freshSetup(what.name, spec.shape, what.quantity);
  const row = await trx
    .insertInto('batches')
    .values({
      name: what.name,
      customer: DEMO_CUSTOMER,
      quantity: what.quantity,
      spares: what.spares,
      tolerance_mm: what.tolerance,
      due_at: what.due,
      machine_id: what.machine,
      blank_id: what.blank,
      recipe_id: what.recipe,
      fixture_revision_id: null,
      closed_at: null,
      roster_columns: '[]',
      updated_by: 'Imre',
      setup: JSON.stringify({
        ...setup,
        held: { ...what.held, left: [] },
        beside: { ...setup.beside, ...what.beside },
        burn: { ...setup.burn, stockRecipeId: what.stock ?? null },
        faces: what.faces ?? [],
        lettering: { ...setup.lettering, zoneId: what.faces ? null : 'face', lines: what.lines },
      }),
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  await record(trx, {
    by: 'Imre',
    kind: 'batch',
    batchId: row.id,
    summary: `Batch begun: ${what.name}, ${what.quantity} pieces within ${what.tolerance} mm`,
  });
  return row.id;
};

/** What the backs of a batch's pieces carry. */
export const setBack = async (trx: Trx, batch: string, back: Partial<Setup['back']>): Promise<void> => {
  const { setup } = await loadBatch(trx, batch);
  await trx
    .updateTable('batches')
    .set({ setup: JSON.stringify({ ...setup, back: { ...setup.back, ...back } }) })
    .where('id', '=', batch)
    .execute();
};

export const tick = async (trx: Trx, batch: string, ...steps: string[]): Promise<void> => {
  await trx
    .insertInto('step_ticks')
    .values(steps.map((step) => ({ batch_id: batch, step, by: 'Imre' })))
    .execute();
};

export const dueIn = (days: number, hour: number): Date => {
  const date = new Date();
  date.setDate(date.getDate() + days);
  date.setHours(hour, 0, 0, 0);
  return date;
};
