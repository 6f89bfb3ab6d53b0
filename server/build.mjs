// Bundles the server and the project's own packages; what comes from the registry stays outside.
import { readFileSync } from 'node:fs';
import { build } from 'esbuild';

const { dependencies } = JSON.parse(readFileSync(new URL('./package.json', import.meta.url), 'utf8'));
await build({
  absWorkingDir: new URL('.', import.meta.url).pathname,
  entryPoints: ['src/main.ts', 'src/reset-demo.ts'],
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
});
