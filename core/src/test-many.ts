/** How many cases a closed loop runs: few with every change, all of them with `npm run test:long`. */
export const many = (all: number, few: number): number => (process.env['BISTRE_LONG'] ? all : few);

/**
 * How far a share may be from 95 % when so many cases were tried: 2√(pq/n), which 19 of 20 samples of a true 95 % keep
 * [NIST/SEMATECH e-Handbook 7.2.4, normal approximation], and never less than 2 %. Pieces of one load share its aim: loads
 * count, not pieces.
 */
export const within = (cases: number): { readonly low: number; readonly high: number; readonly words: string } => {
  const off = Math.max(0.02, 2 * Math.sqrt((0.95 * 0.05) / cases));
  return { low: 0.95 - off, high: 0.95 + off, words: `95 ± ${(100 * off).toFixed(0)} %` };
};

/** The largest share that may be refused where one in twenty is by chance [χ² at 95 %], three standard deviations of such a count up. */
export const refusedByChance = (cases: number): number => 0.05 + 3 * Math.sqrt((0.95 * 0.05) / cases);
