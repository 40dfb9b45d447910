import { z } from 'zod';
import { Id, Instant, MetadataSchema, text } from './common.ts';
import { Upload } from './documents.ts';
import { endpoint } from './endpoint.ts';

export const IncomingFile = z.object({
  id: Id,
  /** Where it lay in the intake folder, or its sender and the subject of its mail. */
  path: z.string(),
  name: z.string(),
  size: z.number().int(),
  mediaType: z.string(),
  arrivedAt: Instant,
  state: z.enum(['waiting', 'set aside', 'refused']),
  why: z.string().nullable(),
  by: z.string().nullable(),
  /** Whether its text has been read, so that the proposal is whole. */
  read: z.boolean(),
  proposal: z.object({
    typeId: Id.nullable(),
    folderId: Id.nullable(),
    number: z.string().nullable(),
    label: z.string().nullable(),
    title: z.string(),
    metadata: MetadataSchema,
    origins: z.record(z.string(), z.enum(['the folder', 'the file name', 'the text'])),
  }),
  /** A document that it is a new version of, or that has the same bytes; only one that the asker may see. */
  known: z
    .object({ number: z.string(), title: z.string(), by: z.enum(['number', 'name', 'bytes']), mayCheckIn: z.boolean() })
    .nullable(),
});
export type IncomingFile = z.infer<typeof IncomingFile>;

const IncomingFileParam = z.strictObject({ id: Id });

/** What arrives in the intake folder or by mail: proposals that somebody files, or sets aside. */
export const intake = {
  list: endpoint({
    id: 'incomingFiles',
    feature: 'intake',
    method: 'GET',
    path: '/api/incoming-files',
    summary: 'Incoming files, with what their folder, name and text say',
    query: z.strictObject({ aside: z.enum(['yes', 'no']).default('no') }),
    answer: z.object({
      incomingFiles: z.array(IncomingFile),
      folder: z.string(),
      /** The address whose mails bring files, too. */
      mailAddress: z.string().nullable(),
      waiting: z.number().int(),
    }),
    problems: ['right_missing'],
  }),
  file: endpoint({
    id: 'incomingContent',
    feature: 'intake',
    method: 'GET',
    path: '/api/incoming-files/:id/file',
    summary: 'The bytes of an incoming file, to look at it before it is filed',
    params: IncomingFileParam,
    stream: 'bytes',
    problems: ['not_found', 'right_missing', 'incoming_file_gone', 'content_missing'],
  }),
  take: endpoint({
    id: 'takeIncomingFile',
    feature: 'intake',
    method: 'POST',
    path: '/api/incoming-files/:id/take',
    summary: 'Use an incoming file to register or check it in; it stays until that is done',
    params: IncomingFileParam,
    body: z.strictObject({}),
    answer: Upload,
    problems: ['not_found', 'right_missing', 'incoming_file_gone'],
  }),
  setAside: endpoint({
    id: 'setIncomingFileAside',
    feature: 'intake',
    method: 'POST',
    path: '/api/incoming-files/:id/set-aside',
    summary: 'Set an incoming file aside with a reason; it can be restored',
    params: IncomingFileParam,
    body: z.strictObject({ reason: text(400, 1) }),
    problems: ['not_found', 'right_missing', 'incoming_file_gone', 'input_invalid'],
  }),
  putBack: endpoint({
    id: 'restoreIncomingFile',
    feature: 'intake',
    method: 'POST',
    path: '/api/incoming-files/:id/restore',
    summary: 'Restore an incoming file that was set aside',
    params: IncomingFileParam,
    body: z.strictObject({}),
    problems: ['not_found', 'right_missing', 'incoming_file_gone'],
  }),
};
