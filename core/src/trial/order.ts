import type { Mm, Seconds } from '../units';
import type { TrialCell } from './lay';

/**
 * How fast heat spreads in a material, mm²/s, by a word of its name: thermal diffusivities at room temperature as
 * engineers' handbooks give them, from memory and to one figure; enough for how long to wait, where twice is not felt.
 */
const DIFFUSIVITY: readonly (readonly [RegExp, number])[] = [
  [/glass|crystal/i, 0.4],
  [/slate|stone|marble|granite/i, 1],
  [/stainless/i, 4],
  [/steel|iron/i, 12],
  [/brass/i, 34],
  [/alumini?um|anodi/i, 60],
  [/copper|silver/i, 110],
];
/** Wood, leather, plastics, paper and what nobody named: the slowest, so that nothing is waited for too briefly. */
const SLOWEST = 0.1;

/** @example diffusivityOf('glass') // 0.4 mm²/s */
export const diffusivityOf = (material: string): number =>
  DIFFUSIVITY.find(([word]) => word.test(material))?.[1] ?? SLOWEST;

/** What may be left of a neighbour's heat in a cell that begins, as a share of the hottest cell's own. */
const LEFT_OVER = 0.08;
/** Longest wait before a cell, s: beyond that nobody stands by, and the rest is little. */
export const LONGEST_WAIT: Seconds = 40;

/** A cell in its turn. */
export interface CellTurn {
  readonly cell: number;
  /** Beam off before it, s. */
  readonly wait: Seconds;
  /** Share of the hottest cell's own warmth that older cells leave in it when it begins. */
  readonly warm: number;
}

interface Burned {
  readonly x: Mm;
  readonly y: Mm;
  readonly at: Seconds;
  readonly heat: number;
}

/**
 * What a burned cell leaves at a distance after a time: a spot of heat in a plate spreads like ink in water, its height
 * falling as s²/(s² + 4αt), its width growing to match [heat equation in the plane, a Gaussian to begin with].
 */
const left = (distance2: number, time: Seconds, size2: number, alpha: number): number => {
  const spread = size2 + 4 * alpha * time;
  return (size2 / spread) * Math.exp(-distance2 / spread);
};

/**
 * The order in which cells are burned so that none is begun while its neighbours are warm, and the waits where order alone
 * does not do it: next is always the cell that the older ones warm least.
 *
 * @param cells with the seconds each takes and its energy in any unit
 * @param size a cell's side, mm
 */
export const coolOrder = (
  cells: readonly (Pick<TrialCell, 'index' | 'x' | 'y'> & { readonly seconds: Seconds; readonly energy: number })[],
  size: Mm,
  alpha: number,
): CellTurn[] => {
  const size2 = (size * size) / 2;
  const hottest = Math.max(...cells.map((c) => c.energy));
  const waiting = new Set(cells);
  const burned: Burned[] = [];
  const turns: CellTurn[] = [];
  let clock = 0;
  const warmth = (x: Mm, y: Mm, at: Seconds): number =>
    burned.reduce((sum, b) => sum + b.heat * left((b.x - x) ** 2 + (b.y - y) ** 2, at - b.at, size2, alpha), 0);
  while (waiting.size > 0) {
    let next: (typeof cells)[number] | null = null;
    let least = Infinity;
    for (const c of waiting) {
      // The weaker first where it is all the same: a strong one warms more.
      const w = warmth(c.x, c.y, clock) + (1e-6 * c.energy) / hottest;
      if (w < least) [next, least] = [c, w];
    }
    const { index, x, y, seconds, energy } = next!;
    let wait = 0;
    while (wait < LONGEST_WAIT && warmth(x, y, clock + wait) > LEFT_OVER) wait += 1;
    turns.push({ cell: index, wait, warm: warmth(x, y, clock + wait) });
    clock += wait + seconds;
    burned.push({ x, y, at: clock, heat: energy / hottest });
    waiting.delete(next!);
  }
  return turns;
};
