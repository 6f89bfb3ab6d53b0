import { sql, type Kysely, type Migration } from 'kysely';

/**
 * Serial numbers: each is given once in the shop, to one piece. Where a piece is scrapped its number is gone with it, and
 * the blank that takes its place, its next attempt, has another.
 */
export const serials: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create table serial_numbers (
        prefix text not null,
        number bigint not null check (number >= 0),
        batch_id uuid not null references batches,
        content_id text not null,
        ordinal integer not null check (ordinal > 0),
        attempt integer not null check (attempt >= 0),
        used_at timestamptz,
        primary key (prefix, number),
        unique (batch_id, content_id, ordinal, attempt)
      );
    `.execute(db);
  },
};
