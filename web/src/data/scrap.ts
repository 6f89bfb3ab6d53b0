import type { TrialSpec } from '@bistre/contract';
import { boxOf, counted, sameWord } from '@bistre/core';
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
      .filter((s) => s.materials.some((m) => sameWord(m, material)))
      .map((s) => scrap(`Spoiled ${s.name}`, s.width, s.height, counted(s.count, 'spoiled piece'))),
    ...offcuts
      .filter((o) => sameWord(o.material, material))
      .map((o) => {
        const box = boxOf(o.outline);
        return scrap(o.name, box.maxX - box.minX, box.maxY - box.minY, 'offcut');
      })
      .sort((a, b) => b.width * b.height - a.width * a.height),
  ];
};
