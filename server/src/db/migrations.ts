import { sql, type Kysely, type Migration } from 'kysely';
import { heldMigration } from './held';
import { artApart } from './art-apart';
import { artworks } from './artworks';
import { ownFiles } from './own-files';
import { shopSteps } from './shop-steps';
import { serials } from './serials';
import { trials } from './trials';

const first: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create table machines (
        id uuid primary key default gen_random_uuid(),
        name text not null unique check (name <> ''),
        version integer not null default 1,
        profile jsonb not null,
        updated_at timestamptz not null default now()
      );
      create table blanks (
        id uuid primary key default gen_random_uuid(),
        name text not null unique check (name <> ''),
        version integer not null default 1,
        spec jsonb not null,
        updated_at timestamptz not null default now()
      );
      create table blank_samples (
        id uuid primary key default gen_random_uuid(),
        seq bigserial not null,
        blank_id uuid not null references blanks on delete cascade,
        dimension text not null check (dimension in ('length', 'width', 'thickness')),
        value_mm double precision not null check (value_mm > 0 and value_mm < 100000),
        at timestamptz not null default now(),
        by text not null,
        removed_at timestamptz
      );
      create index blank_samples_of on blank_samples (blank_id, seq);
      create table recipes (
        id uuid primary key default gen_random_uuid(),
        name text not null unique check (name <> ''),
        machine_id uuid not null references machines,
        version integer not null default 1,
        spec jsonb not null,
        updated_at timestamptz not null default now()
      );
      create table fixtures (
        id uuid primary key default gen_random_uuid(),
        name text not null unique check (name <> ''),
        blank_id uuid not null references blanks,
        created_at timestamptz not null default now()
      );
      create table fixture_revisions (
        id uuid primary key default gen_random_uuid(),
        fixture_id uuid not null references fixtures,
        revision integer not null check (revision > 0),
        hold jsonb not null,
        basis jsonb not null,
        saved_at timestamptz not null default now(),
        saved_by text not null,
        unique (fixture_id, revision)
      );
      create table batches (
        id uuid primary key default gen_random_uuid(),
        name text not null check (name <> ''),
        customer text not null default '',
        quantity integer not null check (quantity between 1 and 20000),
        spares integer not null check (spares between 0 and 20000),
        tolerance_mm double precision not null check (tolerance_mm > 0),
        due_at timestamptz,
        machine_id uuid not null references machines,
        blank_id uuid not null references blanks,
        recipe_id uuid references recipes,
        fixture_revision_id uuid references fixture_revisions,
        version integer not null default 1,
        setup jsonb not null,
        roster_columns jsonb not null default '[]',
        first_approved boolean not null default false,
        closed_at timestamptz,
        updated_at timestamptz not null default now(),
        updated_by text not null
      );
      create table mark_readings (
        id uuid primary key default gen_random_uuid(),
        seq bigserial not null,
        batch_id uuid not null references batches on delete cascade,
        mark integer not null check (mark between 1 and 12),
        x_mm double precision not null,
        y_mm double precision not null,
        source text not null check (source in ('typed', 'simulated machine')),
        purpose text not null check (purpose in ('place', 'reread')),
        at timestamptz not null default now(),
        by text not null,
        removed_at timestamptz
      );
      create index mark_readings_of on mark_readings (batch_id, seq);
      create table roster_rows (
        batch_id uuid not null references batches on delete cascade,
        ordinal integer not null check (ordinal > 0),
        fields jsonb not null,
        primary key (batch_id, ordinal)
      );
      create table pieces (
        id uuid primary key default gen_random_uuid(),
        batch_id uuid not null references batches on delete cascade,
        ordinal integer not null check (ordinal > 0),
        load integer not null check (load > 0),
        slot integer not null check (slot > 0),
        state text not null check (state in ('loaded', 'done', 'scrap')),
        cause text,
        dx_mm double precision,
        dy_mm double precision,
        yaw_rad double precision,
        at timestamptz not null default now(),
        by text not null,
        unique (batch_id, load, slot),
        check (state <> 'scrap' or cause is not null)
      );
      create unique index one_good_piece on pieces (batch_id, ordinal) where state <> 'scrap';
      create table step_ticks (
        batch_id uuid not null references batches on delete cascade,
        step text not null,
        at timestamptz not null default now(),
        by text not null,
        primary key (batch_id, step)
      );
      create table putbacks (
        id uuid primary key default gen_random_uuid(),
        batch_id uuid not null references batches on delete cascade,
        machine_id uuid not null references machines,
        setting text not null,
        was text not null,
        now text not null,
        at timestamptz not null default now(),
        restored_at timestamptz,
        restored_by text
      );
      create table events (
        id bigserial primary key,
        at timestamptz not null default now(),
        by text not null,
        kind text not null,
        batch_id uuid references batches on delete cascade,
        subject_id uuid,
        summary text not null,
        detail jsonb not null default '{}',
        undo jsonb,
        undone_at timestamptz
      );
      create index events_of_batch on events (batch_id, id desc);
      create index events_of_kind on events (kind, id desc);
      create index events_words on events using gin (to_tsvector('simple', summary));
      create table simulations (
        batch_id uuid primary key references batches on delete cascade,
        state jsonb not null
      );
      create table replies (
        key text primary key,
        path text not null,
        status integer not null,
        body jsonb not null,
        at timestamptz not null default now()
      );
    `.execute(db);
  },
};

/** Boards carry two to six marks; those made before had three. */
const markCount: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      update batches set setup = jsonb_set(setup, '{hold,marks}', '3') where not setup -> 'hold' ? 'marks';
      update fixture_revisions set hold = jsonb_set(hold, '{marks}', '3') where not hold ? 'marks';
    `.execute(db);
  },
};

/** Rotary drives, their witness rings, and round blanks. */
const drives: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create table drives (
        id uuid primary key default gen_random_uuid(),
        name text not null unique check (name <> ''),
        version integer not null default 1,
        spec jsonb not null,
        updated_at timestamptz not null default now()
      );
      create table rings (
        id uuid primary key default gen_random_uuid(),
        seq bigserial not null,
        batch_id uuid not null references batches on delete cascade,
        drive_id uuid not null references drives,
        blank_id uuid not null references blanks,
        overlap_mm double precision not null,
        circumference_mm double precision not null check (circumference_mm > 0),
        correction double precision not null check (correction > 0),
        nominal_steps_per_mm double precision not null check (nominal_steps_per_mm > 0),
        reading_error_mm double precision not null check (reading_error_mm > 0),
        at timestamptz not null default now(),
        by text not null,
        removed_at timestamptz
      );
      create index rings_of on rings (drive_id, blank_id, seq);
      alter table blank_samples drop constraint blank_samples_dimension_check;
      alter table blank_samples add constraint blank_samples_dimension_check
        check (dimension in ('length', 'width', 'thickness', 'diameter', 'tape'));
      update machines set profile = profile || '{"bedLowest": 160, "withoutBed": null}' where not profile ? 'bedLowest';
      update batches set setup = setup || '{"drive": {"driveId": null, "rimFaces": "right", "contactAt": null, "overhang": 0,
        "stand": {"bed": "in", "riser": null}, "found": null, "accelerationSet": null, "numberSet": null,
        "seam": {"kind": "gapped", "gap": 2}, "rowScaling": true, "bothWays": true, "runOut": null, "faces": []}}'
        where not setup ? 'drive';
    `.execute(db);
  },
};

/** Pictures for engraving, in shades of grey, each kept once. */
const pictures: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create table pictures (
        id uuid primary key default gen_random_uuid(),
        sha256 text not null unique,
        name text not null check (name <> ''),
        width integer not null check (width > 0),
        height integer not null check (height > 0),
        darkness double precision not null check (darkness between 0 and 1),
        png bytea not null,
        at timestamptz not null default now(),
        by text not null
      );
    `.execute(db);
  },
};

/** Printed sheets: their settings, and how they are fitted to their marks. */
const sheets: Migration = {
  async up(db: Kysely<unknown>) {
    const sheet = `{"paper": "A4", "landscape": true, "own": {"width": 300, "height": 200}, "bleed": 1, "inset": 0, "gap": 1, "ground": "#f0d9a8"}`;
    await sql`
      update batches set setup = jsonb_set(setup, '{hold,sheet}', ${sheet}::jsonb) where not setup -> 'hold' ? 'sheet';
      `.execute(db);
    await sql`
      update fixture_revisions set hold = jsonb_set(hold, '{sheet}', ${sheet}::jsonb) where not hold ? 'sheet';
      `.execute(db);
    await sql`
      update batches set setup = jsonb_set(setup, '{place,model}', '"auto"') where not setup -> 'place' ? 'model';
    `.execute(db);
  },
};

/** Sheets engraved on both faces, and what their backs carry. */
const panels: Migration = {
  async up(db: Kysely<unknown>) {
    const panel = `{"width": 300, "height": 200, "gap": 1, "turn": "page", "reads": "page", "carry": "marks"}`;
    const back = `{"zoneId": null, "lines": [], "gap": 1.5, "narrowest": 0.8, "smallest": 1.5, "recipeId": null, "deeper": 1}`;
    await sql`
      update batches set setup = jsonb_set(setup, '{hold,panel}', ${panel}::jsonb) where not setup -> 'hold' ? 'panel';
    `.execute(db);
    await sql`
      update fixture_revisions set hold = jsonb_set(hold, '{panel}', ${panel}::jsonb) where not hold ? 'panel';
    `.execute(db);
    await sql`
      update batches set setup = jsonb_set(setup, '{back}', ${back}::jsonb) where not setup ? 'back';
    `.execute(db);
  },
};

/** Work longer than the bed; its seams carry marks with high numbers. */
const long: Migration = {
  async up(db: Kysely<unknown>) {
    const fresh = `{"loading": "through", "feed": "y", "margin": 15, "overlap": 0, "markInset": 10, "smallText": 15, "art": null}`;
    await sql`
      update batches set setup = jsonb_set(setup, '{long}', ${fresh}::jsonb) where not setup ? 'long';
    `.execute(db);
    await sql`
      alter table mark_readings drop constraint mark_readings_mark_check,
        add constraint mark_readings_mark_check check (mark between 1 and 400);
    `.execute(db);
  },
};

/** Sheets found in a picture, pieces with marks of their own, and the height a pointer was measured at. */
const traced: Migration = {
  async up(db: Kysely<unknown>) {
    const fresh = `{"traced": null, "inner": false}`;
    await sql`
      update batches set setup = jsonb_set(setup, '{hold,sheet}', ${fresh}::jsonb || (setup -> 'hold' -> 'sheet'));
    `.execute(db);
    await sql`
      update fixture_revisions set hold = jsonb_set(hold, '{sheet}', ${fresh}::jsonb || (hold -> 'sheet'));
    `.execute(db);
    const level = `{"height": 0, "second": null}`;
    await sql`
      update machines set profile = jsonb_set(profile, '{pointerOffset}', ${level}::jsonb || (profile -> 'pointerOffset'))
        where jsonb_typeof(profile -> 'pointerOffset') = 'object';
    `.execute(db);
    const own = `{"marks": [], "stretches": false}`;
    await sql`
      update batches set setup = jsonb_set(setup, '{hold,own}', ${own}::jsonb) where not setup -> 'hold' ? 'own';
    `.execute(db);
    await sql`
      update fixture_revisions set hold = jsonb_set(hold, '{own}', ${own}::jsonb) where not hold ? 'own';
    `.execute(db);
  },
};

/** Feeders, the long feeds that calibrate them, and strips in a batch's setup. */
const feeders: Migration = {
  async up(db: Kysely<unknown>) {
    const fresh = `{"feederId": null, "work": "row", "rails": false, "turned": false, "pitch": null, "gap": 10,
      "strip": {"length": 900, "width": 120}, "laid": 0.2, "squaring": null, "aimEvery": null, "used": []}`;
    await sql`
      create table feeders (
        id uuid primary key default gen_random_uuid(),
        name text not null unique check (name <> ''),
        version integer not null default 1,
        spec jsonb not null,
        updated_at timestamptz not null default now()
      );
      create table feed_readings (
        id uuid primary key default gen_random_uuid(),
        seq bigserial not null,
        batch_id uuid not null references batches on delete cascade,
        feeder_id uuid not null references feeders,
        commanded_mm double precision not null check (commanded_mm > 0),
        measured_mm double precision not null check (measured_mm > 0),
        missed_mm double precision,
        at timestamptz not null default now(),
        by text not null,
        removed_at timestamptz
      );
      create index feed_readings_of on feed_readings (feeder_id, seq);
    `.execute(db);
    await sql`
      update batches set setup = jsonb_set(setup, '{feed}', ${fresh}::jsonb) where not setup ? 'feed';
    `.execute(db);
  },
};

/** Blanks that lie anywhere under a camera. */
const photos: Migration = {
  async up(db: Kysely<unknown>) {
    const fresh = `{"use": "blanks", "gap": 1, "grain": "along", "offcuts": [], "density": null, "cameraHeight": 700, "inset": 20, "found": [], "left": 0, "spread": null, "marks": 0, "afterLoad": 0, "takenAt": null}`;
    await sql`
      update batches set setup = jsonb_set(setup, '{hold,photo}', ${fresh}::jsonb) where not setup -> 'hold' ? 'photo';
    `.execute(db);
    await sql`
      update fixture_revisions set hold = jsonb_set(hold, '{photo}', ${fresh}::jsonb) where not hold ? 'photo';
    `.execute(db);
  },
};

/** Pegs and witness lines, locator boards, pins, stands, and what was seen on single pieces. */
const fixings: Migration = {
  async up(db: Kysely<unknown>) {
    const fresh = `{
      "lines": {"peg": 6, "pegHeight": 3, "contacts": null, "eye": 0.2, "shoulder": 0, "card": null},
      "locator": {"frame": {"width": 560, "depth": 560}, "foot": {"width": 40, "depth": 40}, "travel": {"x": 80, "y": 80},
        "margin": 25, "pitch": 10, "inset": 5, "gap": 4, "eye": 0.2, "back": []},
      "pins": null, "stock": {"readings": [], "room": null}, "stand": null}`;
    await sql`
      update batches set setup = jsonb_set(jsonb_set(setup, '{hold}', ${fresh}::jsonb || (setup -> 'hold')),
        '{looks}', coalesce(setup -> 'looks', '{"pieces": []}'::jsonb));
    `.execute(db);
    await sql`update fixture_revisions set hold = ${fresh}::jsonb || hold;`.execute(db);
  },
};

/** Cameras that stay, marks on sheets, several lists at once, and offcuts that are kept. */
const offcuts: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create table offcuts (
        id uuid primary key default gen_random_uuid(),
        name text not null check (name <> ''),
        material text not null check (material <> ''),
        thickness_mm double precision not null check (thickness_mm > 0),
        outline jsonb not null,
        defects jsonb not null,
        batch_id uuid references batches on delete set null,
        at timestamptz not null default now(),
        by text not null,
        used_at timestamptz
      );
      create index offcuts_there on offcuts (at) where used_at is null;
    `.execute(db);
    const fresh = `{"also": [], "others": [], "marksOn": "bed", "sheet": "A3", "own": [], "seenBy": "marks"}`;
    await sql`
      update batches set setup = jsonb_set(setup, '{hold,photo}', ${fresh}::jsonb || (setup -> 'hold' -> 'photo'));
    `.execute(db);
    await sql`update fixture_revisions set hold = jsonb_set(hold, '{photo}', ${fresh}::jsonb || (hold -> 'photo'));`.execute(
      db,
    );
    await sql`update machines set profile = '{"camera": null}'::jsonb || profile;`.execute(db);
    // Strips that are laid keep their places.
    await sql`
      update batches set setup = jsonb_set(setup, '{feed}', '{"interlock": false}'::jsonb || (setup -> 'feed'));
    `.execute(db);
  },
};

/**
 * Parts and versions of changes in columns of their own, first answers as they were sent, and what can be put
 * away and brought back.
 */
const kept: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      alter table events add column parts text[] not null default '{}', add column version integer;
      update events set parts = array[detail ->> 'part'], version = (detail ->> 'version')::integer where detail ? 'part';
      create index events_of_subject on events (subject_id, id desc) where undo is not null;
      alter table batches add column closed_by text, add column away_at timestamptz, add column away_by text;
      update batches b set closed_by = (select e.by from events e
        where e.batch_id = b.id and e.kind = 'closed' order by e.id desc limit 1) where closed_at is not null;
      alter table blanks add column away_at timestamptz, add column away_by text;
      alter table machines add column away_at timestamptz, add column away_by text;
      alter table recipes add column away_at timestamptz, add column away_by text;
      alter table drives add column away_at timestamptz, add column away_by text;
      alter table feeders add column away_at timestamptz, add column away_by text;
      alter table fixtures add column away_at timestamptz, add column away_by text;
      alter table offcuts rename column used_at to away_at;
      alter table offcuts add column away_by text;
      alter table simulations add column version integer not null default 1;
      drop table replies;
      create table replies (
        key text primary key,
        call text not null,
        hash text not null,
        body text,
        at timestamptz not null default now()
      );
      create index replies_by_age on replies (at);
    `.execute(db);
  },
};

/** The diameter of the piece that carried a ring; the power below which a source does not fire, which nobody said yet. */
const ringPieces: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      alter table rings add column piece_diameter_mm double precision check (piece_diameter_mm > 0);
      update machines set profile = '{"leastPower": 0}'::jsonb || profile;
    `.execute(db);
  },
};

/** A drive in place of the y motor changes the bed's own axis, and its settings are named so. */
const bedAxis: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      update putbacks p set setting = replace(p.setting, 'rotary axis', 'y axis')
        from batches b join drives d on d.id::text = b.setup -> 'held' -> 'choice' ->> 'driveId'
        where p.batch_id = b.id and p.setting in ('rotary axis, steps/mm', 'rotary axis, acceleration')
          and d.spec -> 'axis' ->> 'letter' = 'Y';
    `.execute(db);
  },
};

/** Whose word on a proof is waited for, and what they saw when they gave it; what was changed on machines. */
const approvals: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      alter table batches add column approval_wanted boolean not null default false;
      create table approvals (
        id uuid primary key default gen_random_uuid(),
        batch_id uuid not null references batches on delete cascade,
        revision integer not null check (revision > 0),
        at timestamptz not null default now(),
        by text not null,
        signed_by text not null check (signed_by <> ''),
        note text not null default '',
        shown jsonb not null,
        hash text not null,
        removed_at timestamptz
      );
      create index approvals_of_batch on approvals (batch_id, revision);
      create table machine_changes (
        id uuid primary key default gen_random_uuid(),
        machine_id uuid not null references machines on delete cascade,
        what text not null,
        note text not null default '',
        at timestamptz not null,
        by text not null,
        removed_at timestamptz
      );
      create index machine_changes_of on machine_changes (machine_id, at);
    `.execute(db);
  },
};

/** Forward only, in order; a release never changes one that was shipped. */
export const migrations: Readonly<Record<string, Migration>> = {
  '0001_first': first,
  '0002_mark_count': markCount,
  '0003_drives': drives,
  '0004_pictures': pictures,
  '0005_sheets': sheets,
  '0006_panels': panels,
  '0007_long': long,
  '0008_traced': traced,
  '0009_feeders': feeders,
  '0010_photos': photos,
  '0011_fixings': fixings,
  '0012_offcuts': offcuts,
  '0013_kept': kept,
  '0014_held': heldMigration,
  '0015_ring_pieces': ringPieces,
  '0016_bed_axis': bedAxis,
  '0017_artworks': artworks,
  '0018_serials': serials,
  '0019_own_files': ownFiles,
  '0020_art_apart': artApart,
  '0021_steps': shopSteps,
  '0022_approvals': approvals,
  '0023_trials': trials,
};
