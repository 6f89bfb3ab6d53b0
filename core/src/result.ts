/** A failure a person can act on. `field` names the place, e.g. `samples.length` or `line 14`. */
export interface Problem {
  readonly code: string;
  readonly message: string;
  readonly field?: string;
  /** Everything that stands against it, this first, where it is more than one thing. */
  readonly reasons?: readonly Problem[];
}

/** Expected failures are values; exceptions are for bugs. */
export type Result<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly problem: Problem };

/** @example ok(3) // { ok: true, value: 3 } */
export const ok = <T>(value: T): Result<T> => ({ ok: true, value });

/** A failure whatever was wanted. */
export type Failed = Result<never> & { readonly ok: false };

/** @example fail('empty', 'No number was given.', 'length') */
export const fail = (code: string, message: string, field?: string): Failed => ({
  ok: false,
  problem: field === undefined ? { code, message } : { code, message, field },
});
