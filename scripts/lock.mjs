// npm run lock: renews package-lock.json so that it names no registry and `npm ci` accepts it
// everywhere, also where a registry does not carry the binaries of other platforms.
import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root, run } from './lib/say.mjs';

const file = join(root, 'package-lock.json');
if (!process.argv.includes('--complete')) {
  rmSync(file, { force: true });
  rmSync(join(root, 'node_modules'), { recursive: true, force: true });
  run('npm', ['install', '--package-lock-only', '--no-audit', '--no-fund']);
}
const lock = JSON.parse(readFileSync(file, 'utf8'));
const SYSTEMS = ['darwin', 'linux', 'win32', 'android', 'freebsd', 'openbsd', 'netbsd', 'sunos', 'aix', 'openharmony'];
const CPUS = ['arm64', 'x64', 'ia32', 'arm', 'ppc64', 's390x', 'riscv64', 'loong64', 'mips64el', 'wasm32'];
let added = 0;
for (const entry of Object.values(lock.packages)) {
  if (entry.resolved?.startsWith('http')) delete entry.resolved;
}
for (const [path, entry] of Object.entries(lock.packages)) {
  for (const [name, version] of Object.entries(entry.optionalDependencies ?? {})) {
    const key = `node_modules/${name}`;
    if (lock.packages[key] || lock.packages[`${path}/${key}`]) continue;
    const words = name
      .split(/[-/@]/)
      .flatMap((w) => (w === 'ppc64le' ? ['ppc64'] : w.startsWith('arm') && w !== 'arm64' ? ['arm'] : [w]));
    const os = SYSTEMS.filter((s) => words.includes(s));
    const cpu = CPUS.filter((c) => words.includes(c));
    lock.packages[key] = {
      version: version.replace(/^[^\d]*/, ''),
      optional: true,
      ...(entry.dev ? { dev: true } : {}),
      // No system in the name means it is for none of ours (plain web assembly, say).
      os: os.length > 0 ? os : ['none'],
      ...(cpu.length > 0 ? { cpu } : {}),
    };
    added += 1;
  }
}
lock.packages = Object.fromEntries(Object.entries(lock.packages).sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0)));
writeFileSync(file, `${JSON.stringify(lock, null, 2)}\n`);
process.stdout.write(`package-lock.json: ${added} binaries of other platforms added by name.\n`);
