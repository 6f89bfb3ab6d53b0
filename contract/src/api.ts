import { artFile, artShape, artworkDocument, artworkSpec } from './artwork';
import { traceChoices, tracedSheet } from './ways/sheet';
import { contour } from './geometry';
import { z } from 'zod';
import {
  awayKind,
  awayRow,
  batchDocument,
  batchRow,
  cupRunView,
  cupView,
  driveDocument,
  feederDocument,
  blankDocument,
  fixtureDocument,
  logRow,
  machineDocument,
  runRow,
  recipeDocument,
  shopStepDocument,
  simRunView,
  simView,
  undoable,
} from './documents';
import { feederSpec } from './feeder';
import { offcutDocument, offcutSpec } from './photo';
import { HIGHEST_MARK, id, inRange, line, LONGEST_COLUMN, MOST_COLUMNS, rosterRow, time, wholeNumber } from './limits';
import {
  acceptedMove,
  approvalTaken,
  machineChanged,
  dimension,
  fittingBlank,
  driveSpec,
  machineProfile,
  recipeSpec,
  setupSections,
} from './things';
import { shopStepSpec } from './shop-step';
import { cellScore, proveBody, spoiledRow, trialDocument, trialSpec } from './trial';

/** One call of the API: the only description of it, read by server and browser alike. */
export interface Endpoint<P extends z.ZodType, Q extends z.ZodType, B extends z.ZodType, R extends z.ZodType> {
  readonly method: 'GET' | 'POST' | 'PUT' | 'DELETE';
  readonly path: string;
  readonly params: P;
  readonly query: Q;
  readonly body: B;
  readonly reply: R;
}

export type AnyEndpoint = Endpoint<z.ZodType, z.ZodType, z.ZodType, z.ZodType>;

const none = z.object({}).optional();
type None = typeof none;

const make = <
  P extends z.ZodType = None,
  Q extends z.ZodType = None,
  B extends z.ZodType = None,
  R extends z.ZodType = None,
>(
  method: Endpoint<P, Q, B, R>['method'],
  path: string,
  parts: { params?: P; query?: Q; body?: B; reply: R },
): Endpoint<P, Q, B, R> => ({
  method,
  path,
  params: parts.params ?? (none as unknown as P),
  query: parts.query ?? (none as unknown as Q),
  body: parts.body ?? (none as unknown as B),
  reply: parts.reply,
});

const byId = z.object({ id });
/** The version that the writer knew: what replaces a value carries it, what only adds does not. */
const version = wholeNumber('Version', 0, 2_147_483_647);
/** The change that is meant, and whether it is taken back although something builds on it or another made it. */
const undoOf = z.object({ event: wholeNumber('Event', 1, Number.MAX_SAFE_INTEGER), sure: z.boolean().optional() });
const created = z.object({ id });
/** What is made may come with its name for machines, so that what follows from it can be written before the answer. */
const named = { id: id.optional() };
const reading = inRange('The reading', -20_000, 20_000, 'mm', { digits: 2 });

const roster = z.object({
  columns: z.array(z.string().max(LONGEST_COLUMN)).min(1).max(MOST_COLUMNS),
  rows: z.array(rosterRow).max(20_000),
});

const batchFields = {
  name: line('Name', 1, 80),
  customer: line('Customer', 0, 80),
  quantity: wholeNumber('Quantity', 1, 20_000),
  spares: wholeNumber('Spare blanks', 0, 20_000),
  tolerance: inRange('Tolerance', 0.01, 50, 'mm', { hint: 'How far any point of the art may be off on its piece.' }),
  dueAt: time.meta({ label: 'Due' }).nullable(),
};
const section = <K extends keyof typeof setupSections>(key: K) =>
  z.object({ section: z.literal(key), value: setupSections[key], version });

/**
 * Every call. What replaces a value carries the version its writer knew and is answered 409 with what is
 * stored now when another was quicker; what only adds (readings, samples, rings, feeds, verdicts), and what
 * states a fact that stays the same when it is said twice (ticks, approval, put back, put away), does not.
 */
export const api = {
  /** 200 only while the database answers. */
  health: make('GET', '/api/health', { reply: z.object({ ok: z.literal(true), name: z.literal('bistre') }) }),

  listBatches: make('GET', '/api/batches', {
    query: z.object({ closed: z.enum(['yes', 'no']).optional() }),
    reply: z.array(batchRow),
  }),
  createBatch: make('POST', '/api/batches', {
    body: z.object({
      ...batchFields,
      ...named,
      machineId: id,
      blankId: id,
      /** What is known of it from the start; what is left out is as it is with any new batch. */
      held: setupSections.held.optional(),
      faces: setupSections.faces.optional(),
      contents: setupSections.contents.optional(),
      roster: roster.optional(),
    }),
    reply: created,
  }),
  /** The same again: another batch of the same piece, held, lettered and burned as this one was. */
  againBatch: make('POST', '/api/batches/:id/again', {
    params: byId,
    body: z.object({
      ...named,
      name: batchFields.name,
      quantity: batchFields.quantity,
      spares: batchFields.spares,
      dueAt: batchFields.dueAt,
      roster: roster.optional(),
    }),
    /** What changed since the old one was last written, in sentences. */
    reply: created.extend({ since: z.array(z.string()) }),
  }),
  getBatch: make('GET', '/api/batches/:id', { params: byId, reply: batchDocument }),
  updateBatch: make('PUT', '/api/batches/:id', {
    params: byId,
    body: z.object({ ...batchFields, version }),
    reply: batchDocument,
  }),
  saveSection: make('PUT', '/api/batches/:id/setup', {
    params: byId,
    body: z.discriminatedUnion('section', [
      section('held'),
      section('beside'),
      section('lettering'),
      section('back'),
      section('faces'),
      section('contents'),
      section('place'),
      section('burn'),
      section('looks'),
      section('close'),
    ]),
    reply: batchDocument,
  }),
  chooseRecipe: make('PUT', '/api/batches/:id/recipe', {
    params: byId,
    body: z.object({ recipeId: id.nullable(), version }),
    reply: batchDocument,
  }),
  undo: make('POST', '/api/batches/:id/undo', { params: byId, body: undoOf, reply: batchDocument }),
  saveFixture: make('POST', '/api/batches/:id/fixture', {
    params: byId,
    body: z.object({ version }),
    reply: batchDocument,
  }),
  useFixture: make('PUT', '/api/batches/:id/fixture', {
    params: byId,
    body: z.object({ revisionId: id.nullable(), version }),
    reply: batchDocument,
  }),
  takeReading: make('POST', '/api/batches/:id/readings', {
    params: byId,
    body: z.object({
      ...named,
      mark: wholeNumber('Mark', 1, HIGHEST_MARK),
      x: reading,
      y: reading,
      source: z.enum(['typed', 'simulated machine']),
      purpose: z.enum(['place', 'reread']),
    }),
    reply: batchDocument,
  }),
  /** Readings from a table: all of them or none. */
  takeReadings: make('POST', '/api/batches/:id/readings/table', {
    params: byId,
    body: z.object({
      readings: z
        .array(z.object({ mark: wholeNumber('Mark', 1, HIGHEST_MARK), x: reading, y: reading }))
        .min(1)
        .max(HIGHEST_MARK),
    }),
    reply: batchDocument,
  }),
  dropReading: make('DELETE', '/api/batches/:id/readings/:reading', {
    params: z.object({ id, reading: id }),
    reply: batchDocument,
  }),
  /** Moves the burn by what measured pieces have in common, until the work is laid anew. */
  correct: make('POST', '/api/batches/:id/corrections', {
    params: byId,
    body: acceptedMove.extend({ version }),
    reply: batchDocument,
  }),
  /** The work lies elsewhere now: where its marks were read, and what was proved of it, says nothing any more. */
  layAnew: make('POST', '/api/batches/:id/laid-anew', { params: byId, reply: batchDocument }),
  tick: make('PUT', '/api/batches/:id/ticks/:step', {
    params: z.object({ id, step: z.string().regex(/^[a-z0-9.-]{1,60}$/) }),
    body: z.object({ done: z.boolean() }),
    reply: batchDocument,
  }),
  saveRoster: make('PUT', '/api/batches/:id/roster', {
    params: byId,
    body: roster.extend({ version }),
    reply: batchDocument,
  }),
  startLoad: make('POST', '/api/batches/:id/loads', { params: byId, reply: batchDocument }),
  judgePieces: make('POST', '/api/batches/:id/pieces', {
    params: byId,
    body: z.object({
      pieces: z
        .array(
          z.object({
            slot: wholeNumber('Slot', 1, 2_000),
            state: z.enum(['done', 'scrap', 'again']),
            /** Why it is scrapped, or why it passes although it is out of tolerance. */
            cause: line('Cause', 0, 100).nullable(),
            dx: inRange('The offset', -50, 50, 'mm', { digits: 2 }).nullable().optional(),
            dy: inRange('The offset', -50, 50, 'mm', { digits: 2 }).nullable().optional(),
            yaw: inRange('yaw', -1, 1, 'rad').nullable().optional(),
          }),
        )
        .min(1)
        .max(2_000),
    }),
    reply: batchDocument,
  }),
  /** Does the rest of it on another machine; what does not hold there is forgotten, by name. */
  moveBatch: make('PUT', '/api/batches/:id/machine', {
    params: byId,
    body: z.object({ machineId: id, version }),
    reply: batchDocument,
  }),
  /** Whether the customer approves the proof before more than the first piece is loaded. */
  askApproval: make('PUT', '/api/batches/:id/approval', {
    params: byId,
    body: z.object({ wanted: z.boolean(), version }),
    reply: batchDocument,
  }),
  /** Keeps that the customer approved the proof as it is now. */
  takeApproval: make('POST', '/api/batches/:id/approvals', {
    params: byId,
    body: approvalTaken.extend({ version }),
    reply: batchDocument,
  }),
  approveFirst: make('POST', '/api/batches/:id/approve', {
    params: byId,
    body: z.object({
      approved: z.boolean(),
      /** Says that a first piece which was passed out of tolerance is meant. */
      sure: z.boolean().optional(),
    }),
    reply: batchDocument,
  }),
  takeRing: make('POST', '/api/batches/:id/rings', {
    params: byId,
    body: z.object({
      overlap: inRange('The reading', -2_000, 2_000, 'mm'),
      readingError: inRange('Reading error', 0.01, 20, 'mm').optional(),
      /** Of the piece that carries the ring, where the others are measured: rollers turn a length. */
      diameter: inRange('Diameter of this piece', 1, 1_000, 'mm', { label: 'Diameter of this very piece' })
        .nullable()
        .optional(),
      /** Says that a reading is meant that is more than a quarter turn, or far off for a first ring. */
      sure: z.boolean().optional(),
    }),
    reply: batchDocument,
  }),
  dropRing: make('DELETE', '/api/batches/:id/rings/:ring', {
    params: z.object({ id, ring: id }),
    reply: batchDocument,
  }),
  chooseDrive: make('PUT', '/api/batches/:id/drive', {
    params: byId,
    body: z.object({ driveId: id.nullable(), version }),
    reply: batchDocument,
  }),
  setOnMachine: make('POST', '/api/batches/:id/drive/set', {
    params: byId,
    body: z.object({ what: z.enum(['number', 'acceleration']), value: inRange('Value', 0, 100_000_000), version }),
    reply: batchDocument,
  }),
  cupView: make('GET', '/api/batches/:id/cup', { params: byId, reply: cupView }),
  cupSet: make('POST', '/api/batches/:id/cup', {
    params: byId,
    body: z.object({
      value: inRange('Value', 0, 100_000_000).optional(),
      acceleration: inRange('Acceleration', 1, 200_000, 'mm/s²').optional(),
    }),
    reply: cupView,
  }),
  cupBurn: make('POST', '/api/batches/:id/cup/burn', {
    params: byId,
    body: z.object({ what: z.enum(['ring', 'letter', 'piece']) }),
    reply: cupRunView,
  }),

  addPutback: make('POST', '/api/batches/:id/putbacks', {
    params: byId,
    body: z.object({ setting: line('Setting', 1, 80), was: line('Old value', 1, 80), now: line('New value', 1, 80) }),
    reply: batchDocument,
  }),
  restorePutback: make('PUT', '/api/batches/:id/putbacks/:putback', {
    params: z.object({ id, putback: id }),
    body: z.object({ restored: z.boolean() }),
    reply: batchDocument,
  }),
  closeBatch: make('POST', '/api/batches/:id/close', {
    params: byId,
    /** Why it is closed although its placement is doubted, for the log. */
    body: z.object({ reason: line('Reason', 1, 200).optional() }).optional(),
    reply: batchDocument,
  }),
  /** A closed batch is only read until it is opened again, with a reason for the log. */
  reopenBatch: make('POST', '/api/batches/:id/reopen', {
    params: byId,
    body: z.object({ reason: line('Reason', 1, 200) }),
    reply: batchDocument,
  }),

  simView: make('GET', '/api/batches/:id/sim', { params: byId, reply: simView }),
  simDo: make('POST', '/api/batches/:id/sim', {
    params: byId,
    body: z.discriminatedUnion('act', [
      z.object({ act: z.literal('lay') }),
      z.object({ act: z.literal('home') }),
      z.object({ act: z.literal('dot') }),
      z.object({ act: z.literal('jog'), dx: inRange('Jog', -1000, 1000, 'mm'), dy: inRange('Jog', -1000, 1000, 'mm') }),
      z.object({ act: z.literal('goto'), x: reading, y: reading }),
      /** The simulated feeder feeds so far and back, and a tape is laid to it. */
      z.object({ act: z.literal('feed'), commanded: inRange('The command', 50, 10_000, 'mm') }),
      /** A caliper between guide and edge at two stations. */
      z.object({ act: z.literal('square'), apart: inRange('Distance of the stations', 50, 5_000, 'mm') }),
      /** The pointer's dot on the guide's edge at both ends of the window. */
      z.object({ act: z.literal('guide') }),
    ]),
    reply: simView,
  }),
  /** What a rule, a loupe or a gauge shows on the simulated bench. */
  simMeasure: make('POST', '/api/batches/:id/sim/measure', {
    params: byId,
    body: z.object({ what: z.enum(['card', 'back', 'shank', 'fit', 'square']), time: wholeNumber('Time', 0, 1_000) }),
    reply: z.object({ value: z.number() }),
  }),
  simRun: make('POST', '/api/batches/:id/sim/run', { params: byId, reply: simRunView }),
  pointerFromSim: make('POST', '/api/batches/:id/sim/pointer', { params: byId, reply: batchDocument }),

  listBlanks: make('GET', '/api/blanks', { reply: z.array(blankDocument) }),
  createBlank: make('POST', '/api/blanks', {
    body: z.object({ ...named, name: line('Name', 1, 80), spec: fittingBlank }),
    reply: created,
  }),
  saveBlank: make('PUT', '/api/blanks/:id', {
    params: byId,
    body: z.object({ name: line('Name', 1, 80), spec: fittingBlank, version }),
    reply: blankDocument,
  }),
  addSample: make('POST', '/api/blanks/:id/samples', {
    params: byId,
    body: z.object({ ...named, dimension, value: inRange('The reading', 0.01, 5_000, 'mm') }),
    reply: blankDocument,
  }),
  dropSample: make('DELETE', '/api/blanks/:id/samples/:sample', {
    params: z.object({ id, sample: id }),
    reply: blankDocument,
  }),
  readOutline: make('POST', '/api/outlines', {
    body: z.object({
      name: line('File name', 1, 200),
      text: z
        .string()
        .min(1, 'The file is empty.')
        .max(5_000_000, 'The file is larger than 5 MB. Keep only the outline in it.'),
      base64: artFile.base64,
    }),
    reply: z.object({
      contours: z.array(contour),
      width: z.number(),
      height: z.number(),
      unit: z.enum(['mm', 'in', 'cm', 'px', 'unstated']),
      notes: z.array(z.string()),
    }),
  }),

  /** A printed sheet out of the drawing that it was printed from; nothing of it is kept. */
  readSheet: make('POST', '/api/sheets', {
    body: z.object({ ...artFile, choices: traceChoices }),
    reply: z.object({ sheet: tracedSheet, notes: z.array(z.string()).readonly() }),
  }),

  listMachines: make('GET', '/api/machines', { reply: z.array(machineDocument) }),
  createMachine: make('POST', '/api/machines', {
    body: z.object({ name: line('Name', 1, 80), profile: machineProfile }),
    reply: created,
  }),
  saveMachine: make('PUT', '/api/machines/:id', {
    params: byId,
    body: z.object({ name: line('Name', 1, 80), profile: machineProfile, version }),
    reply: machineDocument,
  }),

  /** Keeps that something was changed on a machine, and when: calibrations before it are doubted. */
  addMachineChange: make('POST', '/api/machines/:id/changes', {
    params: byId,
    body: machineChanged,
    reply: machineDocument,
  }),
  dropMachineChange: make('DELETE', '/api/machines/:id/changes/:change', {
    params: z.object({ id, change: id }),
    reply: machineDocument,
  }),
  /** Batches that a thing of the Shelf was used by, the latest first. */
  listRuns: make('GET', '/api/runs/:id', { params: byId, reply: z.array(runRow) }),

  listRecipes: make('GET', '/api/recipes', { reply: z.array(recipeDocument) }),
  createRecipe: make('POST', '/api/recipes', {
    body: z.object({ name: line('Name', 1, 80), machineId: id, spec: recipeSpec }),
    reply: created,
  }),
  saveRecipe: make('PUT', '/api/recipes/:id', {
    params: byId,
    body: z.object({ name: line('Name', 1, 80), spec: recipeSpec, version }),
    reply: recipeDocument,
  }),

  listSpoiled: make('GET', '/api/spoiled', { reply: z.array(spoiledRow) }),
  listTrials: make('GET', '/api/trials', { reply: z.array(trialDocument) }),
  createTrial: make('POST', '/api/trials', {
    body: z.object({ name: line('Name', 1, 80), machineId: id, spec: trialSpec, follows: id.nullable() }),
    reply: created,
  }),
  /** Only until it is burned: what was burned stays as it was planned. */
  saveTrial: make('PUT', '/api/trials/:id', {
    params: byId,
    body: z.object({ name: line('Name', 1, 80), spec: trialSpec, version }),
    reply: trialDocument,
  }),
  /** Says that it was burned, and how it looks. */
  burnedTrial: make('POST', '/api/trials/:id/burned', {
    params: byId,
    body: z.object({ photoId: id.nullable() }),
    reply: trialDocument,
  }),
  /** Burns its file on the simulated machine and keeps the picture of it. */
  simulateTrial: make('POST', '/api/trials/:id/simulated', { params: byId, reply: trialDocument }),
  /** What one person says of a cell; in the place of what they said of it before. */
  scoreCell: make('POST', '/api/trials/:id/scores', { params: byId, body: cellScore, reply: trialDocument }),
  dropScore: make('DELETE', '/api/trials/:id/scores/:score', {
    params: z.object({ id, score: id }),
    reply: trialDocument,
  }),
  /** Makes a recipe of a cell, or gives its setting to one that there is. */
  proveRecipe: make('POST', '/api/trials/:id/recipe', { params: byId, body: proveBody, reply: created }),

  listDrives: make('GET', '/api/drives', { reply: z.array(driveDocument) }),
  createDrive: make('POST', '/api/drives', {
    body: z.object({ name: line('Name', 1, 80), spec: driveSpec }),
    reply: created,
  }),
  saveDrive: make('PUT', '/api/drives/:id', {
    params: byId,
    body: z.object({ name: line('Name', 1, 80), spec: driveSpec, version }),
    reply: driveDocument,
  }),

  listArtworks: make('GET', '/api/artworks', { reply: z.array(artworkDocument) }),
  createArtwork: make('POST', '/api/artworks', {
    body: z.object({ ...named, name: line('Name', 1, 80), customer: artworkSpec.shape.customer, ...artFile }),
    reply: created,
  }),
  saveArtwork: make('PUT', '/api/artworks/:id', {
    params: byId,
    body: z.object({ name: line('Name', 1, 80), spec: artworkSpec, version }),
    reply: artworkDocument,
  }),
  /** A new file for it is a new revision; batches keep the one that they have until they are given the new one. */
  reviseArtwork: make('POST', '/api/artworks/:id/revisions', {
    params: byId,
    body: z.object(artFile),
    reply: artworkDocument,
  }),
  artworkShapes: make('GET', '/api/artworks/:id/revisions/:number', {
    params: z.object({ id, number: z.coerce.number().int().min(1).max(100_000) }),
    reply: z.object({ shapes: z.array(artShape) }),
  }),

  listOffcuts: make('GET', '/api/offcuts', { reply: z.array(offcutDocument) }),
  keepOffcuts: make('POST', '/api/batches/:id/offcuts', {
    params: byId,
    body: z.object({ offcuts: z.array(offcutSpec).min(1, 'There is nothing left that is worth keeping.').max(60) }),
    reply: z.object({ kept: z.number().int() }),
  }),
  listFeeders: make('GET', '/api/feeders', { reply: z.array(feederDocument) }),
  createFeeder: make('POST', '/api/feeders', {
    body: z.object({ name: line('Name', 1, 80), spec: feederSpec }),
    reply: created,
  }),
  saveFeeder: make('PUT', '/api/feeders/:id', {
    params: byId,
    body: z.object({ name: line('Name', 1, 80), spec: feederSpec, version }),
    reply: feederDocument,
  }),
  /** A long feed of a batch's feeder, read with a tape. */
  takeFeed: make('POST', '/api/batches/:id/feeds', {
    params: byId,
    body: z.object({
      commanded: inRange('The command', 0, 10_000, 'mm'),
      measured: inRange('The reading', -10_000, 10_000, 'mm'),
      missed: inRange('The miss', -10_000, 10_000, 'mm', { empty: 'Empty: not fed back.' }).nullable(),
    }),
    reply: batchDocument,
  }),
  dropFeed: make('DELETE', '/api/batches/:id/feeds/:feed', {
    params: z.object({ id, feed: id }),
    reply: batchDocument,
  }),

  /** Steps that the shop added, oldest first. */
  listSteps: make('GET', '/api/steps', { reply: z.array(shopStepDocument) }),
  createStep: make('POST', '/api/steps', {
    body: z.object({ ...named, name: line('What is done', 1, 80), spec: shopStepSpec }),
    reply: created,
  }),
  saveStep: make('PUT', '/api/steps/:id', {
    params: byId,
    body: z.object({ name: line('What is done', 1, 80), spec: shopStepSpec, version }),
    reply: shopStepDocument,
  }),

  shelfUndoable: make('GET', '/api/shelf/:id/undo', {
    params: byId,
    reply: z.object({ change: undoable.nullable() }),
  }),
  undoShelf: make('POST', '/api/shelf/:id/undo', {
    params: byId,
    body: undoOf,
    reply: z.object({ ok: z.literal(true) }),
  }),

  /** What was put away: begun by mistake, or no longer used. Nothing of it is lost. */
  listAway: make('GET', '/api/away', { reply: z.array(awayRow) }),
  setAway: make('PUT', '/api/away/:kind/:id', {
    params: z.object({ kind: awayKind, id }),
    body: z.object({ away: z.boolean() }),
    reply: z.object({ ok: z.literal(true) }),
  }),

  listFixtures: make('GET', '/api/fixtures', { reply: z.array(fixtureDocument) }),

  /** Said by the browser when it wrote a file itself, so that the log names it too. */
  wroteFile: make('POST', '/api/batches/:id/written', {
    params: byId,
    body: z.object({ file: line('File', 1, 80) }),
    reply: z.object({ ok: z.literal(true) }),
  }),

  listLog: make('GET', '/api/log', {
    query: z.object({
      before: z.coerce.number().int().min(1).max(Number.MAX_SAFE_INTEGER).optional(),
      batch: id.optional(),
      kind: z.string().max(40).optional(),
      q: z.string().max(100).optional(),
      limit: z.coerce.number().int().min(1).max(200).optional(),
    }),
    reply: z.object({ rows: z.array(logRow), next: z.number().int().nullable() }),
  }),
} as const;

/** Whether a call carries the version its writer knew, because it replaces a value. */
export const carriesVersion = ({ body }: AnyEndpoint): boolean =>
  body instanceof z.ZodDiscriminatedUnion
    ? body.options.every((o) => o instanceof z.ZodObject && 'version' in o.shape)
    : body instanceof z.ZodObject && 'version' in body.shape;

/** Whether what a call makes may come with its id. */
export const carriesId = ({ body }: AnyEndpoint): boolean => body instanceof z.ZodObject && 'id' in body.shape;

export type ParamsOf<E extends AnyEndpoint> = z.infer<E['params']>;
export type QueryOf<E extends AnyEndpoint> = z.infer<E['query']>;
export type BodyOf<E extends AnyEndpoint> = z.infer<E['body']>;
export type ReplyOf<E extends AnyEndpoint> = z.infer<E['reply']>;

/** Where it is said what a file of art comes to (POST, the file itself, `?name=`); nothing of it is kept. */
export const READ_ART = '/api/art';

/** Where pictures are taken in (POST, the PNG itself, `?name=`) and given out (GET, `/:id`). */
export const PICTURES = '/api/pictures';
/** Where photographs of the shop's own steps are taken in (POST, the file itself, `?name=`) and given out (GET, `/:id`). */
export const PHOTOGRAPHS = '/api/photographs';
export const photographPath = (id: string): string => `${PHOTOGRAPHS}/${id}`;
/** Where the simulated camera's photograph of a batch's bed is; `?shot=` takes another. */
export const PHOTO = '/api/batches/:id/photo.png';
export const photoPath = (batchId: string): string => PHOTO.replace(':id', batchId);
/** An invented printed sheet, to try sheets from pictures with. */
export const SAMPLE_SHEET = '/api/sample-sheet.png';
/** Largest picture file that is taken in, bytes. */
export const LARGEST_PICTURE = 60_000_000;

/** Files a batch can give, by the last part of `/api/batches/:id/files/`. */
export const FILES = [
  'board.svg',
  'board.dxf',
  'board.gcode',
  'gauge.svg',
  'square.svg',
  'square.gcode',
  'print.pdf',
  'load.gcode',
  'strip.gcode',
  'marks.gcode',
  'marks.svg',
  'marks.pdf',
  'load.svg',
  'load.dxf',
  'load.png',
  'walk.gcode',
  'target.gcode',
  'target.pdf',
  'labels.pdf',
  'job.zip',
  'setup.pdf',
  'load-card.pdf',
  'piece.png',
  'proof.pdf',
  'proof-all.pdf',
  'roster.csv',
  'ring.gcode',
  'turn.gcode',
  'letter.gcode',
  'wrap.svg',
  'template.svg',
  'template.dxf',
  'template.pdf',
  'cradle.svg',
  'card.svg',
  'card.gcode',
  'grid.svg',
  'grid.dxf',
  'grid.gcode',
  'locator.csv',
  'locator.svg',
  'pins.svg',
  'pins.gcode',
  'pin-gauge.svg',
  'fit-gauge.svg',
  'stand.svg',
] as const;
export type FileName = (typeof FILES)[number];
