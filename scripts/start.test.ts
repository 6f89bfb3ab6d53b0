import { spawnSync } from 'node:child_process';
import { chownSync, existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  environment,
  health,
  healthy,
  lives,
  postgresOf,
  ROOT,
  scratch,
  serverOf,
  Start,
  started,
} from './testing/start';

const tool = (name: string, data: string, ...args: string[]): { status: number | null; said: string } => {
  const made = spawnSync(process.execPath, [join(ROOT, 'scripts', name), ...args], {
    env: environment(data),
    encoding: 'utf8',
    input: '',
  });
  return { status: made.status, said: made.stdout + made.stderr };
};

/** Everything in a folder with its size, owner, mode and time of change: to see that nothing was touched. */
const inventory = (folder: string): string[] =>
  (readdirSync(folder, { recursive: true }) as string[]).sort().map((name) => {
    const { size, uid, mode, mtimeMs } = statSync(join(folder, name));
    return `${name} ${size} ${uid} ${mode} ${mtimeMs}`;
  });

/** Runs only within `npm test`, which built the application and has PostgreSQL. */
const suite = process.env.DATABASE_URL ? describe : describe.skip;

suite('npm start', () => {
  let data: string;
  beforeAll(async () => {
    data = join(scratch(), 'data');
    const first = new Start(data);
    const address = await first.ready();
    await healthy(address);
    expect(await first.stop()).toBe(0);
  });
  afterAll(() => {
    for (const child of started) if (child.exitCode === null) child.kill('SIGKILL');
    rmSync(join(data, '..'), { recursive: true, force: true });
  });

  it('stops everything it started, and comes back at the same address', async () => {
    expect(existsSync(join(data, 'postgres/postmaster.pid'))).toBe(false);
    expect(existsSync(join(data, 'running.json'))).toBe(false);
    const { port } = JSON.parse(readFileSync(join(data, 'bistre.json'), 'utf8')) as { port: number };
    const again = new Start(data);
    expect(await again.ready()).toBe(`http://localhost:${port}`);
    // A second start names the first and leaves it alone.
    const second = new Start(data);
    expect(await second.ended).toBe(1);
    expect(second.said).toMatch(
      new RegExp(`already runs from .*at http://localhost:${port} \\(process ${again.child.pid}\\)`),
    );
    expect(second.said).not.toMatch(/\n\s+at /);
    expect(await health(`http://localhost:${port}`)).toBe(200);
    expect(await again.stop('SIGHUP')).toBe(0);
    expect(existsSync(join(data, 'postgres/postmaster.pid'))).toBe(false);
  });

  it('starts a server or a database that died again, at the same address, and says so', async () => {
    const start = new Start(data);
    const address = await start.ready();
    process.kill(serverOf(start), 'SIGKILL');
    expect(await start.ready(2)).toBe(address);
    expect(start.said).toMatch(/The server stopped \(SIGKILL\)\. What was shown as saved is safe/);
    await healthy(address);
    const server = serverOf(start);
    process.kill(postgresOf(data), 'SIGKILL');
    await start.until(/The database runs again/);
    await healthy(address);
    expect(serverOf(start)).toBe(server);
    await start.stop();
  });

  it('adopts a database whose start was killed, and stops it later', async () => {
    const killed = new Start(data);
    await killed.ready();
    const server = serverOf(killed);
    await killed.stop('SIGKILL');
    const postgres = postgresOf(data);
    expect(lives(postgres)).toBe(true);
    const next = new Start(data);
    await healthy(await next.ready());
    expect(postgresOf(data)).toBe(postgres);
    // The server ends with its start, after the answers that were under way.
    for (let i = 0; i < 100 && lives(server); i += 1) await new Promise((done) => setTimeout(done, 50));
    expect(lives(server)).toBe(false);
    await next.stop('SIGTERM');
    expect(lives(postgres)).toBe(false);
  });

  it('stops what it had started when a later step fails', async () => {
    const start = new Start(data, ['--empty'], { PORT: '70000' });
    expect(await start.ended).toBe(1);
    expect(start.said).toMatch(/PORT is “70000”; it must be a whole number from 1 to 65535/);
    expect(existsSync(join(data, 'postgres/postmaster.pid'))).toBe(false);
    expect(existsSync(join(data, 'running.json'))).toBe(false);
  });

  it('lets nobody but its own user to the database, and works as a role that is no superuser', async () => {
    const start = new Start(data);
    await start.ready();
    expect(statSync(join(data, 'run')).mode & 0o777).toBe(0o700);
    expect(readFileSync(join(data, 'postgres/pg_hba.conf'), 'utf8')).not.toMatch(/^host/m);
    const psql = (...args: string[]): string =>
      spawnSync('psql', ['-h', join(data, 'run'), '-d', 'bistre', '-Atc', ...args], { encoding: 'utf8' }).stdout.trim();
    expect(psql('show listen_addresses', '-U', 'bistre_app')).toBe('');
    expect(psql('select rolsuper from pg_roles where rolname = current_user', '-U', 'bistre_app')).toBe('f');
    expect(psql(`select distinct tableowner from pg_tables where schemaname = 'public'`, '-U', 'bistre_app')).toBe(
      'bistre_app',
    );
    expect(
      psql(
        `select count(*) from pg_settings where name = 'log_truncate_on_rotation' and setting = 'on'`,
        '-U',
        'bistre',
      ),
    ).toBe('1');
    await start.stop();
  });

  it('takes over what an earlier release left with the owner of the cluster', async () => {
    const owner = (...args: string[]): string =>
      spawnSync('psql', ['-h', join(data, 'run'), '-U', 'bistre', '-d', 'bistre', '-Atc', ...args], {
        encoding: 'utf8',
      }).stdout.trim();
    const before = new Start(data);
    await before.ready();
    owner('create table left_over (n serial)');
    owner('alter table machines owner to bistre');
    owner('alter role bistre_app superuser');
    await before.stop();
    const start = new Start(data);
    await healthy(await start.ready());
    expect(owner(`select distinct tableowner from pg_tables where schemaname = 'public'`)).toBe('bistre_app');
    expect(owner(`select rolsuper from pg_roles where rolname = 'bistre_app'`)).toBe('f');
    owner('drop table left_over');
    await start.stop();
  });

  it('where a path is too long for a socket, asks everybody for a password that only its user reads', async () => {
    const deep = join(scratch(), 'a-folder-with-a-name-that-goes-on-and-on'.repeat(3), 'data');
    const start = new Start(deep);
    await healthy(await start.ready());
    const password = join(deep, 'password.json');
    expect(statSync(password).mode & 0o777).toBe(0o600);
    const port = readFileSync(join(deep, 'postgres/postmaster.pid'), 'utf8').split('\n')[3]!;
    const psql = (user: string, word: string): { status: number | null; stderr: string } =>
      spawnSync('psql', ['-h', '127.0.0.1', '-p', port, '-U', user, '-d', 'bistre', '-w', '-Atc', 'select 1'], {
        encoding: 'utf8',
        env: { ...process.env, PGPASSWORD: word },
      });
    const { owner, app } = JSON.parse(readFileSync(password, 'utf8')) as { owner: string; app: string };
    expect(psql('bistre_app', app).status).toBe(0);
    for (const [user, word] of [
      ['bistre', ''],
      ['bistre', app],
      ['bistre_app', owner],
      ['postgres', ''],
    ] as const)
      expect([user, psql(user, word).status]).toEqual([user, 2]);
    await start.stop();
    const again = new Start(deep);
    await healthy(await again.ready());
    await again.stop();
    rmSync(deep, { recursive: true, force: true });
  });

  it('backs up and restores, while it runs and while it does not', async () => {
    const file = join(data, '..', 'mine.backup.gz');
    const start = new Start(data);
    const address = await start.ready();
    const blank = {
      name: 'Thwart plate',
      spec: {
        shape: { kind: 'rectangle', length: 60, width: 25, cornerRadius: 3 },
        thickness: 2,
        catalogueTolerance: 0.1,
        direction: { kind: 'hole' },
        holes: [],
        zones: [],
      },
    };
    const names = async (): Promise<string[]> =>
      ((await (await fetch(`${address}/api/blanks`)).json()) as { name: string }[]).map((b) => b.name);
    const made = await fetch(`${address}/api/blanks`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(blank),
    });
    expect([made.status, made.status === 200 ? '' : await made.text()]).toEqual([200, '']);
    expect(tool('backup.mjs', data, file)).toMatchObject({ status: 0, said: expect.stringContaining(file) as string });
    expect(tool('restore.mjs', data, file, '--yes')).toMatchObject({
      status: 1,
      said: expect.stringMatching(/already runs from/) as string,
    });
    const { id } = ((await (await fetch(`${address}/api/blanks`)).json()) as { id: string }[])[0]!;
    await fetch(`${address}/api/away/blanks/${id}`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: '{"away": true}',
    });
    expect(await names()).toEqual([]);
    await start.stop();
    // Without an answer nothing is replaced.
    expect(tool('restore.mjs', data, file)).toMatchObject({
      said: expect.stringContaining('Nothing was changed') as string,
    });
    const restored = tool('restore.mjs', data, file, '--yes');
    expect(restored).toMatchObject({
      status: 0,
      said: expect.stringMatching(/compared with the file row by row/) as string,
    });
    expect(readdirSync(join(data, 'backups')).some((f) => f.startsWith('replaced-'))).toBe(true);
    const again = new Start(data);
    await again.ready();
    expect(await names()).toEqual(['Thwart plate']);
    await again.stop();
  });

  describe('never touches a folder that is not its own', () => {
    const own = (): string => {
      const copy = join(scratch(), 'data');
      spawnSync('cp', ['-a', data, copy]);
      return copy;
    };
    const cases: readonly (readonly [string, () => string, RegExp])[] = [
      [
        'with somebody’s letters in it',
        () => {
          const folder = scratch();
          writeFileSync(join(folder, 'letter.txt'), 'dear regatta');
          return folder;
        },
        /is not empty and not a data folder of Bistre \(there is letter\.txt\)/,
      ],
      [
        'whose PG_VERSION is missing',
        () => {
          const folder = own();
          rmSync(join(folder, 'postgres/PG_VERSION'));
          return folder;
        },
        /is not empty and has no PG_VERSION/,
      ],
      [
        'whose pg_control is zeroed',
        () => {
          const folder = own();
          writeFileSync(join(folder, 'postgres/global/pg_control'), Buffer.alloc(8_192));
          return folder;
        },
        /is damaged: its pg_control is empty/,
      ],
      [
        'of a PostgreSQL that is not here',
        () => {
          const folder = own();
          writeFileSync(join(folder, 'postgres/PG_VERSION'), '9\n');
          return folder;
        },
        /made by PostgreSQL 9, which is not on this machine .*Install the package postgresql-9/,
      ],
      [
        'with another’s database in it',
        () => {
          const folder = own();
          if (process.getuid?.() === 0) chownSync(join(folder, 'postgres'), 1, 1);
          else {
            mkdirSync(join(folder, 'postgres/mine'));
            rmSync(join(folder, 'postgres/PG_VERSION'));
          }
          return folder;
        },
        /belongs to .*, and PostgreSQL would run as|has no PG_VERSION/,
      ],
    ];
    it.each(cases)('%s', async (_what, make, words) => {
      const folder = make();
      const before = inventory(folder);
      const start = new Start(folder);
      expect(await start.ended).toBe(1);
      expect(start.said).toMatch(words);
      expect(start.said).not.toMatch(/\n\s+at /);
      expect(inventory(folder).filter((line) => !line.startsWith('running.json'))).toEqual(before);
      rmSync(folder, { recursive: true, force: true });
    });
  });

  it('brings the last copy back beside a database that cannot be used', async () => {
    const folder = join(scratch(), 'data');
    spawnSync('cp', ['-a', data, folder]);
    writeFileSync(join(folder, 'postgres/global/pg_control'), Buffer.alloc(8_192));
    const old = inventory(join(folder, 'postgres'));
    const start = new Start(folder, ['--empty', '--from-backup']);
    const address = await start.ready();
    expect(start.said).toMatch(
      /Bringing .* back[\s\S]*compared with the file row by row[\s\S]*The old database stays where it is/,
    );
    expect(await health(address)).toBe(200);
    await start.stop();
    expect(inventory(join(folder, 'postgres'))).toEqual(old);
    const again = new Start(folder);
    await healthy(await again.ready());
    await again.stop();
    rmSync(folder, { recursive: true, force: true });
  });
});
