// Bundles the server, its threads and its tools with the project's own packages; what comes from the registry
// stays outside. `--watch` builds again on every change.
import { readFileSync } from 'node:fs';
import { build, context } from 'esbuild';

const { dependencies } = JSON.parse(readFileSync(new URL('./package.json', import.meta.url), 'utf8'));
const options = {
  absWorkingDir: new URL('.', import.meta.url).pathname,
  entryPoints: {
    main: 'src/main.ts',
    worker: 'src/work/worker.ts',
    foreign: 'src/work/foreign.ts',
    'reset-demo': 'src/reset-demo.ts',
    backup: 'src/backup/backup-now.ts',
    restore: 'src/backup/restore-now.ts',
  },
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  outdir: 'dist',
  outExtension: { '.js': '.mjs' },
  sourcemap: true,
  logLevel: 'warning',
  external: [
    ...Object.keys(dependencies).filter((name) => !name.startsWith('@bistre/')),
    '@fontsource/*',
    'hersheytext',
    'hersheytext/*',
  ],
  banner: {
    js: "import { createRequire as __createRequire } from 'node:module'; const require = __createRequire(import.meta.url);",
  },
};
if (process.argv.includes('--watch')) await (await context(options)).watch();
else await build(options);
