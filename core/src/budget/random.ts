/** A repeatable source of random numbers; the seed is passed in, never taken from the clock. */
export interface Random {
  /** Uniform in [0, 1). */
  uniform(): number;
  /** Standard normal. */
  normal(): number;
}

/**
 * Small fast generator (mulberry32) with normals by Marsaglia's polar rule.
 * @example seeded(7).uniform()
 */
export const seeded = (seed: number): Random => {
  let state = seed >>> 0;
  let spare: number | null = null;
  const uniform = (): number => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  const normal = (): number => {
    if (spare !== null) {
      const value = spare;
      spare = null;
      return value;
    }
    for (;;) {
      const u = 2 * uniform() - 1;
      const v = 2 * uniform() - 1;
      const s = u * u + v * v;
      if (s > 0 && s < 1) {
        const k = Math.sqrt((-2 * Math.log(s)) / s);
        spare = v * k;
        return u * k;
      }
    }
  };
  return { uniform, normal };
};

/** Beyond so many degrees of freedom a spread counts as known: Student’s 95 % is within a hundredth of the normal’s. */
const KNOWN = 200;

/** χ² with so many degrees of freedom, whole or not, at least one [Marsaglia & Tsang 2000, gamma of half of them]. */
const chiSquare = (r: Random, dof: number): number => {
  // Below one the gamma is made from that above it.
  const k = dof / 2 < 1 ? dof / 2 + 1 : dof / 2;
  const d = k - 1 / 3;
  const c = 1 / Math.sqrt(9 * d);
  for (;;) {
    const x = r.normal();
    const root = 1 + c * x;
    if (root <= 0) continue;
    const v = root * root * root;
    const u = 1 - r.uniform();
    const square = x * x;
    if (u > 1 - 0.0331 * square * square && Math.log(u) > square / 2 + d * (1 - v + Math.log(v))) continue;
    return 2 * d * v * (k === dof / 2 ? 1 : (1 - r.uniform()) ** (2 / dof));
  }
};

/**
 * What a spread from few readings may really be, over what they showed: √(ν/χ²_ν), so that a normal error times this
 * follows Student’s t [JCGM 101:2008, 6.4.9].
 *
 * @param dof degrees of freedom, whole or not; 1 is returned where there are many, or no readings at all
 */
export const studentScale = (r: Random, dof: number): number =>
  dof <= KNOWN ? Math.sqrt(Math.max(1, dof) / chiSquare(r, Math.max(1, dof))) : 1;
