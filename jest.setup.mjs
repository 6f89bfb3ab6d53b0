import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';

/** The server's threads run as they ship: built once before the tests that start a server. */
export default function setup() {
  if (process.env.DATABASE_URL)
    execFileSync(process.execPath, [fileURLToPath(new URL('server/build.mjs', import.meta.url))], { stdio: 'inherit' });
}
