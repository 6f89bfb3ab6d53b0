// Words, programs and users: what everything else here needs. Plain Node, no dependency: it runs before npm ci.
import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { delimiter, dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = dirname(dirname(dirname(fileURLToPath(import.meta.url))));
export const isRoot = process.getuid?.() === 0;

export const say = (text) => process.stdout.write(`${text}\n`);

/** A failure that a person can act on: said in its words, without a stack, with exit code 1. */
export class Refusal extends Error {}
export const refuse = (text) => {
  throw new Refusal(text);
};

/** What the system's own refusals are in words; a person can act on these. */
const SYSTEM = {
  ENOSPC: 'The disk is full. What was saved is safe. Make room and start again.',
  EDQUOT: 'The disk’s share for this user is used up. What was saved is safe. Make room and start again.',
  EROFS: 'The disk can only be read. What was saved is safe. Name another folder with BISTRE_DATA.',
};

/** Says what went wrong: a refusal in its words, anything else with where it happened. */
export const complain = (error) =>
  process.stderr.write(
    `${error instanceof Refusal ? error.message : (SYSTEM[error?.code] ?? error?.stack ?? error)}\n`,
  );

/** Leaves when npm alone was ended: it does not tell what it started. Does nothing outside npm. */
export const endWithNpm = (leave) => {
  if (!process.env.npm_lifecycle_event) return;
  const parent = process.ppid;
  setInterval(() => {
    if (process.ppid !== parent) leave();
  }, 1_000).unref();
};

export const onPath = (name) =>
  (process.env.PATH ?? '')
    .split(delimiter)
    .map((dir) => join(dir, name))
    .find((file) => existsSync(file));

/** Runs a command to its end; throws with its output when it fails. */
export const run = (command, args, options = {}) => {
  const result = spawnSync(command, args, {
    cwd: root,
    encoding: 'utf8',
    stdio: [options.input === undefined ? 'ignore' : 'pipe', 'pipe', 'pipe'],
    ...options,
  });
  if (result.status !== 0)
    throw new Refusal(
      `${command} ${args.join(' ')} failed:\n${result.stdout ?? ''}${result.stderr ?? ''}${result.error?.message ?? ''}`.trim(),
    );
  return result.stdout ?? '';
};

/** The unprivileged user PostgreSQL runs as when we are root; null when we are not. */
export const serverUser = () => {
  if (!isRoot) return null;
  for (const name of ['postgres', 'nobody']) {
    try {
      const id = (flag) =>
        Number(execFileSync('id', [flag, name], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] }));
      return { name, uid: id('-u'), gid: id('-g') };
    } catch {
      // Not on this machine; try the next.
    }
  }
  return refuse(
    'PostgreSQL does not run as root, and neither user postgres nor nobody exists here. Start Bistre as a normal user.',
  );
};
