import { z } from 'zod';
import { inRange, wholeNumber } from './limits';

/** Pegs and witness lines, locator boards, pins, slotted parts, and what was seen on single pieces. */
export const linesSettings = z.object({
  peg: inRange('Peg', 1, 50, 'mm'),
  pegHeight: inRange('Height of the pegs', 0.5, 100, 'mm'),
  contacts: z
    .tuple([inRange('Contact 1', 0, 20_000, 'mm'), inRange('Contact 2', 0, 20_000, 'mm')])
    .readonly()
    .nullable(),
  eye: inRange('Eye', 0.01, 5, 'mm'),
  shoulder: inRange('Rounding of the edge', 0, 200, 'mm'),
  card: inRange('Gap to the card', 0, 10, 'mm').nullable(),
});

const size = (name: string) =>
  z.object({ width: inRange(`${name} width`, 10, 5_000, 'mm'), depth: inRange(`${name} depth`, 10, 5_000, 'mm') });

export const locatorSettings = z.object({
  frame: size('Footprint'),
  foot: size('Foot'),
  travel: z.object({
    x: inRange('Travel from the left', 0, 2_000, 'mm'),
    y: inRange('Travel from the front', 0, 2_000, 'mm'),
  }),
  margin: inRange('Board beyond the feet', 0, 200, 'mm'),
  pitch: inRange('Between the lines', 2, 100, 'mm'),
  inset: inRange('Grid inside the travel', 0, 100, 'mm'),
  gap: inRange('Between pieces', 0, 200, 'mm'),
  eye: inRange('Eye', 0.01, 5, 'mm'),
  back: z
    .array(inRange('Distance of the dots', 0, 20, 'mm'))
    .max(20)
    .readonly(),
});

export const pinSettings = z.object({
  cell: inRange('Cell', 2, 60, 'mm'),
  depth: inRange('Depth of the bed', 5, 200, 'mm'),
  shank: inRange('Shank', 1, 60, 'mm').nullable(),
  head: inRange('Head of a pin', 1, 50, 'mm'),
  stock: inRange('Board for the pins', 0.5, 30, 'mm'),
  scrap: z.object({ width: inRange('Scrap width', 20, 5_000, 'mm'), height: inRange('Scrap height', 20, 5_000, 'mm') }),
});

export const stockSettings = z.object({
  readings: z
    .array(inRange('Thickness', 0.2, 60, 'mm'))
    .max(40)
    .readonly(),
  room: inRange('Room in the slot', -1, 2, 'mm').nullable(),
});

export const standSettings = z.object({
  width: inRange('Stand width', 30, 2_000, 'mm'),
  depth: inRange('Stand depth', 30, 2_000, 'mm'),
  height: inRange('Stand height', 2, 300, 'mm'),
});

export const looks = z.object({
  pieces: z
    .array(
      z.object({
        ordinal: wholeNumber('Piece', 1, 100_000),
        side: z.enum(['one', 'two']).nullable(),
        defects: z
          .array(
            z.object({
              x: inRange('x', -5_000, 5_000, 'mm'),
              y: inRange('y', -5_000, 5_000, 'mm'),
              diameter: inRange('Defect', 0.5, 500, 'mm'),
            }),
          )
          .max(20)
          .readonly(),
      }),
    )
    .max(5_000)
    .readonly(),
});
