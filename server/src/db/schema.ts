import type { ColumnType, Generated } from 'kysely';
import type {
  ArtRevision,
  ArtworkDocument,
  BlankSpec,
  DriveSpec,
  FeederSpec,
  MachineProfile,
  RecipeProof,
  RecipeSpec,
  Setup,
  ShelfKind,
  ShopStepSpec,
  ShownToCustomer,
  TrialSpec,
} from '@bistre/contract';
import type {
  MachinePart,
  Chosen,
  Dimension,
  FixtureBasis,
  FrozenBeside,
  Ordinal,
  SlotNumber,
  LoadNumber,
  Tell,
} from '@bistre/core';

type Json<T> = ColumnType<T, string, string>;
type Time = ColumnType<Date, Date | undefined, Date>;

/** When something was put away and by whom; it can be brought back. */
interface Away {
  away_at: Generated<Date | null>;
  away_by: Generated<string | null>;
}

/** What all things of the Shelf have that people edit. */
type Thing<Own> = Own &
  Away & {
    id: Generated<string>;
    name: string;
    version: Generated<number>;
    updated_at: Time;
  };

/** What a trial’s cell was worth when a recipe was made of it. */
export type Proved = Pick<RecipeProof, 'cell' | 'at' | 'by' | 'grade' | 'doubt' | 'setting' | 'after' | 'tests'>;

/** What a file of art was read as, kept beside it; its shapes stand apart. */
export interface ArtFacts {
  readonly width: number;
  readonly height: number;
  readonly unit: ArtRevision['unit'];
  readonly notes: readonly string[];
  readonly styles: ArtRevision['styles'];
}

export interface Database {
  machines: Thing<{ profile: Json<MachineProfile> }>;
  blanks: Thing<{ spec: Json<BlankSpec> }>;
  blank_samples: {
    id: Generated<string>;
    blank_id: string;
    dimension: Dimension;
    value_mm: number;
    at: Time;
    by: string;
    removed_at: Date | null;
    seq: Generated<number>;
  };
  machine_changes: {
    id: Generated<string>;
    machine_id: string;
    what: MachinePart;
    note: string;
    at: Time;
    by: string;
    removed_at: Date | null;
  };
  recipes: Thing<{
    machine_id: string;
    spec: Json<RecipeSpec>;
    trial_id: string | null;
    proved: Json<Proved> | null;
  }>;
  trials: Thing<{
    machine_id: string;
    spec: Json<TrialSpec>;
    follows: string | null;
    at: Time;
    by: string;
    photo_id: string | null;
    burned_at: Date | null;
    burned_by: string | null;
    simulated: Generated<boolean>;
  }>;
  trial_scores: {
    id: Generated<string>;
    trial_id: string;
    cell: number;
    grade: number;
    tell: Tell;
    by: string;
    at: Time;
    removed_at: Date | null;
  };
  steps: Thing<{ spec: Json<ShopStepSpec>; added_at: Time }>;
  photographs: {
    id: Generated<string>;
    sha256: string;
    jpeg: Buffer;
    width: number;
    height: number;
    at: Time;
    by: string;
  };
  drives: Thing<{ spec: Json<DriveSpec> }>;
  rings: {
    id: Generated<string>;
    seq: Generated<number>;
    batch_id: string;
    drive_id: string;
    blank_id: string;
    overlap_mm: number;
    circumference_mm: number;
    correction: number;
    nominal_steps_per_mm: number;
    reading_error_mm: number;
    piece_diameter_mm: number | null;
    at: Time;
    by: string;
    removed_at: Date | null;
  };
  offcuts: Away & {
    id: Generated<string>;
    name: string;
    material: string;
    thickness_mm: number;
    outline: Json<readonly { x: number; y: number }[]>;
    defects: Json<readonly (readonly { x: number; y: number }[])[]>;
    batch_id: string | null;
    at: Time;
    by: string;
  };
  artworks: Thing<{ spec: Json<ArtworkDocument['spec']> }>;
  artwork_revisions: {
    artwork_id: string;
    number: number;
    file_name: string;
    file: Buffer;
    sha256: string;
    facts: Json<ArtFacts>;
    /** As they are sent, gzip. */
    shapes: Buffer;
    at: Time;
    by: string;
  };
  serial_numbers: {
    prefix: string;
    /** As text: it is a bigint. */
    number: string | number;
    batch_id: string;
    content_id: string;
    ordinal: number;
    attempt: number;
    used_at: Date | null;
  };
  feeders: Thing<{ spec: Json<FeederSpec> }>;
  feed_readings: {
    id: Generated<string>;
    seq: Generated<number>;
    batch_id: string;
    feeder_id: string;
    commanded_mm: number;
    measured_mm: number;
    missed_mm: number | null;
    at: Time;
    by: string;
    removed_at: Date | null;
  };
  fixtures: Away & { id: Generated<string>; name: string; blank_id: string; created_at: Time };
  fixture_revisions: {
    id: Generated<string>;
    fixture_id: string;
    revision: number;
    held: Json<Chosen>;
    beside: Json<FrozenBeside>;
    basis: Json<FixtureBasis>;
    saved_at: Time;
    saved_by: string;
  };
  batches: Away & {
    id: Generated<string>;
    name: string;
    customer: string;
    quantity: number;
    spares: number;
    tolerance_mm: number;
    due_at: Date | null;
    machine_id: string;
    blank_id: string;
    recipe_id: string | null;
    fixture_revision_id: string | null;
    version: Generated<number>;
    setup: Json<Setup>;
    roster_columns: Json<string[]>;
    first_approved: Generated<boolean>;
    /** Whether its customer approves the proof before more than the first piece is loaded. */
    approval_wanted: Generated<boolean>;
    closed_at: Date | null;
    closed_by: Generated<string | null>;
    updated_at: Time;
    updated_by: string;
  };
  mark_readings: {
    id: Generated<string>;
    batch_id: string;
    mark: number;
    x_mm: number;
    y_mm: number;
    source: 'typed' | 'simulated machine';
    purpose: 'place' | 'reread';
    at: Time;
    by: string;
    removed_at: Date | null;
    seq: Generated<number>;
  };
  roster_rows: { batch_id: string; ordinal: Ordinal; fields: Json<Record<string, string>> };
  pieces: {
    id: Generated<string>;
    batch_id: string;
    ordinal: Ordinal;
    load: LoadNumber;
    slot: SlotNumber;
    state: 'loaded' | 'done' | 'scrap';
    cause: string | null;
    dx_mm: number | null;
    dy_mm: number | null;
    yaw_rad: number | null;
    at: Time;
    by: string;
  };
  /** What customers approved, with all that they were shown. */
  approvals: {
    id: Generated<string>;
    batch_id: string;
    revision: number;
    at: Generated<Date>;
    by: string;
    signed_by: string;
    note: string;
    shown: Json<ShownToCustomer>;
    /** Of what is shown, so that what did not change is told without reading it. */
    hash: string;
    removed_at: Date | null;
  };
  step_ticks: { batch_id: string; step: string; at: Time; by: string };
  putbacks: {
    id: Generated<string>;
    batch_id: string;
    machine_id: string;
    setting: string;
    was: string;
    now: string;
    at: Time;
    restored_at: Date | null;
    restored_by: string | null;
  };
  events: {
    id: Generated<number>;
    at: Time;
    by: string;
    kind: string;
    batch_id: string | null;
    subject_id: string | null;
    summary: string;
    detail: Json<Record<string, unknown>>;
    parts: Generated<string[]>;
    version: number | null;
    undo: Json<UndoStep | null> | null;
    undone_at: Date | null;
  };
  pictures: {
    id: Generated<string>;
    sha256: string;
    name: string;
    width: number;
    height: number;
    darkness: number;
    png: Buffer;
    at: Generated<Date>;
    by: string;
  };
  simulations: { batch_id: string; state: Json<unknown>; version: Generated<number> };
  /** The first answer to a write, kept for a day so that a retry gets it again. */
  replies: { key: string; call: string; hash: string; body: string | null; at: Time };
}

/** A line of the putback list as it stood before a change. */
export interface Putback {
  setting: string;
  was: string;
  now: string;
}

/** A tick as it stood before a change. */
export interface Ticked {
  step: string;
  by: string;
}

/** What came off the bed with a sheet or strip when its last piece was judged. */
export interface LeftBed {
  readings: string[];
  ticks: Ticked[];
  /** How the batch was held before what was found of a strip was forgotten; null where nothing was. */
  held: Setup['held'] | null;
  simulation: unknown;
}

/** How to take a change back; kept with its event. A kind that was shipped stays readable. */
export type UndoStep =
  | { kind: 'section'; section: keyof Setup; before: unknown; putbacks?: Putback[] }
  | { kind: 'sections'; before: Partial<Setup>; putbacks?: Putback[] }
  | {
      kind: 'fields';
      before: {
        name: string;
        customer: string;
        quantity: number;
        spares: number;
        tolerance: number;
        dueAt: string | null;
      };
    }
  | { kind: 'reading-taken'; id: string }
  | { kind: 'reading-dropped'; id: string }
  | { kind: 'laid-anew'; left: LeftBed }
  | { kind: 'tick'; step: string; done: boolean }
  | {
      kind: 'moved';
      machineId: string;
      recipeId: string | null;
      firstApproved: boolean;
      before: Partial<Setup>;
      left: LeftBed;
    }
  | { kind: 'machine-changed'; id: string }
  | { kind: 'machine-change-dropped'; id: string }
  | { kind: 'approval-wanted'; before: boolean }
  | { kind: 'approval-taken'; id: string }
  | { kind: 'roster'; columns: string[]; rows: Record<string, string>[]; lettering?: Setup['lettering'] | undefined }
  | { kind: 'recipe'; recipeId: string | null }
  | { kind: 'ring-taken'; id: string }
  | { kind: 'ring-dropped'; id: string }
  | { kind: 'feed-taken'; id: string }
  | { kind: 'feed-dropped'; id: string }
  | { kind: 'fixture'; revisionId: string | null; before?: Partial<Setup>; ticks?: Ticked[] }
  | {
      kind: 'verdict';
      id: string;
      again: { ordinal: Ordinal; load: LoadNumber; slot: SlotNumber } | null;
      left: LeftBed | null;
    }
  | {
      kind: 'thing';
      shelf: ShelfKind;
      id: string;
      name: string;
      document: unknown;
      /** Of a recipe: what proved it. */
      proof?: { trialId: string | null; proved: Proved | null };
    }
  | { kind: 'score-taken'; id: string; instead: string | null }
  | { kind: 'score-dropped'; id: string }
  | { kind: 'sample-added'; id: string }
  | { kind: 'sample-dropped'; id: string };
