/** A pocket: half of it each way, and the radius of its corners. */
export interface OpenPocket {
  readonly x: number;
  readonly y: number;
  readonly corner: number;
}

/** How a piece lies off its place: shift, mm, and turn, rad. */
export interface Pose {
  readonly x: number;
  readonly y: number;
  readonly turn: number;
}

/** Whether a rounded rectangle, turned and shifted, lies in a rounded pocket: the middles of its corners' discs tell. */
export const liesIn = (l: number, w: number, round: number, open: OpenPocket, p: Pose): boolean =>
  [1, -1].every((i) =>
    [1, -1].every((j) => {
      const [a, b] = [i * (l / 2 - round), j * (w / 2 - round)];
      const x = Math.abs(a * Math.cos(p.turn) - b * Math.sin(p.turn) + p.x) - (open.x - open.corner);
      const y = Math.abs(a * Math.sin(p.turn) + b * Math.cos(p.turn) + p.y) - (open.y - open.corner);
      return (x > 0 && y > 0 ? Math.hypot(x, y) : Math.max(x, y)) + round <= open.corner + 1e-9;
    }),
  );

/** The farthest that still holds, by halving. */
export const farthest = (holds: (at: number) => boolean, most: number): number => {
  let [low, high] = [0, most];
  for (let i = 0; i < 24; i += 1) {
    const middle = (low + high) / 2;
    if (holds(middle)) low = middle;
    else high = middle;
  }
  return low;
};
