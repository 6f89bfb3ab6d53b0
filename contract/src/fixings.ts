import { z } from 'zod';
import { inRange, wholeNumber } from './limits';

export const pinSettings = z.object({
  cell: inRange('Across a cell', 2, 60, 'mm'),
  depth: inRange('Depth of the bed', 5, 200, 'mm'),
  shank: inRange('Shank', 1, 60, 'mm').nullable(),
  head: inRange('Head over the work', 1, 50, 'mm'),
  stock: inRange('Board for the pins', 0.5, 30, 'mm'),
  scrap: z.object({
    width: inRange('Scrap width', 20, 5_000, 'mm', { label: 'Scrap, across' }),
    height: inRange('Scrap height', 20, 5_000, 'mm', { label: 'Scrap, deep' }),
  }),
});

export const stockSettings = z.object({
  thickness: inRange('Thickness of the board', 0.3, 50, 'mm', { label: 'Its board, as sold' }),
  readings: z
    .array(inRange('Thickness', 0.2, 60, 'mm'))
    .max(40)
    .readonly(),
  room: inRange('Room in the slot', -1, 2, 'mm').nullable(),
});

export const standSettings = z.object({
  width: inRange('Stand width', 30, 2_000, 'mm', { label: 'Stand, across' }),
  depth: inRange('Stand depth', 30, 2_000, 'mm', { label: 'Stand, deep' }),
  height: inRange('Lift', 2, 300, 'mm', { label: 'It lifts by' }),
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
              diameter: inRange('Defect', 0.5, 500, 'mm', { label: 'Defect, across' }),
            }),
          )
          .max(20)
          .readonly(),
      }),
    )
    .max(5_000)
    .readonly(),
});
