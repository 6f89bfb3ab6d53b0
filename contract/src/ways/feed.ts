import { z } from 'zod';
import { id, inRange } from '../limits';
import { name, way } from './board';
import { pushRoom } from './fence';
import { longChoice } from './long';

/** A row of blanks, parts cut from a strip, or one long piece. */
const work = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('row'), laid: inRange('Laid within', 0, 10, 'mm'), pushRoom }),
  z.object({ kind: z.literal('parts'), interlock: z.boolean() }),
  z.object({ kind: z.literal('long'), long: longChoice }),
]);

const squaring = z.object({
  apart: inRange('Distance of the stations', 50, 5_000, 'mm'),
  first: inRange('Offset at the first station', -20, 50, 'mm'),
  second: inRange('Offset at the second station', -20, 50, 'mm'),
});

export const feed = way(
  'feed',
  z.object({
    name,
    feederId: id.nullable(),
    rails: z.boolean(),
    turned: z.boolean(),
    pitch: inRange('Pitch', 1, 5_000, 'mm').nullable(),
    gap: inRange('Gap', 0, 500, 'mm'),
    strip: z.object({
      length: inRange('Strip length', 20, 10_000, 'mm'),
      width: inRange('Strip width', 5, 5_000, 'mm'),
    }),
    aimEvery: inRange('Aim every', 0, 399).int('Aim every so many stops, a whole number.').nullable(),
    work,
    left: z.array(work).max(2).readonly(),
  }),
  z.object({
    squaring: squaring.nullable(),
    used: z
      .array(
        z.object({
          x: inRange('x', -100, 10_000, 'mm'),
          y: inRange('y', -100, 5_000, 'mm'),
          width: inRange('Width', 1, 5_000, 'mm'),
          height: inRange('Height', 1, 5_000, 'mm'),
        }),
      )
      .max(60)
      .readonly(),
  }),
);
