import { z } from 'zod';
import { FEWEST_PICTURE_DOTS, KERNELS } from '@bistre/core';
import { contour, tooManyPoints } from './geometry';
import { id, inRange, line, wholeNumber } from './limits';

/** What goes where on a round blank. */
export const faces = z
  .array(
    z.object({
      zoneId: line('Zone', 1, 40),
      content: z.discriminatedUnion('kind', [
        z.object({ kind: z.literal('lettering') }),
        z.object({ kind: z.literal('art'), name: line('Art', 1, 120), contours: z.array(contour).min(1).max(2_000) }),
        z.object({
          kind: z.literal('picture'),
          pictureId: id,
          name: line('Picture', 1, 120),
          width: wholeNumber('Dots across', FEWEST_PICTURE_DOTS, 100_000),
          height: wholeNumber('Dots down', FEWEST_PICTURE_DOTS, 100_000),
          darkness: inRange('Darkness', 0, 1),
          treatment: z.object({
            kernel: z.enum(KERNELS),
            densest: inRange('Densest', 0.05, 1),
            gamma: inRange('Middle tones', 0.2, 5),
            negative: z.boolean(),
          }),
        }),
      ]),
      reads: z.enum(['around', 'down']),
      repeats: wholeNumber('Times round', 1, 24),
      wraps: z.boolean(),
    }),
  )
  .max(12)
  .superRefine((faces, context) =>
    tooManyPoints(
      faces.flatMap((f) => (f.content.kind === 'art' ? f.content.contours : [])),
      context,
    ),
  );
