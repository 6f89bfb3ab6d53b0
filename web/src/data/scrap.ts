import type { TrialDocument, TrialSpec } from '@bistre/contract';
import { boxOf, burnedOn, cellFor, counted, freePlace, gridSize, SMALLEST_CELL, type Alphabet } from '@bistre/core';
import { useOffcuts, useSpoiled, useTrials } from './queries';

/** What lies in the shop of a material and can be spoiled further. */
export interface Scrap {
  readonly name: string;
  readonly width: number;
  readonly height: number;
  /** How many of what. */
  readonly there: string;
  /** On how many of its kind a trial was burned. */
  readonly used: number;
  /** As a piece of a plan; what is marked so was not burned on yet. */
  readonly piece: TrialSpec['piece'];
}

const same = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase();

/** Spoiled pieces first, then offcuts, the largest first. */
export const useScrap = (material: string): readonly Scrap[] => {
  const { data: spoiled = [] } = useSpoiled();
  const { data: offcuts = [] } = useOffcuts();
  const { data: trials = [] } = useTrials();
  const scrap = (name: string, width: number, height: number, there: string): Scrap => {
    const used = trials.filter((t) => t.burned && t.spec.piece.name.startsWith(name)).length;
    const piece = { name: `${name} ${used + 1}`, width: Math.floor(width), height: Math.floor(height) };
    return { name, width, height, there, used, piece };
  };
  return [
    ...spoiled
      .filter((s) => s.materials.some((m) => same(m, material)))
      .map((s) => scrap(`Spoiled ${s.name}`, s.width, s.height, counted(s.count, 'spoiled piece'))),
    ...offcuts
      .filter((o) => same(o.material, material))
      .map((o) => {
        const box = boxOf(o.outline);
        return scrap(o.name, box.maxX - box.minX, box.maxY - box.minY, 'offcut');
      })
      .sort((a, b) => b.width * b.height - a.width * a.height),
  ];
};

type Grid = Pick<TrialSpec, 'columns' | 'rows' | 'gap'>;

/**
 * The first scrap with room for a grid beside what was burned on it, and the largest cells it has room for, mm; null where
 * none has.
 */
export const scrapThatFits = (
  scraps: readonly Scrap[],
  grid: Grid,
  trials: readonly TrialDocument[],
  alphabet: Alphabet,
  most: number,
): { readonly scrap: Scrap; readonly cell: number } | null => {
  for (const scrap of scraps) {
    const cell = cellFor(grid, scrap.piece, alphabet, { least: SMALLEST_CELL, most });
    if (cell === null) continue;
    const taken = burnedOn(scrap.piece.name, trials, alphabet).map((o) => o.taken);
    const size = gridSize({ ...grid, cell: { width: cell, height: cell } }, alphabet);
    if (freePlace(scrap.piece, size, taken).ok) return { scrap, cell };
  }
  return null;
};
