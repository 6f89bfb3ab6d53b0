import { sql, type Kysely, type Migration } from 'kysely';

/**
 * Trials, what was said of their cells, and the cell that proved a recipe. What stood as a recipe’s proof in words is what
 * is remembered of where it comes from: only a trial proves.
 */
export const trials: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create table trials (
        id uuid primary key default gen_random_uuid(),
        name text not null check (name <> ''),
        version integer not null default 1,
        updated_at timestamptz not null default now(),
        away_at timestamptz,
        away_by text,
        machine_id uuid not null references machines,
        spec jsonb not null,
        follows uuid references trials on delete set null,
        at timestamptz not null default now(),
        by text not null default 'operator',
        photo_id uuid references photographs,
        burned_at timestamptz,
        burned_by text,
        simulated boolean not null default false
      );
      create index trials_of_machine on trials (machine_id);
      create table trial_scores (
        id uuid primary key default gen_random_uuid(),
        trial_id uuid not null references trials on delete cascade,
        cell integer not null check (cell >= 0),
        grade double precision not null check (grade between 0 and 10),
        tell text not null check (tell in ('weak', 'right', 'strong')),
        by text not null,
        at timestamptz not null default now(),
        removed_at timestamptz
      );
      create index trial_scores_of on trial_scores (trial_id, at);
      alter table recipes add column trial_id uuid references trials;
      alter table recipes add column proved jsonb;
      update recipes set spec = (spec - 'proof') || jsonb_build_object('note', coalesce(spec -> 'proof', '""'::jsonb));
      update events set undo = jsonb_set(undo #- '{document,proof}', '{document,note}', coalesce(undo #> '{document,proof}', '""'::jsonb))
        where undo ->> 'kind' = 'thing' and undo ->> 'shelf' = 'recipes';
    `.execute(db);
  },
};
