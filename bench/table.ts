/** Median of the times of `runs` calls after one to warm up, ms. */
export const median = async (runs: number, job: () => unknown): Promise<number> => {
  await job();
  const times: number[] = [];
  for (let i = 0; i < runs; i += 1) {
    const start = performance.now();
    await job();
    times.push(performance.now() - start);
  }
  return times.sort((a, b) => a - b)[Math.floor(runs / 2)]!;
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
