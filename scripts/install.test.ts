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

/** What the scripts say of a Node.js, '' where it may stay. */
const saidOf = (version: string): string => {
  const asked = `import { mustBeNode } from ${JSON.stringify(join(__dirname, 'lib', 'install.mjs'))}; try { mustBeNode(${JSON.stringify(version)}, '>=20.19'); } catch (e) { process.stdout.write(e.message); }`;
  return spawnSync(process.execPath, ['--input-type=module', '-e', asked], { encoding: 'utf8' }).stdout;
};

describe('the Node.js that is there', () => {
  it('is as new as the packages need, or is named', () => {
    expect(['v20.19.0', 'v20.20.2', 'v22.0.0', 'v24.1.0'].map(saidOf)).toEqual(['', '', '', '']);
    expect(saidOf('v20.18.3')).toBe('Bistre needs Node.js 20.19 or later; this is 20.18.3. Install a newer one and start again.'); // prettier-ignore
    expect(saidOf('v18.20.0')).toMatch(/this is 18\.20\.0/);
  });
});

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
