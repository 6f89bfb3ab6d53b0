import { z } from 'zod';
import { FEWEST_MARKS, MOST_MARKS } from '@bistre/core';
import { id, inRange, line, time, wholeNumber } from './limits';

const vertex = z.object({
  x: inRange('x', -10_000, 10_000, 'mm'),
  y: inRange('y', -10_000, 10_000, 'mm'),
  bulge: z.number().finite().optional(),
});
export const contour = z.object({ closed: z.boolean(), vertices: z.array(vertex).min(2).max(20_000) });

const size = (name: string): z.ZodNumber => inRange(name, 0.5, 5_000, 'mm');

export const blankShape = z.discriminatedUnion('kind', [
  z
    .object({
      kind: z.literal('rectangle'),
      length: size('Length'),
      width: size('Width'),
      cornerRadius: inRange('Corner radius', 0, 2_500, 'mm'),
    })
    .refine((s) => s.cornerRadius <= Math.min(s.length, s.width) / 2, {
      path: ['cornerRadius'],
      message: 'The corner radius is more than half the width.',
    }),
  z.object({ kind: z.literal('disc'), diameter: size('Diameter') }),
  z.object({ kind: z.literal('outline'), contours: z.array(contour).min(1).max(500), source: line('Source', 0, 200) }),
]);

export const rect = z.object({
  x: inRange('x', -5_000, 5_000, 'mm'),
  y: inRange('y', -5_000, 5_000, 'mm'),
  width: size('Width'),
  height: size('Height'),
});

export const zone = rect.extend({
  id: line('Zone id', 1, 40),
  name: line('Zone name', 1, 60),
  margin: inRange('Margin', 0, 500, 'mm'),
  across: z.enum(['left', 'centre', 'right']),
  down: z.enum(['top', 'middle', 'bottom']),
  keepOuts: z.array(rect).max(20),
});

export const hole = z.object({
  x: inRange('Hole x', -5_000, 5_000, 'mm'),
  y: inRange('Hole y', -5_000, 5_000, 'mm'),
  diameter: inRange('Hole diameter', 0.1, 1_000, 'mm'),
});

export const direction = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('none') }),
  z.object({ kind: z.literal('hole') }),
  z.object({ kind: z.literal('clipped-corner'), size: inRange('Clipped corner', 0.5, 500, 'mm') }),
]);

/** What a person edits of a blank; its samples are separate readings. */
export const blankSpec = z.object({
  shape: blankShape,
  thickness: inRange('Thickness', 0.05, 500, 'mm'),
  catalogueTolerance: inRange('Catalogue tolerance', 0, 20, 'mm'),
  holes: z.array(hole).max(50),
  direction,
  zones: z.array(zone).max(20),
});
export type BlankSpec = z.infer<typeof blankSpec>;

export const dimension = z.enum(['length', 'width', 'thickness']);

export const sample = z.object({ id, dimension, value: z.number(), at: time, by: z.string() });
export type Sample = z.infer<typeof sample>;

export const machineProfile = z.object({
  source: z.enum(['gas tube', 'diode', 'fibre']),
  power: inRange('Power', 0.1, 20_000, 'W'),
  bed: z.object({ width: inRange('Bed width', 20, 10_000, 'mm'), height: inRange('Bed height', 20, 10_000, 'mm') }),
  zeroCorner: z.enum(['front-left', 'front-right', 'back-left', 'back-right']),
  yRuns: z.enum(['away', 'toward']),
  kerf: inRange('Kerf', 0, 2, 'mm'),
  kerfMeasuredAt: time.nullable(),
  pointerOffset: z
    .object({
      x: inRange('Pointer offset x', -50, 50, 'mm'),
      y: inRange('Pointer offset y', -50, 50, 'mm'),
      measuredAt: time,
    })
    .nullable(),
  jogSteps: z.tuple([
    inRange('Coarse jog', 0.01, 100, 'mm'),
    inRange('Fine jog', 0.005, 50, 'mm'),
    inRange('Finest jog', 0.001, 10, 'mm'),
  ]),
  eye: inRange('Eye or loupe', 0, 1, 'mm'),
  spot: inRange('Pointer spot', 0, 2, 'mm'),
  repeatability: inRange('Return', 0, 2, 'mm'),
  nozzleGap: inRange('Nozzle gap', 0, 500, 'mm'),
  headRadius: inRange('Head radius', 0, 300, 'mm'),
  focusRange: inRange('Focus range', 0.01, 100, 'mm'),
  acceleration: inRange('Acceleration', 10, 100_000, 'mm/s²'),
  rapidSpeed: inRange('Rapid speed', 1, 10_000, 'mm/s'),
  dialect: z.object({
    powerMax: wholeNumber('Power word at full power', 1, 100_000),
    laserOn: z.enum(['M3', 'M4']),
    arcs: z.boolean(),
    decimals: z.union([z.literal(2), z.literal(3), z.literal(4)]),
  }),
});
export type MachineProfile = z.infer<typeof machineProfile>;

const burnSetting = z.object({
  power: inRange('Power', 0, 1),
  speed: inRange('Speed', 0.1, 10_000, 'mm/s'),
  interval: inRange('Interval', 0.005, 5, 'mm'),
  passes: wholeNumber('Passes', 1, 50),
});

export const recipeSpec = z.object({
  material: line('Material', 1, 100),
  engrave: burnSetting,
  cut: burnSetting,
  proof: line('Proof', 0, 300),
});
export type RecipeSpec = z.infer<typeof recipeSpec>;

export const holdSettings = z.object({
  method: z.enum(['nest', 'fence']),
  clearance: z.discriminatedUnion('school', [
    z.object({ school: z.literal('loose') }),
    z.object({ school: z.literal('snug') }),
    z.object({ school: z.literal('own'), total: inRange('Clearance', 0, 20, 'mm') }),
  ]),
  coverage: inRange('Share of pieces', 0.5, 0.999),
  confidence: inRange('Confidence', 0.5, 0.999),
  boardThickness: inRange('Board thickness', 0.3, 50, 'mm'),
  boardWarp: inRange('Warp', 0, 50, 'mm'),
  wall: inRange('Wall', 0, 200, 'mm'),
  extent: z.discriminatedUnion('kind', [
    z.object({
      kind: z.literal('board'),
      width: inRange('Board width', 60, 5_000, 'mm'),
      height: inRange('Board height', 40, 5_000, 'mm'),
    }),
    z.object({ kind: z.literal('bed') }),
    z.object({ kind: z.literal('count'), count: wholeNumber('Pockets', 1, 2_000) }),
  ]),
  turned: z.enum(['auto', 'along', 'across']),
  notches: z.enum(['none', 'one', 'both']),
  notchRadius: inRange('Notch radius', 3, 30, 'mm'),
  slotNumbers: z.boolean(),
  marks: wholeNumber('Marks', FEWEST_MARKS, MOST_MARKS),
  order: z.object({
    corner: z.enum(['front-left', 'front-right', 'back-left', 'back-right']),
    first: z.enum(['rows', 'columns']),
    serpentine: z.boolean(),
  }),
  name: line('Board name', 1, 24),
  pushRoom: inRange('Room to push', 0.5, 50, 'mm'),
  tallThings: z
    .array(
      z.object({
        label: line('Name of the tall thing', 1, 40),
        x: inRange('x', -2_000, 10_000, 'mm'),
        y: inRange('y', -2_000, 10_000, 'mm'),
        radius: inRange('Radius', 0, 500, 'mm'),
        height: inRange('Height', 0, 1_000, 'mm'),
      }),
    )
    .max(40)
    .readonly(),
});

export const setupSections = {
  hold: holdSettings,
  lettering: z.object({
    zoneId: z.string().max(40).nullable(),
    lines: z
      .array(
        z.object({
          column: line('Column', 1, 100),
          alphabet: line('Alphabet', 1, 40),
          capHeight: inRange('Cap height', 0.5, 200, 'mm'),
        }),
      )
      .max(12),
    gap: inRange('Gap between lines', 0, 100, 'mm'),
    narrowest: inRange('Narrowest setting', 0.5, 1),
    smallest: inRange('Smallest capital', 0.3, 100, 'mm'),
  }),
  place: z.object({ school: z.enum(['file', 'work']) }),
  burn: z.object({ sweep: z.enum(['piece', 'row']) }),
  close: z.object({ notes: z.string().max(4_000), keep: z.string().max(4_000) }),
} as const;
export const setup = z.object(setupSections);
export type Setup = z.infer<typeof setup>;
export type SectionName = keyof Setup;

export const markReading = z.object({
  id,
  mark: wholeNumber('Mark', 1, 12),
  x: z.number(),
  y: z.number(),
  source: z.enum(['typed', 'simulated machine']),
  at: time,
  by: z.string(),
  purpose: z.enum(['place', 'reread']),
});

export const piece = z.object({
  id,
  ordinal: z.number().int(),
  load: z.number().int(),
  slot: z.number().int(),
  state: z.enum(['loaded', 'done', 'scrap']),
  cause: z.string().nullable(),
  dx: z.number().nullable(),
  dy: z.number().nullable(),
  yaw: z.number().nullable(),
});

export const putback = z.object({
  id,
  setting: z.string(),
  was: z.string(),
  now: z.string(),
  restoredAt: time.nullable(),
});
