import type { RefusalCode } from './refusalCodes.ts';

/** Why something is not allowed or not possible: a code for programs, parameters for the words. */
export type Refusal = { code: RefusalCode; params?: Record<string, string | number> };

/** An expected outcome is a value; a throw means a bug. */
export type Result<T> = { ok: true; value: T } | { ok: false; refusals: Refusal[] };

export const ok = <T>(value: T): Result<T> => ({ ok: true, value });

export const refuse = <T = never>(code: RefusalCode, params?: Refusal['params']): Result<T> => ({
  ok: false,
  refusals: [params ? { code, params } : { code }],
});

export const refusal = (code: RefusalCode, params?: Refusal['params']): Refusal =>
  params ? { code, params } : { code };
