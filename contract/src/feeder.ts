import { z } from 'zod';
import { id, inRange, oneOf, time } from './limits';

/** A feeder as its maker and the operator describe it. */
export const feederSpec = z
  .object({
    widest: inRange('Widest', 10, 5_000, 'mm'),
    narrowest: inRange('Narrowest', 1, 5_000, 'mm'),
    thickest: inRange('Thickest', 0.1, 200, 'mm'),
    longest: inRange('Longest without rails', 50, 10_000, 'mm'),
    longestOnRails: inRange('Longest on rails', 50, 10_000, 'mm', { empty: 'Empty: it has no rails.' }).nullable(),
    shortest: inRange('Shortest', 10, 2_000, 'mm', { label: 'Shortest that two rollers hold' }),
    along: oneOf('The work moves', { x: 'right to left', y: 'front to back' }),
    window: z.object({
      from: inRange('Window from', 0, 10_000, 'mm'),
      to: inRange('Window to', 0, 10_000, 'mm'),
    }),
    guideAt: inRange('Guide edge', 0, 10_000, 'mm', { label: 'Guide edge, across' }),
    deadFront: inRange('Dead band in front', 0, 1_000, 'mm', { label: 'Dead band, leading end' }),
    deadBack: inRange('Dead band behind', 0, 1_000, 'mm', { label: 'Dead band, trailing end' }),
    rollers: z
      .array(inRange('Roller', -2_000, 12_000, 'mm'))
      .min(1, 'Say where its rollers are.')
      .max(12),
    supports: z
      .array(z.object({ at: inRange('Bar', -2_000, 12_000, 'mm'), width: inRange('Bar width', 1, 500, 'mm') }))
      .max(30),
    feedPerStep: inRange('Feed of one step', 0.00001, 10, 'mm', { reads: 'number' }),
    speed: inRange('Speed', 0.5, 2_000, 'mm/s'),
    settle: inRange('Settling', 0, 30, 's', { label: 'Lies still after' }),
    repeats: inRange('Repeats within', 0.001, 5, 'mm', { label: 'Repeats within ±, by its maker' }),
    word: z
      .enum(['U', 'V', 'W', 'A', 'B', 'C'])
      .meta({ label: 'Word by which a file feeds it, in mm', empty: 'none: no file can' })
      .nullable(),
  })
  .refine((f) => f.window.to - f.window.from >= 60, {
    path: ['window', 'to'],
    message: 'The window must be at least 60 mm long: from its lesser to its greater place.',
  })
  .refine((f) => f.narrowest < f.widest, {
    path: ['narrowest'],
    message: 'The narrowest work is not narrower than the widest.',
  })
  .refine((f) => f.longestOnRails === null || f.longestOnRails >= f.longest, {
    path: ['longestOnRails'],
    message: 'On rails it carries less than without.',
  });
export type FeederSpec = z.infer<typeof feederSpec>;

export const feedEntry = z.object({
  id,
  commanded: z.number(),
  measured: z.number(),
  missed: z.number().nullable(),
  at: time,
  by: z.string(),
});
