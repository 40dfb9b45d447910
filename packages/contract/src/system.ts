import { z } from 'zod';
import { Id, Instant, text } from './common.ts';
import { endpoint } from './endpoint.ts';

/** Background work that failed several times and is not tried again by itself. */
export const FailedWork = z.object({
  kind: z.string(),
  subject: z.string(),
  label: z.string(),
  number: z.string().nullable(),
  reason: z.string(),
  tries: z.number().int(),
  since: Instant,
  lastAt: Instant,
});
export type FailedWork = z.infer<typeof FailedWork>;

/** Stored bytes that are no longer those that were filed. */
export const ContentIncident = z.object({
  sha256: z.string(),
  what: z.enum(['altered', 'missing']),
  foundBy: z.string(),
  foundAt: Instant,
  places: z.array(z.object({ number: z.string(), label: z.string(), name: z.string() })),
});
export type ContentIncident = z.infer<typeof ContentIncident>;

/** What keeps the system from its work, and what puts it right. */
export const system = {
  status: endpoint({
    id: 'systemStatus',
    feature: 'system',
    method: 'GET',
    path: '/api/system',
    access: 'administer',
    summary: 'Stored files that failed their check, failed background work, and mail that could not be sent',
    answer: z.object({
      incidents: z.array(ContentIncident),
      failedWork: z.array(FailedWork),
      failedMails: z.number().int(),
      checked: z.object({ contents: z.number().int(), oldest: z.string().nullable() }),
    }),
  }),
  tryAgain: endpoint({
    id: 'tryFailedWorkAgain',
    feature: 'system',
    method: 'POST',
    path: '/api/system/failed-work/try-again',
    access: 'administer',
    summary: 'Try failed background work again',
    body: z.strictObject({ kind: text(60, 1), subject: text(200, 1) }),
    problems: ['failed_work_gone', 'input_invalid'],
  }),
  checkContent: endpoint({
    id: 'checkContent',
    feature: 'system',
    method: 'POST',
    path: '/api/system/contents/:sha256/check',
    access: 'administer',
    summary: 'Read stored bytes again and compare them with their hash',
    params: z.strictObject({ sha256: z.string().regex(/^[0-9a-f]{64}$/) }),
    answer: z.object({ finding: z.enum(['intact', 'altered', 'missing']) }),
    problems: ['not_found', 'input_invalid'],
  }),
  resendMail: endpoint({
    id: 'resendMail',
    feature: 'system',
    method: 'POST',
    path: '/api/mails/:id/resend',
    access: 'administer',
    summary: 'Send one failed mail again',
    params: z.strictObject({ id: Id }),
    problems: ['not_found', 'mail_not_failed'],
  }),
  resendMails: endpoint({
    id: 'resendMails',
    feature: 'system',
    method: 'POST',
    path: '/api/mails/resend',
    access: 'administer',
    summary: 'Send all failed mails again',
    answer: z.object({ mails: z.number().int() }),
  }),
};
