import { sql, type Kysely, type Migration } from 'kysely';

/** Artworks of the Shelf: each file that was brought for one is a revision, kept as it came and as it was read. */
export const artworks: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create table artworks (
        id uuid primary key default gen_random_uuid(),
        name text not null unique check (name <> ''),
        version integer not null default 1,
        spec jsonb not null,
        updated_at timestamptz not null default now(),
        away_at timestamptz,
        away_by text
      );
      create table artwork_revisions (
        artwork_id uuid not null references artworks,
        number integer not null check (number > 0),
        file_name text not null,
        file bytea not null,
        sha256 text not null,
        art jsonb not null,
        at timestamptz not null default now(),
        by text not null,
        primary key (artwork_id, number)
      );
    `.execute(db);
  },
};
