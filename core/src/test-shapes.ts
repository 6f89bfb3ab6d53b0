import { polyline, type Contour } from './geometry';

/** A boat seen from above: pointed bow, round shoulders, flat stern. */
export const boat: Contour = polyline(
  [
    [-60, -12],
    [-50, -16],
    [-20, -19],
    [10, -18],
    [34, -13],
    [52, -6],
    [62, 0],
    [52, 6],
    [34, 13],
    [10, 18],
    [-20, 19],
    [-50, 16],
    [-60, 12],
  ].map(([x, y]) => ({ x: x!, y: y! })),
  true,
);
