import { z } from 'zod';
import { Id, text } from './common.ts';
import { Upload } from './documents.ts';
import { endpoint } from './endpoint.ts';

/** What may be wrong with a table. */
export const TABLE_FAULTS = [
  'table_kind_refused',
  'table_too_wide',
  'table_too_long',
  'table_empty',
  'table_unreadable',
  'file_too_large',
] as const;
/** Why a table that was sent cannot be read. */
export const TABLE_PROBLEMS = ['input_invalid', 'upload_unknown', 'content_missing', ...TABLE_FAULTS] as const;

/** What is sent before it is used: files, addresses and papers, tables. */
export const uploadEndpoints = {
  upload: endpoint({
    id: 'upload',
    feature: 'documents',
    method: 'POST',
    path: '/api/uploads',
    summary: 'Upload a file (multipart/form-data, field `file`); it is hashed on the way and kept until it is used',
    upload: true,
    answer: Upload,
    problems: [
      'file_missing',
      'file_empty',
      'file_too_large',
      'file_executable',
      'file_name_invalid',
      'disk_full',
      'media_type_refused',
    ],
  }),
  written: endpoint({
    id: 'takeWritten',
    feature: 'documents',
    method: 'POST',
    path: '/api/uploads/written',
    summary: 'A web address or the location of a paper instead of a file; used like an uploaded file',
    body: z.discriminatedUnion('kind', [
      z.strictObject({ kind: z.literal('web address'), address: text(2000, 1) }),
      z.strictObject({
        kind: z.literal('paper'),
        place: text(400, 1),
        pages: z.number().int().min(1).max(100_000).nullable().default(null),
      }),
    ]),
    answer: Upload,
    problems: ['input_invalid', 'address_invalid', 'paper_without_place'],
  }),
  table: endpoint({
    id: 'readTable',
    feature: 'documents',
    method: 'GET',
    path: '/api/uploads/:id/table',
    summary: 'An uploaded table (CSV or XLSX) as rows of cells, headings first; nothing is kept',
    params: z.strictObject({ id: Id }),
    answer: z.object({ rows: z.array(z.array(z.string())), note: z.string().nullable() }),
    problems: TABLE_PROBLEMS,
  }),
};
