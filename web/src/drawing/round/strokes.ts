import { diameterAt, type RoundShape } from '@bistre/core';

/** Strokes as the frames need them: sine and cosine of each end's own angle, its radius and its place. */
export interface Prepared {
  readonly sin: Float32Array;
  readonly cos: Float32Array;
  readonly radius: Float32Array;
  readonly along: Float32Array;
  /** Whether a stroke begins where the one before it ended. */
  readonly joined: Uint8Array;
}

/** Widest turn of one stretch of a stroke: what goes behind is cut off that finely. */
const STRETCH = Math.PI / 90;

/** Strokes with no stretch wider than 2°, which is bent as its blank is. */
export const stretches = (strokes: Float32Array): Float32Array => {
  const out: number[] = [];
  for (let i = 0; i + 3 < strokes.length; i += 4) {
    const [a, along, b, next] = [strokes[i]!, strokes[i + 1]!, strokes[i + 2]!, strokes[i + 3]!];
    const n = Math.max(1, Math.ceil(Math.abs(b - a) / STRETCH));
    for (let part = 0; part < n; part += 1)
      for (const t of [part / n, (part + 1) / n]) out.push(a + t * (b - a), along + t * (next - along));
  }
  return Float32Array.from(out);
};

/** Every end of every stretch by what a frame needs of it. */
export const prepare = (shape: RoundShape, whole: Float32Array): Prepared => {
  const strokes = stretches(whole);
  const n = strokes.length / 2;
  const out: Prepared = {
    sin: new Float32Array(n),
    cos: new Float32Array(n),
    radius: new Float32Array(n),
    along: new Float32Array(n),
    joined: new Uint8Array(n),
  };
  for (let i = 0; i < n; i += 1) {
    const a = strokes[2 * i]!;
    const along = strokes[2 * i + 1]!;
    out.sin[i] = Math.sin(a);
    out.cos[i] = Math.cos(a);
    out.radius[i] = diameterAt(shape.profile, along) / 2;
    out.along[i] = along;
    out.joined[i] =
      i >= 2 && i % 2 === 0 && strokes[2 * i] === strokes[2 * i - 2] && strokes[2 * i + 1] === strokes[2 * i - 1]
        ? 1
        : 0;
  }
  return out;
};
