import { sql } from 'kysely';
import type { RecipeProof, RecipeSpec, TrialDocument } from '@bistre/contract';
import { bedAxisAmiss, burnOvertakenBy, differsIn, outlived, partOf, sameWord, SINCE } from '@bistre/core';
import type { Trx } from '../db/connect';
import type { Proved } from '../db/schema';
import { notFound } from '../http/problem';
import { leftElsewhere } from './left-elsewhere';

/** Trials that are listed at once. */
const LISTED = 300;

const iso = (at: Date): string => at.toISOString();

const documents = async (trx: Trx, which: ReturnType<typeof sql<boolean>>): Promise<TrialDocument[]> => {
  const rows = await trx
    .selectFrom('trials')
    .leftJoin('photographs as p', 'p.id', 'trials.photo_id')
    .selectAll('trials')
    .innerJoin('machines', 'machines.id', 'trials.machine_id')
    .select(['p.width', 'p.height', 'machines.name as machine'])
    .where(which)
    .orderBy('trials.at', 'desc')
    .orderBy('trials.id')
    .limit(LISTED)
    .execute();
  if (rows.length === 0) return [];
  const ids = rows.map((r) => r.id);
  const scores = await trx
    .selectFrom('trial_scores')
    .selectAll()
    .where('trial_id', 'in', ids)
    .where('removed_at', 'is', null)
    .orderBy('at')
    .orderBy('id')
    .execute();
  const proves = await trx
    .selectFrom('recipes')
    .select(['id', 'name', 'trial_id', 'proved'])
    .where('trial_id', 'in', ids)
    .where('away_at', 'is', null)
    .orderBy('name')
    .execute();
  const amiss = new Map<string, string | null>();
  for (const machineId of new Set(rows.map((r) => r.machine_id))) {
    const name = rows.find((r) => r.machine_id === machineId)!.machine;
    const [first = null] = (await leftElsewhere(trx, null, machineId)).flatMap((left) => bedAxisAmiss(left, { name }) ?? []); // prettier-ignore
    amiss.set(machineId, first);
  }
  return rows.map((r) => ({
    id: r.id,
    name: r.name,
    version: r.version,
    machineId: r.machine_id,
    spec: r.spec,
    follows: r.follows,
    at: iso(r.at),
    by: r.by,
    burned: r.burned_at && { at: iso(r.burned_at), by: r.burned_by ?? r.by, simulated: r.simulated },
    photo: r.photo_id === null ? null : { id: r.photo_id, width: r.width!, height: r.height! },
    heldBack: amiss.get(r.machine_id) ?? null,
    scores: scores
      .filter((s) => s.trial_id === r.id)
      .map(({ id, cell, grade, tell, by, at }) => ({ id, cell, grade, tell, by, at: iso(at) })),
    proves: proves
      .filter((p) => p.trial_id === r.id && p.proved)
      .map((p) => ({ id: p.id, name: p.name, cell: p.proved!.cell })),
  }));
};

export const loadTrial = async (trx: Trx, id: string): Promise<TrialDocument> => {
  const [found] = await documents(trx, sql<boolean>`trials.id = ${id}`);
  if (!found) throw notFound('This trial');
  return found;
};

/** What stands on the Shelf and was not put away, the latest first. */
export const listTrials = (trx: Trx): Promise<TrialDocument[]> => documents(trx, sql<boolean>`trials.away_at is null`);

/** Why a proof does not stand any more: its numbers were changed, or what the machine burns by. Null while it stands. */
const staleOf = async (
  trx: Trx,
  { machine_id, spec }: { machine_id: string; spec: RecipeSpec },
  trial: { spec: TrialDocument['spec']; burned_at: Date | null },
  { setting, after = [] }: Proved,
): Promise<string | null> => {
  const part = partOf(trial.spec.effect);
  const other = differsIn(setting, spec[part]);
  if (other.length > 0) return `its ${other.join(' and ')} ${other.length === 1 ? 'was' : 'were'} changed since`;
  if (part === 'engrave') {
    const now = spec.after ?? [];
    if (now.length !== after.length || now.some((s, i) => differsIn(s, after[i]!).length > 0))
      return 'the burns that follow it were changed since';
  }
  if (!sameWord(spec.material, trial.spec.material)) return `it was proved on ${trial.spec.material}`;
  if (!trial.burned_at) return null;
  const changes = await trx
    .selectFrom('machine_changes')
    .select(['what', 'note', 'at'])
    .where('machine_id', '=', machine_id)
    .where('removed_at', 'is', null)
    .where('at', '>', trial.burned_at)
    .execute();
  const change = burnOvertakenBy(iso(trial.burned_at), changes.map((c) => ({ ...c, at: iso(c.at) }))); // prettier-ignore
  if (change) return `${SINCE[change.what]} on ${change.at.slice(0, 10)}`;
  const { profile } = await trx.selectFrom('machines').select('profile').where('id', '=', machine_id).executeTakeFirstOrThrow(); // prettier-ignore
  return outlived(iso(trial.burned_at), new Date(), profile);
};

/** The cell of a trial that proved a recipe, and whether that stands; null where none did. */
export const proofOf = async (
  trx: Trx,
  recipe: { machine_id: string; spec: RecipeSpec; trial_id: string | null; proved: Proved | null },
): Promise<RecipeProof | null> => {
  if (!recipe.trial_id || !recipe.proved) return null;
  const trial = await trx
    .selectFrom('trials')
    .select(['id', 'name', 'spec', 'burned_at'])
    .where('id', '=', recipe.trial_id)
    .executeTakeFirstOrThrow();
  return {
    ...recipe.proved,
    trialId: trial.id,
    trialName: trial.name,
    effect: trial.spec.effect,
    stale: await staleOf(trx, recipe, trial, recipe.proved),
  };
};
