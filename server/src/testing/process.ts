import { spawn, type ChildProcess } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

const MAIN = fileURLToPath(new URL('../../dist/main.mjs', import.meta.url));

/** The built server as a process of its own. */
export interface Running {
  readonly child: ChildProcess;
  readonly base: string;
  readonly port: number;
  /** Memory it holds, bytes; null where the machine does not tell. */
  readonly memory: () => number | null;
  /** What it logged as a bug. */
  readonly bugs: string[];
  readonly stop: () => Promise<void>;
}

/** Starts the built server on a database; resolves when it is ready. */
export const startProcess = (url: string, port = 0): Promise<Running> =>
  new Promise((done, fail) => {
    const child = spawn(process.execPath, [MAIN], {
      env: {
        ...process.env,
        DATABASE_URL: url,
        PORT: String(port),
        BISTRE_ONE_PORT: '1',
        BISTRE_EMPTY: '1',
        BISTRE_LOG: 'error',
      },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    let said = '';
    const bugs: string[] = [];
    const take = (chunk: Buffer): void => {
      said = `${said}${chunk.toString()}`.slice(-4_000);
      bugs.push(
        ...chunk
          .toString()
          .split('\n')
          .filter((line) => line.includes('"failed"')),
      );
      const address = /ready at http:\/\/localhost:(\d+)/.exec(said);
      if (!address) return;
      done({
        child,
        port: Number(address[1]),
        bugs,
        base: `http://127.0.0.1:${address[1]}`,
        memory: () => {
          try {
            const line = /VmRSS:\s+(\d+) kB/.exec(readFileSync(`/proc/${child.pid}/status`, 'utf8'));
            return line ? 1024 * Number(line[1]) : null;
          } catch {
            return null;
          }
        },
        stop: () =>
          new Promise((ended) => {
            if (child.exitCode !== null || child.signalCode !== null) return ended();
            child.on('exit', () => ended());
            child.kill('SIGTERM');
          }),
      });
    };
    child.stdout.on('data', take);
    child.stderr.on('data', take);
    child.on('exit', (code) => fail(new Error(`the server stopped with ${code}: ${said}`)));
  });
