// npm run bench [-- name] [-- short=1]: every benchmark prints one table, with the reference it is measured against. Short:
// each thing once, to see that all of them run. Fails when one does not run to its end; figures never fail it.
import { spawnSync } from 'node:child_process';
import { mkdirSync, readdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { ensureBuilt, ensureChromium, ensurePackages } from './lib/install.mjs';
import { root, say } from './lib/say.mjs';

ensurePackages();
const { throwAway } = await import('./test-servers.mjs');
const words = process.argv.slice(2);
const short = words.includes('short=1');
const only = words.find((w) => !w.includes('='));
const broken = [];
const { build } = await import('esbuild');
const out = join(root, 'bench', '.out');
mkdirSync(out, { recursive: true });
/** A benchmark with Bistre's own code in one file, as it ships; packages stay as they are installed. */
const bundled = async (file) => {
  const outfile = join(out, file.replace(/\.ts$/, '.mjs'));
  const own = {
    name: 'own',
    setup: (b) =>
      b.onResolve({ filter: /^[^./]/ }, (a) => ({
        external: !a.path.startsWith('@bistre/') && a.kind !== 'entry-point',
        ...(a.path.startsWith('@bistre/') || a.kind === 'entry-point' ? {} : { path: a.path }),
      })),
  };
  await build({
    entryPoints: [join(root, 'bench', file)],
    outfile,
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    plugins: [own],
    logLevel: 'error',
  });
  return outfile;
};
for (const file of readdirSync(join(root, 'bench')).filter(
  (f) => f.endsWith('.bench.ts') && (!only || f.includes(only)),
)) {
  say(`\n── ${file}`);
  const start = Date.now();
  const bistre = /beside|log|marks|pages|papers|picture/.test(file) ? await throwAway('bench') : null;
  if (bistre) ensureBuilt();
  const env = {
    ...process.env,
    ...(bistre ? { BISTRE_URL: bistre.address, DATABASE_URL: bistre.url } : {}),
    ...(/marks|pages|picture/.test(file) ? { BISTRE_CHROMIUM: ensureChromium() } : {}),
    ...(short ? { BISTRE_SHORT: 'yes' } : {}),
  };
  const { status } = spawnSync(process.execPath, ['--expose-gc', await bundled(file)], {
    cwd: root,
    stdio: 'inherit',
    env,
  });
  if (status !== 0) broken.push(file);
  await bistre?.stop();
  say(`── ${file}: ${((Date.now() - start) / 1000).toFixed(0)} s`);
}
rmSync(out, { recursive: true, force: true });
if (broken.length > 0) {
  say(`\nDid not run to the end: ${broken.join(', ')}`);
  process.exitCode = 1;
}
