import { zoneContent } from './artwork';
import { z } from 'zod';
import { checkProfile, MACHINE_PARTS, MODELS, MOST_POINTS, nominalSize } from '@bistre/core';
import { faces } from './faces';
import { looks, pinSettings, standSettings, stockSettings } from './fixings';
import { contour } from './geometry';
import { keptCamera } from './photo';
import { CORNERS, HIGHEST_MARK, id, inRange, line, oneOf, time, wholeNumber, yesNo } from './limits';
import { heldSection } from './ways';

/** How large flat work is one way. */
export const size = (name: string): z.ZodNumber => inRange(name, 0.5, 5_000, 'mm');

/** How thick round work is somewhere. */
export const diameterAt = (name: string): z.ZodNumber => inRange(name, 1, 1_000, 'mm');

/** Something that is on a round blank already: where it lies along it, and what it takes of it. */
const roundFeature = z.object({
  kind: z.enum(['handle', 'existing logo', 'seam weld']).meta({ label: 'What it is' }),
  reach: inRange('Reach', 0, 500, 'mm', { label: 'Stands out' }),
  from: inRange('From', 0, 5_000, 'mm', { label: 'From the rim' }),
  to: inRange('To', 0, 5_000, 'mm', { label: 'To' }),
  mass: inRange('Mass', 0, 50, 'kg'),
  width: inRange('Width', 0, 2_000, 'mm', { label: 'Width round', empty: 'Empty: a line.' }).nullish(),
});

/** What a round blank is of: it says how heavy it is, and how it grips. */
export const roundMaterial = z.enum(['steel', 'aluminium', 'glass', 'wood', 'plastic']).meta({ label: 'Material' });

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
  z.object({
    kind: z.literal('round'),
    profile: z
      .array(z.object({ at: inRange('Place', 0, 5_000, 'mm'), diameter: diameterAt('Diameter') }))
      .min(2, 'A profile needs the diameter at the rim and at the base.')
      .max(MOST_POINTS)
      .superRefine((points, context) => {
        const checked = checkProfile(points);
        if (!checked.ok) context.addIssue({ code: 'custom', message: checked.problem.message });
      }),
    wall: inRange('Wall', 0.05, 500, 'mm'),
    material: roundMaterial,
    filled: yesNo('Filled'),
    lid: yesNo('Has a lid'),
    capacity: inRange('Stated capacity', 0.001, 500, 'l', { empty: 'Empty: not stated.' }).nullable(),
    feature: roundFeature
      .extend({
        others: z
          .array(roundFeature.extend({ angle: inRange('Angle', -7, 7, 'rad', { label: 'To the right' }) }))
          .max(8)
          .nullish(),
      })
      .nullable(),
  }),
]);

export const rect = z.object({
  x: inRange('x', -5_000, 5_000, 'mm'),
  y: inRange('y', -5_000, 5_000, 'mm'),
  width: size('Width'),
  height: size('Height'),
});

export const zone = rect.extend({
  id: line('Zone id', 1, 40),
  name: line('Zone', 1, 60),
  margin: inRange('Margin', 0, 500, 'mm'),
  across: z.enum(['left', 'centre', 'right']).meta({ label: 'Across' }),
  down: z.enum(['top', 'middle', 'bottom']).meta({ label: 'Down' }),
  keepOuts: z.array(rect).max(20),
  side: z.enum(['front', 'back']).meta({ label: 'Face', empty: 'either' }).optional(),
  angle: inRange('Angle', -7, 7, 'rad').optional(),
  /** What its size is short of its blank’s, along and across, while it follows that; nothing once it was fixed by hand. */
  inset: z.object({ x: inRange('Inset', 0, 5_000, 'mm'), y: inRange('Inset', 0, 5_000, 'mm') }).nullish(),
});

export const hole = z.object({
  x: inRange('x', -5_000, 5_000, 'mm'),
  y: inRange('y', -5_000, 5_000, 'mm'),
  diameter: inRange('Diameter', 0.1, 1_000, 'mm'),
});

export const direction = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('none') }),
  z.object({ kind: z.literal('hole') }),
  z.object({ kind: z.literal('clipped-corner'), size: inRange('Legs of the clipped corner', 0.5, 500, 'mm') }),
]);

/** What a person edits of a blank; its samples are separate readings. */
export const blankSpec = z.object({
  shape: blankShape,
  thickness: inRange('Thickness', 0.05, 500, 'mm'),
  catalogueTolerance: inRange('Catalogue tolerance', 0, 20, 'mm', { label: 'Catalogue tolerance, ±' }),
  holes: z.array(hole).max(50),
  direction,
  zones: z.array(zone).max(20),
  /** In the words of a recipe; nothing where nobody said. */
  material: line('Made of', 0, 100).nullish(),
});
export type BlankSpec = z.infer<typeof blankSpec>;

/** A blank as it is written: no zone of a flat one is larger than the blank itself. */
export const fittingBlank = blankSpec.superRefine(({ shape, zones }, context) => {
  if (shape.kind === 'round') return;
  const size = nominalSize(shape);
  for (const [i, zone] of zones.entries())
    for (const [field, of, word] of [
      ['width', size.length, 'long'],
      ['height', size.width, 'wide'],
    ] as const)
      if (zone[field] > of + 0.01)
        context.addIssue({
          code: 'custom',
          path: ['zones', i, field],
          message: `${zone.name} is ${zone[field]} mm ${field === 'width' ? 'wide' : 'high'}; the blank is ${Math.round(of * 100) / 100} mm ${word}. Make the zone smaller, or the blank as large as it is.`,
        });
});

export const dimension = z.enum(['length', 'width', 'thickness', 'diameter', 'tape']);

export const sample = z.object({ id, dimension, value: z.number(), at: time, by: z.string() });
export type Sample = z.infer<typeof sample>;

const pointerAt = z.object({
  x: inRange('Pointer offset x', -50, 50, 'mm'),
  y: inRange('Pointer offset y', -50, 50, 'mm'),
  height: inRange('Height over the focus', -200, 200, 'mm', {
    label: 'On a surface over the focus by',
    hint: 'negative below it',
  }),
});

/** A square that a machine burned, measured with a rule. */
export const burnedSquare = z.object({
  side: inRange('Side, as the machine was told', 10, 10_000, 'mm'),
  along: inRange('Along x', 1, 20_000, 'mm'),
  across: inRange('Along y', 1, 20_000, 'mm'),
  rising: inRange('Front left to back right', 1, 20_000, 'mm'),
  falling: inRange('Back left to front right', 1, 20_000, 'mm'),
  rule: inRange('The rule is read to', 0.01, 5, 'mm', { label: 'The rule is read to, ±' }),
  measuredAt: time,
});

/** A load that was timed: by the plan, and by the stop-watch. */
export const timedLoad = z.object({
  planned: inRange('Planned', 0.1, 1_000_000, 's'),
  took: inRange('Time by the stop-watch', 0.1, 1_000_000, 's'),
  at: time,
});

export const machineProfile = z.object({
  source: z.enum(['gas tube', 'diode', 'fibre']).meta({ label: 'Source' }),
  power: inRange('Power', 0.1, 20_000, 'W'),
  leastPower: inRange('Least power', 0, 0.9, '', {
    label: 'Fires from',
    reads: 'percent',
    hint: 'of full power; 0: not said',
  }),
  /** A second source on the same head; nothing where it has one alone. */
  second: z
    .object({
      source: z.enum(['gas tube', 'diode', 'fibre']).meta({ label: 'Second source' }),
      power: inRange('Power of the second', 0.1, 20_000, 'W'),
      leastPower: inRange('Least power of the second', 0, 0.9, '', { label: 'Fires from', reads: 'percent', hint: 'of full power; 0: not said' }), // prettier-ignore
      offset: z.object({
        x: inRange('Its beam beside the first, x', -500, 500, 'mm'),
        y: inRange('Its beam beside the first, y', -500, 500, 'mm'),
      }),
    })
    .nullish(),
  bed: z.object({ width: inRange('Bed width', 20, 10_000, 'mm'), height: inRange('Bed height', 20, 10_000, 'mm') }),
  zeroCorner: oneOf('Zero corner', CORNERS),
  yRuns: oneOf('y runs in its files', { away: 'away from the operator', toward: 'towards the operator' }),
  kerf: inRange('Kerf', 0, 2, 'mm'),
  kerfMeasuredAt: time.nullable(),
  pointerOffset: pointerAt.extend({ second: pointerAt.nullable(), measuredAt: time }).nullable(),
  square: burnedSquare.nullish(),
  jogSteps: z.tuple([
    inRange('Coarse jog', 0.01, 100, 'mm'),
    inRange('Fine jog', 0.005, 50, 'mm'),
    inRange('Finest jog', 0.001, 10, 'mm'),
  ]),
  eye: inRange('Eye or loupe', 0, 1, 'mm', { label: 'Eye or loupe, standard' }),
  spot: inRange('Pointer spot', 0, 2, 'mm', { label: 'Pointer spot, standard' }),
  /** How its beam is focused; nothing where nobody said. */
  optics: z
    .object({
      wavelength: inRange('Wavelength', 0.2, 20, 'µm'),
      focal: inRange('Focal length', 5, 1_000, 'mm', { label: 'Focal length of the lens' }),
      beam: inRange('Beam at the lens', 0.5, 50, 'mm'),
      quality: inRange('Beam quality', 1, 20, '', { label: 'Beam quality, M²', hint: '1 at best; its maker says it' }),
    })
    .nullish(),
  repeatability: inRange('Return', 0, 2, 'mm', { label: 'Return to a place, ±' }),
  nozzleGap: inRange('Nozzle gap', 0, 500, 'mm'),
  headRadius: inRange('Head radius', 0, 300, 'mm'),
  bedLowest: inRange('Nozzle to the bed at its lowest', 0, 3_000, 'mm'),
  withoutBed: inRange('Nozzle to the floor', 0, 3_000, 'mm', {
    label: 'Nozzle to the floor, bed out',
    empty: 'Empty: the bed stays in.',
  }).nullable(),
  focusRange: inRange('Focus range', 0.01, 100, 'mm', { label: 'Focus range, in total' }),
  camera: keptCamera.nullable(),
  /** How long a proof on it holds, by the shop's own rule. */
  proofDays: inRange('A proof holds for', 1, 3_650, 'days', { empty: 'Empty: until something is changed.' }).nullish(),
  acceleration: inRange('Acceleration', 10, 100_000, 'mm/s²'),
  rapidSpeed: inRange('Rapid speed', 1, 10_000, 'mm/s'),
  /** Loads that were timed on it by a stop-watch, the latest last. */
  stopwatch: z.array(timedLoad).max(30).readonly().nullish(),
  dialect: z.object({
    powerMax: wholeNumber('S word at full power', 1, 100_000),
    laserOn: oneOf('Beam on by', { M4: 'M4, power follows speed', M3: 'M3, constant power' }),
    arcs: yesNo('Arcs as G2 and G3'),
    decimals: z.union([z.literal(2), z.literal(3), z.literal(4)]).meta({ label: 'Decimals' }),
  }),
});
export type MachineProfile = z.infer<typeof machineProfile>;

export const burnSetting = z.object({
  power: inRange('Power', 0, 1, '', { reads: 'percent' }),
  speed: inRange('Speed', 0.1, 10_000, 'mm/s'),
  interval: inRange('Line interval', 0.005, 5, 'mm', { label: 'Line interval (or 254 lpi)', reads: 'interval' }),
  passes: wholeNumber('Passes', 1, 50),
  angle: inRange('Lines run at', -Math.PI, Math.PI, 'rad', { hint: 'against x of the machine', empty: 'Empty: along x.' }).nullish(), // prettier-ignore
  turn: inRange('Each pass turns by', -Math.PI, Math.PI, 'rad', { empty: 'Empty: all the same way.' }).nullish(),
  oneWay: yesNo('Lines all the same way').nullish(),
  focus: inRange('Lens above focus', -100, 100, 'mm', { label: 'Lens above focus (−: below)', empty: 'Empty: in focus.' }).nullish(), // prettier-ignore
  air: oneOf('Air', { on: 'on', off: 'off' }, { empty: 'as it stands' }).nullish(),
  source: oneOf('Source', { second: 'the second' }, { empty: 'the first' }).nullish(),
});

/** Burns that follow the engraving over the same areas. */
export const burnsAfter = z.array(burnSetting).max(6, 'At most 6 burns follow the first.').optional();

export const recipeSpec = z.object({
  material: line('Material', 1, 100),
  engrave: burnSetting,
  after: burnsAfter,
  cut: burnSetting,
  note: line('Where it comes from', 0, 300, {
    hint: 'as it is remembered; only a trial proves it',
  }),
});
export type RecipeSpec = z.infer<typeof recipeSpec>;

const wasThere = (most: number) =>
  inRange('Value to return to', 0, most, '', { label: 'Stands there without it; put back to' });
const driveCommon = {
  stepsPerTurn: inRange('Steps of one motor turn', 1, 10_000_000),
  reduction: inRange('Reduction', 0.01, 1_000, '', { label: 'Reduction, motor turns to one' }),
  motorSide: z.enum(['left', 'right']).meta({ label: 'Motor side' }),
  height: inRange('Height of its axis', 0, 500, 'mm'),
  room: inRange('Length it takes', 10, 5_000, 'mm'),
  axis: z.object({ letter: z.enum(['Y', 'A', 'B', 'C']), unit: z.enum(['mm', 'degrees']) }),
  control: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('travel-per-turn'), was: wasThere(10_000_000) }),
    z.object({ kind: z.literal('steps-per-turn'), was: wasThere(10_000_000) }),
    z.object({ kind: z.literal('steps-per-blank-turn'), was: wasThere(10_000_000) }),
    z.object({ kind: z.literal('axis-steps'), was: wasThere(1_000_000) }),
    z.object({
      kind: z.literal('scale-art'),
      stepsPerMm: inRange('Steps to the millimetre', 0.1, 1_000_000, 'steps/mm', { label: 'The axis is set to' }),
    }),
  ]),
  topMoves: oneOf('On a growing value the top moves', {
    toward: 'towards the operator',
    away: 'away from the operator',
  }),
  risers: z.array(z.object({ name: line('Blocks or feet', 1, 40), height: inRange('Riser height', -200, 500, 'mm', { label: 'Stands higher by (−: lower)' }) })).max(8), // prettier-ignore
  axisAcceleration: inRange('Axis acceleration', 1, 200_000, 'mm/s²', { label: 'Axis acceleration as it is' }),
  backlash: inRange('Play', 0, 20, '°', { label: 'Play where it turns back' }),
};
const rollers = {
  rollerDiameter: inRange('Roller diameter', 2, 500, 'mm'),
  centreDistance: inRange('Distance of their axes', 4, 1_000, 'mm'),
  spacings: z
    .array(z.object({ apart: inRange('Other distance', 4, 1_000, 'mm', { label: 'Or set apart by' }) }))
    .max(8)
    .nullish(),
  friction: inRange('Friction', 0.02, 2, 'μ', { label: 'Friction (rubber on steel about 0.5)' }),
};
/** A rotary as its maker and the operator describe it. */
export const driveSpec = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('roller'),
    ...driveCommon,
    ...rollers,
    driven: z.union([z.literal(1), z.literal(2)]).meta({
      label: 'Driven',
      options: [
        ['1', 'one roller'],
        ['2', 'both rollers'],
      ],
    }),
    bandThickness: inRange('Traction band on the blank', 0, 20, 'mm'),
  }),
  z.object({ kind: z.literal('wheel'), ...driveCommon, ...rollers, driven: z.literal(2), bandThickness: z.literal(0) }),
  z.object({
    kind: z.literal('chuck'),
    ...driveCommon,
    jaws: inRange('Jaws', 1, 1_000, 'mm', { label: 'Largest the jaws take' }),
  }),
]);
export type DriveSpec = z.infer<typeof driveSpec>;

export const ringEntry = z.object({
  id,
  batchId: id,
  overlap: z.number(),
  circumference: z.number(),
  correction: z.number(),
  readingError: z.number(),
  /** Diameter of the piece that carried it, mm; null where nobody measured it. */
  diameter: z.number().nullable(),
  at: time,
  by: z.string(),
});

/** What stands beside any way: how much of the pieces is allowed for, tall things, pins, stands. */
export const beside = z.object({
  coverage: inRange('Share of pieces', 0.5, 1),
  confidence: inRange('Confidence', 0.5, 0.999),
  boardWarp: inRange('Warp of the board', 0, 50, 'mm'),
  tallThings: z
    .array(
      z.object({
        label: line('Name of the tall thing', 1, 40, { label: 'Name' }),
        x: inRange('x', -2_000, 10_000, 'mm'),
        y: inRange('y', -2_000, 10_000, 'mm'),
        radius: inRange('Radius', 0, 500, 'mm'),
        height: inRange('Height', 0, 1_000, 'mm'),
      }),
    )
    .max(40)
    .readonly(),
  pins: pinSettings.nullable(),
  stock: stockSettings,
  stand: standSettings.nullable(),
});

/** Which column fills which line of a face, in which alphabet, how tall. */
const lettering = z.object({
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
});

/** A move of the burn in the frame of what holds the pieces, and what it was proposed from. */
const move = {
  shift: z.object({ x: inRange('The shift', -20, 20, 'mm'), y: inRange('The shift', -20, 20, 'mm') }),
  turn: inRange('The turn', -0.2, 0.2, 'rad'),
  size: inRange('The size', -0.05, 0.05),
  about: z.object({ x: z.number(), y: z.number() }),
  /** Measured pieces it was proposed from. */
  pieces: wholeNumber('Pieces', 1, 20_000),
  /** How often noise alone would have looked so. */
  chance: inRange('The chance', 0, 1),
};
export const acceptedMove = z.object(move);
/** A distance taken with a caliper. */
export const caliperReading = z.object({ distance: inRange('The distance', 0, 2_000, 'mm', { digits: 2 }) });
export const correction = z.object({
  ...move,
  id,
  at: time,
  by: z.string(),
  laying: id.nullable(),
  load: z.number().int(),
});

/** Something that was changed on a machine, as it is entered. */
export const machineChanged = z.object({
  what: z.enum(MACHINE_PARTS),
  note: line('Note', 0, 200, { hint: 'which lens, how much power is left' }),
  at: time,
});

/** A customer's word on a proof, as somebody heard or read it. */
export const approvalTaken = z.object({
  signedBy: line('Approved by', 1, 80, { hint: 'who signed the proof, or wrote that it is right' }),
  note: line('Their words', 0, 400, { label: 'Their words, corrections' }),
});

export const setupSections = {
  held: heldSection,
  beside,
  lettering,
  back: lettering.extend({
    recipeId: id.nullable(),
    deeper: inRange('Energy on the back', 0.1, 10, '×', { hint: '1.2 burns a fifth darker' }),
  }),
  faces,
  /** What zones carry beside their lettering; nothing in what was kept before they could. */
  contents: z.array(zoneContent).max(20).nullish(),
  place: z.object({
    school: z.enum(['file', 'work']),
    model: z.enum(['auto', ...MODELS]),
    corrections: z.array(correction).max(100).optional(),
  }),
  burn: z.object({
    sweep: z.enum(['piece', 'row']),
    /** The recipe of boards, gauges, pins and cradles; absent while nobody chose one. */
    stockRecipeId: id.nullable().optional(),
  }),
  looks,
  close: z.object({ notes: z.string().max(4_000), keep: z.string().max(4_000) }),
} as const;
export const setup = z.object(setupSections);
export type Setup = z.infer<typeof setup>;
export type SectionName = keyof Setup;

export const markReading = z.object({
  id,
  mark: wholeNumber('Mark', 1, HIGHEST_MARK),
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

/** A setting that stands in the machine as another batch left it. */
export const elsewhere = z.object({ batch: z.string(), setting: z.string(), was: z.string(), now: z.string() });

export const putback = z.object({
  id,
  setting: z.string(),
  was: z.string(),
  now: z.string(),
  restoredAt: time.nullable(),
});
