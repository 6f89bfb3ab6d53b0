import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** As the scripts ask: plain Node, in a process of its own. */
const newest = (folder: string): number => {
  const install = join(__dirname, 'lib', 'install.mjs');
  const asked = `import { newest } from ${JSON.stringify(install)}; process.stdout.write(String(newest(${JSON.stringify(folder)})));`;
  const { stdout, stderr } = spawnSync(process.execPath, ['--input-type=module', '-e', asked], { encoding: 'utf8' });
  if (stderr) throw new Error(stderr);
  return Math.round(Number(stdout));
};

describe('whether what was built is older than its source', () => {
  const folder = mkdtempSync(join(tmpdir(), 'bistre-newest-'));
  afterAll(() => rmSync(folder, { recursive: true }));
  const at = (path: string, seconds: number): void => utimesSync(join(folder, path), seconds, seconds);

  it('is told by the sources alone: making the build does not make them newer', () => {
    mkdirSync(join(folder, 'src'));
    writeFileSync(join(folder, 'src', 'a.ts'), '');
    at('src/a.ts', 1_000);
    at('src', 1_000);
    mkdirSync(join(folder, 'dist'));
    writeFileSync(join(folder, 'dist', 'main.mjs'), '');
    // The folder itself was changed just now, by what was made in it.
    expect(newest(folder)).toBe(1_000_000);
  });

  it('knows a changed file, and one that was taken away', () => {
    at('src/a.ts', 2_000);
    expect(newest(folder)).toBe(2_000_000);
    at('src', 3_000);
    expect(newest(folder)).toBe(3_000_000);
  });
});
