import { chosen } from './ways';
import { MACHINE_PARTS } from '@bistre/core';
import { z } from 'zod';
import { artworkUsed } from './artwork';
import { feederSpec, feedEntry } from './feeder';
import { shopStepSpec } from './shop-step';
import { id, rosterRow, time } from './limits';
import {
  blankSpec,
  driveSpec,
  beside,
  machineProfile,
  markReading,
  piece,
  elsewhere,
  putback,
  recipeSpec,
  ringEntry,
  sample,
  setup,
} from './things';
import { recipeProof } from './trial';

/** A picture as it was taken in; its dots come from `/api/pictures/:id` as a PNG in shades of grey. */
export const pictureInfo = z.object({
  id,
  name: z.string(),
  width: z.number().int(),
  height: z.number().int(),
  /** Mean darkness, 0 white to 1 black. */
  darkness: z.number(),
});
export type PictureInfo = z.infer<typeof pictureInfo>;

/** Things of the Shelf that people edit; also the names of their tables. */
export type ShelfKind = 'blanks' | 'machines' | 'recipes' | 'drives' | 'feeders' | 'artworks' | 'steps' | 'trials';

const versioned = { id, name: z.string(), version: z.number().int() };

export const blankDocument = z.object({
  ...versioned,
  spec: blankSpec,
  samples: z.array(sample),
  usedBy: z.array(z.string()),
});
export type BlankDocument = z.infer<typeof blankDocument>;

/** Something that was changed on a machine. */
export const machineChange = z.object({ id, what: z.enum(MACHINE_PARTS), note: z.string(), at: time, by: z.string() });
export const machineDocument = z.object({
  ...versioned,
  profile: machineProfile,
  /** What was changed on it, the latest first. */
  changes: z.array(machineChange).default([]),
});
export type MachineDocument = z.infer<typeof machineDocument>;

export const recipeDocument = z.object({
  ...versioned,
  machineId: id,
  spec: recipeSpec,
  /** The cell of a trial that proved it; nothing while none did. */
  proof: recipeProof.nullable(),
});
export type RecipeDocument = z.infer<typeof recipeDocument>;

export const driveDocument = z.object({
  ...versioned,
  spec: driveSpec,
  /** Rings of this drive by blank, newest first. */
  history: z.array(z.object({ blankName: z.string(), overlap: z.number(), correction: z.number(), at: time })),
});
export type DriveDocument = z.infer<typeof driveDocument>;

/** A step that the shop added. */
export const shopStepDocument = z.object({ ...versioned, spec: shopStepSpec });
export type ShopStepDocument = z.infer<typeof shopStepDocument>;

export const feederDocument = z.object({
  ...versioned,
  spec: feederSpec,
  /** Long feeds that were measured, oldest first; the calibration in force is made of them. */
  readings: z.array(feedEntry),
});
export type FeederDocument = z.infer<typeof feederDocument>;

export const fixtureRevision = z.object({
  id,
  fixtureId: id,
  name: z.string(),
  revision: z.number().int(),
  held: chosen,
  beside: beside.pick({ coverage: true, confidence: true, boardWarp: true, tallThings: true }),
  basis: z.object({
    shape: z.string(),
    length: z.number(),
    width: z.number(),
    pocketLength: z.number(),
    pocketWidth: z.number(),
    cutOn: z.object({ machineId: z.string(), square: z.string().nullable() }).nullish(),
  }),
  savedAt: time,
  savedBy: z.string(),
});
export const fixtureDocument = z.object({
  id,
  name: z.string(),
  blankId: id,
  blankName: z.string(),
  revisions: z.array(fixtureRevision),
  usedBy: z.array(z.string()),
});
export type FixtureDocument = z.infer<typeof fixtureDocument>;

/** Whose every batch of the demo shop is. */
export const DEMO_CUSTOMER = 'Skerry Sound Rowing Regatta';

export const batchRow = z.object({
  id,
  name: z.string(),
  customer: z.string(),
  quantity: z.number().int(),
  spares: z.number().int(),
  tolerance: z.number(),
  dueAt: time.nullable(),
  machineId: id,
  machineName: z.string(),
  blankId: id,
  blankName: z.string(),
  version: z.number().int(),
  closedAt: time.nullable(),
  station: z.string(),
  /** The batch's stations, in order. */
  route: z.array(z.string()),
  waits: z.string(),
  done: z.number().int(),
  budget: z.number().nullable(),
  yieldShare: z.number().nullable(),
  openPutbacks: z.number().int(),
  outOfDate: z.array(z.string()),
  way: z.string(),
  /** The piece that is burned next, with its art: paths in mm, y up. */
  picture: z.object({
    box: z.object({ minX: z.number(), minY: z.number(), maxX: z.number(), maxY: z.number() }),
    outline: z.string(),
    fill: z.string(),
    line: z.string(),
    cut: z.string(),
  }),
  /** Work that is left, minutes: of hands, and of burning where that can be reckoned. */
  work: z.object({ hands: z.number(), burning: z.number().nullable() }),
});
export type BatchRow = z.infer<typeof batchRow>;

/** A change that can be taken back: the event it is in the log, in words, whose and when. */
export const undoable = z.object({ event: z.number().int(), summary: z.string(), by: z.string(), at: time });
export type Undoable = z.infer<typeof undoable>;

/** What can be put away and brought back. */
export const AWAY_KINDS = [
  'batches',
  'blanks',
  'fixtures',
  'machines',
  'drives',
  'feeders',
  'recipes',
  'artworks',
  'offcuts',
  'steps',
  'trials',
] as const;
export const awayKind = z.enum(AWAY_KINDS);
export type AwayKind = z.infer<typeof awayKind>;
export const awayRow = z.object({ kind: awayKind, id, name: z.string(), at: time, by: z.string() });
export type AwayRow = z.infer<typeof awayRow>;

/** How a batch stands with its customer. */
export const approval = z.object({
  /** Whether it waits for one before more than its first piece is loaded. */
  wanted: z.boolean(),
  /** What the proof of now is called: 1 for the first, and one more after each that was approved and changed since. */
  revision: z.number().int(),
  /** The last that was given. */
  given: z
    .object({ revision: z.number().int(), at: time, by: z.string(), signedBy: z.string(), note: z.string() })
    .nullable(),
  /** What is shown otherwise since, in sentences: the first of them, and how many there are. */
  differs: z.array(z.string()),
  differences: z.number().int(),
});

export const batchDocument = z.object({
  id,
  name: z.string(),
  customer: z.string(),
  quantity: z.number().int(),
  spares: z.number().int(),
  tolerance: z.number(),
  dueAt: time.nullable(),
  version: z.number().int(),
  closedAt: time.nullable(),
  closedBy: z.string().nullable(),
  /** When it was put away; it can be brought back. */
  awayAt: time.nullable(),
  updatedAt: time,
  updatedBy: z.string(),
  blank: blankDocument,
  machine: machineDocument,
  recipe: recipeDocument.nullable(),
  /** While none is chosen: what this blank was last burned with on this machine, and in which batch. */
  recipeBefore: z.object({ id, name: z.string(), batch: z.string(), at: time }).nullable(),
  /** The back's own recipe, where it has one. */
  backRecipe: recipeDocument.nullable(),
  /** The recipe of what is cut to hold them: boards, gauges, pins, cradles. */
  stockRecipe: recipeDocument.nullable(),
  /** Recipes that styles of its art are burned by, beside its own. */
  artRecipes: z.array(recipeDocument),
  fixture: fixtureRevision.nullable(),
  setup,
  readings: z.array(markReading),
  columns: z.array(z.string()),
  roster: z.array(rosterRow),
  pieces: z.array(piece),
  /** The last load that was judged before the work was laid as it lies; 0 where none was. */
  laidAfter: z.number().int(),
  firstApproved: z.boolean(),
  /** Whether a customer approves the proof, and how far that is. */
  approval,
  /** Files that were handed out of it, each the last time, and what made it out of date since. */
  handedOut: z.array(z.object({ file: z.string(), at: time, by: z.string(), since: z.string().nullable() })),
  ticks: z.array(z.object({ step: z.string(), at: time, by: z.string() })),
  putbacks: z.array(putback),
  /** What other batches left changed on its machine. */
  elsewhere: z.array(elsewhere),
  drive: driveDocument.nullable(),
  rings: z.array(ringEntry),
  feeder: feederDocument.nullable(),
  /** Every feeder of the shop, as it takes part in what fits. */
  feeders: z.array(z.object({ id, name: z.string(), spec: feederSpec })),
  /** The artworks that its zones carry, each at the revision that was chosen. */
  artworks: z.array(artworkUsed),
  /** Steps that the shop added to its blank, material, way or machine, oldest first. */
  shopSteps: z.array(shopStepDocument),
  /** Numbers that pieces of the batch have, by roster line, each once in the shop. */
  serials: z.array(z.object({ contentId: z.string(), numbers: z.array(z.number().int().nullable()) })),
  /** The latest change that can be taken back, whoever made it. */
  canUndo: undoable.nullable(),
  simulated: z.boolean(),
});
export type BatchDocument = z.infer<typeof batchDocument>;

/** A batch that used a thing of the Shelf. */
export const runRow = z.object({
  id,
  name: z.string(),
  machineName: z.string(),
  quantity: z.number().int(),
  done: z.number().int(),
  scrapped: z.number().int(),
  /** Of the fixture that it used; null where none. */
  revision: z.number().int().nullable(),
  closedAt: time.nullable(),
  updatedAt: time,
});
export type RunRow = z.infer<typeof runRow>;

export const logRow = z.object({
  id: z.number().int(),
  at: time,
  by: z.string(),
  kind: z.string(),
  batchId: id.nullable(),
  batchName: z.string().nullable(),
  summary: z.string(),
  undone: z.boolean(),
});

const vec = z.object({ x: z.number(), y: z.number() });
const landed = z.object({ segment: z.number().int(), dx: z.number(), dy: z.number(), yaw: z.number() });
/** What a person standing at the simulated machine can see; nothing hidden is in it. */
export const simView = z.object({
  homed: z.boolean(),
  /** The machine's display, in its own coordinates. */
  display: vec,
  /** Where the head is drawn on the bed, mm. */
  head: vec,
  /** The board as the eye sees it lying there, rounded to whole millimetres, and its marks. */
  boardCorners: z.array(vec),
  marksSeen: z.array(z.object({ id: z.number().int(), at: vec })),
  loupe: z.object({
    radius: z.number(),
    lines: z.array(z.object({ kind: z.enum(['mark', 'edge', 'burn']), points: z.array(vec) })),
  }),
  dots: z.number().int(),
  /** Segments of a long piece that were burned, as they lie against the first. */
  landed: z.array(landed),
  /** What a tape or a caliper shows at the simulated feeder; null before it was asked. */
  feeder: z
    .object({
      moved: z.object({ commanded: z.number(), measured: z.number(), missed: z.number() }).nullable(),
      offsets: z.object({ apart: z.number(), first: z.number(), second: z.number() }).nullable(),
      /** What the machine showed with the pointer on the guide's edge at its two ends. */
      guide: z
        .object({ a: z.object({ x: z.number(), y: z.number() }), b: z.object({ x: z.number(), y: z.number() }) })
        .nullable(),
    })
    .nullable(),
});
export type SimView = z.infer<typeof simView>;

export const simRunView = z.object({
  pieces: z.array(
    z.object({
      slot: z.number().int(),
      length: z.number(),
      width: z.number(),
      seatX: z.number(),
      seatY: z.number(),
      seatYaw: z.number(),
      strokes: z.array(z.number()),
      dx: z.number().nullable(),
      dy: z.number().nullable(),
      yaw: z.number().nullable(),
      worst: z.number().nullable(),
      /** Least distance from the cut to the edge of the print, mm; negative where the cut left it; null when nothing is printed. */
      margin: z.number().nullable(),
    }),
  ),
  stray: z.number(),
  /** Where each burned segment of a long piece lies against the first: shift and turn about the work's middle. */
  landed: z.array(landed),
  lines: z.number().int(),
  predicted: z.number(),
  tolerance: z.number(),
});
export type SimRunView = z.infer<typeof simRunView>;

/** The simulated drive's own panel, and what was burned on the blank that lies on it. */
export const cupView = z.object({
  where: z.string(),
  unit: z.string(),
  typed: z.boolean(),
  value: z.number(),
  acceleration: z.number(),
});
export type CupView = z.infer<typeof cupView>;
export const cupRunView = z.object({
  thrown: z.boolean(),
  /** Strokes on the standing blank: around to the right of the feature, up from the rim; x0 y0 x1 y1 …, mm. */
  strokes: z.array(z.number()),
  /** As a rule would show it at the ring's ends, mm; null when no ring was burned. */
  overlap: z.number().nullable(),
  dx: z.number().nullable(),
  dy: z.number().nullable(),
  lines: z.number().int(),
});
export type CupRunView = z.infer<typeof cupRunView>;

const reason = z.object({ code: z.string(), message: z.string(), field: z.string().optional() });
/** A refusal in words. `now` is what is stored, where another was quicker; `reasons` are all, this first, where it is more than one. */
export const apiProblem = reason.extend({
  reasons: z.array(reason).optional(),
  now: z.unknown().optional(),
});
export type ApiProblem = z.infer<typeof apiProblem>;
