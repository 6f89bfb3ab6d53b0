/** A standard uncertainty with its degrees of freedom (Infinity when it is not from samples). */
export interface Component {
  readonly u: number;
  readonly dof: number;
}

/** Root sum of squares [JCGM 100:2008, 5.1.2]. */
export const combined = (components: readonly Component[]): number =>
  Math.sqrt(components.reduce((sum, c) => sum + c.u ** 2, 0));

/** Effective degrees of freedom by Welch–Satterthwaite [JCGM 100:2008, G.4.1]. */
export const effectiveDof = (components: readonly Component[]): number => {
  const denominator = components.reduce((sum, c) => sum + (Number.isFinite(c.dof) ? c.u ** 4 / c.dof : 0), 0);
  return denominator === 0 ? Infinity : combined(components) ** 4 / denominator;
};

/**
 * Radius that holds a share p of a plane position whose two axes together have the standard
 * uncertainty u (radial root sum of squares): `u·√F(p; 2, ν)`, with the quantile of F for two and ν
 * degrees of freedom in closed form.
 * @example radialCoverage(0.95, Infinity) // √(−ln 0.05) = 1.731
 */
export const radialCoverage = (p: number, dof: number): number =>
  Number.isFinite(dof) ? Math.sqrt((dof / 2) * ((1 - p) ** (-2 / dof) - 1)) : Math.sqrt(-Math.log(1 - p));

/** Standard uncertainty of a value equally likely anywhere in ±a. */
export const fromUniform = (a: number): number => a / Math.sqrt(3);
