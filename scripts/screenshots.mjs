// npm run screenshots: retakes docs/screenshots from a fresh demo shop.
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { ensureChromium, ensurePackages } from './lib/install.mjs';
import { root } from './lib/say.mjs';

ensurePackages();
const chromium = ensureChromium();
const { throwAway } = await import('./test-servers.mjs');
const bistre = await throwAway('pictures');
const { status } = spawnSync(join(root, 'node_modules/.bin/playwright'), ['test', '-c', 'e2e/screenshots.config.ts'], {
  cwd: root,
  stdio: 'inherit',
  env: { ...process.env, BISTRE_URL: bistre.address, BISTRE_CHROMIUM: chromium, TZ: 'UTC' },
});
await bistre.stop();
process.exit(status ?? 1);
