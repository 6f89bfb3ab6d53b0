import { z } from 'zod';
import { id } from './limits';

/** Where a job's file is read, and where it is looked at before: its bytes as the body, its name and choices in the query. */
export const JOBS = '/api/jobs';
export const LOOK_AT_JOB = '/api/jobs/look';
/** The largest file of a job that is taken, bytes. */
export const LARGEST_JOB = 200_000_000;

/** What is done with a thing of a job that is here otherwise: ours is used, or theirs comes in beside it. */
export const jobChoice = z.enum(['ours', 'beside']);
export type JobChoice = z.infer<typeof jobChoice>;
export const jobChoices = z.record(z.string(), jobChoice);
export type JobChoices = z.infer<typeof jobChoices>;

const difference = z.object({ label: z.string(), theirs: z.string(), ours: z.string() });

/** One thing of a job, and how it stands to what is here. */
export const jobThing = z.object({
  kind: z.string(),
  id,
  name: z.string(),
  /** Not here; here as it is in the file; here otherwise under its own identity; another here has its name. */
  state: z.enum(['new', 'same', 'differs', 'namesake']),
  differences: z.array(difference),
  /** What may be answered where it is asked; nothing where it is not. */
  choices: z.array(jobChoice),
  choice: jobChoice.nullable(),
});
export type JobThing = z.infer<typeof jobThing>;

/** What reading a job in would do. */
export const jobPlan = z.object({
  batch: z.object({ id, name: z.string(), state: z.enum(['new', 'same', 'differs']), choice: jobChoice.nullable() }),
  things: z.array(jobThing),
  /** What comes with it, counted, in words. */
  counts: z.array(z.string()),
  /** Whether everything that is asked is answered. */
  ready: z.boolean(),
});
export type JobPlan = z.infer<typeof jobPlan>;
/** A job that was read in: its batch as it is here. */
export const jobRead = z.object({ id, name: z.string(), already: z.boolean() });
export type JobRead = z.infer<typeof jobRead>;
