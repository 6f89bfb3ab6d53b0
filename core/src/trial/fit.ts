/**
 * What an eye said of cells, as a surface over the logarithms of two numbers: a quadratic surface fitted by least
 * squares, with a Gaussian process on top for what a quadratic cannot follow [Sacks, Welch, Mitchell & Wynn 1989;
 * Rasmussen & Williams 2006, ch. 2.7 and 5.4: universal kriging, Matérn 5/2, restricted likelihood]. Where the likelihood
 * finds nothing that the quadratic leaves over, the surface is the quadratic alone.
 */
export interface ResponseFit {
  readonly model: 'quadratic' | 'quadratic and neighbours' | 'level';
  /** Standard deviation of one look at one cell, in grades. */
  readonly noise: number;
  /** Expected grade and its standard doubt at a place: the two numbers, in their own units. */
  readonly at: (a: number, b: number) => { readonly mean: number; readonly doubt: number };
  /** Share of the grades' scatter that the surface says beforehand, each cell left out in its turn [PRESS]. */
  readonly foretold: number;
}

export interface Scored {
  readonly a: number;
  readonly b: number;
  readonly grade: number;
}

/** Lower triangle of L with L·Lᵀ = A; null where A is not positive definite. */
const cholesky = (a: Float64Array, n: number): Float64Array | null => {
  const l = new Float64Array(n * n);
  for (let i = 0; i < n; i += 1)
    for (let j = 0; j <= i; j += 1) {
      let s = a[i * n + j]!;
      for (let k = 0; k < j; k += 1) s -= l[i * n + k]! * l[j * n + k]!;
      if (i === j) {
        if (s <= 1e-12) return null;
        l[i * n + i] = Math.sqrt(s);
      } else l[i * n + j] = s / l[j * n + j]!;
    }
  return l;
};

/** L⁻¹·v. */
const forward = (l: Float64Array, n: number, v: ArrayLike<number>): Float64Array => {
  const out = new Float64Array(n);
  for (let i = 0; i < n; i += 1) {
    let s = v[i]!;
    for (let k = 0; k < i; k += 1) s -= l[i * n + k]! * out[k]!;
    out[i] = s / l[i * n + i]!;
  }
  return out;
};

/** L⁻ᵀ·v. */
const backward = (l: Float64Array, n: number, v: ArrayLike<number>): Float64Array => {
  const out = new Float64Array(n);
  for (let i = n - 1; i >= 0; i -= 1) {
    let s = v[i]!;
    for (let k = i + 1; k < n; k += 1) s -= l[k * n + i]! * out[k]!;
    out[i] = s / l[i * n + i]!;
  }
  return out;
};

const dot = (a: ArrayLike<number>, b: ArrayLike<number>): number => {
  let s = 0;
  for (let i = 0; i < a.length; i += 1) s += a[i]! * b[i]!;
  return s;
};

/** Matérn 5/2 of a scaled distance. */
const matern = (d: number): number => {
  const s = Math.sqrt(5) * d;
  return (1 + s + (s * s) / 3) * Math.exp(-s);
};

/** Lengths over which neighbours are alike, in spans of the whole; shares of noise beside what neighbours have in common. */
const LENGTHS = [0.15, 0.3, 0.6, 1.2] as const;
const ACROSS = [0.3, 0.6, 1.2, 2.4] as const;
const NOISES = [0.02, 0.08, 0.3, 1] as const;
/** What three numbers more have to gain in likelihood before they are taken [Akaike 1974: one each]. */
const NEIGHBOURS_COST = 3;
/** A look cannot be surer than half a step of the scale that it is told in [uniform: 1/√12 of a step]. */
const LEAST_VARIANCE = 1 / 12;

interface Solved {
  readonly likelihood: number;
  readonly sigma2: number;
  readonly nugget: number;
  readonly lengths: readonly [number, number] | null;
  readonly l: Float64Array;
  /** L⁻¹X by columns, and the triangle of XᵀK⁻¹X. */
  readonly whitened: readonly Float64Array[];
  readonly m: Float64Array;
  readonly beta: Float64Array;
  /** K⁻¹(y − Xβ). */
  readonly alpha: Float64Array;
}

/** What places have in common, lower triangle; nought where neighbours tell nothing of each other. */
const commonOf = (
  u: readonly (readonly [number, number])[],
  lengths: readonly [number, number] | null,
): Float64Array => {
  const n = u.length;
  const k = new Float64Array(n * n);
  if (!lengths) return k;
  for (let i = 0; i < n; i += 1)
    for (let j = 0; j <= i; j += 1)
      k[i * n + j] = matern(Math.hypot((u[i]![0] - u[j]![0]) / lengths[0], (u[i]![1] - u[j]![1]) / lengths[1]));
  return k;
};

const solve = (
  common: Float64Array,
  y: Float64Array,
  rows: readonly number[][],
  lengths: readonly [number, number] | null,
  nugget: number,
): Solved | null => {
  const n = y.length;
  const k = Float64Array.from(common);
  for (let i = 0; i < n; i += 1) k[i * n + i]! += nugget;
  const l = cholesky(k, n);
  if (!l) return null;
  const p = rows[0]!.length;
  const whitened = Array.from({ length: p }, (_, c) => forward(l, n, rows.map((r) => r[c]!))); // prettier-ignore
  const z = forward(l, n, y);
  const normal = new Float64Array(p * p);
  for (let i = 0; i < p; i += 1) for (let j = 0; j <= i; j += 1) normal[i * p + j] = dot(whitened[i]!, whitened[j]!);
  const m = cholesky(normal, p);
  if (!m) return null;
  const beta = backward(m, p, forward(m, p, whitened.map((w) => dot(w, z)))); // prettier-ignore
  const rest = z.map((v, i) => v - whitened.reduce((s, w, c) => s + w[i]! * beta[c]!, 0));
  const dof = n - p;
  // The variance that the likelihood likes best, but no surer than the scale is fine.
  const sigma2 = Math.max(dot(rest, rest) / dof, LEAST_VARIANCE / nugget);
  let logs = 0;
  for (let i = 0; i < n; i += 1) logs += Math.log(l[i * n + i]!);
  for (let i = 0; i < p; i += 1) logs += Math.log(m[i * p + i]!);
  const likelihood = -logs - (dof / 2) * Math.log(sigma2) - dot(rest, rest) / (2 * sigma2);
  return { likelihood, sigma2, nugget, lengths, l, whitened, m, beta, alpha: backward(l, n, rest) };
};

const quadratic = ([x, y]: readonly [number, number]): number[] => [1, x, y, x * x, x * y, y * y];
const level = (): number[] => [1];

/** Fewest looks from which a quadratic surface is told with something left to judge it by. */
const FEWEST = 9;

/**
 * Fits the surface. Coordinates are logarithms, since as much again is the same step for every one of these numbers.
 *
 * @param scored grades of cells; several of one cell are several looks at it. At least one
 * @param turned which way more of each number goes: towards more energy (1) or less (−1)
 */
export const fitResponse = (scored: readonly Scored[], turned: readonly [1 | -1, 1 | -1] = [1, -1]): ResponseFit => {
  const n = scored.length;
  const y = Float64Array.from(scored, (s) => s.grade);
  // Along the energy and across it: what takes as much energy burns much alike, however it is made up.
  const turn = (a: number, b: number): readonly [number, number] => {
    const [x, z] = [turned[0] * Math.log(a), turned[1] * Math.log(b)];
    return [x + z, x - z];
  };
  const logs = scored.map((s) => turn(s.a, s.b));
  const scale = ([0, 1] as const).map((i) => {
    const values = logs.map((v) => v[i]);
    const low = Math.min(...values);
    return { low, span: Math.max(Math.max(...values) - low, 1e-9) };
  });
  const place = ([x, z]: readonly [number, number]): readonly [number, number] => [
    (x - scale[0]!.low) / scale[0]!.span,
    (z - scale[1]!.low) / scale[1]!.span,
  ];
  const u = logs.map(place);
  const several = (i: 0 | 1): number => new Set(u.map((v) => v[i].toFixed(6))).size;
  const basis = n >= FEWEST && several(0) >= 3 && several(1) >= 3 ? quadratic : level;
  const tried: Solved[] = [];
  const rows = u.map(basis);
  const look = (lengths: readonly [number, number] | null, nuggets: readonly number[]): void => {
    if (n < 2) return;
    const common = commonOf(u, lengths);
    for (const nugget of nuggets) {
      const solved = solve(common, y, rows, lengths, nugget);
      if (solved) tried.push(solved);
    }
  };
  look(null, [1]);
  for (const la of LENGTHS) for (const lb of ACROSS) look([la, lb], NOISES);
  const worth = ({ likelihood, lengths }: Solved): number => likelihood - (lengths ? NEIGHBOURS_COST : 0);
  const best = tried.reduce<Solved | null>((a, b) => (a && worth(a) >= worth(b) ? a : b), null);
  if (!best) {
    const mean = y.reduce((s, v) => s + v, 0) / n;
    return { model: 'level', noise: 1, at: () => ({ mean, doubt: 3 }), foretold: 0 };
  }
  const { lengths, l, whitened, m, beta, alpha, sigma2, nugget } = best;
  const p = beta.length;
  const at: ResponseFit['at'] = (a, b) => {
    const q = place(turn(a, b));
    const f = basis(q);
    const k = lengths
      ? Float64Array.from(u, (v) => matern(Math.hypot((v[0] - q[0]) / lengths[0], (v[1] - q[1]) / lengths[1])))
      : new Float64Array(n);
    const w = forward(l, n, k);
    const short = forward(m, p, f.map((v, c) => v - dot(whitened[c]!, w))); // prettier-ignore
    const variance = (lengths ? 1 - dot(w, w) : 0) + dot(short, short);
    return { mean: dot(f, beta) + dot(k, alpha), doubt: Math.sqrt(Math.max(0, variance) * sigma2) };
  };
  return {
    model: lengths ? (basis === quadratic ? 'quadratic and neighbours' : 'level') : basis === quadratic ? 'quadratic' : 'level', // prettier-ignore
    noise: Math.sqrt(sigma2 * nugget),
    at,
    foretold: foretoldBy(best, y, rows),
  };
};

/** 1 − PRESS over the scatter about the mean; each left-out error from the whole fit [Dubrule 1983]. */
const foretoldBy = ({ l, m, whitened, alpha }: Solved, y: Float64Array, rows: readonly number[][]): number => {
  const n = y.length;
  const p = rows[0]!.length;
  const mean = y.reduce((s, v) => s + v, 0) / n;
  const scatter = y.reduce((s, v) => s + (v - mean) ** 2, 0);
  if (scatter === 0) return 1;
  let press = 0;
  for (let i = 0; i < n; i += 1) {
    const unit = new Float64Array(n);
    unit[i] = 1;
    const w = forward(l, n, unit);
    // Diagonal of K⁻¹ − K⁻¹X(XᵀK⁻¹X)⁻¹XᵀK⁻¹.
    const c = forward(m, p, whitened.map((x) => dot(x, w))); // prettier-ignore
    press += (alpha[i]! / (dot(w, w) - dot(c, c))) ** 2;
  }
  return Math.max(0, 1 - press / scatter);
};
