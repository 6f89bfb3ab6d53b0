import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { inflateRawSync } from 'node:zlib';
import { sql } from 'kysely';
import { unzipSync, zipSync } from 'fflate';
import {
  api,
  JOBS,
  jobPlan,
  jobRead,
  LOOK_AT_JOB,
  type JobChoices,
  type JobPlan,
  type JobRead,
} from '@bistre/contract';
import { startShop, withDatabase, type TestShop } from '../testing/shop';
import { NOT_OF_A_JOB, TABLES, type Job } from './tables';
import { zipOf } from './write';

type Files = Map<string, Uint8Array>;
const open = (zip: Uint8Array): Files => new Map(Object.entries(unzipSync(zip)));
const jobIn = (files: Files): Job => JSON.parse(new TextDecoder().decode(files.get('job.json'))) as Job;
/** The same file with one of its own changed, its checksums made anew. */
const altered = (zip: Uint8Array, change: (job: Record<string, unknown>) => object): Buffer => {
  const files = open(zip);
  files.delete('SHA256SUMS');
  files.set('job.json', Buffer.from(JSON.stringify(change(jobIn(files) as unknown as Record<string, unknown>))));
  return zipOf(files);
};

withDatabase('one job as one file', () => {
  let here: TestShop;
  let there: TestShop;
  const zips = new Map<string, Buffer>();
  beforeAll(async () => {
    here = await startShop('job_here');
    there = await startShop('job_there', { demo: false });
  }, 60_000);
  afterAll(async () => {
    await here.stop();
    await there.stop();
  });

  const write = async (shop: TestShop, id: string): Promise<Buffer> => {
    const response = await fetch(`${shop.base}/api/batches/${id}/files/job.zip`);
    expect(response.status).toBe(200);
    expect(response.headers.get('content-type')).toBe('application/zip');
    return Buffer.from(await response.arrayBuffer());
  };
  const zipOfBatch = async (name: string): Promise<Buffer> => {
    const made = zips.get(name) ?? (await write(here, (await here.batch(name)).id));
    zips.set(name, made);
    return made;
  };
  const send = (shop: TestShop, path: string, zip: Uint8Array, choices: JobChoices = {}, name = 'boat-tags.zip') =>
    fetch(`${shop.base}${path}?${new URLSearchParams({ name, choices: JSON.stringify(choices) }).toString()}`, { method: 'POST', body: Uint8Array.from(zip), headers: { 'content-type': 'application/zip' } }); // prettier-ignore
  const look = async (shop: TestShop, zip: Uint8Array, choices?: JobChoices): Promise<JobPlan> => {
    const response = await send(shop, LOOK_AT_JOB, zip, choices);
    const body: unknown = await response.json();
    expect([response.status, response.status === 200 ? '' : body]).toEqual([200, '']);
    return jobPlan.parse(body);
  };
  const bring = async (shop: TestShop, zip: Uint8Array, choices?: JobChoices): Promise<JobRead> => {
    const response = await send(shop, JOBS, zip, choices);
    const body: unknown = await response.json();
    expect([response.status, response.status === 200 ? '' : body]).toEqual([200, '']);
    return jobRead.parse(body);
  };
  const why = async (shop: TestShop, zip: Uint8Array, choices?: JobChoices): Promise<string> => {
    const response = await send(shop, JOBS, zip, choices);
    expect(response.status).toBe(422);
    return ((await response.json()) as { message: string }).message;
  };

  it('knows every table there is: each is of a job, or said not to be', async () => {
    const { rows } = await sql<{
      name: string;
    }>`select tablename as name from pg_tables where schemaname = 'public' and tablename not like 'kysely%'`.execute(
      here.db,
    );
    expect(rows.map((r) => r.name).sort()).toEqual([...TABLES, ...NOT_OF_A_JOB].sort());
  });

  it('holds rows as JSON, readings and log as CSV, papers and drawings, and art as it came', async () => {
    const files = open(await zipOfBatch('Boat tags'));
    for (const path of [
      'job.json',
      'SHA256SUMS',
      'readings.csv',
      'pieces.csv',
      'samples.csv',
      'log.csv',
      'setup.pdf',
      'roster.csv',
      'board.svg',
      'proof.pdf',
    ])
      // prettier-ignore
      expect([path, files.has(path)]).toEqual([path, true]);
    const { rows } = jobIn(files);
    expect(new TextDecoder().decode(files.get('log.csv')).trim().split('\r\n')).toHaveLength(rows.events.length + 1);
    const tiles = open(await zipOfBatch('Berth tiles'));
    const [art] = jobIn(tiles).rows.artwork_revisions;
    const kept = await here.db.selectFrom('artwork_revisions').select('file').where('artwork_id', '=', art!['artwork_id'] as string).where('number', '=', art!['number'] as number).executeTakeFirstOrThrow(); // prettier-ignore
    const path = [...tiles.keys()].find((p) => p.startsWith(`art/${art!['artwork_id'] as string}-r${art!['number'] as number}.`) && !p.endsWith('.gz'))!; // prettier-ignore
    expect(Buffer.from(tiles.get(path)!).equals(kept.file)).toBe(true);
  });

  it('is a ZIP to others too, its checksums right by sha256sum', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'bistre-job-'));
    const zip = await zipOfBatch('Boat tags');
    // As the format’s own note lays a ZIP out [PKWARE APPNOTE 4.3.12, 4.3.16]: the directory from its end, each file from there.
    const end = zip.lastIndexOf(Buffer.from('PK\x05\x06', 'latin1'));
    let at = zip.readUInt32LE(end + 16);
    const count = zip.readUInt16LE(end + 10);
    expect(count).toBeGreaterThan(5);
    for (let i = 0; i < count; i += 1) {
      const [method, packed, size, name, extra, comment] = [zip.readUInt16LE(at + 10), zip.readUInt32LE(at + 20), zip.readUInt32LE(at + 24), zip.readUInt16LE(at + 28), zip.readUInt16LE(at + 30), zip.readUInt16LE(at + 32)]; // prettier-ignore
      const path = join(folder, zip.toString('utf8', at + 46, at + 46 + name));
      const own = zip.readUInt32LE(at + 42);
      const from = own + 30 + zip.readUInt16LE(own + 26) + zip.readUInt16LE(own + 28);
      const bytes = zip.subarray(from, from + packed);
      mkdirSync(dirname(path), { recursive: true });
      writeFileSync(path, method === 0 ? bytes : inflateRawSync(bytes));
      expect(readFileSync(path)).toHaveLength(size);
      at += 46 + name + extra + comment;
    }
    const said = execFileSync('sha256sum', ['-c', 'SHA256SUMS'], { cwd: folder }).toString();
    expect(said).toMatch(/job\.json: OK/);
    expect(said).not.toMatch(/FAILED/);
    expect((JSON.parse(readFileSync(join(folder, 'job.json'), 'utf8')) as Job).bistre).toBe('job');
  });

  it.each(['Boat tags', 'Trophy glasses', 'Berth tiles', 'Oar-rack plates', 'Bow-number decals'])(
    '%s goes to an empty Bistre, and what that writes of it is the same to the last row',
    async (name) => {
      const zip = await zipOfBatch(name);
      const plan = await look(there, zip);
      expect(plan.batch.state).toBe('new');
      expect(plan.ready).toBe(true);
      const { id, already } = await bring(there, zip);
      expect([id, already]).toEqual([jobIn(open(zip)).batch, false]);
      const again = open(await write(there, id));
      const [sent, back] = [jobIn(open(zip)), jobIn(again)];
      for (const table of TABLES) expect([table, back.rows[table]]).toEqual([table, sent.rows[table]]);
      for (const [path, bytes] of open(zip))
        if (/^(art|pictures|photographs)\//.test(path)) expect([path, Buffer.compare(Buffer.from(bytes), Buffer.from(again.get(path)!))]).toEqual([path, 0]); // prettier-ignore
      // And back where it came from: everything is recognised, nothing comes in.
      const home = await look(here, await write(there, id));
      expect([home.batch.state, new Set(home.things.map((t) => t.state))]).toEqual(['same', new Set(['same'])]);
      expect(await bring(here, await write(there, id))).toMatchObject({ id, already: true });
    },
    60_000,
  );

  it('is worked on there as here: a load is taken, a piece judged, all of it undone', async () => {
    const tags = await there.batch('Boat tags');
    const loaded = await there.call(api.startLoad, { params: { id: tags.id } });
    expect(loaded.pieces.some((p) => p.state === 'loaded')).toBe(true);
    const log = await there.call(api.listLog);
    expect(log.rows.some((r) => r.summary === 'Job read in: Boat tags, from boat-tags.zip' && r.batchId === null)).toBe(true); // prettier-ignore
  });

  it('that is here otherwise is asked about, and comes in beside on request, under identifiers of its own', async () => {
    const zip = await zipOfBatch('Boat tags');
    const plan = await look(there, zip);
    expect([plan.batch.state, plan.ready]).toEqual(['differs', false]);
    expect(await why(there, zip)).toBe('Say first what is done with Boat tags: it is here otherwise. Nothing was changed.'); // prettier-ignore
    const { id, name } = await bring(there, zip, { [plan.batch.id]: 'beside' });
    expect([id === plan.batch.id, name]).toEqual([false, 'Boat tags (2)']);
    const copy = await there.call(api.getBatch, { params: { id } });
    const first = await there.call(api.getBatch, { params: { id: plan.batch.id } });
    expect(copy.pieces.some((p) => p.state === 'loaded')).toBe(false);
    expect(copy.roster).toEqual(first.roster);
    expect(copy.machine.id).toBe(first.machine.id);
    expect(copy.ticks).toEqual(first.ticks);
  });

  it('asks of a thing that was changed here, shows in what, and uses ours or brings theirs in beside it', async () => {
    const zip = await zipOfBatch('Lane medals');
    const sent = jobIn(open(zip));
    const machine = sent.rows.machines.find((m) => m['id'] === sent.rows.batches[0]!['machine_id'])!;
    await bring(there, zip, Object.fromEntries((await look(there, zip)).things.map((t) => [t.id, 'ours'])));
    const [ours] = (await there.call(api.listMachines)).filter((m) => m.id === machine['id']);
    const profile = { ...ours!.profile, kerf: ours!.profile.kerf + 0.05 };
    await there.call(api.saveMachine, { params: { id: ours!.id }, body: { name: ours!.name, version: ours!.version, profile } as never }); // prettier-ignore
    const asked = await look(there, zip);
    const [thing] = asked.things.filter((t) => t.choices.length > 0);
    expect(thing).toMatchObject({ kind: 'machines', name: ours!.name, state: 'differs', choices: ['ours', 'beside'], choice: null }); // prettier-ignore
    expect(thing!.differences.map((d) => d.label).join()).toMatch(/[Kk]erf/);
    const answers: JobChoices = { [thing!.id]: 'beside', [asked.batch.id]: 'beside' };
    // A recipe is of its machine: with another machine it is another, and is asked about in turn.
    const next = await look(there, zip, answers);
    for (const t of next.things.filter((x) => x.choices.length > 0)) answers[t.id] = 'beside';
    const { id } = await bring(there, zip, answers);
    const batch = await there.call(api.getBatch, { params: { id } });
    expect([batch.machine.name, batch.machine.profile.kerf]).toEqual([`${ours!.name} (2)`, machine['profile'] && (machine['profile'] as { kerf: number }).kerf]); // prettier-ignore
  });

  it('recognises a machine that another shop put in by the same name and numbers', async () => {
    const zip = altered(await zipOfBatch('Boat tags'), (job) => JSON.parse(JSON.stringify(job).replaceAll((job['rows'] as Job['rows']).machines[0]!['id'] as string, 'aaaaaaaa-0000-4000-8000-000000000001')) as object); // prettier-ignore
    const plan = await look(here, zip);
    const machine = plan.things.find((t) => t.id === 'aaaaaaaa-0000-4000-8000-000000000001');
    expect(machine).toMatchObject({ state: 'same' });
  });

  it('that is cut off, altered, lacks a part, or is of a newer Bistre is refused by its name, and nothing is changed', async () => {
    const zip = await zipOfBatch('Boat tags');
    const before = (await there.call(api.listBatches)).length;
    const [cut, noise] = [zip.subarray(0, zip.length - 400), Buffer.from('no zip at all')];
    for (const broken of [cut, noise])
      expect(await why(there, broken)).toBe('boat-tags.zip is no ZIP, or is cut off. Fetch or copy it again. Nothing was changed.'); // prettier-ignore
    const files = open(zip);
    const sums = files.get('SHA256SUMS')!;
    const repacked = (change: (f: Files) => void): Buffer => {
      const copy = new Map(files);
      change(copy);
      copy.delete('SHA256SUMS');
      const made = open(zipOf(copy));
      made.set('SHA256SUMS', sums);
      // As it was summed before the change.
      return Buffer.from(zipSync(Object.fromEntries(made)));
    };
    expect(await why(there, repacked((f) => f.set('readings.csv', Buffer.from('x'))))).toBe('boat-tags.zip is damaged: readings.csv in it is not as it was written. Nothing was changed.'); // prettier-ignore
    expect(await why(there, repacked((f) => f.delete('log.csv')))).toBe('boat-tags.zip lacks log.csv, which it should have. Nothing was changed.'); // prettier-ignore
    expect(await why(there, repacked((f) => f.set('more.txt', Buffer.from('x'))))).toBe('boat-tags.zip has more.txt, which was put in afterwards. Nothing was changed.'); // prettier-ignore
    expect(await why(there, altered(zip, (job) => ({ ...job, format: 2 })))).toMatch(/^boat-tags\.zip was written by a newer Bistre/); // prettier-ignore
    expect(await why(there, altered(zip, (job) => ({ ...job, schema: '9999_later' })))).toMatch(/^boat-tags\.zip was written by a newer Bistre \(9999_later/); // prettier-ignore
    expect(await why(there, altered(zip, (job) => ({ ...job, schema: '0001_first' })))).toMatch(/^boat-tags\.zip was written by an older Bistre/); // prettier-ignore
    expect(
      await why(
        there,
        altered(zip, () => ({ bistre: 'else' })),
      ),
    ).toMatch(/is no job of a Bistre/);
    expect(
      await why(
        there,
        altered(zip, ({ rows: _, ...job }) => job),
      ),
    ).toMatch(/lacks rows/);
    expect((await there.call(api.listBatches)).length).toBe(before);
  });

  it('of the release before, which knew no trials, comes in as this one keeps it', async () => {
    const empty = await startShop('job_older', { demo: false });
    const older = altered(await zipOfBatch('Boat tags'), (job) => {
      const { trials: _, trial_scores: __, ...rows } = job['rows'] as Record<string, Record<string, unknown>[]>;
      const recipes = rows['recipes']!.map(({ trial_id: _t, proved: _p, spec, ...row }) => {
        const { note, ...rest } = spec as Record<string, unknown>;
        return { ...row, spec: { ...rest, proof: note } };
      });
      return { ...job, schema: '0022_approvals', rows: { ...rows, recipes } };
    });
    const read = await bring(empty, older);
    expect(read.already).toBe(false);
    const { recipe } = await empty.batch('Boat tags');
    expect([recipe!.proof, recipe!.spec.note]).toEqual([null, expect.stringMatching(/^Trial 14 of 28 Sep/)]);
    await empty.stop();
  });

  it('whose rows are no batch that can be shown leaves nothing behind', async () => {
    const empty = await startShop('job_bad', { demo: false });
    const zip = altered(await zipOfBatch('Boat tags'), (job) => {
      const rows = job['rows'] as Record<string, Record<string, unknown>[]>;
      return { ...job, rows: { ...rows, batches: [{ ...rows['batches']![0], roster_columns: { no: 'list' } }] } };
    });
    expect(await why(empty, zip)).toMatch(/^boat-tags\.zip is no batch that can be shown: columns/);
    expect(await empty.call(api.listBatches)).toEqual([]);
    expect(await empty.call(api.listMachines)).toEqual([]);
    await empty.stop();
  });

  it('whose rows are of another batch, or of no such columns, touches nothing else', async () => {
    const zip = await zipOfBatch('Lane medals');
    const victim = await there.batch('Boat tags');
    const own = jobIn(open(zip)).batch;
    const forged = altered(zip, (job) => {
      const rows = job['rows'] as Record<string, Record<string, unknown>[]>;
      const tick = { batch_id: victim.id, step: 'place.forged', at: '2026-11-20T08:00:00+00:00', by: 'nobody' };
      return JSON.parse(JSON.stringify({ ...job, rows: { ...rows, step_ticks: [tick] } }).replaceAll(own, 'cccccccc-0000-4000-8000-000000000009')) as object; // prettier-ignore
    });
    const choices = Object.fromEntries((await look(there, forged)).things.filter((t) => t.choices.length > 0).map((t) => [t.id, 'ours' as const])); // prettier-ignore
    const { id } = await bring(there, forged, choices);
    expect((await there.batch('Boat tags')).ticks.map((t) => t.step)).not.toContain('place.forged');
    expect((await there.call(api.getBatch, { params: { id } })).ticks.map((t) => t.step)).toContain('place.forged');
    const strange = altered(zip, (job) => {
      const rows = job['rows'] as Record<string, Record<string, unknown>[]>;
      return JSON.parse(JSON.stringify({ ...job, rows: { ...rows, step_ticks: [{ batch_id: own, hull: 1 }] } }).replaceAll(own, 'cccccccc-0000-4000-8000-00000000000a')) as object; // prettier-ignore
    });
    expect(await why(there, strange, choices)).toMatch(/^The file is damaged: its step ticks cannot be kept/);
  });

  it('with serial numbers that are given here already is refused, by number and batch', async () => {
    const zip = altered(await zipOfBatch('Berth tiles'), (job) => {
      const rows = job['rows'] as Record<string, Record<string, unknown>[]>;
      const batch = rows['batches']![0]!['id'] as string;
      const serial = { prefix: 'TG-', number: 42, batch_id: batch, content_id: 'c', ordinal: 1, attempt: 1, used_at: null }; // prettier-ignore
      return JSON.parse(JSON.stringify({ ...job, rows: { ...rows, serial_numbers: [serial] } }).replaceAll(batch, 'bbbbbbbb-0000-4000-8000-000000000009')) as object; // prettier-ignore
    });
    const tags = await there.batch('Boat tags');
    await there.db.insertInto('serial_numbers').values({ prefix: 'TG-', number: '42', batch_id: tags.id, content_id: 'c', ordinal: 1, attempt: 1, used_at: null }).execute(); // prettier-ignore
    const choices = Object.fromEntries((await look(there, zip)).things.filter((t) => t.choices.length > 0).map((t) => [t.id, t.choices[0]!])); // prettier-ignore
    expect(await why(there, zip, choices)).toMatch(/^Serial numbers of this job are given here already: TG-42 to Boat tags/); // prettier-ignore
  });

  it('of nothing is asked for again', async () => {
    const response = await fetch(`${there.base}${JOBS}?name=a.zip`, { method: 'POST', headers: { 'content-type': 'application/zip' } }); // prettier-ignore
    expect(((await response.json()) as { message: string }).message).toBe('No file arrived. Choose the ZIP of a job.');
  });
});
