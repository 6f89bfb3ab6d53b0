import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { chmodSync, existsSync, mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

export const ROOT = join(__dirname, '..', '..');

export const scratch = (): string => {
  const folder = mkdtempSync(join(tmpdir(), 'bistre-start-'));
  // PostgreSQL’s own user must pass through.
  chmodSync(folder, 0o755);
  return folder;
};
export const environment = (data: string, more: object = {}): NodeJS.ProcessEnv => {
  const { DATABASE_URL: _url, PORT: _port, ...env } = process.env;
  return { ...env, BISTRE_DATA: data, BISTRE_THREADS: '1', ...more };
};

export const started: ChildProcess[] = [];

/** `npm start` as npm runs it, without npm; what it says, and its end. */
export class Start {
  said = '';
  readonly child: ChildProcess;
  readonly ended: Promise<number | null>;

  constructor(data: string, args: string[] = ['--empty'], more: object = {}) {
    this.child = spawn(process.execPath, [join(ROOT, 'scripts/start.mjs'), ...args], { env: environment(data, more) });
    started.push(this.child);
    this.child.stdout!.on('data', (chunk: Buffer) => (this.said += chunk.toString()));
    this.child.stderr!.on('data', (chunk: Buffer) => (this.said += chunk.toString()));
    this.ended = new Promise((done) => this.child.on('exit', (code) => done(code)));
  }

  async until(words: RegExp, times = 1): Promise<string> {
    const seen = (): string[] => this.said.match(new RegExp(words, 'g')) ?? [];
    for (let i = 0; i < 1_200 && seen().length < times; i += 1) {
      if (this.child.exitCode !== null) break;
      await new Promise((done) => setTimeout(done, 50));
    }
    if (seen().length < times) throw new Error(`never said ${String(words)}; it said:\n${this.said}`);
    return seen().at(-1)!;
  }

  async ready(times = 1): Promise<string> {
    return (await this.until(/ready at http:\/\/localhost:\d+/, times)).replace('ready at ', '');
  }

  async stop(signal: NodeJS.Signals = 'SIGINT'): Promise<number | null> {
    this.child.kill(signal);
    return this.ended;
  }
}

export const postgresOf = (data: string): number =>
  Number(readFileSync(join(data, 'postgres/postmaster.pid'), 'utf8').split('\n')[0]);
export const lives = (pid: number): boolean => {
  try {
    process.kill(pid, 0);
    // One that has ended and only waits to be taken note of (Linux, proc(5)) does not live.
    return !/^State:\s+Z/m.test(existsSync('/proc') ? readFileSync(`/proc/${pid}/status`, 'utf8') : '');
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
};
export const serverOf = (start: Start): number => {
  const { stdout } = spawnSync('pgrep', ['-P', String(start.child.pid), '-f', 'dist/main.mjs'], { encoding: 'utf8' });
  return Number(stdout.trim().split('\n')[0]);
};
export const health = async (address: string): Promise<number> =>
  fetch(`${address}/api/health`, { signal: AbortSignal.timeout(8_000) }).then(
    (r) => r.status,
    () => 0,
  );
export const healthy = async (address: string): Promise<void> => {
  for (let i = 0; i < 400 && (await health(address)) !== 200; i += 1) await new Promise((done) => setTimeout(done, 50));
  expect(await health(address)).toBe(200);
};
