import { randomUUID } from 'node:crypto';
import { sql } from 'kysely';
import type { z } from 'zod';
import { artworkSpec, blankSpec, differences, driveSpec, feederSpec, machineProfile, recipeSpec, shopStepSpec,
  trialSpec, type JobChoice, type JobChoices, type JobPlan, type JobThing } from '@bistre/contract'; // prettier-ignore
import { counted } from '@bistre/core';
import type { Trx } from '../db/connect';
import { gatherJob } from './gather';
import { OF_BATCH, OF_THINGS, THINGS, UUIDS, type Job, type JobTable, type Row, type ThingTable } from './tables';

/** The part of a thing that people enter, and its form. */
const FORMS: Readonly<Partial<Record<ThingTable, { readonly column: string; readonly schema: z.ZodType }>>> = {
  machines: { column: 'profile', schema: machineProfile },
  blanks: { column: 'spec', schema: blankSpec },
  recipes: { column: 'spec', schema: recipeSpec },
  trials: { column: 'spec', schema: trialSpec },
  drives: { column: 'spec', schema: driveSpec },
  feeders: { column: 'spec', schema: feederSpec },
  artworks: { column: 'spec', schema: artworkSpec },
  steps: { column: 'spec', schema: shopStepSpec },
};
/** Of each, a name is there once. */
const NAMED_ONCE: ReadonlySet<ThingTable> = new Set(['machines', 'blanks', 'recipes', 'drives', 'feeders', 'fixtures']);
/** What a thing refers to that makes it another. */
const BOUND: Readonly<Partial<Record<ThingTable, string>>> = { recipes: 'machine_id', fixtures: 'blank_id' };

/** What reading a job in does: which things come in, under which identifiers. */
export interface Bringing {
  readonly plan: JobPlan;
  /** Rows that come in, by table, under their identifiers here. */
  readonly rows: Readonly<Partial<Record<JobTable, readonly Row[]>>>;
  /** Identifiers of the file, and what they are here. */
  readonly ids: ReadonlyMap<string, string>;
}

/** Text with every identifier as it is here. */
export const renamed = <T>(value: T, ids: ReadonlyMap<string, string>): T =>
  ids.size === 0 ? value : (JSON.parse(JSON.stringify(value).replace(UUIDS, (id) => ids.get(id) ?? id)) as T);

/** The table of what belongs to a thing, where one does. */
const CHILD: Readonly<Partial<Record<ThingTable, keyof typeof OF_THINGS>>> = {
  blanks: 'blank_samples',
  machines: 'machine_changes',
  artworks: 'artwork_revisions',
  fixtures: 'fixture_revisions',
};

/** Children of a thing as they are compared: what was measured, drawn, saved; not by whom their rows are called. */
const childrenOf = (table: ThingTable, rows: Job['rows'], owner: string): readonly string[] => {
  const child = CHILD[table];
  if (!child) return [];
  return rows[child]
    .filter((r) => r[OF_THINGS[child]] === owner && !r['removed_at'])
    .map((r) =>
      child === 'blank_samples'
        ? `${r['dimension'] as string} ${r['value_mm'] as number} mm`
        : child === 'machine_changes'
          ? `${r['what'] as string} ${r['at'] as string}`
          : child === 'artwork_revisions'
            ? `r${r['number'] as number} ${(r['sha256'] as string).slice(0, 12)}`
            : `r${r['revision'] as number} ${JSON.stringify(r['basis'])}`,
    )
    .sort();
};

const CHILD_WORDS: Readonly<Partial<Record<ThingTable, string>>> = {
  blanks: 'Measured sizes',
  machines: 'Changes of it',
  artworks: 'Files',
  fixtures: 'Revisions',
};

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/** Where theirs and ours differ, in words. */
const differ = (
  table: ThingTable,
  [theirs, their]: readonly [Row, Job['rows']],
  [ours, our]: readonly [Row, Job['rows']],
): JobThing['differences'] => {
  const form = FORMS[table];
  const out = theirs['name'] === ours['name'] ? [] : [{ label: 'Name', theirs: String(theirs['name']), ours: String(ours['name']) }]; // prettier-ignore
  const bound = BOUND[table];
  if (bound && theirs[bound] !== ours[bound])
    out.push({ label: bound === 'machine_id' ? 'Machine' : 'Blank', theirs: 'of the file', ours: 'another' });
  if (form)
    for (const d of differences(form.schema, theirs[form.column], ours[form.column]))
      out.push({ label: d.label, theirs: d.theirs, ours: d.mine });
  const [a, b] = [childrenOf(table, their, theirs['id'] as string), childrenOf(table, our, ours['id'] as string)];
  if (!same(a, b)) out.push({ label: CHILD_WORDS[table] ?? 'More', theirs: String(a.length), ours: String(b.length) });
  return out;
};

/** Our own rows of a thing, in the form of a job’s. */
const oursOf = async (trx: Trx, table: ThingTable, id: string): Promise<Job['rows']> => {
  const child = CHILD[table];
  if (!child) return {} as Job['rows'];
  const without = child === 'artwork_revisions' ? ['file', 'shapes'] : ['seq'];
  const { rows } = await sql<{ row: Row }>`select to_jsonb(t) - ${without}::text[] as row from ${sql.table(child)} t where ${sql.ref(`t.${OF_THINGS[child]}`)} = ${id}`.execute(trx); // prettier-ignore
  return { [child]: rows.map((r) => r.row) } as unknown as Job['rows'];
};

const find = async (trx: Trx, table: ThingTable, column: string, value: unknown): Promise<Row | undefined> => {
  const { rows } = await sql<{ row: Row }>`select to_jsonb(t) - ${['png', 'jpeg']}::text[] as row from ${sql.table(table)} t where ${sql.ref(`t.${column}`)} = ${value} limit 1`.execute(trx); // prettier-ignore
  return rows[0]?.row;
};

/** A name that nothing here has: “Bench A (2)”. */
const freeName = async (trx: Trx, table: ThingTable, name: string): Promise<string> => {
  for (let n = 2; ; n += 1) {
    const next = `${name.slice(0, 90)} (${n})`;
    if (!(await find(trx, table, 'name', next))) return next;
  }
};

/** Whether ours can stand for theirs: every revision that the batch uses is here too. */
const mayStand = (table: ThingTable, job: Job, theirs: Row, our: Job['rows']): boolean => {
  const batch = job.rows.batches[0]!;
  if (table === 'fixtures') {
    const used = job.rows.fixture_revisions.find((r) => r['id'] === batch['fixture_revision_id'] && r['fixture_id'] === theirs['id']); // prettier-ignore
    return !used || our.fixture_revisions.some((r) => r['revision'] === used['revision'] && same(r['held'], used['held']) && same(r['basis'], used['basis'])); // prettier-ignore
  }
  if (table !== 'artworks') return true;
  return job.rows.artwork_revisions.filter((r) => r['artwork_id'] === theirs['id']).every((r) => our.artwork_revisions.some((o) => o['number'] === r['number'] && o['sha256'] === r['sha256'])); // prettier-ignore
};

/** Revisions of a thing that is here already are called as they are here. */
const mapRevisions = (ids: Map<string, string>, job: Job, theirs: Row, our: Job['rows']): void => {
  for (const r of job.rows.fixture_revisions.filter((x) => x['fixture_id'] === theirs['id'])) {
    const mine = our.fixture_revisions.find((o) => o['revision'] === r['revision']);
    if (mine) ids.set(r['id'] as string, mine['id'] as string);
  }
};

/** What is here in the place of a thing of the file: itself, one of its name, or the very same picture. */
const counterpart = async (trx: Trx, table: ThingTable, row: Row): Promise<{ ours: Row; byName: boolean } | null> => {
  const own = await find(trx, table, 'id', row['id']);
  if (own) return { ours: own, byName: false };
  const other = table === 'pictures' ? await find(trx, table, 'sha256', row['sha256']) : NAMED_ONCE.has(table) || table === 'artworks' || table === 'steps' || table === 'trials' ? await find(trx, table, 'name', row['name']) : undefined; // prettier-ignore
  return other ? { ours: other, byName: true } : null;
};

interface Settled {
  readonly thing: JobThing;
  readonly comes: Row | null;
}

/** How one thing of the file stands to what is here, and what is done with it. */
const settle = async (trx: Trx, job: Job, table: ThingTable, row: Row, ids: Map<string, string>, choices: JobChoices): Promise<Settled> => {
  const id = row['id'] as string;
  const name = (row['name'] as string | undefined) ?? 'photograph';
  const theirs = renamed(row, ids);
  const known = await counterpart(trx, table, row);
  const thing = { kind: table, id, name, differences: [], choices: [], choice: null };
  if (!known) return { thing: { ...thing, state: 'new' }, comes: theirs };
  const { ours, byName } = known;
  const our = await oursOf(trx, table, ours['id'] as string);
  const plain = table === 'pictures' || table === 'photographs';
  const found = plain ? [] : differ(table, [{ ...theirs, id }, job.rows], [ours, our]);
  if (found.length === 0) {
    if (byName) ids.set(id, ours['id'] as string);
    mapRevisions(ids, job, row, our);
    return { thing: { ...thing, state: 'same' }, comes: null };
  }
  // Several artworks and steps may have one name: another is no question.
  if (byName && !NAMED_ONCE.has(table)) return { thing: { ...thing, state: 'new' }, comes: theirs };
  const offered: JobChoice[] = mayStand(table, job, row, our) ? ['ours', 'beside'] : ['beside'];
  const choice = choices[id] && offered.includes(choices[id]) ? choices[id] : null;
  const asked = { ...thing, state: byName ? 'namesake' : 'differs', differences: found.slice(0, 20), choices: offered, choice } as const; // prettier-ignore
  if (choice === 'ours') {
    if (byName) ids.set(id, ours['id'] as string);
    mapRevisions(ids, job, row, our);
    return { thing: asked, comes: null };
  }
  if (choice !== 'beside') return { thing: asked, comes: null };
  if (!byName) {
    ids.set(id, randomUUID());
    const child = CHILD[table];
    if (child) for (const r of job.rows[child]) if (r[OF_THINGS[child]] === id && typeof r['id'] === 'string') ids.set(r['id'], randomUUID()); // prettier-ignore
  }
  const fresh = NAMED_ONCE.has(table) ? await freeName(trx, table, name) : name;
  return { thing: asked, comes: { ...renamed(row, ids), name: fresh } };
}; // prettier-ignore

/** The batch’s own rows, as they are compared. */
const ownRows = (rows: Job['rows']): unknown => ['batches', ...OF_BATCH].map((t) => rows[t as JobTable]);

/**
 * What reading a job in would do here: what is recognised, what is new, and what is asked and how it was answered.
 * @param choices answers so far, by the identifier of what they are about
 */
export const planJob = async (trx: Trx, job: Job, choices: JobChoices): Promise<Bringing> => {
  const ids = new Map<string, string>();
  const rows: Partial<Record<JobTable, Row[]>> = {};
  const things: JobThing[] = [];
  const coming = new Set<string>();
  for (const table of THINGS)
    for (const row of job.rows[table]) {
      const { thing, comes } = await settle(trx, job, table, row, ids, choices);
      things.push(thing);
      if (!comes) continue;
      (rows[table] ??= []).push(comes);
      coming.add(row['id'] as string);
    }
  for (const [table, column] of Object.entries(OF_THINGS) as [keyof typeof OF_THINGS, string][])
    rows[table] = job.rows[table].filter((r) => coming.has(r[column] as string)).map((r) => renamed(r, ids));
  const batch = job.rows.batches[0]!;
  const id = batch['id'] as string;
  const here = await trx.selectFrom('batches').select('id').where('id', '=', id).executeTakeFirst();
  const mine = here && (await gatherJob(trx, id, []));
  const state = !mine ? 'new' : same(ownRows(renamed(job.rows, ids)), ownRows(mine.rows)) ? 'same' : 'differs';
  const choice = choices[id] === 'beside' ? 'beside' : null;
  if (state === 'differs' && choice)
    for (const own of [batch, ...OF_BATCH.flatMap((t) => job.rows[t])])
      if (typeof own['id'] === 'string') ids.set(own['id'], randomUUID());
  if (state === 'new' || choice) {
    rows.batches = [...renamed(job.rows.batches, ids)];
    // Whatever a file says: nothing of it comes into another batch.
    for (const table of OF_BATCH)
      rows[table] = renamed(job.rows[table], ids).map((r) => ({ ...r, batch_id: ids.get(id) ?? id }));
  }
  if (state === 'differs' && choice) rows.batches = rows.batches!.map((r) => ({ ...r, name: `${(r['name'] as string).slice(0, 90)} (2)` })); // prettier-ignore
  const asked = things.filter((t) => t.choices.length > 0);
  const count = (table: JobTable, one: string): string[] =>
    job.rows[table].length > 0 ? [counted(job.rows[table].length, one)] : [];
  return {
    plan: {
      batch: { id, name: batch['name'] as string, state, choice },
      things,
      counts: [...count('roster_rows', 'name'), ...count('mark_readings', 'reading'), ...count('pieces', 'verdict'), ...count('blank_samples', 'measured size'), ...count('events', 'log entry').map((w) => w.replace('entrys', 'entries'))], // prettier-ignore
      ready: asked.every((t) => t.choice !== null) && (state !== 'differs' || choice !== null),
    },
    rows,
    ids,
  };
};
