import type { RefusalArguments, RefusalCode } from './refusalCodes.ts';

/** Why something is not allowed or not possible: a code for programs, parameters for its sentence. */
export type Refusal = { code: RefusalCode; params?: Record<string, string | number> };

/** An expected outcome is a value; a throw means a bug. */
export type Result<T> = { ok: true; value: T } | { ok: false; refusals: Refusal[] };

export const ok = <T>(value: T): Result<T> => ({ ok: true, value });

/** A refusal with the parameters that its code asks for. */
export const refusal = <C extends RefusalCode>(code: C, ...[params]: RefusalArguments<C>): Refusal =>
  params ? { code, params: params as Record<string, string | number> } : { code };

/** An outcome that is one refusal. */
export const refuse = <T = never, C extends RefusalCode = RefusalCode>(
  code: C,
  ...params: RefusalArguments<C>
): Result<T> => ({ ok: false, refusals: [refusal(code, ...params)] });
