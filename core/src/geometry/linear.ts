/**
 * Solves a small system of linear equations by elimination with pivots; null when it has no one answer.
 * @param a rows of the matrix, changed in place; @param b right side, changed in place
 */
export const solveLinear = (a: number[][], b: number[]): number[] | null => {
  const n = b.length;
  for (let i = 0; i < n; i += 1) {
    let pivot = i;
    for (let k = i + 1; k < n; k += 1) if (Math.abs(a[k]![i]!) > Math.abs(a[pivot]![i]!)) pivot = k;
    if (Math.abs(a[pivot]![i]!) < 1e-12) return null;
    [a[i], a[pivot]] = [a[pivot]!, a[i]!];
    [b[i], b[pivot]] = [b[pivot]!, b[i]!];
    for (let k = i + 1; k < n; k += 1) {
      const f = a[k]![i]! / a[i]![i]!;
      if (f === 0) continue;
      for (let j = i; j < n; j += 1) a[k]![j]! -= f * a[i]![j]!;
      b[k]! -= f * b[i]!;
    }
  }
  const x = new Array<number>(n).fill(0);
  for (let i = n - 1; i >= 0; i -= 1) {
    let s = b[i]!;
    for (let j = i + 1; j < n; j += 1) s -= a[i]![j]! * x[j]!;
    x[i] = s / a[i]![i]!;
  }
  return x;
};

/** Adds an equation to normal equations. */
export const addEquation = (ata: number[][], atb: number[], row: readonly number[], value: number): void => {
  for (let i = 0; i < row.length; i += 1) {
    if (row[i] === 0) continue;
    atb[i]! += row[i]! * value;
    for (let j = 0; j < row.length; j += 1) ata[i]![j]! += row[i]! * row[j]!;
  }
};

/** Square matrix of zeros. */
export const zeros = (n: number): number[][] => Array.from({ length: n }, () => new Array<number>(n).fill(0));
