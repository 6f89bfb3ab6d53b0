/** What a list of measured samples says. `s` is null below two samples. */
export interface SampleStats {
  readonly n: number;
  readonly mean: number;
  readonly s: number | null;
  readonly min: number;
  readonly max: number;
}

/** Count, mean, standard deviation (n − 1), least and greatest; null for an empty list. */
export const sampleStats = (values: readonly number[]): SampleStats | null => {
  if (values.length === 0) return null;
  const n = values.length;
  const mean = values.reduce((sum, v) => sum + v, 0) / n;
  const s = n < 2 ? null : Math.sqrt(values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / (n - 1));
  return { n, mean, s, min: Math.min(...values), max: Math.max(...values) };
};
