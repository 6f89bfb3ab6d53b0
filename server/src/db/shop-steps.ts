import { sql, type Kysely, type Migration } from 'kysely';

/** Steps that the shop adds to its blanks, materials, ways and machines, with a photograph each. Two may have one title. */
export const shopSteps: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create table photographs (
        id uuid primary key default gen_random_uuid(),
        sha256 text not null unique,
        jpeg bytea not null,
        width integer not null check (width > 0),
        height integer not null check (height > 0),
        at timestamptz not null default now(),
        by text not null
      );
      create table steps (
        id uuid primary key default gen_random_uuid(),
        name text not null check (name <> ''),
        version integer not null default 1,
        spec jsonb not null,
        added_at timestamptz not null default now(),
        updated_at timestamptz not null default now(),
        away_at timestamptz,
        away_by text
      );
    `.execute(db);
  },
};
