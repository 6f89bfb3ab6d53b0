/** Limits of what a foreign file may cost, and how long a call may take. */
export const FOREIGN = {
  /** Processor time of the thread that reads it, ms. */
  cpuMs: 3_000,
  /** Waiting included, where the machine does not tell a thread's own time, ms. */
  wallMs: 15_000,
  /** Memory of the thread, MB. */
  memoryMb: 384,
} as const;

/** Threads that reckon for a page somebody waits at, that write files, and that read foreign files. */
export interface Threads {
  readonly reckon: number;
  readonly files: number;
  readonly foreign: number;
}
export const THREADS: Threads = { reckon: 2, files: 2, foreign: 2 };

/** As many threads of each kind, at least one; {@link THREADS} where nothing is said. */
export const threadsOf = (said: string | undefined): Threads => {
  const each = Math.floor(Number(said));
  return each >= 1 ? { reckon: each, files: each, foreign: each } : THREADS;
};
/** Calls that may wait for a thread; more are told to come back. */
export const MOST_WAITING = 200;
/** Longest that a reckoning and the writing of a file may take, waiting included, ms. */
export const LONGEST = { reckon: 60_000, file: 600_000 } as const;
