import type { Problem } from '@bistre/core';

/** A failure with a status, answered as `{ code, message, field?, now? }`. */
export class HttpProblem extends Error {
  constructor(
    readonly status: number,
    readonly problem: Problem,
    /** What is stored now, where another was quicker. */
    readonly now?: unknown,
  ) {
    super(problem.message);
  }
}

/** What was reckoned for a change does not hold any more: something it rests on changed meanwhile. */
export class Overtaken extends Error {}

export const notFound = (what: string): HttpProblem =>
  new HttpProblem(404, { code: 'not-found', message: `${what} does not exist any more.` });
export const stale = (by: string, at: Date, now: unknown): HttpProblem =>
  new HttpProblem(
    409,
    {
      code: 'stale',
      message: `${by} changed this at ${at.toISOString().slice(11, 16)} UTC. What you typed is still here: look at the change, then save again.`,
    },
    now,
  );
export const refused = (problem: Problem, status = 422): HttpProblem => new HttpProblem(status, problem);
