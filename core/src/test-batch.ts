import { freshMachine, type Machine, type Recipe } from './burn';
import { freshBoard, type Blank } from './holding';
import { freshBack, freshBeside, type BatchInput } from './setup';
import { seeded } from './budget';

const gaussian = (seed: number, mean: number, s: number, n: number): number[] => {
  const r = seeded(seed);
  return Array.from({ length: n }, () => mean + s * r.normal());
};

export const testMachine: Machine = {
  ...freshMachine,
  id: 'm',
  name: 'Bench A',
  power: 60,
  leastPower: 0.1,
  bed: { width: 900, height: 600 },
  zeroCorner: 'back-left',
  yRuns: 'toward',
  pointerOffset: { x: 0, y: 0, height: 0, second: null, measuredAt: '2026-11-01T00:00:00.000Z' },
  repeatability: 0.04,
  focusRange: 2.4,
  acceleration: 5000,
  rapidSpeed: 500,
};

export const testRecipe: Recipe = {
  id: 'r',
  name: 'Slate',
  material: 'acrylic',
  machineId: 'm',
  engrave: { power: 0.35, speed: 400, interval: 0.1, passes: 1 },
  cut: { power: 0.7, speed: 12, interval: 0.1, passes: 1 },
  proof: { trial: 'T 1', stale: null },
};

export const testBlank: Blank = {
  id: 'b',
  name: 'Boat tag',
  shape: { kind: 'rectangle', length: 60, width: 25, cornerRadius: 3 },
  thickness: 1.5,
  catalogueTolerance: 0.3,
  samples: {
    length: gaussian(3, 60.04, 0.07, 12),
    width: gaussian(5, 25.02, 0.05, 12),
    thickness: gaussian(8, 1.5, 0.02, 6),
  },
  holes: [{ x: -25.5, y: 0, diameter: 4 }],
  direction: { kind: 'hole' },
  zones: [
    {
      id: 'face',
      name: 'face',
      x: 3.5,
      y: 0,
      width: 50,
      height: 22,
      margin: 1.5,
      across: 'centre',
      down: 'middle',
      keepOuts: [],
    },
  ],
};

const NAMES = ['KESTREL', 'PUFFIN', 'SANDLING', 'TURNSTONE', 'DUNLIN', 'WHIMBREL'];

/** Pieces that are loaded, in the slots of their own numbers. */
export const loadedPieces = (slots: readonly number[]): BatchInput['pieces'] =>
  slots.map((slot) => ({
    id: String(slot),
    ordinal: slot,
    load: 1,
    slot,
    state: 'loaded',
    cause: null,
    dx: null,
    dy: null,
    yaw: null,
  }));

/** The plywood that boards and gauges are cut from. */
export const testStockRecipe: Recipe = {
  ...testRecipe,
  id: 'birch-ply',
  name: 'Birch ply 3 mm',
  engrave: { power: 0.22, speed: 220, interval: 0.1, passes: 1 },
  cut: { power: 0.82, speed: 14, interval: 0.1, passes: 1 },
};

/** A batch of boat tags on a nest board; parts can be replaced. */
export const testBatch = (change: Partial<BatchInput> = {}): BatchInput => ({
  name: 'Boat tags',
  quantity: 24,
  spares: 2,
  tolerance: 0.6,
  blank: testBlank,
  machine: testMachine,
  recipe: testRecipe,
  backRecipe: null,
  stockRecipe: testStockRecipe,
  fixture: null,
  setup: {
    held: {
      way: 'pockets',
      choice: { ...freshBoard('BOATTAG'), extent: { kind: 'count', count: 24 }, clearance: { school: 'loose' } },
      found: {},
      left: [],
    },
    beside: freshBeside,
    lettering: {
      zoneId: 'face',
      lines: [
        { column: 'name', alphabet: 'b612-bold', capHeight: 6 },
        { column: 'seat', alphabet: 'b612-bold', capHeight: 3 },
      ],
      gap: 1.5,
      narrowest: 0.8,
      smallest: 1.5,
    },
    back: freshBack,
    faces: [],
    place: { school: 'file', model: 'auto' },
    burn: { sweep: 'row' },
    looks: { pieces: [] },
    close: { notes: '', keep: '' },
  },
  readings: [],
  roster: Array.from({ length: 24 }, (_, i) => ({ name: NAMES[i % 6]!, seat: `LANE ${i + 1}` })),
  pieces: [],
  firstApproved: true,
  ticks: [],
  putbacks: [],
  elsewhere: [],
  drive: null,
  rings: [],
  feeder: null,
  feeders: [],
  feedReadings: [],
  closedAt: null,
  ...change,
});
