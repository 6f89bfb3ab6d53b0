import { api, type FixtureDocument } from '@bistre/contract';
import type { Express } from 'express';
import type { Trx } from '../db/connect';
import { serve, type Room } from '../http/serve';

/** A fixture with all its revisions, newest first, and the batches that use one of them. */
const fixtureOf = async (
  trx: Trx,
  f: { readonly id: string; readonly name: string; readonly blank_id: string; readonly blank: string },
): Promise<FixtureDocument> => {
  const revisions = await trx
    .selectFrom('fixture_revisions')
    .selectAll()
    .where('fixture_id', '=', f.id)
    .orderBy('revision', 'desc')
    .execute();
  const used = await trx
    .selectFrom('batches')
    .innerJoin('fixture_revisions as r', 'r.id', 'batches.fixture_revision_id')
    .select('batches.name')
    .where('r.fixture_id', '=', f.id)
    .execute();
  return {
    id: f.id,
    name: f.name,
    blankId: f.blank_id,
    blankName: f.blank,
    usedBy: used.map((u) => u.name),
    revisions: revisions.map((r) => ({
      id: r.id,
      fixtureId: f.id,
      name: f.name,
      revision: r.revision,
      held: r.held,
      beside: r.beside,
      basis: r.basis,
      savedAt: r.saved_at.toISOString(),
      savedBy: r.saved_by,
    })),
  };
};

export const fixtureRoutes = (app: Express, room: Room): void => {
  serve(app, room, api.listFixtures, async ({ trx }) => {
    const fixtures = await trx
      .selectFrom('fixtures as f')
      .innerJoin('blanks as b', 'b.id', 'f.blank_id')
      .select(['f.id', 'f.name', 'f.blank_id', 'b.name as blank'])
      .where('f.away_at', 'is', null)
      .orderBy('f.name')
      .limit(500)
      .execute();
    const out: FixtureDocument[] = [];
    for (const f of fixtures) out.push(await fixtureOf(trx, f));
    return out;
  });
};
