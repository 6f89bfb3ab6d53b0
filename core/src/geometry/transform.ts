import type { Vec } from './vec';

/** Affine map `x' = a·x + c·y + e`, `y' = b·x + d·y + f`. */
export interface Transform {
  readonly a: number;
  readonly b: number;
  readonly c: number;
  readonly d: number;
  readonly e: number;
  readonly f: number;
}

export const identity: Transform = { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 };

/** Shift by (x, y). */
export const translation = (x: number, y: number): Transform => ({ a: 1, b: 0, c: 0, d: 1, e: x, f: y });

/** Turn by an angle in radians, counter-clockwise, about the origin. */
export const rotation = (angle: number): Transform => {
  const c = Math.cos(angle);
  const s = Math.sin(angle);
  return { a: c, b: s, c: -s, d: c, e: 0, f: 0 };
};

/** Stretch along x and y. Negative factors mirror. */
export const scaling = (x: number, y = x): Transform => ({ a: x, b: 0, c: 0, d: y, e: 0, f: 0 });

/** Turn by `angle` radians about the origin, then shift. */
export const rigid = (angle: number, x: number, y: number): Transform => ({ ...rotation(angle), e: x, f: y });

/** The map that applies the last argument first: `compose(m, n)(p) = m(n(p))`. */
export const compose = (...maps: readonly Transform[]): Transform =>
  maps.reduce(
    (m, n) => ({
      a: m.a * n.a + m.c * n.b,
      b: m.b * n.a + m.d * n.b,
      c: m.a * n.c + m.c * n.d,
      d: m.b * n.c + m.d * n.d,
      e: m.a * n.e + m.c * n.f + m.e,
      f: m.b * n.e + m.d * n.f + m.f,
    }),
    identity,
  );

export const determinant = (m: Transform): number => m.a * m.d - m.b * m.c;

/** The inverse map. Throws on a singular map, which is a bug of the caller. */
export const invert = (m: Transform): Transform => {
  const det = determinant(m);
  if (det === 0) throw new Error('a singular transform has no inverse');
  return {
    a: m.d / det,
    b: -m.b / det,
    c: -m.c / det,
    d: m.a / det,
    e: (m.c * m.f - m.d * m.e) / det,
    f: (m.b * m.e - m.a * m.f) / det,
  };
};

export const apply = (m: Transform, p: Vec): Vec => ({
  x: m.a * p.x + m.c * p.y + m.e,
  y: m.b * p.x + m.d * p.y + m.f,
});

/** The turn of a similarity, in radians, from −π to π. */
export const angleOf = (m: Transform): number => Math.atan2(m.b, m.a);
