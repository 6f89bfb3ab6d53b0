// Scaffolding of the ways' redesign. Writes what all batches come to, or compares two such files:
//   node scripts/same.mjs FILE          node scripts/same.mjs FILE OTHER
import { readFileSync } from 'node:fs';
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { build } from 'esbuild';
import { root, say } from './lib/say.mjs';
import { throwAway } from './test-servers.mjs';

const [file, other] = process.argv.slice(2);

/** What was wrong and is right, or said in other words; each with its reason. */
const ALLOWED = [
  {
    path: /title$|detail$/,
    was: /Board back|Labelled/,
    is: /Bed clean|Tape and waste/,
    why: 'no board under a camera',
  },
  { path: /title$|detail$/, was: /Drive back|Power off/, is: /Cradle back|Labelled with/, why: 'a cradle is no drive' },
  { path: /waits$/, was: /take the first sheet/, is: /burn the first piece/, why: 'offcuts are no sheet' },
  {
    path: /files/,
    was: /refused/,
    is: /not held in a way that has/,
    why: 'files that a way does not have, said alike',
  },
  { path: /files . board/, was: /./, is: /a board to cut/, why: 'work without a board to cut had files of one' },
  { path: /load.dxf/, was: /./, is: /nothing to engrave yet/, why: 'a DXF of nothing was let out, the SVG was not' },
  {
    path: /sources/,
    was: /^(pointer|aiming|return) /,
    is: /^(pointer|aiming|return) /,
    why: '1.731 became √(−ln 0.05)',
  },
  { path: /walk/, was: /Read two marks first/, is: /Read two marks at/, why: 'one sentence for load and walk' },
];
const allowed = (path, was, is) => ALLOWED.some((a) => a.path.test(path) && a.was.test(was) && a.is.test(is));

/** Where two values differ, as paths. */
const differences = (a, b, path, found) => {
  if (JSON.stringify(a) === JSON.stringify(b) || allowed(path, String(a), String(b))) return;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null)
    found.push(`${path}\n    was ${JSON.stringify(a)?.slice(0, 300)}\n    is  ${JSON.stringify(b)?.slice(0, 300)}`);
  else
    for (const key of new Set([...Object.keys(a), ...Object.keys(b)]))
      differences(a[key], b[key], `${path} / ${key}`, found);
};

if (other) {
  const found = [];
  const [was, is] = [file, other].map((f) => JSON.parse(readFileSync(f, 'utf8')));
  for (const key of new Set([...Object.keys(was), ...Object.keys(is)])) differences(was[key], is[key], key, found);
  say(found.slice(0, 400).join('\n'));
  say(`${found.length} differences in ${Object.keys(is).length} states`);
  process.exit(found.length > 0 ? 1 : 0);
}
const { url, stop } = await throwAway('same', { server: false });
const { dependencies } = JSON.parse(readFileSync(join(root, 'server/package.json'), 'utf8'));
const outfile = join(root, 'server/dist/same.mjs');
await build({
  entryPoints: [join(root, 'server/src/testing/same.ts')],
  outfile,
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  external: [
    ...Object.keys(dependencies).filter((name) => !name.startsWith('@bistre/')),
    '@fontsource/*',
    'hersheytext',
    'hersheytext/*',
  ],
  banner: {
    js: "import { createRequire as __createRequire } from 'node:module'; const require = __createRequire(import.meta.url);",
  },
  logLevel: 'error',
});
const start = Date.now();
const { status } = spawnSync(process.execPath, ['--enable-source-maps', outfile, file, url], { stdio: 'inherit' });
say(`${((Date.now() - start) / 1000).toFixed(0)} s`);
await stop();
process.exit(status ?? 1);
