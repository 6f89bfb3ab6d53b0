import { SCHEMAS } from '../db/connect';
import type { Job, Row } from './tables';

/**
 * What a migration does to rows of the database, done to rows of a job’s file that an older release wrote. Every migration
 * after the first release that wrote such files stands here.
 */
const LIFTS: Readonly<Record<string, (rows: Record<string, readonly Row[]>) => Record<string, readonly Row[]>>> = {
  '0023_trials': (rows) => ({
    ...rows,
    trials: [],
    trial_scores: [],
    recipes: (rows['recipes'] ?? []).map((row) => {
      const { proof = '', ...spec } = row['spec'] as Record<string, unknown>;
      return { ...row, spec: { ...spec, note: proof }, trial_id: null, proved: null };
    }),
  }),
};

/** The first release that wrote jobs as files. */
const FIRST = '0022_approvals';

/** A job of an older release as this one would have written it; null where it is older than any that can be. */
export const lifted = (job: Job): Job | null => {
  const from = SCHEMAS.indexOf(job.schema);
  if (from < SCHEMAS.indexOf(FIRST)) return null;
  const rows = SCHEMAS.slice(from + 1).reduce<Record<string, readonly Row[]>>(
    (all, schema) => LIFTS[schema]?.(all) ?? all,
    job.rows ?? {},
  );
  return { ...job, schema: SCHEMAS.at(-1)!, rows: rows as Job['rows'] };
};
