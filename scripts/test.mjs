// npm test [-- bench=1]: set-up, formatting, lint, rooms and circles, types, unit, server against PostgreSQL, end to end in
// Chromium; and whether the benchmarks run, when asked.
import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensurePostgres } from './lib/cluster.mjs';
import { ensureBuilt, ensureChromium, ensurePackages, ensureRenderers } from './lib/install.mjs';
import { root, say } from './lib/say.mjs';

ensurePackages();
ensurePostgres();
const chromium = ensureChromium();
ensureRenderers();
const { throwAway } = await import('./test-servers.mjs');

const children = new Set();
let current = null;
const cleanUp = async () => {
  for (const child of children) child.kill('SIGTERM');
  await current?.stop();
};
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => void cleanUp().then(() => process.exit(130)));

const command = (name, args, env = {}) =>
  new Promise((done) => {
    const child = spawn(name === 'node' ? process.execPath : join(root, 'node_modules', '.bin', name), args, {
      cwd: root,
      stdio: 'inherit',
      env: { ...process.env, ...env },
    });
    children.add(child);
    child.on('exit', (code) => {
      children.delete(child);
      done(code === 0);
    });
    child.on('error', () => done(false));
  });

let passed = 0;
let failed = 0;
const count = (good, bad) => {
  passed += good;
  failed += bad;
};
const step = async (title, job) => {
  const start = Date.now();
  say(`\n── ${title}`);
  await job();
  say(`── ${title}: ${((Date.now() - start) / 1000).toFixed(1)} s`);
};
const check = (title, name, args) => step(title, async () => count(...((await command(name, args)) ? [1, 0] : [0, 1])));

const reports = mkdtempSync(join(tmpdir(), 'bistre-reports-'));
const report = (file) => {
  try {
    return JSON.parse(readFileSync(join(reports, file), 'utf8'));
  } catch {
    return null;
  }
};

const FUZZ = 'server/src/http/fuzz';

/** Runs some of the unit tests against the current database and counts them. */
const jest = async (name, args) => {
  const good = await command('jest', [...args, '--json', `--outputFile=${join(reports, `${name}.json`)}`, '--ci'], {
    DATABASE_URL: current.url,
    BISTRE_CHROMIUM: chromium,
  });
  const result = report(`${name}.json`);
  const bad = result ? result.numFailedTests + result.numRuntimeErrorTestSuites : 1;
  count(result?.numPassedTests ?? 0, bad === 0 && !good ? 1 : bad);
};

const walks = () =>
  step('end to end and accessibility', async () => {
    current = await throwAway('e2e');
    const good = await command('playwright', ['test', '-c', 'e2e/playwright.config.ts'], {
      BISTRE_URL: current.address,
      BISTRE_CHROMIUM: chromium,
      BISTRE_JSON: join(reports, 'e2e.json'),
    });
    await current.stop();
    current = null;
    const stats = report('e2e.json')?.stats;
    if (stats) count(stats.expected, stats.unexpected + stats.flaky);
    if (!stats || (!good && stats.unexpected + stats.flaky === 0)) count(0, 1);
  });
/** What only reads the sources, on both cores: two lines of checks, each one by one. */
const checks = () =>
  Promise.all([
    (async () => {
      await check('formatting', 'prettier', ['--check', '--log-level', 'warn', '.']);
      await check('lint and dependency rule', 'eslint', ['.', '--max-warnings', '0']);
    })(),
    (async () => {
      await check('types', 'tsc', ['-p', 'tsconfig.json', '--noEmit']);
      await check('types of the pages', 'tsc', ['-p', 'web/tsconfig.json', '--noEmit']);
      await check('rooms and circles', 'depcruise', [
        '--config',
        'rooms.config.mjs',
        'core/src',
        'contract/src',
        'server/src',
        'web/src',
      ]);
    })(),
  ]);

try {
  await step('build', async () => {
    ensureBuilt();
    count(1, 0);
  });
  await checks();
  await step('unit and server', async () => {
    current = await throwAway('unit', { server: false });
    await jest('jest', ['--testPathIgnorePatterns', FUZZ]);
    // By itself: it says how long every answer takes, and others would take its time.
    await jest('fuzz', [FUZZ]);
    await current.stop();
    current = null;
  });
  // By themselves: a page that is busy moves under the pointer, and a walk fails that a hand would not.
  await walks();
  // Each thing once: what they measure is told by npm run bench.
  if (process.argv.includes('bench=1'))
    await check('benchmarks run to their end', 'node', ['scripts/bench.mjs', 'short=1']);
} catch (error) {
  process.stderr.write(`${error.stack ?? error}\n`);
  count(0, 1);
} finally {
  await cleanUp();
  rmSync(reports, { recursive: true, force: true });
}
say(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
