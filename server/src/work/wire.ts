import type { Problem } from '@bistre/core';
import { HttpProblem } from '../http/problem';

/** What a job in a thread ended with; problems keep their words and status on the way. */
export type Outcome<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly status: number; readonly problem: Problem }
  | {
      readonly ok: false;
      readonly fault: {
        readonly code?: string | undefined;
        readonly message: string;
        readonly stack?: string | undefined;
      };
    };

/** Runs a job in its thread; what it refuses and what fails becomes an outcome that can be sent. */
export const outcomeOf = async <T>(job: () => Promise<T> | T): Promise<Outcome<T>> => {
  try {
    return { ok: true, value: await job() };
  } catch (error) {
    if (error instanceof HttpProblem) return { ok: false, status: error.status, problem: error.problem };
    const { code } = error as { code?: unknown };
    return {
      ok: false,
      fault: {
        code: typeof code === 'string' ? code : undefined,
        message: error instanceof Error ? error.message : String(error),
        stack: error instanceof Error ? error.stack : undefined,
      },
    };
  }
};

/** The value of an outcome; throws what the job threw. */
export const valueOf = <T>(outcome: Outcome<T>): T => {
  if (outcome.ok) return outcome.value;
  if ('problem' in outcome) throw new HttpProblem(outcome.status, outcome.problem);
  const error = new Error(outcome.fault.message) as Error & { code?: string };
  if (outcome.fault.code !== undefined) error.code = outcome.fault.code;
  if (outcome.fault.stack !== undefined) error.stack = outcome.fault.stack;
  throw error;
};
