import type { Mm } from '../units';
import { fixed, worked, type WorkedLine } from '../working';

/** d₂ and D₄ of two values: expected range in standard deviations, and upper limit of a range over its mean [ASTM E2587, table of factors; from memory]. */
export const D2 = 2 / Math.sqrt(Math.PI);
export const D4 = 1 + 3 * Math.sqrt(Math.PI / 2 - 1);

/** A chart of single values and of what each differs from the one before. */
export interface Individuals {
  readonly centre: Mm;
  readonly upper: Mm;
  readonly lower: Mm;
  /** Mean of the moving ranges, and their upper limit; the lower is 0. */
  readonly range: Mm;
  readonly rangeUpper: Mm;
  readonly ranges: readonly Mm[];
  /** Spread from piece to piece, whatever the level did meanwhile: range / d₂, mm. */
  readonly within: Mm;
  /** Spread of all of them, what the level did included, mm. */
  readonly overall: Mm;
  /** Which values lie outside, and which end a run of eight on one side. */
  readonly outside: readonly number[];
  readonly runs: readonly number[];
  readonly working: readonly WorkedLine[];
}

/** So many one after the other on one side of the centre are no accident [ASTM E2587; from memory]. */
const RUN = 8;

/** Individuals and moving range of values in the order they came; null with fewer than two. */
export const individuals = (values: readonly Mm[]): Individuals | null => {
  const n = values.length;
  if (n < 2) return null;
  const centre = values.reduce((a, b) => a + b, 0) / n;
  const ranges = values.slice(1).map((v, i) => Math.abs(v - values[i]!));
  const range = ranges.reduce((a, b) => a + b, 0) / ranges.length;
  const within = range / D2;
  const upper = centre + 3 * within;
  const lower = centre - 3 * within;
  const overall = Math.sqrt(values.reduce((q, v) => q + (v - centre) ** 2, 0) / (n - 1));
  let side = 0;
  let length = 0;
  const runs: number[] = [];
  values.forEach((v, i) => {
    const now = Math.sign(v - centre);
    length = now !== 0 && now === side ? length + 1 : 1;
    side = now;
    if (now !== 0 && length >= RUN) runs.push(i);
  });
  return {
    centre,
    upper,
    lower,
    range,
    rangeUpper: D4 * range,
    ranges,
    within,
    overall,
    outside: values.flatMap((v, i) => (v > upper + 1e-12 || v < lower - 1e-12 ? [i] : [])),
    runs,
    working: [
      worked('limits of single values', 'x̄ ± 3·R̄/d₂', `${fixed(centre, 3)} ± 3 × ${fixed(range, 3)} / ${fixed(D2, 3)}`, `${fixed(lower, 3)} to ${fixed(upper, 3)} mm`, 'published: ASTM E2587'), // prettier-ignore
      worked('limit of moving ranges', 'D₄·R̄', `${fixed(D4, 3)} × ${fixed(range, 3)}`, `${fixed(D4 * range, 3)} mm`, 'published: ASTM E2587'), // prettier-ignore
      worked('spread and shift', 's within = R̄/d₂, s overall = √(Σ(x − x̄)²/(n − 1))', `${fixed(within, 3)}, ${fixed(overall, 3)}`, overall > 1.5 * within ? 'the level moves between pieces' : 'scatter from piece to piece', 'statistics'), // prettier-ignore
    ],
  };
};
