import { sql, type Kysely, type Migration } from 'kysely';
import { packShapes } from '../kept-art';

/** The shapes of art stand apart from what is said of it, packed as they are sent: lists need not unpack them. */
export const artApart: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      alter table artwork_revisions add column facts jsonb, add column shapes bytea;
      alter table artwork_revisions alter column shapes set storage external;
    `.execute(db);
    const { rows } = await sql<{ id: string; number: number }>`
      select artwork_id as id, number from artwork_revisions`.execute(db);
    // One at a time: a large one takes a hundred megabytes as it is read.
    for (const { id, number } of rows) {
      const { rows: of } = await sql<{ shapes: unknown }>`
        select art -> 'shapes' as shapes from artwork_revisions where artwork_id = ${id} and number = ${number}`.execute(db); // prettier-ignore
      await sql`
        update artwork_revisions set facts = art - 'shapes', shapes = ${packShapes(of[0]!.shapes)}
        where artwork_id = ${id} and number = ${number}`.execute(db);
    }
    await sql`
      alter table artwork_revisions alter column facts set not null, alter column shapes set not null, drop column art;
    `.execute(db);
  },
};
