import { blankOutline, type BatchInput, type BatchReckoning, type Contour } from '@bistre/core';

/** The outline of a piece of the mean size and its holes, in its own frame. */
export const pieceOutline = (input: BatchInput, r: BatchReckoning): Contour[] => [
  ...blankOutline(input.blank, r.sizes),
  ...input.blank.holes.map((h) => ({
    closed: true,
    vertices: [
      { x: h.x + h.diameter / 2, y: h.y, bulge: 1 },
      { x: h.x - h.diameter / 2, y: h.y, bulge: 1 },
    ],
  })),
];
