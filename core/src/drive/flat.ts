import type { Mm } from '../units';

/**
 * Half the width that stays in focus on a round blank lying still: `√(2rs − s²)` for a depth s
 * below the crest, mm. @example usableHalfWidth(22.5, 0.5) // 4.717
 */
export const usableHalfWidth = (radius: Mm, depth: Mm): Mm => {
  const s = Math.min(depth, radius);
  return Math.sqrt(2 * radius * s - s * s);
};

/** Arc on the surface above a distance w beside the crest: r·asin(w/r), mm. */
export const arcOver = (radius: Mm, beside: Mm): Mm => radius * Math.asin(Math.min(1, beside / radius));

/** Distance beside the crest of a point that lies an arc away from it: r·sin(s/r), mm; the correction of flat burning. */
export const besideFor = (radius: Mm, arc: Mm): Mm => radius * Math.sin(arc / radius);
