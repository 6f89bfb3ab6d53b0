import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { PassThrough, type Readable } from 'node:stream';
import { MessageChannel, type MessagePort } from 'node:worker_threads';
import { Piscina } from 'piscina';
import { HttpProblem } from '../http/problem';
import type { ForeignJobs } from './foreign';
import type { FileAsked, FileHead } from './files';
import type { Jobs } from './jobs';
import { FOREIGN, LONGEST, MOST_WAITING, THREADS, type Threads } from './limits';
import { valueOf, type Outcome } from './wire';

type Args<J, K extends keyof J> = J[K] extends (...args: infer A) => unknown
  ? A extends [unknown, ...infer R]
    ? R[0]
    : never
  : never;
type Value<J, K extends keyof J> = J[K] extends (...args: never[]) => infer R ? Awaited<R> : never;

/** What the server hands to its threads. Every call can be given up by its signal; its thread is ended then. */
export interface Workers {
  /** Reckons for a page that waits. */
  readonly reckon: <K extends keyof Jobs>(job: K, args: Args<Jobs, K>, signal?: AbortSignal) => Promise<Value<Jobs, K>>;
  /** Writes a file: its head once it is certain that there is one, and its bytes as they come. */
  readonly file: (asked: FileAsked, signal: AbortSignal) => Promise<{ head: FileHead; body: Readable }>;
  /** Reads a file that somebody else made, within {@link FOREIGN}. */
  readonly foreign: <K extends keyof ForeignJobs>(
    job: K,
    args: ForeignJobs[K] extends (args: infer A) => unknown ? A : never,
    signal?: AbortSignal,
  ) => Promise<Value<ForeignJobs, K>>;
  /** Jobs that are under way or wait, by what they are. */
  readonly busy: () => { readonly reckoning: number; readonly writing: number; readonly reading: number };
  readonly close: () => Promise<void>;
}

const BUSY = new HttpProblem(503, {
  code: 'busy',
  message: 'Bistre has more to reckon than it can at this moment. Nothing is lost; try again shortly.',
});

/** Processor time a thread has used, ms; null where the machine does not tell. Linux counts in hundredths. */
const cpuOf = (thread: number): number | null => {
  try {
    const stat = readFileSync(`/proc/self/task/${thread}/stat`, 'utf8');
    const [user, system] = stat
      .slice(stat.lastIndexOf(')') + 2)
      .split(' ')
      .slice(11, 13);
    return 10 * (Number(user) + Number(system));
  } catch {
    return null;
  }
};

/** Watches a thread that reads a foreign file; calls `over` when it used more than it may. */
const watch = (shared: Int32Array, over: () => void): (() => void) => {
  let start: number | null = null;
  let first: number | null = null;
  const timer = setInterval(() => {
    const thread = shared[0]!;
    if (shared[1] !== 0) start ??= Date.now();
    const used = thread > 0 ? cpuOf(thread) : null;
    if (used !== null) first ??= used;
    const spent = used === null || first === null ? null : used - first;
    if ((spent !== null && spent > FOREIGN.cpuMs) || (start !== null && Date.now() - start > FOREIGN.wallMs)) over();
  }, 50);
  return () => clearInterval(timer);
};

const TOO_LONG = new HttpProblem(503, {
  code: 'too-long',
  message:
    'This took longer to reckon than it may. Nothing was changed. Try again; if it happens again, tell whoever keeps Bistre.',
});

const gone = (error: unknown): boolean => error instanceof Error && error.name === 'AbortError';

/**
 * The threads of the server, so that nothing that takes long runs on its only one.
 *
 * @param folder where the built threads are
 * @param url the database that they read from; they never write
 * @param threads how many of each kind at the most; those that pages and files wait for are started at once
 */
export const createWorkers = (folder: string, url: string, threads: Threads = THREADS): Workers => {
  const make = (file: string, most: number, options: object = {}): Piscina =>
    new Piscina({
      filename: join(folder, file),
      minThreads: 0,
      maxThreads: most,
      maxQueue: MOST_WAITING,
      idleTimeout: 120_000,
      workerData: { url },
      ...options,
    });
  const reckoning = make('worker.mjs', threads.reckon, { minThreads: threads.reckon });
  const writing = make('worker.mjs', threads.files, { minThreads: Math.min(1, threads.files - 1) });
  const reading = make('foreign.mjs', threads.foreign, {
    // One is ready: whoever chooses a file waits for it.
    minThreads: 1,
    resourceLimits: { maxOldGenerationSizeMb: FOREIGN.memoryMb, maxYoungGenerationSizeMb: 64, stackSizeMb: 4 },
  });
  const under = { reckoning: 0, writing: 0, reading: 0 };
  const pools = { reckoning, writing, reading };
  const run = async <T>(
    kind: keyof typeof pools,
    task: object,
    longest: number,
    { signal, ...options }: { name: string; signal?: AbortSignal | undefined; transferList?: [MessagePort] },
  ): Promise<T> => {
    const limit = AbortSignal.timeout(longest);
    const either = signal ? AbortSignal.any([signal, limit]) : limit;
    under[kind] += 1;
    try {
      return valueOf((await pools[kind].run(task, { ...options, signal: either })) as Outcome<T>);
    } catch (error) {
      if (limit.aborted && !signal?.aborted) throw TOO_LONG;
      if (error instanceof Error && /queue/i.test(error.message) && /limit|capacity/i.test(error.message)) throw BUSY;
      throw error;
    } finally {
      under[kind] -= 1;
    }
  };
  return {
    reckon: (job, args, signal) => run('reckoning', { job, args }, LONGEST.reckon, { name: 'run', signal }),
    file: async (asked, signal) => {
      const { port1, port2 } = new MessageChannel();
      const body = new PassThrough({ highWaterMark: 1 << 20 });
      // Whoever stops taking it, for whatever reason, ends its writing too.
      const left = new AbortController();
      body.on('close', () => left.abort());
      let begun: (head: FileHead) => void = () => undefined;
      const head = new Promise<FileHead>((resolve) => (begun = resolve));
      port1.on('message', (message: { head?: FileHead; chunk?: Uint8Array }) => {
        if (message.head) begun(message.head);
        else if (message.chunk) {
          if (body.write(message.chunk)) port1.postMessage('more');
          else body.once('drain', () => port1.postMessage('more'));
        }
      });
      const done = run<null>('writing', { asked, port: port2 }, LONGEST.file, {
        name: 'file',
        signal: AbortSignal.any([signal, left.signal]),
        transferList: [port2],
      });
      done
        .then(() => body.end())
        .catch((error: Error) => body.destroy(gone(error) ? undefined : error))
        .finally(() => port1.close());
      // What goes wrong before the first byte is answered in words.
      body.on('error', () => undefined);
      return { head: await Promise.race([head, done.then(() => head)]), body };
    },
    foreign: async (job, args, signal) => {
      const shared = new Int32Array(new SharedArrayBuffer(8));
      const over = new AbortController();
      const tooLong = new HttpProblem(422, {
        code: 'too-costly',
        message: `This file takes more than ${FOREIGN.cpuMs / 1000} seconds to read: it has too much in it, or is made to be slow. Keep only what is needed and save it again. Nothing was changed.`,
        field: 'file',
      });
      const stop = watch(shared, () => over.abort());
      try {
        return await run('reading', { job, args, shared }, LONGEST.reckon, {
          name: 'run',
          signal: signal ? AbortSignal.any([signal, over.signal]) : over.signal,
        });
      } catch (error) {
        if (over.signal.aborted) throw tooLong;
        if (error instanceof Error && /memory/i.test(error.message))
          throw new HttpProblem(422, {
            code: 'too-costly',
            message: `This file takes more memory to read than a file may (${FOREIGN.memoryMb} MB). Keep only what is needed. Nothing was changed.`,
            field: 'file',
          });
        throw error;
      } finally {
        stop();
      }
    },
    busy: () => ({ ...under }),
    close: async () => {
      await Promise.all([reckoning, writing, reading].map((p) => p.destroy()));
    },
  };
};
