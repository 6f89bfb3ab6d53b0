declare module 'perspective-transform' {
  /** Projective map of four points, eight numbers each: x and y in turn. */
  export default function perspectiveTransform(
    from: readonly number[],
    to: readonly number[],
  ): { transform(x: number, y: number): [number, number] };
}
