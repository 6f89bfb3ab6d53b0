// Installs what is missing, or says exactly what to install.
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { isRoot, onPath, refuse, root, run, say } from './say.mjs';

/** Installs Debian packages, or says exactly what to install. */
export const aptInstall = (packages, why) => {
  const wanted = `apt-get install --no-install-recommends ${packages.join(' ')}`;
  const apt = onPath('apt-get');
  if (!apt) refuse(`${why} This machine has no apt. Install, by its own package manager: ${packages.join(', ')}.`);
  if (!isRoot && !onPath('sudo')) refuse(`${why} Run this as root once, then start again:\n  ${wanted}`);
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
    refuse(`The packages could not be installed. Try by hand:\n  ${isRoot ? '' : 'sudo '}${wanted}`);
};

/** Refuses a Node.js that is older than the packages need: the least is in package.json. */
export const mustBeNode = (version, least) => {
  const [have, need] = [version, least].map((v) => v.replace(/^\D*/, '').split('.').map(Number));
  const older = have[0] !== need[0] ? have[0] < need[0] : have[1] < (need[1] ?? 0);
  if (older)
    refuse(
      `Bistre needs Node.js ${need.join('.')} or later; this is ${version.replace(/^v/, '')}. Install a newer one and start again.`,
    );
};

/** npm packages, when the lock file is newer than what is installed. */
export const ensurePackages = () => {
  mustBeNode(process.version, JSON.parse(readFileSync(join(root, 'package.json'), 'utf8')).engines.node);
  const lock = readFileSync(join(root, 'package-lock.json'), 'utf8');
  const stamp = join(root, 'node_modules', '.bistre-lock');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  say('Installing npm packages …');
  const result = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: root,
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  if (result.status !== 0)
    refuse('npm could not install the packages. Check the connection to your npm registry and start again.');
  writeFileSync(stamp, lock);
};

export const ensureChromium = () => {
  const find = () => process.env.BISTRE_CHROMIUM ?? ['chromium', 'chromium-browser'].map(onPath).find(Boolean);
  const found = find();
  if (found) return found;
  aptInstall(['chromium'], 'No Chromium was found; the tests drive the real application in it.');
  return find() ?? refuse('Chromium was installed but not found.');
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

const MADE = ['node_modules', 'dist'];

/**
 * When a file was last changed, or what is in a folder, ms. What is made from it does not count, nor the folder’s
 * own time where that lies in it: making it changes that time, and everything would look older than its source.
 */
export const newest = (path) => {
  const stat = statSync(path);
  if (!stat.isDirectory()) return stat.mtimeMs;
  const names = readdirSync(path);
  return Math.max(
    names.some((n) => MADE.includes(n)) ? 0 : stat.mtimeMs,
    ...names.filter((n) => !MADE.includes(n)).map((n) => newest(join(path, n))),
  );
};

/** Builds pages and server when a source is newer than what was built. */
export const ensureBuilt = () => {
  const outputs = ['web/dist/index.html', 'server/dist/main.mjs', 'server/dist/worker.mjs'].map((f) => join(root, f));
  const sources = ['core', 'contract', 'server', 'web', 'package-lock.json'].map((f) => join(root, f));
  const built = outputs.every((f) => existsSync(f)) ? Math.min(...outputs.map((f) => statSync(f).mtimeMs)) : 0;
  if (built > Math.max(...sources.map(newest))) return;
  say('Building …');
  run('npm', ['run', 'build', '-w', 'web', '--silent']);
  run('npm', ['run', 'build', '-w', 'server', '--silent']);
};
