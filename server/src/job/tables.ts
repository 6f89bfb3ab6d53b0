/** Tables of what is used by many batches, in an order in which they can be filled. */
export const THINGS = [
  'machines',
  'blanks',
  'photographs',
  'trials',
  'recipes',
  'drives',
  'feeders',
  'artworks',
  'pictures',
  'steps',
  'fixtures',
] as const;
export type ThingTable = (typeof THINGS)[number];

/** Tables of what belongs to one thing, and the column that says which. */
export const OF_THINGS = {
  blank_samples: 'blank_id',
  machine_changes: 'machine_id',
  artwork_revisions: 'artwork_id',
  fixture_revisions: 'fixture_id',
  trial_scores: 'trial_id',
} as const;

/** Tables of what belongs to a batch alone, in an order in which they can be filled. */
export const OF_BATCH = [
  'mark_readings',
  'roster_rows',
  'pieces',
  'step_ticks',
  'putbacks',
  'rings',
  'feed_readings',
  'offcuts',
  'serial_numbers',
  'approvals',
  'simulations',
  'events',
] as const;

export type JobTable = ThingTable | keyof typeof OF_THINGS | 'batches' | (typeof OF_BATCH)[number];

/** All of them, each after what it refers to. */
export const TABLES: readonly JobTable[] = [
  'machines',
  'blanks',
  'blank_samples',
  'machine_changes',
  'photographs',
  'trials',
  'trial_scores',
  'recipes',
  'drives',
  'feeders',
  'artworks',
  'artwork_revisions',
  'pictures',
  'steps',
  'fixtures',
  'fixture_revisions',
  'batches',
  ...OF_BATCH,
];

/** Tables of what a batch uses, without the batch itself: nothing of them is another batch’s. */
export const NOT_OF_A_JOB = ['replies'] as const;

/** How rows of a table stand in order, where they have one of their own. */
export const ORDER: Readonly<Partial<Record<JobTable, string>>> = {
  blank_samples: 'seq',
  machine_changes: 'at, id',
  trial_scores: 'at, id',
  artwork_revisions: 'artwork_id, number',
  fixture_revisions: 'fixture_id, revision',
  mark_readings: 'seq',
  roster_rows: 'ordinal',
  pieces: 'load, slot, at, id',
  step_ticks: 'at, step',
  putbacks: 'at, id',
  rings: 'seq',
  feed_readings: 'seq',
  serial_numbers: 'prefix, number',
  approvals: 'revision, at',
  simulations: 'batch_id',
  events: 'id',
};

/** Columns that the database numbers by itself. */
export const NUMBERED: Readonly<Partial<Record<JobTable, string>>> = {
  blank_samples: 'seq',
  mark_readings: 'seq',
  rings: 'seq',
  feed_readings: 'seq',
  events: 'id',
};

/** Columns of bytes: each row’s are a file of their own, of this ending. */
export const BYTES: Readonly<Partial<Record<JobTable, Readonly<Record<string, string>>>>> = {
  artwork_revisions: { file: '', shapes: 'json.gz' },
  pictures: { png: 'png' },
  photographs: { jpeg: 'jpg' },
};

/** A row as JSON. */
export type Row = Readonly<Record<string, unknown>>;
export type Rows = Readonly<Record<JobTable, readonly Row[]>>;

/** What a job’s file says of itself, and its rows; bytes of rows stand beside it, by their path. */
export interface Job {
  readonly bistre: 'job';
  readonly format: number;
  /** Name of the newest migration that the rows have. */
  readonly schema: string;
  readonly batch: string;
  readonly rows: Rows;
}

export const FORMAT = 1;
/** Identifiers as they stand in text. */
export const UUIDS = /\b[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}\b/g;
