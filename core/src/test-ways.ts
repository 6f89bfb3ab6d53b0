import { freshCup, freshDrive } from './drive';
import { freshFeeder, type Feeder } from './feeder';
import { segment } from './geometry';
import type { BatchInput, WayId, Ways } from './setup';
import { testBatch, testMachine } from './test-batch';
import { drawnOn } from './test-drawn';
import { inWay } from './test-held';
import { boat } from './test-shapes';
import { WAY_IDS } from './ways';

const plain = testBatch();
const held = <K extends WayId>(
  way: K,
  choice: Partial<Ways[K]['choice']> = {},
  change: Partial<BatchInput> = {},
  found: Partial<Ways[K]['found']> = {},
): BatchInput => inWay(testBatch(change), way, choice, found);

const FEEDER = 'f0000000-0000-4000-8000-000000000001';
const DRIVE = 'd0000000-0000-4000-8000-000000000001';
const feeder: Feeder = { id: FEEDER, name: 'Feeder', ...freshFeeder, longest: 2000 };
const unmeasured = { length: [], width: [], thickness: [] };
const seen = (x: number, y: number) => ({ x, y, angle: 0.2, ask: false, why: '', doubt: 0.1, turn: 0.002 });

/** Lying still, less of it is in focus: 9.8 mm beside the crest. */
const round = (drive: BatchInput['drive'], height = 30): BatchInput =>
  testBatch({
    drive,
    blank: {
      ...plain.blank,
      holes: [],
      zones: [{ ...plain.blank.zones[0]!, x: 60, width: 40, height, margin: 0, angle: 0 }],
      shape: {
        ...freshCup,
        profile: [
          { at: 0, diameter: 92 },
          { at: 130, diameter: 70 },
        ],
        wall: 1.6,
      },
      samples: unmeasured,
    },
    setup: {
      ...plain.setup,
      faces: [{ zoneId: 'face', content: { kind: 'lettering' }, reads: 'around', repeats: 1, wraps: false }],
    },
  });

/** Ways that need a blank, a machine or a feeder of their own. */
const OWN: { readonly [K in WayId]?: BatchInput } = {
  pegs: held(
    'pegs',
    {},
    { blank: { ...plain.blank, shape: { kind: 'outline', source: 'boat.svg', contours: [boat] }, holes: [] } },
  ),
  locator: held('locator', {}, { machine: { ...testMachine, bed: { width: 400, height: 400 } } }),
  sheet: held('sheet', { marks: 5 }),
  panel: held('panel', { marks: 3 }),
  long: drawnOn(
    held(
      'long',
      {},
      {
        quantity: 1,
        spares: 0,
        roster: [],
        blank: {
          ...plain.blank,
          shape: { kind: 'rectangle', length: 2000, width: 300, cornerRadius: 0 },
          samples: unmeasured,
          holes: [],
          zones: [],
        },
        setup: { ...plain.setup, lettering: { ...plain.setup.lettering, lines: [] } },
      },
    ),
    [{ kind: 'line', contour: segment({ x: 10, y: 25 }, { x: 1990, y: 25 }) }],
  ),
  marked: held('marked', {
    own: {
      marks: [
        { x: 4, y: 12, look: { kind: 'ring', size: 4 } },
        { x: 56, y: 12, look: { kind: 'ring', size: 4 } },
      ],
      stretches: false,
    },
  }),
  feed: held(
    'feed',
    {
      feederId: FEEDER,
      strip: { length: 1900, width: 60 },
      gap: 15,
      aimEvery: 0,
      work: { kind: 'row', laid: 0.15, pushRoom: 3 },
    },
    { feeder, feeders: [feeder] },
  ),
  photo: held('photo', {}, {}, { blanks: [seen(80, 90), seen(160, 120), seen(240, 200)] }),
  drive: inWay(
    round({ ...freshDrive, id: DRIVE, name: 'Rollers', centreDistance: 40, axisAcceleration: 50 }),
    'drive',
    {
      driveId: DRIVE,
    },
  ),
  cradle: inWay(round(null, 18), 'cradle'),
};

/** A batch of every way of holding, as the demo shop might have it, before anything was done at the bench. */
export const EXAMPLES = Object.fromEntries(WAY_IDS.map((id) => [id, OWN[id] ?? inWay(plain, id)])) as Readonly<
  Record<WayId, BatchInput>
>;
