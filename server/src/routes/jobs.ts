import express, { type Express, type Request } from 'express';
import { jobChoices, JOBS, LARGEST_JOB, LOOK_AT_JOB, type JobChoices } from '@bistre/contract';
import { reading } from '../db/connect';
import { refused } from '../http/problem';
import { fileNameIn, operatorOf, type Room } from '../http/serve';
import { bringJob } from '../job/bring';
import { planJob } from '../job/plan';
import { readJob, type ReadJob } from '../job/read';

/** The file that a call brings, what it is called, and what was answered so far. */
const asked = (request: Request): { name: string; read: ReadJob; choices: JobChoices } => {
  const { query } = request;
  const body: unknown = request.body;
  const name = fileNameIn(request, 'This file');
  if (!Buffer.isBuffer(body) || body.length === 0)
    throw refused({ code: 'no-job', message: 'No file arrived. Choose the ZIP of a job.', field: 'file' });
  let choices: unknown = {};
  try {
    choices = JSON.parse(typeof query['choices'] === 'string' ? query['choices'] : '{}');
  } catch {
    // What cannot be read is no answer.
  }
  const parsed = jobChoices.safeParse(choices);
  return { name, read: readJob(name, body), choices: parsed.success ? parsed.data : {} };
};

/** One job as one file, read in: first looked at, then brought in by what was answered. */
export const jobRoutes = (app: Express, { db }: Room): void => {
  const whole = express.raw({ type: () => true, limit: LARGEST_JOB });
  app.post(LOOK_AT_JOB, whole, async (request, response) => {
    const { read, choices } = asked(request);
    response.json((await reading(db, (trx) => planJob(trx, read.job, choices))).plan);
  });
  app.post(JOBS, whole, async (request, response) => {
    const { name, read, choices } = asked(request);
    const by = operatorOf(request);
    response.json(await db.transaction().execute((trx) => bringJob(trx, name, read, choices, by)));
  });
};
