import { z } from 'zod';
import { Day, Id, Instant } from './common.ts';
import { endpoint } from './endpoint.ts';
import { TABLE_FORMATS } from './tables.ts';

export const TrailRow = z.object({
  seq: z.number().int(),
  at: Instant,
  actor: z.string(),
  actorName: z.string(),
  forPerson: z.string().nullable(),
  kind: z.string(),
  text: z.string(),
  documentNumber: z.string().nullable(),
  label: z.string().nullable(),
  hash: z.string(),
  event: z.record(z.string(), z.unknown()),
});
export type TrailRow = z.infer<typeof TrailRow>;
const TrailFilter = {
  /** The id of a person, or the sign-in name of an actor. */
  person: z.string().max(64).optional(),
  document: z.string().max(100).optional(),
  kind: z.string().max(60).optional(),
  /** Days of the organisation, both included, or instants. */
  from: z.union([Day, Instant]).optional(),
  to: z.union([Day, Instant]).optional(),
};

export const MailRow = z.object({
  id: Id,
  to: z.string(),
  subject: z.string(),
  kind: z.string(),
  createdAt: Instant,
  state: z.enum(['waiting', 'sent', 'failed', 'held for summary']),
  sentAt: Instant.nullable(),
  error: z.string().nullable(),
  tries: z.number().int(),
  nextTryAt: Instant.nullable(),
});
export type MailRow = z.infer<typeof MailRow>;

export const evidence = {
  trail: endpoint({
    id: 'trail',
    feature: 'trail',
    method: 'GET',
    path: '/api/trail',
    access: 'audit',
    summary: 'The audit trail, newest first, by person, document, kind and time',
    query: z.strictObject({
      ...TrailFilter,
      before: z.coerce.number().int().min(1).max(Number.MAX_SAFE_INTEGER).optional(),
      limit: z.coerce.number().int().min(1).max(200).default(60),
    }),
    answer: z.object({
      rows: z.array(TrailRow),
      next: z.number().int().nullable(),
      kinds: z.array(z.string()),
      /** The name of the person of the filter. */
      person: z.string().nullable(),
      total: z.number().int(),
      lastHead: z.object({ size: z.number().int(), at: Instant, root: z.string() }).nullable(),
    }),
    problems: ['input_invalid'],
  }),
  trailFile: endpoint({
    id: 'trailFile',
    feature: 'trail',
    method: 'GET',
    path: '/api/trail/file',
    access: 'audit',
    summary: 'Events by person, document, kind and time as a list to read; it proves nothing, the whole export does',
    query: z.strictObject({ ...TrailFilter, format: z.enum(TABLE_FORMATS) }),
    stream: 'bytes',
    problems: ['input_invalid'],
  }),
  exportTrail: endpoint({
    id: 'exportTrail',
    feature: 'trail',
    method: 'GET',
    path: '/api/trail/export',
    access: 'audit',
    summary: 'The whole trail as JSON Lines in order, with its heads; filtered ones prove nothing and are not offered',
    stream: 'lines',
  }),
  mails: endpoint({
    id: 'mails',
    feature: 'mail',
    method: 'GET',
    path: '/api/mails',
    access: 'administer',
    summary: 'Outgoing mail, newest first',
    query: z.strictObject({ before: Instant.optional() }),
    answer: z.object({ rows: z.array(MailRow), standIn: z.boolean() }),
  }),
  mail: endpoint({
    id: 'mail',
    feature: 'mail',
    method: 'GET',
    path: '/api/mails/:id',
    access: 'administer',
    summary: 'One mail as it left',
    params: z.strictObject({ id: Id }),
    answer: MailRow.extend({ html: z.string(), text: z.string(), arrived: z.boolean(), redacted: z.boolean() }),
    problems: ['not_found'],
  }),
  health: endpoint({
    id: 'health',
    feature: 'health',
    method: 'GET',
    path: '/api/health',
    access: 'public',
    summary: 'Whether the server can do its work: 503 while database or content store do not answer',
    answer: z.object({ ok: z.boolean(), database: z.string(), content: z.string(), jobs: z.string() }),
    problems: ['not_ready'],
  }),
  live: endpoint({
    id: 'live',
    feature: 'health',
    method: 'GET',
    path: '/api/health/live',
    access: 'public',
    summary: 'Whether the server process runs at all, whatever it can reach',
    answer: z.object({ ok: z.boolean() }),
  }),
};
