/** Whether it is only looked at whether all runs: each thing once. */
export const SHORT = process.env.BISTRE_SHORT !== undefined;

/** Median of the times of `runs` calls after one to warm up, ms. */
export const median = async (runs: number, job: () => unknown): Promise<number> => {
  const wanted = SHORT ? 1 : runs;
  if (!SHORT) await job();
  const times: number[] = [];
  for (let i = 0; i < wanted; i += 1) {
    const start = performance.now();
    await job();
    times.push(performance.now() - start);
  }
  return times.sort((a, b) => a - b)[Math.floor(wanted / 2)]!;
};

export interface Row {
  readonly what: string;
  readonly measured: string;
  readonly against: string;
  readonly good: boolean;
}

/** Prints rows with their verdict. */
export const table = (rows: readonly Row[]): void => {
  const wide = Math.max(...rows.map((r) => r.what.length));
  const middle = Math.max(...rows.map((r) => r.measured.length));
  for (const r of rows)
    console.log(`${r.good ? 'met ' : 'MISS'}  ${r.what.padEnd(wide)}  ${r.measured.padStart(middle)}   ${r.against}`);
};
