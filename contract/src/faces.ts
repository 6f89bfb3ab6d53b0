import { z } from 'zod';
import { FEWEST_PICTURE_DOTS } from '@bistre/core';
import { id, inRange, line, oneOf, wholeNumber, yesNo } from './limits';

/** How the shades of a picture become dots. */
export const pictureTreatment = z.object({
  kernel: oneOf('Shades as dots', {
    'floyd-steinberg': 'Floyd–Steinberg: sharp',
    'jarvis-judice-ninke': 'Jarvis–Judice–Ninke: even',
    stucki: 'Stucki: even, crisper',
    bayer: 'ordered screen (Bayer): a regular pattern',
    half: 'dark or not, no shades',
  }),
  densest: inRange('Densest', 0.05, 1, '', { reads: 'percent', digits: 0 }),
  gamma: inRange('Middle tones', 0.2, 5),
  negative: yesNo('burn the light parts (the material turns light)'),
});

/** A picture that was taken in, and how its shades become dots. */
export const picture = {
  pictureId: id,
  name: line('Picture', 1, 120),
  width: wholeNumber('Dots across', FEWEST_PICTURE_DOTS, 100_000),
  height: wholeNumber('Dots down', FEWEST_PICTURE_DOTS, 100_000),
  darkness: inRange('Darkness', 0, 1),
  treatment: pictureTreatment,
};

/** Where a face lies and how it reads, whatever it carries. */
export const faceFields = z.object({
  zoneId: line('Zone', 1, 40),
  reads: oneOf('Reads', { around: 'around, rim up', down: 'down, rim to base', up: 'up, base to rim' }),
  repeats: wholeNumber('Times round', 1, 24),
  wraps: yesNo('all the way round, meeting itself'),
});

/** How large art from a file is burned. */
export const artSize = z.object({
  size: oneOf('Its size', { fit: 'as large as its zone takes it', true: 'true, as its file says' }).optional(),
});

/** What goes where on a round blank. */
export const faces = z
  .array(
    z.object({
      ...faceFields.shape,
      content: z.discriminatedUnion('kind', [
        z.object({ kind: z.literal('lettering') }),
        z.object({
          kind: z.literal('artwork'),
          artworkId: id,
          revision: wholeNumber('Revision', 1, 100_000),
          name: line('Art', 1, 80),
          ...artSize.shape,
        }),
        z.object({
          kind: z.literal('picture'),
          ...picture,
        }),
      ]),
    }),
  )
  .max(12);
