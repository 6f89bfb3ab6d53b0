// Shared by start, test, dev, bench and screenshots. Plain Node, no dependency: it runs before npm ci.
import { execFileSync, spawn, spawnSync } from 'node:child_process';
import {
  chownSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { delimiter, dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = dirname(dirname(fileURLToPath(import.meta.url)));
const isRoot = process.getuid?.() === 0;

export const say = (text) => process.stdout.write(`${text}\n`);
export const fail = (text) => {
  process.stderr.write(`${text}\n`);
  process.exit(1);
};

const onPath = (name) =>
  (process.env.PATH ?? '')
    .split(delimiter)
    .map((dir) => join(dir, name))
    .find((file) => existsSync(file));

/** Runs a command to its end; throws with its output when it fails. */
export const run = (command, args, options = {}) => {
  const result = spawnSync(command, args, {
    cwd: root,
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'pipe'],
    ...options,
  });
  if (result.status !== 0)
    throw new Error(
      `${command} ${args.join(' ')} failed:\n${result.stdout ?? ''}${result.stderr ?? ''}${result.error?.message ?? ''}`,
    );
  return result.stdout ?? '';
};

/** Installs Debian packages, or says exactly what to install. */
const aptInstall = (packages, why) => {
  const wanted = `apt-get install --no-install-recommends ${packages.join(' ')}`;
  const apt = onPath('apt-get');
  if (!apt) fail(`${why} This machine has no apt. Install, by its own package manager: ${packages.join(', ')}.`);
  if (!isRoot && !onPath('sudo')) fail(`${why} Run this as root once, then start again:\n  ${wanted}`);
  say(`${why} Installing ${packages.join(', ')} …`);
  const prefix = isRoot ? [] : ['sudo'];
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const call = (...args) =>
    spawnSync([...prefix, apt, ...args][0], [...prefix, apt, ...args].slice(1), {
      env,
      stdio: ['inherit', 'ignore', 'inherit'],
    }).status === 0;
  // The Debian server package would start a cluster of its own; Bistre keeps its private one.
  if (call('install', '-y', '--no-install-recommends', ...packages)) return;
  call('update');
  if (!call('install', '-y', '--no-install-recommends', ...packages))
    fail(`The packages could not be installed. Try by hand:\n  ${isRoot ? '' : 'sudo '}${wanted}`);
};

/** npm packages, when the lock file is newer than what is installed. */
export const ensurePackages = () => {
  const lock = readFileSync(join(root, 'package-lock.json'), 'utf8');
  const stamp = join(root, 'node_modules', '.bistre-lock');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  say('Installing npm packages …');
  const result = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: root,
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  if (result.status !== 0)
    fail('npm could not install the packages. Check the connection to your npm registry and start again.');
  writeFileSync(stamp, lock);
};

const postgresBin = () => {
  const base = '/usr/lib/postgresql';
  const found = existsSync(base)
    ? readdirSync(base)
        .filter((v) => existsSync(join(base, v, 'bin', 'initdb')))
        .sort((a, b) => Number(b) - Number(a))
        .map((v) => join(base, v, 'bin'))[0]
    : undefined;
  if (found) return found;
  const initdb = onPath('initdb');
  return initdb && onPath('postgres') ? dirname(initdb) : undefined;
};

export const ensurePostgres = () => {
  let bin = postgresBin();
  if (bin) return bin;
  aptInstall(['postgresql'], 'No PostgreSQL server was found.');
  bin = postgresBin();
  return bin ?? fail('PostgreSQL was installed but its server program was not found under /usr/lib/postgresql.');
};

export const ensureChromium = () => {
  const find = () => process.env.BISTRE_CHROMIUM ?? ['chromium', 'chromium-browser'].map(onPath).find(Boolean);
  const found = find();
  if (found) return found;
  aptInstall(['chromium'], 'No Chromium was found; the tests drive the real application in it.');
  return find() ?? fail('Chromium was installed but not found.');
};

/** Independent programs that render what Bistre writes, so that the tests can measure it. */
export const ensureRenderers = () => {
  const missing = [
    ['pdftoppm', 'poppler-utils'],
    ['rsvg-convert', 'librsvg2-bin'],
  ].filter(([program]) => !onPath(program));
  if (missing.length > 0)
    aptInstall(
      missing.map(([, name]) => name),
      'The tests render PDF and SVG files to measure them.',
    );
};

export const freePort = (from = 0) =>
  new Promise((done) => {
    const probe = createServer();
    probe.on('error', () => done(freePort(from === 0 ? 0 : from + 1)));
    probe.listen(from, '127.0.0.1', () => {
      const { port } = probe.address();
      probe.close(() => done(port));
    });
  });

/** The unprivileged user PostgreSQL runs as when we are root. */
const serverUser = () => {
  for (const name of ['postgres', 'nobody']) {
    try {
      return {
        name,
        uid: Number(execFileSync('id', ['-u', name], { encoding: 'utf8' })),
        gid: Number(execFileSync('id', ['-g', name], { encoding: 'utf8' })),
      };
    } catch {
      // Not on this machine; try the next.
    }
  }
  return fail(
    'PostgreSQL does not run as root, and neither user postgres nor nobody exists here. Start Bistre as a normal user.',
  );
};

/** Whether everybody may pass through all folders above `path`. */
const reachable = (path) => {
  for (let dir = dirname(path); dir !== '/'; dir = dirname(dir)) {
    if (existsSync(dir) && (statSync(dir).mode & 0o001) === 0) return false;
  }
  return true;
};

/** Where data are kept: BISTRE_DATA, else .bistre/; for root, a place its server user can reach. */
export const dataFolder = () => {
  const wanted = resolve(process.env.BISTRE_DATA ?? join(root, '.bistre'));
  if (!isRoot || reachable(join(wanted, 'x'))) return wanted;
  const shared = join('/var/lib/bistre', Buffer.from(root).toString('hex').slice(-24));
  say(`PostgreSQL’s user cannot reach ${wanted}; the data are kept in ${shared}.`);
  return shared;
};

/**
 * A private PostgreSQL cluster in `folder`, on loopback. Starts it, or finds it running.
 * @returns its URL and a function that stops it
 */
export const startCluster = async (folder, { durable = true } = {}) => {
  const bin = ensurePostgres();
  const user = isRoot ? serverUser() : null;
  const as = user ? { uid: user.uid, gid: user.gid } : {};
  const env = { ...process.env, LC_ALL: 'C.UTF-8', ...(user ? { HOME: '/tmp', USER: user.name } : {}) };
  const data = join(folder, 'postgres');
  mkdirSync(folder, { recursive: true, mode: 0o755 });
  const pg = (program, args) => run(join(bin, program), args, { ...as, env, cwd: '/' });
  if (!existsSync(join(data, 'PG_VERSION'))) {
    rmSync(data, { recursive: true, force: true });
    mkdirSync(data, { recursive: true, mode: 0o700 });
    if (user) chownSync(data, user.uid, user.gid);
    say('Making a private PostgreSQL cluster …');
    pg('initdb', [
      '-D',
      data,
      '-U',
      'bistre',
      '-E',
      'UTF8',
      '--locale=C.UTF-8',
      '--auth=trust',
      ...(durable ? [] : ['--no-sync']),
    ]);
  }
  const version = readFileSync(join(data, 'PG_VERSION'), 'utf8').trim();
  if (!bin.includes(`/${version}/`) && bin.startsWith('/usr/lib/postgresql')) {
    const right = join('/usr/lib/postgresql', version, 'bin');
    if (!existsSync(right))
      fail(
        `The data in ${data} belong to PostgreSQL ${version}, which is not installed. Install postgresql-${version}, or move the folder away.`,
      );
  }
  const running = () => {
    try {
      const [pid, , , port] = readFileSync(join(data, 'postmaster.pid'), 'utf8').split('\n');
      process.kill(Number(pid), 0);
      return Number(port);
    } catch (error) {
      if (error.code === 'EPERM') return Number(readFileSync(join(data, 'postmaster.pid'), 'utf8').split('\n')[3]);
      return null;
    }
  };
  let port = running();
  let mine = false;
  if (port) {
    const alive =
      spawnSync(join(bin, 'pg_isready'), ['-h', '127.0.0.1', '-p', String(port)], { stdio: 'ignore' }).status === 0;
    if (!alive) port = null;
  }
  if (!port) {
    port = await freePort(0);
    const options = [
      `-c listen_addresses=127.0.0.1`,
      `-c port=${port}`,
      `-c unix_socket_directories=''`,
      ...(durable ? [] : ['-c fsync=off', '-c synchronous_commit=off', '-c full_page_writes=off']),
    ].join(' ');
    pg('pg_ctl', ['-D', data, '-w', '-t', '60', '-l', join(data, 'server.log'), '-o', options, 'start']);
    mine = true;
  }
  const stop = () => {
    if (mine)
      spawnSync(join(bin, 'pg_ctl'), ['-D', data, '-m', 'fast', '-w', 'stop'], {
        ...as,
        env,
        cwd: '/',
        stdio: 'ignore',
      });
    mine = false;
  };
  const psql = (database, text) =>
    run(
      join(bin, 'psql'),
      ['-h', '127.0.0.1', '-p', String(port), '-U', 'bistre', '-d', database, '-v', 'ON_ERROR_STOP=1', '-qtAc', text],
      { env, cwd: '/' },
    );
  const database = (name) => {
    if (psql('postgres', `select 1 from pg_database where datname = '${name}'`).trim() !== '1')
      psql('postgres', `create database ${name}`);
    return `postgres://bistre@127.0.0.1:${port}/${name}`;
  };
  return { port, database, psql, stop };
};

/** A folder for a throw-away cluster, outside the project so that any user reaches it. */
export const scratchFolder = (name) => {
  const base = isRoot ? '/tmp' : tmpdir();
  const folder = mkdtempSync(join(base, `bistre-${name}-`));
  // mkdtemp makes it private; PostgreSQL’s user must pass through.
  run('chmod', ['755', folder]);
  return folder;
};

const newest = (path) => {
  const stat = statSync(path);
  if (!stat.isDirectory()) return stat.mtimeMs;
  return Math.max(
    stat.mtimeMs,
    ...readdirSync(path)
      .filter((n) => n !== 'node_modules' && n !== 'dist')
      .map((n) => newest(join(path, n))),
  );
};

/** Builds pages and server when a source is newer than what was built. */
export const ensureBuilt = () => {
  const outputs = ['web/dist/index.html', 'server/dist/main.mjs'].map((f) => join(root, f));
  const sources = ['core', 'contract', 'server', 'web', 'package-lock.json'].map((f) => join(root, f));
  const built = outputs.every((f) => existsSync(f)) ? Math.min(...outputs.map((f) => statSync(f).mtimeMs)) : 0;
  if (built > Math.max(...sources.map(newest))) return;
  say('Building …');
  run('npm', ['run', 'build', '-w', 'web', '--silent']);
  run('npm', ['run', 'build', '-w', 'server', '--silent']);
};

/** Starts the built server; resolves with its address once it says that it is ready. */
export const startServer = (env, { quiet = false } = {}) =>
  new Promise((done, reject) => {
    const child = spawn(process.execPath, ['--enable-source-maps', join(root, 'server/dist/main.mjs')], {
      cwd: root,
      env: { ...process.env, ...env },
      stdio: ['ignore', 'pipe', quiet ? 'pipe' : 'inherit'],
    });
    let output = '';
    let errors = '';
    child.stderr?.on('data', (chunk) => (errors = `${errors}${chunk}`.slice(-4000)));
    child.stdout.on('data', (chunk) => {
      output += chunk;
      if (!quiet) process.stdout.write(chunk);
      const match = /ready at (\S+)/.exec(output);
      if (match) done({ child, address: match[1] });
    });
    child.on('exit', (code) => reject(new Error(`the server stopped with code ${code}\n${errors}`)));
  });

export const stopChild = (child) =>
  new Promise((done) => {
    if (!child || child.exitCode !== null || child.signalCode !== null) return done();
    child.on('exit', done);
    child.kill('SIGTERM');
    setTimeout(() => child.kill('SIGKILL'), 4000).unref();
  });
