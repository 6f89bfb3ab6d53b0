import type { ColumnType, Generated } from 'kysely';
import type { BlankSpec, DriveSpec, FeederSpec, MachineProfile, RecipeSpec, Setup, ShelfKind } from '@bistre/contract';
import type { Dimension, FixtureBasis, HoldSettings } from '@bistre/core';

type Json<T> = ColumnType<T, string, string>;
type Time = ColumnType<Date, Date | undefined, Date>;

export interface Database {
  machines: {
    id: Generated<string>;
    name: string;
    version: Generated<number>;
    profile: Json<MachineProfile>;
    updated_at: Time;
  };
  blanks: { id: Generated<string>; name: string; version: Generated<number>; spec: Json<BlankSpec>; updated_at: Time };
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
  recipes: {
    id: Generated<string>;
    name: string;
    machine_id: string;
    version: Generated<number>;
    spec: Json<RecipeSpec>;
    updated_at: Time;
  };
  drives: { id: Generated<string>; name: string; version: Generated<number>; spec: Json<DriveSpec>; updated_at: Time };
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
    at: Time;
    by: string;
    removed_at: Date | null;
  };
  offcuts: {
    id: Generated<string>;
    name: string;
    material: string;
    thickness_mm: number;
    outline: Json<readonly { x: number; y: number }[]>;
    defects: Json<readonly (readonly { x: number; y: number }[])[]>;
    batch_id: string | null;
    at: Time;
    by: string;
    used_at: Date | null;
  };
  feeders: {
    id: Generated<string>;
    name: string;
    version: Generated<number>;
    spec: Json<FeederSpec>;
    updated_at: Time;
  };
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
  fixtures: { id: Generated<string>; name: string; blank_id: string; created_at: Time };
  fixture_revisions: {
    id: Generated<string>;
    fixture_id: string;
    revision: number;
    hold: Json<HoldSettings>;
    basis: Json<FixtureBasis>;
    saved_at: Time;
    saved_by: string;
  };
  batches: {
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
    closed_at: Date | null;
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
  roster_rows: { batch_id: string; ordinal: number; fields: Json<Record<string, string>> };
  pieces: {
    id: Generated<string>;
    batch_id: string;
    ordinal: number;
    load: number;
    slot: number;
    state: 'loaded' | 'done' | 'scrap';
    cause: string | null;
    dx_mm: number | null;
    dy_mm: number | null;
    yaw_rad: number | null;
    at: Time;
    by: string;
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
  simulations: { batch_id: string; state: Json<unknown> };
  replies: { key: string; path: string; status: number; body: Json<unknown>; at: Time };
}

/** A line of the putback list as it stood before a change. */
export interface Putback {
  setting: string;
  was: string;
  now: string;
}

/** How to take a change back; kept with its event. */
export type UndoStep =
  | { kind: 'section'; section: keyof Setup; before: unknown; putbacks?: Putback[] }
  | { kind: 'reading-taken'; id: string }
  | { kind: 'reading-dropped'; id: string }
  | { kind: 'tick'; step: string; done: boolean }
  | { kind: 'roster'; columns: string[]; rows: Record<string, string>[] }
  | { kind: 'recipe'; recipeId: string | null }
  | { kind: 'ring-taken'; id: string }
  | { kind: 'ring-dropped'; id: string }
  | { kind: 'feed-taken'; id: string }
  | { kind: 'feed-dropped'; id: string }
  | { kind: 'fixture'; revisionId: string | null }
  | { kind: 'thing'; shelf: ShelfKind; id: string; name: string; document: unknown }
  | { kind: 'sample-added'; id: string }
  | { kind: 'sample-dropped'; id: string };
