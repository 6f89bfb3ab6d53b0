// The data folder: which one it is, whether it is ours, and who is at it.
import { execFileSync } from 'node:child_process';
import {
  chownSync,
  closeSync,
  existsSync,
  fsyncSync,
  mkdirSync,
  mkdtempSync,
  openSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { isRoot, refuse, root, run, say, serverUser } from './say.mjs';

/** What Bistre keeps in its folder, beside what is in it from earlier releases. */
const OWN = ['bistre.json', 'running.json', 'postgres', 'run', 'backups', 'password.json'];

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

/** A folder for a throw-away cluster, outside the project so that any user reaches it. */
export const scratchFolder = (name) => {
  const folder = mkdtempSync(join(isRoot ? '/tmp' : tmpdir(), `bistre-${name}-`));
  // mkdtemp makes it private; PostgreSQL’s user must pass through.
  run('chmod', ['755', folder]);
  return folder;
};

const nameOf = (uid) => {
  try {
    return execFileSync('id', ['-nu', String(uid)], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] }).trim();
  } catch {
    return `user ${uid}`;
  }
};

const readJson = (file) => {
  try {
    return JSON.parse(readFileSync(file, 'utf8'));
  } catch {
    return null;
  }
};

/** Writes a small file whole or not at all. */
export const writeWhole = (file, text, mode = 0o644) => {
  const part = `${file}.${process.pid}.part`;
  const handle = openSync(part, 'w', mode);
  writeFileSync(handle, text);
  fsyncSync(handle);
  closeSync(handle);
  renameSync(part, file);
};

const NOTHING = 'Nothing in it was touched.';
const ELSEWHERE = 'Name another folder with BISTRE_DATA';

/** Refuses a folder of PostgreSQL's that is none, damaged, or somebody else's. */
const examineCluster = (data) => {
  if (!existsSync(data)) return;
  const owner = statSync(data).uid;
  const runner = serverUser()?.uid ?? process.getuid?.() ?? owner;
  if (owner !== runner)
    refuse(
      `${data} belongs to ${nameOf(owner)}, and PostgreSQL would run as ${nameOf(runner)} here. ${NOTHING} Start Bistre as ${nameOf(owner)}, or name another folder with BISTRE_DATA.`,
    );
  if (readdirSync(data).length === 0) return;
  if (!existsSync(join(data, 'PG_VERSION')))
    refuse(
      `${data} is not empty and has no PG_VERSION: it is no database of Bistre’s, or a damaged one. ${NOTHING} ${ELSEWHERE}, or move it away and bring the last copy back: npm run restore -- ${join(dirname(data), 'backups', '…')}`,
    );
  const control = join(data, 'global', 'pg_control');
  if (!existsSync(control) || readFileSync(control).every((byte) => byte === 0))
    refuse(
      `The database in ${data} is damaged: its pg_control is ${existsSync(control) ? 'empty' : 'gone'}. ${NOTHING} Bring the last copy back into a new database beside it: npm start -- --from-backup`,
    );
};

const opened = (folder) => {
  if (existsSync(folder) && !statSync(folder).isDirectory()) refuse(`${folder} is a file. ${ELSEWHERE}.`);
  const inside = existsSync(folder) ? readdirSync(folder) : [];
  const known = readJson(join(folder, 'bistre.json'));
  const cluster = known?.cluster ?? 'postgres';
  const ours = known !== null || existsSync(join(folder, 'postgres'));
  if (!ours && inside.length > 0)
    refuse(
      `${folder} is not empty and not a data folder of Bistre (there is ${inside.slice(0, 3).join(', ')}${inside.length > 3 ? ' …' : ''}). ${NOTHING} ${ELSEWHERE}.`,
    );
  if (known === null) {
    const strangers = inside.filter((name) => !OWN.includes(name));
    if (strangers.length > 0)
      refuse(`${folder} holds ${strangers.slice(0, 3).join(', ')} beside a database. ${NOTHING} ${ELSEWHERE}.`);
  }
  examineCluster(join(folder, cluster));
  mkdirSync(folder, { recursive: true, mode: 0o755 });
  if (known === null) writeWhole(join(folder, 'bistre.json'), `${JSON.stringify({ bistre: 1, cluster })}\n`);
  return { ...known, folder, cluster: join(folder, cluster), backups: join(folder, 'backups') };
};

/**
 * What a data folder says of itself, made when it is empty. A folder that is not empty and not ours is refused
 * and never touched.
 */
export const openFolder = (folder) => {
  try {
    return opened(folder);
  } catch (error) {
    if (!['EACCES', 'EPERM', 'EROFS', 'ENOSPC'].includes(error.code)) throw error;
    return refuse(
      error.code === 'ENOSPC'
        ? `The disk of ${folder} is full. ${NOTHING} Make room and start again.`
        : `${folder} cannot be used by ${nameOf(process.getuid?.() ?? 0)}: ${error.message}. ${NOTHING} ${ELSEWHERE}.`,
    );
  }
};

/** Remembers something of a folder for its life: its address, its cluster. */
export const remember = (folder, what) => {
  const file = join(folder, 'bistre.json');
  writeWhole(file, `${JSON.stringify({ bistre: 1, ...readJson(file), ...what })}\n`);
};

/** A folder inside the data folder that only PostgreSQL's user enters. */
export const privateFolder = (path) => {
  const user = serverUser();
  mkdirSync(path, { recursive: true, mode: 0o700 });
  run('chmod', ['700', path]);
  if (user) chownSync(path, user.uid, user.gid);
  return path;
};

/** What the system says of a process: its state, and when it began; null where it does not tell. */
const statOf = (pid) => {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ');
    return { state: fields[0], since: fields[19] };
  } catch {
    return null;
  }
};

/** Whether a process runs; one that has ended and only waits to be taken note of does not. */
export const lives = (pid) => {
  try {
    process.kill(pid, 0);
  } catch (error) {
    if (error.code !== 'EPERM') return false;
  }
  return statOf(pid)?.state !== 'Z';
};

/** Whether the very process runs, not a later one of the same number. */
const alive = ({ pid, since }) => {
  const now = statOf(pid)?.since ?? null;
  return lives(pid) && (since === null || now === null || now === since);
};

/**
 * Takes a folder for this process alone until it ends. A second taker is told who is at it and where; what a
 * process left that is gone is taken over.
 *
 * @returns `say(address)` to tell others where it is served, and `free()`
 */
export const lockFolder = async (folder) => {
  const file = join(folder, 'running.json');
  const mine = { pid: process.pid, since: statOf(process.pid)?.since ?? null, address: null };
  for (let tries = 0; ; tries += 1) {
    try {
      writeFileSync(file, JSON.stringify(mine), { flag: 'wx' });
      break;
    } catch (error) {
      if (error.code !== 'EEXIST') throw error;
    }
    // Another may be writing it at this moment.
    const other = readJson(file) ?? (await pause(100), readJson(file));
    if (other && alive(other))
      refuse(
        `Bistre already runs from ${folder}${other.address ? `, at ${other.address}` : ', and is just starting'} (process ${other.pid}). Use that one, or stop it first with Ctrl-C in its window or: kill ${other.pid}`,
      );
    if (tries > 5) refuse(`${file} cannot be taken over. Remove it when no Bistre runs from this folder.`);
    rmSync(file, { force: true });
  }
  // Two that took over at the same moment: the later one has it.
  await pause(30);
  if (readJson(file)?.pid !== process.pid) refuse(`Another Bistre has just started from ${folder}.`);
  return {
    say: (address) => writeWhole(file, JSON.stringify({ ...mine, address })),
    free: () => {
      if (readJson(file)?.pid === process.pid) rmSync(file, { force: true });
    },
  };
};
