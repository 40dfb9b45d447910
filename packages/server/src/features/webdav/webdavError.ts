import { sentenceOf, statusOf } from '@kanonos/contract';
import { RefusalError } from '../../platform/refused.ts';

/** A refusal with its status and a sentence that gives the reason. */
export class WebdavError extends Error {
  readonly status: number;
  /** The precondition of RFC 4918 16 for programs. */
  readonly condition: string | undefined;
  constructor(status: number, message: string, condition?: string) {
    super(message);
    this.status = status;
    this.condition = condition;
  }
}

/** Our refusals as WebDAV answers: locked for what somebody else has, forbidden for what breaks a rule. */
const STATUSES: Record<string, number> = {
  checked_out: 423,
  locked_meanwhile: 423,
  name_taken_meanwhile: 405,
  not_checked_out: 423,
  right_missing: 403,
  wrong_state: 403,
  folder_shut: 403,
  file_too_large: 413,
  disk_full: 507,
  not_found: 404,
};

export const toWebdavError = (error: unknown, zone?: string): WebdavError | undefined => {
  if (error instanceof WebdavError) return error;
  if (!(error instanceof RefusalError)) return undefined;
  const [first] = error.refusals;
  const code = first?.code ?? 'internal';
  const words = error.refusals.map((one) => sentenceOf(one.code, one.params, zone)).join(' ');
  const status = STATUSES[code] ?? statusOf(code);
  // Programs understand few statuses; any other breach of a rule is forbidden.
  return new WebdavError([409, 422].includes(status) ? 403 : status, words);
};
