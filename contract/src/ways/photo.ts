import { z } from 'zod';
import { id, inRange, oneOf, time, wholeNumber } from '../limits';
import { points } from '../photo';
import { way, workName as name } from './board';

/** Blanks that lie anywhere, and what the last photograph showed of them. */
export const photo = way(
  'photo',
  z.object({
    name,
    use: oneOf('On the bed lie', {
      blanks: 'blanks, engraved as they lie',
      offcuts: 'offcuts, parts are cut from them',
    }),
    gap: inRange('Free between parts', 0, 100, 'mm', { hint: 'beside the kerf' }),
    grain: oneOf('Grain', { along: 'parts along it', any: 'any way' }),
    also: z.array(id).max(20).readonly(),
    marksOn: oneOf('Marks', { bed: 'burned on paper', sheet: 'printed sheet', own: 'the bed’s own' }),
    sheet: z.enum(['A4', 'A3', 'Letter']),
    own: z
      .array(z.object({ x: inRange('x', -1_000, 11_000, 'mm'), y: inRange('y', -1_000, 11_000, 'mm') }))
      .max(40)
      .readonly(),
    cameraHeight: inRange('Camera over the bed', 100, 5_000, 'mm', {
      hint: 'takes the blanks’ thickness into account',
    }),
    inset: inRange('Marks from the edges', 8, 300, 'mm', { label: 'Marks, from the bed’s edges' }),
  }),
  z.object({
    offcuts: z
      .array(z.object({ outline: points, defects: z.array(points).max(200).readonly() }))
      .max(60)
      .readonly(),
    density: inRange('Density', 0, 1).nullable(),
    others: z.array(points).max(400).readonly(),
    seenBy: z.enum(['marks', 'hand', 'kept', 'kept, not checked']),
    blanks: z
      .array(
        z.object({
          x: inRange('x', -1_000, 11_000, 'mm'),
          y: inRange('y', -1_000, 11_000, 'mm'),
          angle: inRange('Angle', -7, 7, 'rad'),
          ask: z.boolean(),
          why: z.string().max(300),
          doubt: inRange('Doubt', 0, 20, 'mm'),
          turn: inRange('Doubt of the angle', 0, 7, 'rad'),
          foot: inRange('Doubt by the camera’s foot', 0, 50, 'mm').nullish(),
        }),
      )
      .max(400)
      .readonly(),
    left: wholeNumber('Left out', 0, 100_000),
    spread: inRange('Spread', 0, 100, 'mm').nullable(),
    marks: wholeNumber('Marks', 0, 100),
    afterLoad: wholeNumber('Load', 0, 1_000_000),
    takenAt: time.nullable(),
  }),
);
