// npm run bench: every benchmark prints one table, with the reference it is measured against.
import { spawnSync } from 'node:child_process';
import { mkdirSync, readdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { ensureBuilt, ensureChromium, ensurePackages } from './lib/install.mjs';
import { root, say } from './lib/say.mjs';

ensurePackages();
const { throwAway } = await import('./test-servers.mjs');
const only = process.argv[2];
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
  const bistre = /beside|log|marks|pages|picture/.test(file) ? await throwAway('bench') : null;
  if (bistre) ensureBuilt();
  const env = {
    ...process.env,
    ...(bistre ? { BISTRE_URL: bistre.address, DATABASE_URL: bistre.url } : {}),
    ...(/marks|pages|picture/.test(file) ? { BISTRE_CHROMIUM: ensureChromium() } : {}),
  };
  spawnSync(process.execPath, ['--expose-gc', await bundled(file)], { cwd: root, stdio: 'inherit', env });
  await bistre?.stop();
}
rmSync(out, { recursive: true, force: true });
