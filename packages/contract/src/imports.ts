import { IMPORTED_STATES } from '@kanonos/core';
import { z } from 'zod';
import { Id, Instant, MOST_INT, PersonRef, RowVersion, text } from './common.ts';
import { Relative } from './documents.ts';
import { endpoint } from './endpoint.ts';
import { TABLE_FAULTS } from './uploadEndpoints.ts';

export const ImportMapping = z.strictObject({
  columns: z.array(z.string().max(70).nullable()).max(200),
  dateOrder: z.enum(['dmy', 'mdy']),
  typeCode: z.string().max(12).nullable(),
  folder: z.string().max(1000).nullable(),
  owner: z.string().max(120).nullable(),
  state: z.enum(IMPORTED_STATES),
});
export type ImportMapping = z.infer<typeof ImportMapping>;
const Counts = z.object({
  lines: z.number().int(),
  ready: z.number().int(),
  warned: z.number().int(),
  refused: z.number().int(),
  done: z.number().int(),
});
export const ImportState = z.enum(['prepared', 'checked', 'running', 'stopped', 'done']);
export const ImportSummary = z.object({
  id: Id,
  name: z.string(),
  by: PersonRef,
  at: Instant,
  state: ImportState,
  counts: Counts,
});
export type ImportSummary = z.infer<typeof ImportSummary>;
export const ImportDetail = ImportSummary.extend({
  headings: z.array(z.string()),
  mapping: ImportMapping,
  /** The first lines, to see what a column holds. */
  sample: z.array(z.array(z.string())),
  files: z.number().int(),
  /** Scopes that have not begun and would begin after the highest imported number. */
  begins: z.array(z.object({ scope: z.string(), last: z.number().int() })),
  meanings: z.array(z.object({ value: z.string(), text: z.string() })),
  reasons: z.array(z.object({ code: z.string(), example: z.string(), lines: z.number().int() })),
  rowVersion: RowVersion,
});
export type ImportDetail = z.infer<typeof ImportDetail>;
export const ImportLine = z.object({
  line: z.number().int(),
  cells: z.array(z.string()),
  state: z.enum(['waiting', 'ready', 'refused', 'done']),
  reasons: z.array(z.string()),
  warnings: z.array(z.string()),
  number: z.string().nullable(),
});
export type ImportLine = z.infer<typeof ImportLine>;

const ImportParam = z.strictObject({ id: Id });
const PROBLEMS = ['not_found', 'right_missing', 'input_invalid', 'changed_meanwhile', 'import_state'] as const;

export const imports = {
  list: endpoint({
    id: 'imports',
    feature: 'imports',
    method: 'GET',
    path: '/api/imports',
    summary: 'My imports of legacy documents, the last one first',
    answer: z.object({ imports: z.array(ImportSummary), unverified: z.number().int() }),
  }),
  add: endpoint({
    id: 'addImport',
    feature: 'imports',
    method: 'POST',
    path: '/api/imports',
    summary: 'Prepare an import from an uploaded list (CSV or XLSX); columns are guessed from their headings',
    body: z.strictObject({ uploadId: Id }),
    answer: z.object({ id: Id, note: z.string().nullable() }),
    problems: [...PROBLEMS, ...TABLE_FAULTS, 'upload_unknown', 'content_missing'],
  }),
  detail: endpoint({
    id: 'import',
    feature: 'imports',
    method: 'GET',
    path: '/api/imports/:id',
    summary: 'One import with its columns, counts and reasons',
    params: ImportParam,
    answer: ImportDetail,
    problems: ['not_found'],
  }),
  lines: endpoint({
    id: 'importLines',
    feature: 'imports',
    method: 'GET',
    path: '/api/imports/:id/lines',
    summary: 'Lines with their verdicts',
    params: ImportParam,
    query: z.strictObject({
      state: z.enum(['all', 'ready', 'warned', 'refused', 'done']).default('all'),
      /** The code of a refusal: lines that it is a reason of. */
      reason: z.string().max(60).optional(),
      after: z.coerce.number().int().min(0).max(MOST_INT).default(0),
      limit: z.coerce.number().int().min(1).max(500).default(100),
    }),
    answer: z.object({ lines: z.array(ImportLine), next: z.number().int().nullable() }),
    problems: ['not_found'],
  }),
  correctLine: endpoint({
    id: 'correctImportLine',
    feature: 'imports',
    method: 'PUT',
    path: '/api/imports/:id/lines/:line',
    summary: 'Correct the cells of one line; it is checked again with the next check',
    params: z.strictObject({ id: Id, line: z.coerce.number().int().min(1).max(MOST_INT) }),
    body: z.strictObject({
      cells: z.array(z.string().max(4000)).max(200),
      /** The cells as they were seen. */
      seen: z.array(z.string()).max(200),
    }),
    problems: [...PROBLEMS, 'nothing_changed'],
  }),
  files: endpoint({
    id: 'addImportFiles',
    feature: 'imports',
    method: 'POST',
    path: '/api/imports/:id/files',
    summary: 'Add uploaded files; a zip is unpacked',
    params: ImportParam,
    body: z.strictObject({
      /** With its path in the source folder, because a list may name it by that. */
      files: z
        .array(z.strictObject({ uploadId: Id, path: text(1000).default('') }))
        .min(1)
        .max(500),
    }),
    answer: z.object({ files: z.number().int(), skipped: z.array(z.object({ name: z.string(), why: z.string() })) }),
    problems: [
      ...PROBLEMS,
      'upload_unknown',
      'content_missing',
      'zip_unreadable',
      'zip_path',
      'zip_bomb',
      'zip_too_many',
    ],
  }),
  setMapping: endpoint({
    id: 'setImportMapping',
    feature: 'imports',
    method: 'PUT',
    path: '/api/imports/:id/mapping',
    summary: 'Say what the columns mean and what holds where a line says nothing',
    params: ImportParam,
    body: z.strictObject({ mapping: ImportMapping, rowVersion: RowVersion }),
    problems: [...PROBLEMS, 'import_column_twice'],
  }),
  try: endpoint({
    id: 'tryImport',
    feature: 'imports',
    method: 'POST',
    path: '/api/imports/:id/trial',
    summary: 'Check every line without importing anything',
    params: ImportParam,
    answer: Counts,
    problems: PROBLEMS,
  }),
  run: endpoint({
    id: 'runImport',
    feature: 'imports',
    method: 'POST',
    path: '/api/imports/:id/run',
    summary: 'Import what is ready, as a job that can be stopped and continues after a restart',
    params: ImportParam,
    body: z.strictObject({ reason: text(500, 1) }),
    problems: [...PROBLEMS, 'import_nothing_ready'],
  }),
  stop: endpoint({
    id: 'stopImport',
    feature: 'imports',
    method: 'POST',
    path: '/api/imports/:id/stop',
    summary: 'Stop after the documents in hand; what is done stays done',
    params: ImportParam,
    problems: PROBLEMS,
  }),
  refused: endpoint({
    id: 'refusedLines',
    feature: 'imports',
    method: 'GET',
    path: '/api/imports/:id/refused.csv',
    summary: 'The refused lines as CSV with their reasons, to correct and upload again',
    params: ImportParam,
    stream: 'bytes',
    problems: ['not_found'],
  }),
  unverified: endpoint({
    id: 'unverifiedDocuments',
    feature: 'imports',
    method: 'GET',
    path: '/api/unverified',
    summary: 'Imported documents that are not verified yet, as far as I manage them',
    answer: z.object({
      documents: z.array(Relative.extend({ since: Instant })),
      total: z.number().int(),
    }),
  }),
  confirm: endpoint({
    id: 'confirmTakenOver',
    feature: 'imports',
    method: 'POST',
    path: '/api/unverified/confirm',
    summary: 'Verify an imported document',
    body: z.strictObject({ ids: z.array(Id).min(1).max(500) }),
    answer: z.object({ confirmed: z.number().int() }),
    problems: ['input_invalid'],
  }),
};
