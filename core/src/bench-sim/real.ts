import { seeded, studentScale } from '../budget';
import type { BlankSizes } from '../holding';
import type { GoverningSize } from '../samples';
import type { Mm } from '../units';

interface Real {
  readonly mean: Mm;
  readonly spread: Mm;
}

/** What pieces really are where some of them were measured: samples tell their spread and their middle only so well. */
const realOf = ({ stats, mean, spread, dof, all }: GoverningSize, r: ReturnType<typeof seeded>): Real => {
  if (!stats || all || !(spread > 0)) return { mean, spread };
  const real = spread * studentScale(r, dof);
  return { mean: mean + (real * r.normal()) / Math.sqrt(stats.n), spread: real };
};

/** How the pieces of a bench really vary, behind what its samples say. */
export const realSizes = (
  seed: number,
  { length, width }: Pick<BlankSizes, 'length' | 'width'>,
): { readonly length: Real; readonly width: Real } => {
  const r = seeded(seed * 571 + 19);
  return { length: realOf(length, r), width: realOf(width, r) };
};
