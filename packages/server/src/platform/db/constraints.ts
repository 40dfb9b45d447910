import type { BareRefusalCode } from '@kanonos/core';

/** The refusal that a named constraint causes. A constraint not listed here is a bug and answers 500. */
const CONSTRAINTS: Record<string, BareRefusalCode> = {
  sign_in_name_unique: 'sign_in_name_taken',
  membership_overlaps: 'membership_overlaps',
  membership_twice: 'membership_overlaps',
  blueprint_name_unique: 'blueprint_name_taken',
  folder_name_unique: 'folder_name_taken',
  area_code_unique: 'area_code_taken',
  type_code_unique: 'type_code_taken',
  choice_lists_pkey: 'list_key_taken',
  lookups_pkey: 'list_key_taken',
  one_planned_rule: 'changed_meanwhile',
  edition_once: 'changed_meanwhile',
  unit_code_unique: 'changed_meanwhile',
  absence_days: 'absence_days',
  deputy_other: 'deputy_self',
  numbers_pkey: 'number_taken',
  document_number_unique: 'number_taken',
  one_revision_in_work: 'changed_meanwhile',
  one_revision_in_force: 'changed_meanwhile',
  revision_label_unique: 'label_taken',
  one_open_checkout: 'changed_meanwhile',
  one_open_round: 'changed_meanwhile',
  one_signature_per_assignment: 'already_decided',
  one_signature_per_reading: 'reading_closed',
  one_open_requirement: 'changed_meanwhile',
  lock_not_held: 'locked_meanwhile',
  drive_node_name: 'name_taken_meanwhile',
};

type DatabaseError = { code?: string; constraint?: string };

/** The refusal code for a violated constraint, if it has one. */
export const refusalOfConstraint = (error: unknown): BareRefusalCode | undefined => {
  const { code, constraint } = (error ?? {}) as DatabaseError;
  return code?.startsWith('23') && constraint ? CONSTRAINTS[constraint] : undefined;
};

/** Serialisation failures and deadlocks: the transaction may simply be tried again. */
export const isRetryable = (error: unknown): boolean =>
  ['40001', '40P01'].includes((error as DatabaseError)?.code ?? '');

const LOST_STATES = new Set(['57P01', '57P02', '57P03', '08000', '08001', '08003', '08006', '53300']);
const LOST_ERRORS = new Set(['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT', 'ENOTFOUND']);

/**
 * Whether an error means that the database cannot be reached: it restarts, has too many connections, or its address does not answer.
 * The driver has no code for a connection that ended under a statement, so that one is known by its message.
 */
export const isConnectionLost = (error: unknown): boolean => {
  const { code, name, message } = (error ?? {}) as { code?: string; name?: string; message?: string };
  return (
    LOST_STATES.has(code ?? '') ||
    (LOST_ERRORS.has(code ?? '') && (error as { syscall?: string }).syscall !== 'spawn') ||
    name === 'KnexTimeoutError' ||
    /^(Connection terminated|Client has encountered a connection error|timeout expired|Unable to acquire a connection)/.test(
      message ?? '',
    )
  );
};
